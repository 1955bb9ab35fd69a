import { describe, expect, it } from 'vitest';
import { parseMass, pounds, printMass } from './index.ts';

describe('weights', () => {
  it.each([
    ['4000 lb', 'metric', pounds(4000)],
    ['4000', 'imperial', pounds(4000)],
    ['1800', 'metric', 1800],
    ['1.8 t', 'imperial', 1800],
    ['1,5 t', 'metric', 1500],
    ['250.5kg', 'imperial', 250.5],
  ] as const)('"%s" in %s', (text, system, kg) => {
    const parsed = parseMass(text, system);
    expect(parsed.ok && parsed.value).toBeCloseTo(kg, 6);
  });

  it.each(['', 'heavy', '-4', '1,300', 'kg', '1e9'])('"%s" is refused with a reason', (text) => {
    const parsed = parseMass(text, 'imperial');
    expect(parsed.ok ? '' : parsed.reason).toMatch(/is empty|is no weight|two ways/);
  });

  it('print whole, and are read again as printed', () => {
    expect(printMass(pounds(4000), 'imperial')).toBe('4000 lb');
    expect(printMass(1814.4, 'metric')).toBe('1814 kg');
  });
});
