import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cases } from '../../fixtures/seeds.ts';
import { inches, toInches } from '../units/index.ts';
import { FLAT_LAP, partsOf } from './index.ts';

const sheet = { width: inches(48), length: inches(120) };
const parts = (width: number, length: number): string[] =>
  partsOf({ width: inches(width), length: inches(length) }, sheet).map(
    (part) => `${Number(toInches(part.width).toFixed(3))} × ${Number(toInches(part.length).toFixed(3))}`,
  );

describe('what a blank is cut from a sheet of 4 × 10 ft as', () => {
  it('itself where it fits, and where it fits only turned round', () => {
    expect(parts(40, 100)).toEqual(['40 × 100']);
    expect(parts(100, 40)).toEqual(['100 × 40']);
    expect(parts(48, 120)).toEqual(['48 × 120']);
    expect(parts(120, 48)).toEqual(['120 × 48']);
  });

  it('60 × 130 in: lengthways two by two, crossways three of 48, 48 and 42 in, which are fewer', () => {
    expect(parts(60, 130)).toEqual(['60 × 48', '60 × 48', '60 × 42']);
    // 48 + 48 + 42 less two laps
    expect(48 + 48 + 42 - 2 * toInches(FLAT_LAP)).toBe(130);
  });

  it('the way round that takes the fewest parts', () => {
    // along the sheet 140 in are two; across it they would be four
    expect(parts(40, 140)).toHaveLength(2);
    expect(parts(140, 40)).toHaveLength(2);
  });

  it('every part fits the sheet, and together with their laps they make the blank', () => {
    fc.assert(
      fc.property(fc.double({ min: 5, max: 400, noNaN: true }), fc.double({ min: 5, max: 400, noNaN: true }), (width, length) => {
        const made = partsOf({ width: inches(width), length: inches(length) }, sheet);
        for (const part of made) {
          expect(Math.min(part.width, part.length)).toBeLessThanOrEqual(sheet.width + 0.4);
          expect(Math.max(part.width, part.length)).toBeLessThanOrEqual(sheet.length + 0.4);
        }
        // the blank's own area, and what laps along each joint
        expect(made.reduce((sum, part) => sum + part.width * part.length, 0)).toBeGreaterThanOrEqual(
          inches(width) * inches(length) - 1,
        );
        if (made.length === 2)
          expect(made[0]!.length + made[1]!.length + made[0]!.width + made[1]!.width).toBeGreaterThanOrEqual(
            inches(Math.max(width, length)) + FLAT_LAP,
          );
      }),
      cases(100),
    );
  });
});
