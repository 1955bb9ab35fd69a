import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { columnsWithin } from './index.ts';

describe('columns by number, from the left end', () => {
  const straight = { from: 3600, width: 300, broken: false };

  it('12 in 3600; 3000 to 3600 are 11 and 12; in broken bond every other course has a half at both ends, 13', () => {
    expect(columnsWithin(straight, 1, [0, 3600])).toEqual([1, 12]);
    expect(columnsWithin(straight, 4, [3000, 3600])).toEqual([11, 12]);
    const broken = { ...straight, broken: true };
    expect(columnsWithin(broken, 1, [0, 3600])).toEqual([1, 12]);
    expect(columnsWithin(broken, 2, [0, 3600])).toEqual([1, 13]);
    expect(columnsWithin(broken, 2, [0, 150])).toEqual([1, 1]);
    expect(columnsWithin(broken, 2, [150, 450])).toEqual([2, 2]);
  });

  it('are the same from whichever end they are laid, where they fill the slope', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 40 }), fc.integer({ min: 0, max: 39 }), fc.boolean(), (count, i, broken) => {
        const one = i % count;
        const from = (end: number) => columnsWithin({ from: end, width: 300, broken }, 1, [one * 300, (one + 1) * 300]);
        expect(from(0)).toEqual(from(count * 300));
        expect(from(0)).toEqual([one + 1, one + 1]);
      }),
    );
  });
});
