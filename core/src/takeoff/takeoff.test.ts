import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cutRun, layRows, piecesForRun } from '../assembly/index.ts';
import { inches } from '../units/index.ts';
import { packCuts } from './index.ts';

/** Fewest bins by trying every placement; for a handful of cuts. */
function fewestBins(lengths: number[], stock: number): number {
  let best = lengths.length;
  const place = (i: number, left: number[]): void => {
    if (left.length >= best) return;
    if (i === lengths.length) {
      best = left.length;
      return;
    }
    left.forEach((room, bin) => {
      if (room >= lengths[i]! - 1e-6) place(i + 1, left.with(bin, room - lengths[i]!));
    });
    place(i + 1, [...left, stock - lengths[i]!]);
  };
  place(0, []);
  return best;
}

describe('cutting a run', () => {
  it('gives the worked counts: 22 ft and 12 ft in 5 ft lengths with 6 in laps', () => {
    expect(piecesForRun(inches(264), inches(60), inches(6))).toBe(5);
    expect(piecesForRun(inches(144), inches(60), inches(6))).toBe(3);
  });

  it('covers every run, laps at least as asked, never longer than stock, and as few as the formula', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 10, max: 50_000, noNaN: true }),
        fc.double({ min: 1000, max: 5000, noNaN: true }),
        fc.double({ min: 0, max: 300, noNaN: true }),
        fc.boolean(),
        (run, stock, lap, stagger) => {
          const cuts = cutRun(run, stock, lap, stagger ? stock / 2 : stock);
          expect(cuts[0]!.from).toBe(0);
          expect(cuts.at(-1)!.to).toBeCloseTo(run, 0);
          for (const { from, to } of cuts) expect(to - from).toBeLessThanOrEqual(stock + 1e-6);
          for (let i = 1; i < cuts.length; i++) expect(cuts[i - 1]!.to - cuts[i]!.from).toBeGreaterThanOrEqual(lap - 1e-6);
          if (!stagger) expect(cuts).toHaveLength(piecesForRun(run, stock, lap));
        },
      ),
    );
  });

  it('lays rows until the distance is covered, and no row more', () => {
    expect(layRows(0, inches(51.4), inches(36), inches(3))).toHaveLength(2);
    expect(layRows(inches(-1.5), inches(82.5), inches(36), inches(3)).at(-1)!.to).toBeCloseTo(inches(100.5), 6);
  });
});

describe('packing cuts into stock', () => {
  it('keeps every cut, overfills nothing, and its bound is a true one', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 100 }), { maxLength: 7 }), (lengths) => {
        const { bins, bound, waste } = packCuts(lengths, 100);
        expect(bins.flat().sort((a, b) => a - b)).toEqual([...lengths].sort((a, b) => a - b));
        for (const bin of bins) expect(bin.reduce((sum, length) => sum + length, 0)).toBeLessThanOrEqual(100);
        const best = fewestBins(lengths, 100);
        expect(bound).toBeLessThanOrEqual(best);
        expect(bins.length).toBeLessThanOrEqual(Math.floor((11 * best) / 9 + 6 / 9));
        expect(waste).toBe(bins.length * 100 - lengths.reduce((sum, length) => sum + length, 0));
      }),
    );
  });
});
