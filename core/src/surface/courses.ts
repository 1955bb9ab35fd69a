import { LINE_TOLERANCE, clearlyBelow, stepsToReach } from '../units/index.ts';

/** A strip covering's layout on one slope. All lengths millimetres. */
export type CourseLayout = {
  /** Exposure E: from one butt line to the next. */
  readonly exposure: number;
  /** Height H of one shingle, butt to top. */
  readonly height: number;
  /** How far the first butt hangs over the deck's eave edge. */
  readonly firstButt: number;
  readonly slopeLength: number;
};

/** Butt line of course `n` (1 at the eave) up the slope from the deck's eave edge: y(n) = −o + (n − 1)·E. */
export const buttLine = (layout: CourseLayout, n: number): number => -layout.firstButt + (n - 1) * layout.exposure;

/** Chalk line for course `n`: its top edge, y(n) + H. */
export const chalkLine = (layout: CourseLayout, n: number): number => buttLine(layout, n) + layout.height;

/** Courses on the slope: ⌈(Ls + o) / E⌉. 196", o 1/2", E 5 5/8" gives 35. */
export const courseCount = (layout: CourseLayout): number => stepsToReach(layout.slopeLength + layout.firstButt, layout.exposure);

/** Headlap of a two-layer covering (shingle, slate): H − 2E. Negative means the covering does not cover twice. */
export const twoLayerHeadlap = (height: number, exposure: number): number => height - 2 * exposure;

/** Last course whose butt line is at or below `y` (equality counts, within 1/64 in); course 1 if none is. */
export function lastCourseAtOrBelow(layout: CourseLayout, y: number): number {
  const n = Math.floor((y + layout.firstButt + LINE_TOLERANCE) / layout.exposure) + 1;
  return Math.max(1, n);
}

/** Last course whose butt line is below `y`; 0 if none is. */
export function lastCourseBelow(layout: CourseLayout, y: number): number {
  let n = Math.ceil((y + layout.firstButt) / layout.exposure) + 1;
  while (n > 0 && !clearlyBelow(buttLine(layout, n), y)) n--;
  return n;
}

/**
 * The butt lines an edge from `from` to `to` (up the slope) meets; one flashing piece belongs to each.
 * Pieces = last − first + 1. With E 5 5/8" and o 1/2": 0 to 168" gives 1…30, 61" to 113" gives 11…21.
 */
export function interfaceLines(layout: CourseLayout, from: number, to: number): { first: number; last: number } {
  const first = lastCourseAtOrBelow(layout, from);
  return { first, last: Math.max(first, lastCourseBelow(layout, to)) };
}

/** Side offset of course `n`'s first joint from the left end of the slope, for a bond that repeats. */
export function jointOffset(n: number, width: number, offset: number): number {
  const shift = ((n - 1) * offset) % width;
  return shift <= LINE_TOLERANCE ? width : width - shift;
}

/** Joints of course `n` between `x0` and `x1`, left to right. Bond runs from the slope's left end, `x` = 0. */
export function courseJoints(n: number, x0: number, x1: number, width: number, offset: number): number[] {
  const first = jointOffset(n, width, offset);
  const joints: number[] = [];
  for (let i = Math.ceil((x0 - first + LINE_TOLERANCE) / width); first + i * width < x1 - LINE_TOLERANCE; i++)
    joints.push(first + i * width);
  return joints;
}
