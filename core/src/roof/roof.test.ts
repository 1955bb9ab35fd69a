import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cases } from '../../fixtures/seeds.ts';
import { inches, printFlow, toInches } from '../units/index.ts';
import {
  type Outline,
  outlineArea,
  pitchAngle,
  rectangle,
  runoff,
  slopeFactor,
  slopeLength,
  slopeToWall,
  unionOutlines,
  wallToSlope,
} from './index.ts';

it('gives the worked figures for 6/12', () => {
  expect((pitchAngle(0.5) * 180) / Math.PI).toBeCloseTo(26.57, 2);
  expect(slopeFactor(0.5)).toBeCloseTo(1.118, 4);
  expect(toInches(slopeLength({ kind: 'level', length: inches(184) }, 0.5))).toBeCloseTo(205.7, 1);
  expect(slopeLength({ kind: 'slope', length: 5000 }, 0.5)).toBe(5000);
});

it('computes runoff: 6 in/h on 400 ft², 150 mm/h on 40 m²', () => {
  expect(printFlow(runoff(inches(6), 400 * 304.8 ** 2), 'imperial')).toBe('24.9 gal/min');
  expect(runoff(150, 40e6)).toBeCloseTo(100, 10);
});

it('unfolds a wall beside its plane and folds it back', () => {
  const [x, y] = slopeToWall(1000, 0, 0.5);
  expect(y / x).toBeCloseTo(0.5, 12); // the foot of the wall is the raking roof line
  fc.assert(
    fc.property(
      fc.double({ min: 0, max: 1e5, noNaN: true }),
      fc.double({ min: 0, max: 3000, noNaN: true }),
      fc.double({ min: 0.05, max: 3, noNaN: true }),
      (s, u, m) => {
        const back = wallToSlope(slopeToWall(s, u, m), m);
        expect(back.s).toBeCloseTo(s, 6);
        expect(back.u).toBeCloseTo(u, 6);
      },
    ),
  );
});

it('measures an outline counter-clockwise as positive', () => {
  expect(outlineArea(rectangle(0, 0, 10, 20))).toBe(200);
});

describe('outlines made one', () => {
  it('whatever they are cut into, what touches along an edge is one outline of the same area, and what is apart stays apart', () => {
    const side = fc.double({ min: 20, max: 400, noNaN: true });
    fc.assert(
      fc.property(
        fc.array(fc.tuple(side, side), { minLength: 2, maxLength: 5 }),
        side,
        fc.double({ min: 1, max: 50, noNaN: true }),
        (teeth, thick, gap) => {
          // a comb: a band with teeth that hang from it, and one more tooth a little below, on its own
          let x = 0;
          const hung = teeth.map(([wide, long]) => {
            const tooth = rectangle(x, -long, x + wide, 0);
            x += wide + gap;
            return tooth;
          });
          const parts = [...hung, rectangle(0, 0, x / 2, thick), rectangle(x / 2, 0, x, thick)];
          const lone = rectangle(0, -1000, 50, -900);
          const areas = (outlines: readonly Outline[]) =>
            outlines.map((outline) => Math.abs(outlineArea(outline))).sort((a, b) => a - b);
          const sum = areas(parts).reduce((total, area) => total + area, 0);
          for (const given of [
            [...parts, lone],
            [lone, ...parts.toReversed()],
          ]) {
            const made = areas(unionOutlines(given));
            expect(made).toHaveLength(2);
            // corners are kept to a tenth of a millimetre
            expect(made.reduce((total, area) => total + area, 0)).toBeCloseTo(sum + 5000, -3);
          }
        },
      ),
      cases(200),
    );
  });
});
