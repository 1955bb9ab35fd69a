import { NOISE } from '../units/index.ts';

/** A point on a facet's own chart, millimetres: on a roof plane `x` right along the eave seen from outside, `y` up the slope from the deck's eave edge. */
export type Point = readonly [x: number, y: number];

/** Closed outline, corners counter-clockwise, first corner not repeated. */
export type Outline = readonly Point[];

/** Angle of a pitch (rise over run) above level, radians. 6/12 is 0.4636 (26.57°). */
export const pitchAngle = (pitch: number): number => Math.atan(pitch);

/** Slope factor √(1 + m²): length along the slope for each unit of level run. 6/12 is 1.1180. */
export const slopeFactor = (pitch: number): number => Math.hypot(1, pitch);

/** How the crew measured the slope: along it, or level from the deck's eave edge to under its top. */
export type SlopeMeasure = { readonly kind: 'slope' | 'level'; readonly length: number };

/** Length along the slope, whichever way it was measured. 184" level at 6/12 is 205.7". */
export const slopeLength = (measure: SlopeMeasure, pitch: number): number =>
  measure.kind === 'slope' ? measure.length : measure.length * slopeFactor(pitch);

export const rectangle = (x0: number, y0: number, x1: number, y1: number): Outline => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];

/** Signed area (positive when counter-clockwise), square millimetres. */
export function outlineArea(outline: Outline): number {
  let twice = 0;
  for (let i = 0; i < outline.length; i++) {
    const a = outline[i]!;
    const b = outline[(i + 1) % outline.length]!;
    twice += a[0] * b[1] - b[0] * a[1];
  }
  return twice / 2;
}

/** Is a point within a convex outline with counter-clockwise corners (its edges count as inside)? */
export const isInside = (outline: Outline, [x, y]: Point): boolean =>
  outline.every(([ax, ay], i) => {
    const [bx, by] = outline[(i + 1) % outline.length]!;
    return (bx - ax) * (y - ay) - (by - ay) * (x - ax) >= -NOISE;
  });

/**
 * The chart of a wall that rises from a raking roof line is true vertical: `x` level run from the eave, `y` height.
 * A point given along the slope (`s`) and square to it up the wall (`u`) lands here.
 */
export function slopeToWall(s: number, u: number, pitch: number): Point {
  const k = slopeFactor(pitch);
  return [(s - u * pitch) / k, (s * pitch + u) / k];
}

/** The inverse of `slopeToWall`: along the slope and square to it, for unfolding a wall beside its roof plane. */
export function wallToSlope([x, y]: Point, pitch: number): { s: number; u: number } {
  const k = slopeFactor(pitch);
  return { s: (x + y * pitch) / k, u: (y - x * pitch) / k };
}
