import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  type Pitch,
  type UnitSystem,
  inches,
  isFlatter,
  parseLength,
  parsePitch,
  pitchOf,
  pitchSaidAs,
  printFlow,
  printLength,
  printPitch,
  printSaidPitch,
} from './index.ts';

const read = (text: string, system: UnitSystem = 'imperial'): number => {
  const parsed = parseLength(text, system);
  if (!parsed.ok) throw new Error(parsed.reason);
  return parsed.value;
};

describe('reading lengths as crews write them', () => {
  it.each([
    [`12' 6 3/4"`, 150.75],
    ['12-6 3/4', 150.75],
    [`12.5'`, 150],
    ['150 3/4"', 150.75],
    ['150.75in', 150.75],
    [`6'-0 5/8"`, 72.625],
    [`15'4`, 184],
    ['5 ⅝"', 5.625],
    ['5⅝', 5.625],
    ['3/8"', 0.375],
    ['12 ft', 144],
    ['12′ 6″', 150],
    ['-1/2"', -0.5],
    ['51.4', 51.4],
  ])('%s is %d inches', (text, expected) => expect(read(text)).toBeCloseTo(inches(expected), 5));

  it.each([
    ['3810', 3810],
    ['3810 mm', 3810],
    ['3.81 m', 3810],
    ['3,81 m', 3810],
    ['45 cm', 450],
    [`12' 6"`, 3810],
  ])('%s is %d mm in a metric job', (text, expected) => expect(read(text, 'metric')).toBeCloseTo(expected, 6));

  it.each(['', 'twelve', `12' 6' 3"`, '5 1/0"', '1e9', '--4', 'NaN'])('refuses %j with a reason', (text) => {
    const parsed = parseLength(text, 'imperial');
    expect(parsed.ok).toBe(false);
    if (!parsed.ok) expect(parsed.reason.length).toBeGreaterThan(5);
  });
});

it.each(['1,000 mm', '1,000', `12,345"`, '1,000,000'])('%s can be read two ways, and is refused with both', (text) => {
  const parsed = parseLength(text, 'metric');
  expect(parsed.ok ? '' : parsed.reason).toContain('can be read two ways; write it without a comma, such as ');
  expect(parsePitch(`${text.replace(/[^0-9,]/g, '')}/12`, 'imperial').ok).toBe(false);
});

describe('printing lengths', () => {
  it.each([
    [75.375, `6'-3 3/8"`],
    [72.625, `6'-0 5/8"`],
    [5.625, '5 5/8"'],
    [0.5, '1/2"'],
    [-0.5, '-1/2"'],
    [0, '0"'],
    [11.99, `1'-0"`],
    [-0.01, '0"'],
  ])('%d in prints %s', (value, text) => expect(printLength(inches(value), 'imperial')).toBe(text));

  it('prints whole millimetres, and inches alone where a strip is cut', () => {
    expect(printLength(1914.6, 'metric')).toBe('1915 mm');
    expect(printLength(-0.2, 'metric')).toBe('0 mm');
    expect(printLength(inches(51.43), 'imperial', { inchesOnly: true })).toBe('51 7/16"');
  });

  it('reads back what it prints, to half of the finest mark', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e5, max: 1e5, noNaN: true }),
        fc.constantFrom('imperial' as const, 'metric' as const),
        (mm, system) => {
          const again = read(printLength(mm, system), system);
          expect(Math.abs(again - mm)).toBeLessThanOrEqual((system === 'metric' ? 0.5 : 25.4 / 32) + 1e-6);
        },
      ),
    );
  });
});

describe('pitch', () => {
  const said = (text: string, system: UnitSystem = 'imperial'): Pitch => {
    const parsed = parsePitch(text, system);
    if (!parsed.ok) throw new Error(parsed.reason);
    return parsed.value;
  };

  it.each([
    ['6/12', 'imperial', 0.5],
    ['6:12', 'metric', 0.5],
    ['50%', 'imperial', 0.5],
    ['6', 'imperial', 0.5],
    ['45', 'metric', 1],
    ['45°', 'imperial', 1],
    ['2.5/12', 'imperial', 2.5 / 12],
  ] as const)('%s in a %s job is rise over run', (text, system, expected) => {
    expect(pitchOf(said(text, system))).toBeCloseTo(expected, 8);
  });

  it('is kept exactly as it was said: 4/12 is a third, not 3.999999996 in 12, and shown as it was typed', () => {
    expect(pitchOf(said('4/12'))).toBe(4 / 12);
    expect(pitchOf(said('7/12')) * 12).toBe(7);
    for (const text of ['4/12', '6.5/12', '18.4°', '33%', '1/3']) expect(printSaidPitch(said(text))).toBe(text);
  });

  it('of an older file is taken for what was said: nine decimals of 4/12 and of 26.6° are 4/12 and 26.6°', () => {
    expect(pitchSaidAs(0.333333333)).toEqual({ rise: 4, run: 12 });
    expect(pitchSaidAs(Math.round(Math.tan((26.6 * Math.PI) / 180) * 1e9) / 1e9)).toEqual({ degrees: 26.6 });
    expect(pitchSaidAs(0.33)).toEqual({ rise: 33, run: 100 });
    expect(pitchOf(pitchSaidAs(0.4567891))).toBeCloseTo(0.4567891, 12);
  });

  it('is compared with a tolerance: 3.999999996 in 12 is not flatter than 4 in 12', () => {
    expect(isFlatter(3.999999996 / 12, 4 / 12)).toBe(false);
    expect(isFlatter(3.99 / 12, 4 / 12)).toBe(true);
  });

  it('refuses what has no slope factor', () => {
    for (const text of ['', 'steep', '90°', '6/0', '-3/12']) expect(parsePitch(text, 'imperial').ok).toBe(false);
  });

  it('prints in three styles', () => {
    expect([printPitch(0.5, 'x12'), printPitch(0.5, 'degrees'), printPitch(0.5, 'percent')]).toEqual(['6/12', '26.6°', '50%']);
  });
});

it('prints flow in the unit of the job', () => {
  expect(printFlow(100, 'metric')).toBe('100.0 L/min');
  expect(printFlow(94.4, 'imperial')).toBe('24.9 gal/min');
});
