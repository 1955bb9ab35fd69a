import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inches, toInches } from '../units/index.ts';
import { type CourseLayout, buttLine, chalkLine, courseCount, courseJoints, interfaceLines, twoLayerHeadlap } from './index.ts';

const laminated = (slope: number): CourseLayout => ({
  exposure: inches(5.625),
  height: inches(13.25),
  firstButt: inches(0.5),
  slopeLength: inches(slope),
});

describe('courses, the handbook figures', () => {
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
    const layout = laminated(196);
    const line = buttLine(layout, 10);
    expect(interfaceLines(layout, line - inches(1 / 70), inches(100)).first).toBe(10);
    expect(interfaceLines(layout, line - inches(1 / 60), inches(100)).first).toBe(9);
    expect(interfaceLines(layout, 0, line + inches(1 / 70)).last).toBe(9);
    expect(interfaceLines(layout, 0, line + inches(1 / 60)).last).toBe(10);
  });
});

const layouts = fc.record({
  exposure: fc.double({ min: 60, max: 400, noNaN: true }),
  height: fc.double({ min: 130, max: 900, noNaN: true }),
  firstButt: fc.double({ min: 6, max: 20, noNaN: true }),
  slopeLength: fc.double({ min: 500, max: 20000, noNaN: true }),
});

describe('for every layout', () => {
  it('the courses reach the top and none starts beyond it', () => {
    fc.assert(
      fc.property(layouts, (layout) => {
        const last = courseCount(layout);
        expect(buttLine(layout, last)).toBeLessThan(layout.slopeLength);
        expect(buttLine(layout, last + 1)).toBeGreaterThan(layout.slopeLength - inches(1 / 32));
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
