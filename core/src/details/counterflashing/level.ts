import { letIn, hungWords } from './masonry.ts';
import {
  type Assembly,
  type Cover,
  HUNG_IN_WALL,
  type Piece,
  type Step,
  cutRun,
  emptyAssembly,
  rightAfter,
  wallFinish,
  cut,
} from '../../assembly/index.ts';
import { chooseLengthMetal } from '../../catalog/index.ts';
import { rectangle } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import { type Front, type PlaneContext, behind, foldedRound, turnedUpFront } from '../../slope/index.ts';
import { KEYS, face, lowEdge, noStock, regletFlat } from './masonry.ts';
import { repairSteps } from './repair.ts';

/** Level counterflashing over an apron, from the front of a chimney or along a headwall. */
export function planFront(context: PlaneContext, front: Front): Assembly {
  const { catalog, covering, rules, facet } = context;
  const low = lowEdge(context);
  const drop = behind(context, leastOf(rules, 'apron.wallLeg')) + leastOf(rules, 'counterflashing.aboveBase') - low;
  return planLevel(context, {
    id: front.id,
    name: front.name,
    detail: front.id.replace(/F$/, ''),
    end: 'front',
    facet: `${facet}/${front.id}`,
    x0: front.x0,
    x1: front.x1,
    low,
    drop,
    height: front.height,
    repair: front.counter === 'repair',
    on: turnedUpFront(front),
    lay: wallFinish(context, 'face', front.x0, front.y),
    stock: chooseLengthMetal(catalog, 'reglet', covering.metal, { first: leastOf(rules, 'counterflashing.reglet'), second: drop, thickness: leastOf(rules, 'flashing.thickness') }), // prettier-ignore
  });
}

type Level = {
  id: string;
  name: string;
  detail: string;
  /** The face looks down the slope or up it. */
  end: 'front' | 'back';
  facet: string;
  x0: number;
  x1: number;
  low: number;
  drop: number;
  height: number;
  repair: boolean;
  on: string;
  lay: Step['lay'];
  stock: ReturnType<typeof chooseLengthMetal>;
};

/** Round the outside corners, under the side's first step or over its last. */
export const ears = (
  context: PlaneContext,
  { detail, end, low }: Pick<Level, 'detail' | 'end' | 'low'>,
  sides: readonly (1 | -1)[],
  reach: number,
  high: number,
): Cover[] => foldedRound(context, { owner: detail, end, sides, reach, low, high, holds: HUNG_IN_WALL });

export function planLevel(context: PlaneContext, level: Level): Assembly {
  const { rules, covering } = context;
  const { stock } = level;
  const depth = leastOf(rules, 'counterflashing.reglet');
  if (!stock) return { ...emptyAssembly, findings: [noStock(level.id, level.name, covering.metal, depth, level.drop, level.on)] };
  const lap = leastOf(rules, 'counterflashing.endLap');
  // round each outside corner on to the side, where the pieces there lap it or are lapped by it
  const ear = (side: 1 | -1): number => (context.found.wallsOf(level.detail).some((wall) => wall.side === side) ? lap : 0);
  const [from, to] = [level.x0 - ear(-1), level.x1 + ear(1)];
  const pieces = cutRun(to - from, stock.length, lap).map((stretch, i, all): Piece => ({
    mark: `${level.id}-R${i + 1}`,
    detail: level.detail,
    role: 'counter',
    ...(level.repair ? {} : { product: stock.id }),
    covers: [
      {
        facet: level.facet,
        outline: rectangle(
          Math.max(level.x0, from + stretch.from),
          level.low,
          Math.min(level.x1, from + stretch.to),
          level.low + stock.second,
        ),
        holds: HUNG_IN_WALL,
      },
      ...ears(context, level, [...(i === 0 ? ([-1] as const) : []), ...(i === all.length - 1 ? ([1] as const) : [])], lap, level.low + stock.second), // prettier-ignore
    ],
    lay: rightAfter(level.lay, i / 1000),
    liesOn: [i === 0 ? level.on : `${level.id}-R${i}`],
    cutLength: stretch.to - stretch.from,
    ...(level.repair ? {} : { flat: regletFlat(stretch.to - stretch.from, stock.first, stock.second) }),
    keys: KEYS,
  }));
  const top = level.low + stock.second;
  const shown =
    level.height > top
      ? [face(level.facet, level.detail, `${level.id}-CL`, rectangle(level.x0, top, level.x1, level.height))]
      : [];
  const marks = pieces.map(({ mark }) => mark);
  return {
    ...emptyAssembly,
    pieces: [...shown, ...pieces],
    steps: level.repair
      ? repairSteps(context, level.name, level.detail, marks, level.x1 - level.x0, level.lay)
      : [
          ...letIn(context, pieces, level.x1 - level.x0, {
            name: level.name,
            cutting: [
              'rake out the level joint, or saw a reglet, ',
              cut(top),
              ' above the roof, ',
              cut(depth),
              ' deep; blow it clean.',
            ],
            hanging: [...hungWords(context, pieces, lap), '.'],
          }),
        ],
  };
}
