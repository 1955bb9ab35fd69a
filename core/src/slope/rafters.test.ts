import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cases } from '../../fixtures/seeds.ts';
import { inches } from '../units/index.ts';
import { raftersIn, shiftSparing } from './index.ts';

describe('rafters under a slope', () => {
  it('stand in an opening by their faces, 3/4 in each side of the centre', () => {
    expect(raftersIn({ spacing: inches(24), first: inches(12) }, inches(13), inches(35))).toEqual([]);
    expect(raftersIn({ spacing: inches(19.2), first: 0 }, inches(10), inches(40))).toHaveLength(2);
    const at16 = { spacing: inches(16), first: 0 };
    expect(raftersIn(at16, inches(32.74), inches(40))).toEqual([inches(32)]);
    expect(raftersIn(at16, inches(32.75), inches(40))).toEqual([]);
  });

  it('are spared by the least shift, and by none that spares nothing or is over half a bay', () => {
    const at16 = { spacing: inches(16), first: 0 };
    // from 17 to 47 1/2 in stand 32 and the face of 48, at 47 1/4; the face of 16 ends at 16 3/4
    expect(shiftSparing(at16, inches(17), inches(47.5))).toEqual({ by: inches(-0.25), cut: 1 });
    expect(shiftSparing({ spacing: inches(24), first: 0 }, inches(2), inches(20))).toBeUndefined();
    fc.assert(
      fc.property(
        fc.double({ min: 12, max: 24, noNaN: true }),
        fc.double({ min: 0, max: 12, noNaN: true }),
        fc.double({ min: 20, max: 90, noNaN: true }),
        fc.double({ min: 6, max: 60, noNaN: true }),
        (spacing, first, x, width) => {
          const rafters = { spacing: inches(spacing), first: inches(first) };
          const [x0, x1] = [inches(x), inches(x + width)];
          const now = raftersIn(rafters, x0, x1).length;
          const shift = shiftSparing(rafters, x0, x1);
          if (!shift) return;
          expect(shift.cut).toBeLessThan(now);
          expect(raftersIn(rafters, x0 + shift.by, x1 + shift.by)).toHaveLength(shift.cut);
          expect(Math.abs(shift.by)).toBeLessThanOrEqual(inches(spacing / 2));
          // an eighth less would spare none
          const less = shift.by - Math.sign(shift.by) * inches(1 / 8);
          expect(raftersIn(rafters, x0 + less, x1 + less).length).toBeGreaterThanOrEqual(now);
        },
      ),
      cases(300),
    );
  });
});
