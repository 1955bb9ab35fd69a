import { type Lines, buttLine, closerLines, lastCourseBelow } from '../../surface/index.ts';
import { isAtLeast } from '../../units/index.ts';
import { leastOf } from '../../rules/index.ts';
import type { Front, PlaneContext } from '../../slope/index.ts';

export type Fit = { readonly exposure: number; readonly courses: number; readonly lastTall: number };

/**
 * The least change of exposure, in sixteenths and at most 1/8 in down, that leaves the last course under an apron of roof leg `apronLeg`
 * at `y` at least `wanted` tall; undefined when none does. A slope of 101.2 in with 5 5/8 in: 5 1/2 in gives 18 courses, the last 8.19 in.
 */
export function fitCourses(lines: Lines, y: number, apronLeg: number, wanted: number): Fit | undefined {
  for (const fitted of closerLines(lines)) {
    const courses = lastCourseBelow(fitted, y - apronLeg);
    const lastTall = y - buttLine(fitted, courses);
    if (isAtLeast(lastTall, wanted)) return { exposure: fitted.gauge, courses, lastTall };
  }
  return undefined;
}

/** The courses of a slope fitted to the wall along its top. */
export const fitFor = (context: PlaneContext, front: Front): Fit | undefined =>
  fitCourses(context.lines, front.y, front.apronLeg, leastOf(context.rules, 'headwall.lastCourse'));
