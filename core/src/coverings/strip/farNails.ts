import { type Point, isWithin } from '../../roof/index.ts';
import type { PlaneContext } from '../../slope/index.ts';
import { buttLine, chalkLine } from '../../surface/index.ts';
import { inches } from '../../units/index.ts';
import { END_NAIL, mayTakeNail } from './nails.ts';
import type { Crossing } from './crossing.ts';

/** How far in from its far end the nails of a crossing shingle are looked for. */
const FAR_ZONE = inches(10);
/** And how far above and below the nail line. */
const FAR_UP = inches(6);
const FAR_STEP = inches(0.25);
/** A nail and what is right round it lies on the same piece. */
const ROUND = [[0, 0], [FAR_STEP, FAR_STEP], [-FAR_STEP, FAR_STEP], [FAR_STEP, -FAR_STEP], [-FAR_STEP, -FAR_STEP]] as const; // prettier-ignore
/** Where they are tried, in from the end and up from the line: the nearest to the usual place first, a step up as bad as two aside. */
const FAR_SPOTS = Array.from({ length: Math.floor(FAR_UP / FAR_STEP) + 1 }, (_, i) => i * FAR_STEP)
  .flatMap((up) => (up === 0 ? [0] : [up, -up]))
  .flatMap((up) =>
    Array.from({ length: Math.floor((FAR_ZONE - END_NAIL) / FAR_STEP) + 1 }, (_, i) => [END_NAIL + i * FAR_STEP, up] as const),
  )
  .sort(([insetA, upA], [insetB, upB]) => insetA + 2 * Math.abs(upA) - insetB - 2 * Math.abs(upB));

/**
 * The nails in the far end of a shingle that crosses a valley, an inch in and 2 in apart: clear of the centre, and of all that nails keep clear of on
 * the slope they stand on.
 */
export function farNails(context: PlaneContext, n: number, one: Crossing, line: number, count: number): Point[] {
  const { lines } = context;
  const mayTake = mayTakeNail(context.other(one.other));
  const top = Math.min(chalkLine(lines, n), lines.end) - inches(0.5);
  const found: { own: Point; across: Point }[] = [];
  for (const [inset, up] of FAR_SPOTS) {
    if (found.length >= count) break;
    const own: Point = [one.farEnd + one.side * inset, line + up];
    if (own[1] > top || own[1] < buttLine(lines, n) + END_NAIL) continue;
    const apart = found.length === 0 ? 0 : 2 * END_NAIL;
    if (found.some(({ own: [x, y] }) => Math.hypot(own[0] - x, own[1] - y) < apart)) continue;
    const across = one.across(own);
    const on = ROUND.every(([dx, dy]) => one.outlines.some((outline) => isWithin(outline, [across[0] + dx, across[1] + dy])));
    if (on && mayTake(across)) found.push({ own, across });
  }
  return found.map(({ across }) => across);
}
