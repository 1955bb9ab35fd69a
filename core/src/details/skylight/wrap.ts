import {
  type Assembly,
  type Piece,
  STUCK_TO_WALL,
  type Words,
  cut,
  emptyAssembly,
  laid,
  lengths,
  wrap,
} from '../../assembly/index.ts';
import { chooseTape, itemById, itemsOf } from '../../catalog/index.ts';
import type { FeatureOf } from '../../document/index.ts';
import { rectangle } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import { type Footprint, type PlaneContext, foldedRound, upBehind } from '../../slope/index.ts';
import { inches } from '../../units/index.ts';
import { HEAD_UP } from './asks.ts';

/** Frame tape: sill, sides over sill (with the walls' own strips), head over sides; it is the last barrier, before the band and courses. */
export function planWrap(
  context: PlaneContext,
  { id, name, upstand }: FeatureOf<'skylight'>,
  foot: Footprint,
  front: string,
  back: string,
): Assembly {
  const { catalog, covering, facet, rules } = context;
  const tape = chooseTape(catalog, leastOf(rules, 'skylight.tape')) ?? itemsOf(catalog, 'tape')[0];
  const sheet = itemById(catalog, 'iceBarrier', covering.underlayers.iceBarrier);
  const on = inches(6);
  const up = Math.min(upstand, inches(6));
  // each end goes on past the frame's corner, by what the tape reaches on to the deck
  const past = 2 * leastOf(rules, 'skylight.tape');
  const [across, along] = [foot.x1 - foot.x0 + past, foot.to - foot.from + past];
  const tapeCuts = [across, along, along, across];
  const strip = (
    mark: string,
    y0: number,
    y1: number,
    end: 'front' | 'back',
    turn: 'bottom' | 'top',
    liesOn: string[],
  ): Piece => ({
    mark,
    detail: id,
    role: 'frameTape',
    product: sheet.id,
    covers: [
      { facet, outline: rectangle(foot.x0 - on, y0, foot.x1 + on, y1), holds: ['bonded'] },
      {
        facet: end === 'front' ? front : back,
        outline: rectangle(foot.x0, 0, foot.x1, up),
        holds: STUCK_TO_WALL,
      },
      ...foldedRound(context, {
        owner: id,
        end,
        sides: [-1, 1],
        reach: on,
        low: -on,
        high: up,
        holds: STUCK_TO_WALL,
      }),
    ],
    lay: wrap(context, foot.from, turn, foot.x0),
    liesOn,
    cutLength: foot.x1 - foot.x0 + 2 * on,
    sheetWidth: y1 - y0 + up,
    sealsNails: true,
    keys: ['skylight.tape'],
  });
  const sill = strip(`${id}-T1`, foot.from - on, foot.from, 'front', 'bottom', []);
  const head = strip(`${id}-T4`, foot.to, foot.to + on + upBehind(context.lines, foot, HEAD_UP), 'back', 'top', [
    `${id}L-M1`,
    `${id}R-M1`,
  ]);
  return {
    ...emptyAssembly,
    pieces: [sill, head],
    steps: [
      laid([sill], {
        stage: 'dry-in',
        action: [
          `${name}: frame tape ${tape ? `(${tape.name}) ` : ''}under the gasket, sill first, sides over sill, head over sides: `,
          ...tapeCuts.flatMap((length, i): Words => [...(i > 0 ? [', '] : []), cut(length)]),
          '; then the perimeter band on bare deck in the same order, up the frame, corners folded.',
        ],
        uses: [lengths(tape, 'frame tape', tapeCuts)],
        people: 1,
        holdPoint: 'Frame tape and band whole at all four corners, seen before the courses',
        keys: ['skylight.tape'],
      }),
      laid([head], {
        stage: 'dry-in',
        action: [`${name}: head strip ${head.mark} last, over both side strips.`],
        people: 1,
        keys: ['skylight.tape'],
      }),
    ],
  };
}
