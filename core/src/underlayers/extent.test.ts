import { inches, toInches } from '../units/index.ts';
import { type BarrierInput, barrierExtent } from './extent.ts';
import { describe, expect, it } from 'vitest';

const input = (change: Partial<Record<keyof BarrierInput, number>>): BarrierInput => {
  const written = {
    overhang: 16,
    wallThickness: 6,
    insideWall: 24,
    alongSlope: 0,
    rollWidth: 36,
    sideLap: 3,
    fold: 0,
    top: 1000,
    ...change,
  };
  const lengths = Object.fromEntries(
    Object.entries(written).map(([key, value]) => [key, inches(value)]),
  ) as unknown as BarrierInput;
  return { ...lengths, pitch: change.pitch ?? 0.5 };
};

describe('ice barrier extent, the worked figures', () => {
  it('overhang 16, wall 6, inside 24 at 6/12: 51.4" and 2 rows, 69" or 67.5" covered', () => {
    const metalFirst = barrierExtent(input({}));
    expect([toInches(metalFirst.level), metalFirst.rows.length]).toEqual([46, 2]);
    expect(toInches(metalFirst.needed)).toBeCloseTo(51.4, 1);
    expect(toInches(metalFirst.covered)).toBeCloseTo(69, 9);
    expect(toInches(barrierExtent(input({ fold: 1.5 })).covered)).toBeCloseTo(67.5, 9);
    expect(toInches(metalFirst.shortfall)).toBeCloseTo(5.43, 2);
  });

  it('overhang 24, inside 36 at 9/12: 82.5" and 3 rows, 102" or 100.5" covered', () => {
    const steep = { overhang: 24, insideWall: 36, pitch: 0.75 };
    const metalFirst = barrierExtent(input(steep));
    expect(toInches(metalFirst.needed)).toBeCloseTo(82.5, 9);
    expect(metalFirst.rows).toHaveLength(3);
    expect(toInches(metalFirst.covered)).toBeCloseTo(102, 9);
    expect(toInches(barrierExtent(input({ ...steep, fold: 1.5 })).covered)).toBeCloseTo(100.5, 9);
  });

  it('where 36" along the slope governs, 24" level is still 33.94" along it, and 9.94" would be lost', () => {
    const steep = barrierExtent(input({ overhang: 0, wallThickness: 0, pitch: 1, alongSlope: 36 }));
    expect(toInches(steep.byLevel)).toBeCloseTo(33.94, 2);
    expect(toInches(steep.shortfall)).toBeCloseTo(9.94, 2);
    expect(toInches(steep.needed)).toBe(36);
  });

  it('begins no row above the slope’s end: 60" of slope takes two rows where 82.5" would take three', () => {
    const short = barrierExtent(input({ overhang: 24, insideWall: 36, pitch: 0.75, top: 60 }));
    expect(toInches(short.needed)).toBeCloseTo(82.5, 9);
    expect(short.rows).toHaveLength(2);
  });
});
