import { type Assembly, type Piece, type Words, cut, emptyAssembly, laid, wrap } from '../../assembly/index.ts';
import type { FeatureOf } from '../../document/index.ts';
import { rectangle } from '../../roof/index.ts';
import { type Footprint, type PlaneContext, foldedRound, upBehind, wrapSheet } from '../../slope/index.ts';
import { inches } from '../../units/index.ts';
import { HEAD_UP } from './asks.ts';

/** The perimeter band on bare deck, inside which the frame is taped already: sill, sides over sill (with the walls' own strips), head over sides. */
export function planWrap(
  context: PlaneContext,
  { id, name, upstand }: FeatureOf<'skylight'>,
  foot: Footprint,
  front: string,
  back: string,
): Assembly {
  const { facet } = context;
  const { product: sheet, onDeck, onWall, seals } = wrapSheet(context);
  const onDeckWords =
    onDeck === 'bonded'
      ? ', on the bare deck, folded up the frame, an ear at each corner.'
      : ', of the underlayment’s sheet, folded up the frame, an ear at each corner.';
  const on = inches(6);
  const up = Math.min(upstand, inches(6));
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
    role: 'frameBand',
    product: sheet.id,
    covers: [
      { facet, outline: rectangle(foot.x0 - on, y0, foot.x1 + on, y1), holds: [onDeck] },
      {
        facet: end === 'front' ? front : back,
        outline: rectangle(foot.x0, 0, foot.x1, up),
        holds: onWall,
      },
      ...foldedRound(context, {
        owner: id,
        end,
        sides: [-1, 1],
        reach: on,
        low: -on,
        high: up,
        holds: onWall,
      }),
    ],
    lay: wrap(context, foot.from, turn, foot.x0),
    liesOn,
    cutLength: foot.x1 - foot.x0 + 2 * on,
    sheetWidth: y1 - y0 + up,
    ...seals,
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
        action: [`${name}: band the sill first, `, ...sizeOf(sill), onDeckWords],
        people: 1,
        keys: ['skylight.tape'],
      }),
      laid([head], {
        stage: 'dry-in',
        action: [`${name}: band the head last, `, ...sizeOf(head), ', over both side strips.'],
        people: 1,
        holdPoint: 'band whole round the frame, each ear under the next strip',
        keys: ['skylight.tape'],
      }),
    ],
  };
}

/** What a strip is cut to. */
const sizeOf = ({ cutLength, sheetWidth }: Piece): Words => [cut(cutLength!), ' × ', cut(sheetWidth!)];
