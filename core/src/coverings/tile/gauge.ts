import { LINE_TOLERANCE, stepsToReach } from '../../units/index.ts';

/** What of a tile says how far apart its courses can lie; millimetres. */
export type TileLengths = {
  readonly length: number;
  /** From its head down to where its nib hooks on the batten. */
  readonly nib: number;
  /** The courses may lie no closer than this. */
  readonly leastGauge: number;
};

/** A slope in tiles: where the first batten's upper edge is, up from the fascia, and how the courses lie; millimetres. */
export type TileLayout = {
  readonly firstBatten: number;
  readonly courses: number;
  readonly gauge: number;
  /** The widest gauge that leaves the headlap. */
  readonly largest: number;
};

/**
 * Courses that fill a slope: first batten y1 = L − overhang − nib, usable = slope − r − y1, N = ⌈usable / (L − headlap)⌉ gauges of usable / N, and a course
 * more. `top`: r, from the apex down to the top batten's upper edge. 4650 with L 420, nib 25, overhang 50, r 35, headlap 75: 13 gauges of 328.5, 14 courses.
 * A slope that takes no second batten has one course.
 */
export function fillWithTiles(
  slope: number,
  { length, nib }: Pick<TileLengths, 'length' | 'nib'>,
  { overhang, top, headlap }: { readonly overhang: number; readonly top: number; readonly headlap: number },
): TileLayout {
  const largest = length - headlap;
  const firstBatten = length - overhang - nib;
  const usable = slope - top - firstBatten;
  const gauges = stepsToReach(usable, largest);
  return { firstBatten, courses: gauges + 1, gauge: gauges > 0 ? usable / gauges : largest, largest };
}

/** Is the gauge closer than the tile allows? Then the overhang is moved, or the top course is cut. */
export const isTooClose = ({ gauge }: Pick<TileLayout, 'gauge'>, { leastGauge }: Pick<TileLengths, 'leastGauge'>): boolean =>
  gauge < leastGauge - LINE_TOLERANCE;
