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

/** Where a course's tails are, up from the fascia: −overhang + (n − 1)·gauge. */
export const tailOf = (n: number, gauge: number, overhang: number): number => (n - 1) * gauge - overhang;

/**
 * The stretch of a course where it lies alone, from the head of the tiles below it to the tails of those above: tail + L − g to tail + g. Course 6 at 328.46,
 * L 420, overhang 50: 1683.8 to 1920.8.
 */
export function singleStretch(n: number, length: number, gauge: number, overhang: number): readonly [number, number] {
  const tail = tailOf(n, gauge, overhang);
  return [tail + length - gauge, tail + gauge];
}

/**
 * Where a pipe's middle can stand clear of every headlap, the nearest to where it is first: its own place alone where that is clear, else the highest below
 * and the lowest above. None where it is wider than the stretch a tile lies alone in. 25 wide at 2600, gauge 328.46: 2565.2 and 2681.7.
 */
export function clearPlaces(y: number, across: number, length: number, gauge: number, overhang: number): number[] {
  if (across > 2 * gauge - length + LINE_TOLERANCE) return [];
  const near = Math.max(1, Math.floor((y + overhang) / gauge) + 1);
  const places = [near - 1, near, near + 1]
    .filter((n) => n >= 1)
    .map((n) => {
      const [from, to] = singleStretch(n, length, gauge, overhang);
      return Math.min(Math.max(y, from + across / 2), Math.max(from + across / 2, to - across / 2));
    })
    .toSorted((a, b) => Math.abs(a - y) - Math.abs(b - y));
  return places[0] === y ? [y] : places.slice(0, 2);
}
