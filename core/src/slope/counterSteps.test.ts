import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoHouse, demoLibrary, stripOf } from '../../fixtures/demo.ts';
import { cases } from '../../fixtures/seeds.ts';
import { sourcesOf } from '../document/index.ts';
import { resolveRules } from '../rules/index.ts';
import { LINE_TOLERANCE, inches, toInches } from '../units/index.ts';
import { counterSteps } from './index.ts';

const lengthOf = (from: number, to: number) => fc.double({ min: inches(from), max: inches(to), noNaN: true });
const rules = resolveRules(sourcesOf(demoHouse(), demoLibrary, stripOf(demoHouse())), {
  covering: 'shingle',
  pitch: 0.5,
  iceDams: true,
});

describe('counterflashing stepped in the joints', () => {
  const steps = (pitch: number, run: number, joint = inches(8 / 3), baseLeg = inches(4)) =>
    counterSteps({ pitch, joint, baseLeg, run, rules });

  it('at 6/12 with 2 2/3 in joints: 4.97 up, 5 1/3 apart, tall end 9.14, 29 pieces of 8 1/3 on 150 in', () => {
    const made = steps(0.5, inches(150));
    expect(made).toMatchObject({ joints: 1, pieces: 29 });
    expect(toInches(made.lowest)).toBeCloseTo(4.97, 2);
    expect(toInches(made.spacing)).toBeCloseTo(16 / 3, 9);
    expect(toInches(made.tallEnd)).toBeCloseTo(9.14, 2);
    expect(toInches(made.length)).toBeCloseTo(25 / 3, 9);
  });

  it('at 12/12 takes two joints a step, tall end 14.49; a 26 in deep chimney takes 5 a side; 75 mm joints at 35° stand 107 mm apart', () => {
    const made = steps(1, inches(60));
    expect(made.joints).toBe(2);
    expect([toInches(made.lowest), toInches(made.spacing), toInches(made.tallEnd)].map((v) => Math.round(v * 100) / 100)).toEqual(
      [6.16, 5.33, 14.49],
    );
    expect(steps(0.5, inches(26)).pieces).toBe(5);
    expect(steps(Math.tan((35 * Math.PI) / 180), 3000, 75).spacing).toBeCloseTo(107.1, 1);
  });

  it('on every pitch and bond: steps of 4 in or more with no joint to spare, the run covered, laps over the piece below, the base below its joint', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.2, max: 2, noNaN: true }),
        lengthOf(2, 4),
        lengthOf(3, 8),
        lengthOf(8, 400),
        (pitch, joint, baseLeg, run) => {
          const made = counterSteps({ pitch, joint, baseLeg, run, rules });
          const least = inches(4) - LINE_TOLERANCE;
          expect(made.spacing).toBeGreaterThanOrEqual(least - 1e-6);
          if (made.joints > 1) expect(made.spacing - joint / pitch).toBeLessThan(least + 1e-6);
          expect(made.pieces * made.spacing).toBeGreaterThanOrEqual(run - LINE_TOLERANCE - 1e-6);
          expect((made.pieces - 1) * made.spacing).toBeLessThan(Math.max(run, made.spacing) + 1e-6);
          expect(made.length - made.spacing).toBeCloseTo(made.lap, 6);
          // a base leg square to the slope stands higher plumb; half an inch over it
          expect(made.lowest).toBeCloseTo(baseLeg * Math.hypot(1, pitch) + inches(0.5), 6);
          expect(made.tallEnd - made.lowest).toBeCloseTo(made.length * pitch, 6);
        },
      ),
      cases(200),
    );
  });

  it('behind a cricket 10 1/2 in high takes 4 a half', () => {
    expect(steps(0.5, inches(21)).pieces).toBe(4);
  });
});
