import { type Cover, cutRun } from '../../assembly/index.ts';
import { type Outline, type Point, intersectOutlines, rectangle } from '../../roof/index.ts';
import { type PlaneContext, type ValleySide, onPlane } from '../../slope/index.ts';
import { inches } from '../../units/index.ts';
import { type One, hostOf, sideOf } from './one.ts';

/** Sheet and lining run on past the head of the valley, under the covering above it. */
const PAST_HEAD = inches(8);
const PAST_CENTRE = inches(6);
/** The lower end hangs at most an inch over the deck's edge. */
const LOW_OVER_EAVE = inches(1);
const OVER_EAVE: Outline = rectangle(-1e6, -LOW_OVER_EAVE, 1e6, 1e6);

/** What a strip `half` wide each side of the centre covers on both slopes, between two distances from the lower end. */
export function stripCovers(
  one: One,
  half: number,
  from: number,
  to: number,
  holds: Cover['holds'],
  tailLength: (context: PlaneContext, side: ValleySide) => number,
): Cover[] {
  return [one.a, one.b].flatMap((context) => {
    const side = sideOf(one.valley, context.plane.id);
    const length = Math.hypot(side.high[0] - side.low[0], side.high[1] - side.low[1]);
    const at = (along: number): Point => [
      side.low[0] + ((side.high[0] - side.low[0]) * along) / length,
      side.low[1] + ((side.high[1] - side.low[1]) * along) / length,
    ];
    const run: Point = [(side.high[0] - side.low[0]) / length, (side.high[1] - side.low[1]) / length];
    const inward: Point = [side.side * run[1], -side.side * run[0]];
    const off = ([x, y]: Point, by: number): Point => [x + inward[0] * by, y + inward[1] * by];
    const foot = from <= 0 && side.footOn > 0;
    // the lowest piece is carried on past the eave's corner and cut to it, the highest past the valley's head, under the covering there
    const [low, high] = [at(from <= 0 && !foot ? -half : from), at(to >= one.valley.line.trueLength - 1 ? to + PAST_HEAD : to)];
    // where the valley begins up the slope it goes on down beside the wall there, on to the course it empties on to
    const tail: Outline = foot
      ? [[side.low[0] + side.side * half, side.low[1] - tailLength(context, side)], [side.low[0], side.low[1] - tailLength(context, side)]] // prettier-ignore
      : [];
    // beyond the centre there is nothing of this slope but at the head, where it goes on under the covering
    const strip: Outline = [off(low, -PAST_CENTRE), off(high, -PAST_CENTRE), off(high, half), off(low, half), ...tail];
    return onPlane(context.plane, strip)
      .flatMap((outline) => intersectOutlines(outline, OVER_EAVE)) // prettier-ignore
      .map((outline): Cover => ({ facet: context.plane.id, outline, holds }));
  });
}

/**
 * Pieces along a valley from its lower end up, none longer than its stock: what each covers along the line, and its length as cut, which includes
 * what hangs over the eave (or goes on down beside the wall a valley begins at) and what runs on past the head.
 */
export function cutAlong(
  one: One,
  stock: number,
  lap: number,
  tail: number,
): { readonly stretch: { readonly from: number; readonly to: number }; readonly cutLength: number }[] {
  const { valley } = one;
  const length = valley.line.trueLength;
  const foot = hostOf(one) ? tail : LOW_OVER_EAVE;
  return cutRun(foot + length + PAST_HEAD, stock, lap).map(({ from, to }) => ({
    stretch: { from: Math.max(0, from - foot), to: Math.min(length, to - foot) },
    cutLength: to - from,
  }));
}
