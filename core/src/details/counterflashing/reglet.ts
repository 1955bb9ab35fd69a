import { letIn, hungWords } from './masonry.ts';
import {
  type Assembly,
  type Cover,
  HUNG_IN_WALL,
  type Piece,
  cut,
  cutRun,
  emptyAssembly,
  wallFinish,
} from '../../assembly/index.ts';
import { chooseLengthMetal } from '../../catalog/index.ts';
import { leastOf } from '../../rules/index.ts';
import {
  BESIDE_NAMES,
  type PlacedWall,
  type PlaneContext,
  behind,
  besideWallOf,
  detailOf,
  foldedInside,
  foldedOnto,
  onWall,
  pickStep,
  stepMark,
  wallFacetId,
} from '../../slope/index.ts';
import { inches } from '../../units/index.ts';
import { KEYS, face, lowEdge, noStock, regletFlat } from './masonry.ts';
import { repairSteps } from './repair.ts';

/** A straight reglet parallel to the slope, cut from stock, upper over lower; or the old counterflashing there made good. */
export function planReglet(context: PlaneContext, wall: PlacedWall): Assembly {
  const { rules, catalog, covering } = context;
  const { item } = pickStep(context, wall);
  if (!item) return emptyAssembly;
  const low = lowEdge(context);
  const drop = behind(context, item.wallLeg) + leastOf(rules, 'counterflashing.aboveBase') - low;
  const depth = leastOf(rules, 'counterflashing.reglet');
  const stock = chooseLengthMetal(catalog, 'reglet', covering.metal, {
    first: depth,
    second: drop,
    thickness: leastOf(rules, 'flashing.thickness'),
  });
  if (!stock)
    return { ...emptyAssembly, findings: [noStock(wall.id, wall.name, covering.metal, depth, drop, stepMark(wall, 1))] };
  const lap = leastOf(rules, 'counterflashing.endLap');
  const cover = item.wallLeg - low;
  const facet = wallFacetId(context, wall);
  const detail = detailOf(wall);
  const repair = wall.counter === 'repair';
  const k = context.slopeFactor;
  const { pitch } = context.plane;
  // it goes on round the corner as straight as it runs: in front it comes down, but not on to the roof
  const forward = Math.min(lap, ((low * k - inches(0.25)) / pitch) * k);
  const turned = (end: 'front' | 'back', length: number): Cover[] =>
    foldedOnto(context, wall, {
      end,
      reach: length / k,
      low: low * k,
      high: (low + stock.second) * k,
      rise: (end === 'front' ? -pitch : pitch) * (length / k),
      holds: HUNG_IN_WALL,
    });
  const atFront = turned('front', forward);
  const atBack = [
    ...turned('back', lap),
    ...foldedInside(context, wall, {
      reach: lap,
      low: low * k,
      high: (low + stock.second) * k,
      holds: HUNG_IN_WALL,
    }),
  ];
  const run = wall.to - wall.from;
  const [before, after] = [atFront.length * forward, atBack.length * lap];
  const pieces = cutRun(before + run + after, stock.length, lap).map((stretch, i, all): Piece => ({
    mark: `${wall.id}-R${i + 1}`,
    detail,
    role: 'counter',
    // an old piece that is refixed is not ordered
    ...(repair ? {} : { product: stock.id }),
    covers: [
      {
        facet,
        outline: onWall(
          context,
          wall,
          wall.from + Math.max(0, stretch.from - before),
          wall.from + Math.min(run, stretch.to - before),
          low,
          low + stock.second,
        ),
        holds: HUNG_IN_WALL,
      },
      ...(i === 0 ? atFront : []),
      ...(i === all.length - 1 ? atBack : []),
    ],
    lay: wallFinish(context, 'face', wall.x, wall.from + stretch.from - before),
    liesOn: i === 0 ? [stepMark(wall, 1)] : [`${wall.id}-R${i}`],
    cutLength: stretch.to - stretch.from,
    ...(repair ? {} : { flat: regletFlat(stretch.to - stretch.from, stock.first, stock.second) }),
    keys: KEYS,
  }));
  const shown = face(facet, detail, `${wall.id}-CL`, onWall(context, wall, wall.from, wall.to, low + stock.second, wall.height));
  const marks = pieces.map(({ mark }) => mark);
  return {
    ...emptyAssembly,
    pieces: wall.height > low + stock.second ? [shown, ...pieces] : pieces,
    steps: repair
      ? repairSteps(context, wall.name, detail, marks, wall.to - wall.from, wallFinish(context, 'face', wall.x, 0))
      : [
          ...letIn(context, pieces, wall.to - wall.from, {
            name: wall.name,
            lay: wallFinish(context, 'face', wall.x, 0),
            cutting: [
              'saw the reglet parallel to the slope, ',
              cut(low + stock.second),
              ' above it, ',
              cut(depth),
              ' deep; blow it clean.',
            ],
            hanging: [
              ...hungWords(context, pieces, lap),
              ', ',
              cut(cover),
              ` over the ${BESIDE_NAMES[besideWallOf(context, wall)]}.`,
            ],
          }),
        ],
  };
}
