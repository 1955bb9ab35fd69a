import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cases } from '../../fixtures/seeds.ts';
import { parseArea, printArea } from './index.ts';

const read = (text: string, size: 'floor' | 'opening' = 'floor', system: 'imperial' | 'metric' = 'imperial') =>
  parseArea(text, system, size);

describe('areas', () => {
  it.each([
    ['1300', 'floor', 'imperial', 1300 * 304.8 ** 2],
    ['1300 ft²', 'floor', 'metric', 1300 * 304.8 ** 2],
    ['1300 sq ft', 'floor', 'imperial', 1300 * 304.8 ** 2],
    ['1300 sq. ft', 'floor', 'imperial', 1300 * 304.8 ** 2],
    ['120.5 m2', 'floor', 'imperial', 120.5e6],
    ['120,5 m²', 'floor', 'metric', 120.5e6],
    ['330', 'opening', 'imperial', 330 * 25.4 ** 2],
    ['2100', 'opening', 'metric', 2100 * 100],
    ['.5 in²', 'opening', 'metric', 0.5 * 25.4 ** 2],
  ] as const)('"%s" as %s in %s', (text, size, system, squareMm) => {
    const parsed = read(text, size, system);
    expect(parsed.ok && parsed.value).toBeCloseTo(squareMm, 6);
  });

  it.each(['', '12 acres', '-4', '1,300', 'ft²', '3 x 4', 'NaN', 'Infinity'])('"%s" is refused with a reason', (text) => {
    const parsed = read(text);
    expect(parsed.ok ? '' : parsed.reason).toMatch(/is empty|is no area|two ways/);
  });

  it('print so that they are read again as they were, to what is printed of them', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1e10, noNaN: true }),
        fc.constantFrom('floor' as const, 'opening' as const),
        fc.constantFrom('imperial' as const, 'metric' as const),
        (squareMm, size, system) => {
          const printed = printArea(squareMm, system, size);
          const parsed = read(printed, size, system);
          expect(parsed.ok).toBe(true);
          if (parsed.ok) expect(printArea(parsed.value, system, size)).toBe(printed);
        },
      ),
      cases(200),
    );
  });
});
