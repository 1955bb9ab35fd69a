import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cricketOf, outlineArea, tableHeight } from '../../roof/index.ts';
import { inches, toInches } from '../../units/index.ts';
import { cricketFlat } from './index.ts';

describe('crickets', () => {
  it.each([
    [12, 1 / 2],
    [8, 1 / 3],
    [6, 1 / 4],
    [4, 1 / 6],
    [3, 1 / 8],
  ])('at %d/12 stand %f of the width high', (x12, share) => {
    expect(tableHeight(inches(48), x12 / 12)).toBeCloseTo(inches(48) * share, 9);
  });

  it('42 in wide at 6/12: 10 1/2 high, ridge 21, valleys 31 1/2, 246.5 in² a side', () => {
    const cricket = cricketOf(inches(42), 0.5);
    expect([cricket.height, cricket.ridge, cricket.valley].map((mm) => Math.round(toInches(mm) * 1e6) / 1e6)).toEqual([
      10.5, 21, 31.5,
    ]);
    expect(cricket.sideArea / 25.4 ** 2).toBeCloseTo(246.5, 1);
  });

  it('have a flat pattern as large as what it is bent into, at any width and pitch', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 20, max: 80, noNaN: true }),
        fc.double({ min: 0.2, max: 1.5, noNaN: true }),
        (width, pitch) => {
          const cricket = cricketOf(inches(width), pitch);
          const [upstand, flange, lap] = [inches(6), inches(6), inches(1)];
          const developed = cricket.sideArea + cricket.slant * upstand + cricket.valley * flange + cricket.ridge * lap;
          expect(Math.abs(outlineArea(cricketFlat(cricket, upstand, flange, lap).outline))).toBeCloseTo(developed, 3);
          // the same triangle by its three true sides
          const half = (cricket.valley + cricket.ridge + cricket.slant) / 2;
          const heron = Math.sqrt(half * (half - cricket.valley) * (half - cricket.ridge) * (half - cricket.slant));
          expect(heron).toBeCloseTo(cricket.sideArea, 2);
        },
      ),
    );
  });
});
