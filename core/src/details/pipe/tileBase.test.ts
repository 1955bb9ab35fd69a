import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cases } from '../../../fixtures/seeds.ts';
import { inches, toInches } from '../../units/index.ts';
import { layBase } from './boot.ts';
import { reachesBeside } from './legs.ts';
import { centredWidth, reachOnFlat, reachPastCrowns } from './tileBase.ts';

/** Crowns so far apart, one of them at 0, on both sides. */
const every = (apart: number): number[] => Array.from({ length: 11 }, (_, i) => (i - 5) * apart);

describe('the base of a pipe on tile, the worked figures', () => {
  it.each([
    ['midway between crowns', 6, 7, 7, 14],
    ['3 in off a crown', 3, 4, 10, 20],
    ['on a crown', 0, 13, 13, 26],
  ])('3 1/2 in pipe, crowns 12 in apart, %s', (_, at, left, right, width) => {
    const reach = reachPastCrowns(every(inches(12)), inches(at), inches(3.5), inches(1));
    expect([toInches(reach.left), toInches(reach.right)]).toEqual([expect.closeTo(left, 9), expect.closeTo(right, 9)]);
    expect(toInches(centredWidth(reach))).toBeCloseTo(width, 9);
  });

  it('110 mm pipe midway between crowns 300 apart: 350; flat tiles: 282 round 82 mm, 11 1/2" round 3 1/2"', () => {
    expect(centredWidth(reachPastCrowns(every(300), 150, 110, 25))).toBeCloseTo(350, 9);
    expect(centredWidth(reachOnFlat(82, 100))).toBe(282);
    expect(toInches(centredWidth(reachOnFlat(inches(3.5), inches(4))))).toBeCloseTo(11.5, 9);
  });
});

const between = (min: number, max: number): fc.Arbitrary<number> => fc.double({ min, max, noNaN: true });

it('wherever a pipe stands its base reaches past a crown on both sides, beyond the pipe, and no farther than the next', () => {
  fc.assert(
    fc.property(between(150, 400), between(0, 1), between(20, 200), between(10, 50), (crowns, share, diameter, past) => {
      const at = share * crowns;
      const { left, right } = reachPastCrowns(every(crowns), at, diameter, past);
      for (const [reach, from] of [
        [left, at],
        [right, crowns - at],
      ] as const) {
        // its edge is `past` beyond a crown
        const over = (reach - past - from) / crowns;
        expect(over).toBeCloseTo(Math.round(over), 9);
        expect(reach).toBeGreaterThan(diameter / 2 + past - 1);
        expect(reach).toBeLessThan(diameter / 2 + crowns + past + 1);
      }
    }),
    cases(300),
  );
});

it('a mirrored place has its reaches changed over', () => {
  fc.assert(
    fc.property(between(150, 400), between(0, 1), between(20, 200), (crowns, share, diameter) => {
      const one = reachPastCrowns(every(crowns), share * crowns, diameter, 25);
      const other = reachPastCrowns(every(crowns), (1 - share) * crowns, diameter, 25);
      expect([other.right, other.left]).toEqual([expect.closeTo(one.left, 6), expect.closeTo(one.right, 6)]);
    }),
    cases(300),
  );
});

describe('a base as it lies', () => {
  const base = { baseWidth: 12, baseLength: 16, centre: 8 };

  it('turned a quarter a 12 × 16 in reaches the 7 in that a pipe midway between crowns 12 in apart needs; as it is made it falls short', () => {
    const need = reachPastCrowns([0, 12], 6, 3.5, 1);
    expect(need).toEqual({ left: 7, right: 7 });
    expect(reachesBeside(layBase(base), need)).toBe(false);
    expect(layBase(base, 'left')).toEqual({ baseWidth: 16, baseLength: 12, centre: 6, left: 8, right: 8, turned: 'left' });
    expect(reachesBeside(layBase(base, 'left'), need)).toBe(true);
  });

  it('its head goes to the side it is turned to', () => {
    const off = { ...base, centre: 6 };
    expect([layBase(off, 'left').left, layBase(off, 'left').right]).toEqual([10, 6]);
    expect([layBase(off, 'right').left, layBase(off, 'right').right]).toEqual([6, 10]);
  });
});
