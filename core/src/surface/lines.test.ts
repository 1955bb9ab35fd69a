import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cases } from '../../fixtures/seeds.ts';
import { inches, toInches } from '../units/index.ts';
import {
  type Lines,
  buttLine,
  chalkLine,
  courseCount,
  courseJoints,
  evenLines,
  fittedLines,
  gaugeAt,
  interfaceLines,
  lastCourseAtOrBelow,
  lastCourseBelow,
  twoLayerHeadlap,
  widestGauge,
} from './index.ts';

const laminated = (slope: number): Lines => evenLines(-inches(0.5), inches(5.625), inches(13.25), inches(slope));

describe('courses, the worked figures', () => {
  it('counts 35 courses on 196" and 37 on the Ringing House north plane', () => {
    expect(courseCount(laminated(196))).toBe(35);
    expect(courseCount(laminated(184 * Math.hypot(1, 0.5)))).toBe(37);
  });

  it('puts course 14 at its butt and chalk lines', () => {
    expect(toInches(buttLine(laminated(196), 14))).toBeCloseTo(72.625, 9);
    expect(toInches(chalkLine(laminated(196), 14))).toBeCloseTo(85.875, 9);
    expect(toInches(twoLayerHeadlap(inches(13.25), inches(5.625)))).toBeCloseTo(2, 9);
  });

  it('asks for 30 pieces from 0 to 168" and 11 from 61" to 113"', () => {
    expect(interfaceLines(laminated(196), 0, inches(168))).toEqual({ first: 1, last: 30 });
    expect(interfaceLines(laminated(196), inches(61), inches(113))).toEqual({ first: 11, last: 21 });
  });

  it('treats a line within 1/64" as reached', () => {
    const lines = laminated(196);
    const line = buttLine(lines, 10);
    expect(interfaceLines(lines, line - inches(1 / 70), inches(100)).first).toBe(10);
    expect(interfaceLines(lines, line - inches(1 / 60), inches(100)).first).toBe(9);
    expect(interfaceLines(lines, 0, line + inches(1 / 70)).last).toBe(9);
    expect(interfaceLines(lines, 0, line + inches(1 / 60)).last).toBe(10);
  });
});

const double = (min: number, max: number): fc.Arbitrary<number> => fc.double({ min, max, noNaN: true });
const anyLines = fc
  .tuple(double(-20, -6), double(60, 400), double(130, 900), double(500, 20_000))
  .map(([first, gauge, reach, end]) => evenLines(first, gauge, reach, end));

/** Lines of a roof on which some were measured, each a little off where it was meant. */
const anyFitted = fc
  .tuple(anyLines, fc.array(fc.tuple(fc.integer({ min: 2, max: 12 }), double(-0.2, 0.2)), { maxLength: 3 }))
  .map(([lines, off]) => {
    const measured = [...new Map(off)].map(([course, share]) => ({
      course,
      at: lines.first + (course - 1 + share) * lines.gauge,
    }));
    return { lines: fittedLines(lines, measured), measured };
  });

describe('lines measured on the roof', () => {
  it('course 14 really at 6\'-0": those below are spread evenly, those above go on at 5 5/8" from there', () => {
    const fitted = fittedLines(laminated(196), [{ course: 14, at: inches(72) }]);
    // 13 courses over 72 1/2 in are 5.577 in each
    expect(toInches(buttLine(fitted, 2) - buttLine(fitted, 1))).toBeCloseTo(72.5 / 13, 9);
    expect(toInches(buttLine(fitted, 14))).toBeCloseTo(72, 9);
    expect(toInches(buttLine(fitted, 20))).toBeCloseTo(72 + 6 * 5.625, 9);
    expect(toInches(gaugeAt(fitted, 20))).toBeCloseTo(5.625, 9);
    // 196 - 72 = 124 in above it: 22.04 courses of 5 5/8 in
    expect(fitted.count).toBe(13 + 23);
    expect(toInches(widestGauge(fitted))).toBeCloseTo(5.625, 9);
  });

  it('a line measured too far up asks for more than the exposure', () => {
    const fitted = fittedLines(laminated(196), [{ course: 5, at: inches(23) }]);
    expect(toInches(widestGauge(fitted))).toBeCloseTo(23.5 / 4, 9);
  });

  it('without any the lines stay as they were', () => {
    expect(fittedLines(laminated(196), [])).toEqual(laminated(196));
  });

  it('every measured line is where it was measured, lines rise, and each place belongs to the course below its line', () => {
    fc.assert(
      fc.property(anyFitted, double(0, 1), ({ lines, measured }, share) => {
        for (const { course, at } of measured) expect(buttLine(lines, course)).toBeCloseTo(at, 6);
        for (let n = 1; n < 20; n++) expect(gaugeAt(lines, n)).toBeGreaterThan(0);
        const y = share * lines.end;
        const n = lastCourseAtOrBelow(lines, y);
        expect(buttLine(lines, n)).toBeLessThanOrEqual(y + inches(1 / 32));
        expect(buttLine(lines, n + 1)).toBeGreaterThan(y);
        expect([n, n - 1]).toContain(lastCourseBelow(lines, y));
      }),
      cases(300),
    );
  });
});

describe('for every slope', () => {
  it('the courses reach the top and none starts beyond it', () => {
    fc.assert(
      fc.property(anyLines, (lines) => {
        const last = courseCount(lines);
        expect(buttLine(lines, last)).toBeLessThan(lines.end);
        expect(buttLine(lines, last + 1)).toBeGreaterThan(lines.end - inches(1 / 32));
      }),
    );
  });

  it('joints stand a shingle apart, and neighbours are offset', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 60 }), fc.double({ min: 0, max: 4000, noNaN: true }), (n, x0) => {
        const joints = courseJoints(n, x0, x0 + 9000, 1000, 500);
        expect(joints.length).toBeGreaterThanOrEqual(8);
        for (let i = 1; i < joints.length; i++) expect(joints[i]! - joints[i - 1]!).toBeCloseTo(1000, 6);
        for (const x of courseJoints(n + 1, x0, x0 + 9000, 1000, 500)) {
          expect(Math.min(...joints.map((joint) => Math.abs(joint - x)))).toBeGreaterThan(499);
        }
      }),
    );
  });
});
