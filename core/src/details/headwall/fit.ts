import { type Lines, buttLine, lastCourseBelow } from '../../surface/index.ts';
import { inches, isAtLeast, isAtMost } from '../../units/index.ts';
import { leastOf } from '../../rules/index.ts';
import type { Front, PlaneContext } from '../../slope/index.ts';

export type Fit = { readonly exposure: number; readonly courses: number; readonly lastTall: number };

/** A course gives way by at most this much: more is seen. */
const MOST_CHANGE = inches(1 / 8);
const FINEST = inches(1 / 16);

/**
 * The least change of exposure, in sixteenths and at most 1/8 in down, that leaves the last course under an apron of roof leg `apronLeg`
 * at `y` at least `wanted` tall; undefined when none does. A slope of 101.2 in with 5 5/8 in: 5 1/2 in gives 18 courses, the last 8.19 in.
 */
export function fitCourses(lines: Lines, y: number, apronLeg: number, wanted: number): Fit | undefined {
  for (let change = 0; isAtMost(change, MOST_CHANGE); change += FINEST) {
    const fitted = { ...lines, gauge: lines.gauge - change };
    const courses = lastCourseBelow(fitted, y - apronLeg);
    const lastTall = y - buttLine(fitted, courses);
    if (isAtLeast(lastTall, wanted)) return { exposure: fitted.gauge, courses, lastTall };
  }
  return undefined;
}

/** The courses of a slope fitted to the wall along its top. */
export const fitFor = (context: PlaneContext, front: Front): Fit | undefined =>
  fitCourses(context.lines, front.y, front.apronLeg, leastOf(context.rules, 'headwall.lastCourse'));
