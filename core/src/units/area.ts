import { GROUPED, MM_PER_FOOT, MM_PER_INCH, type Parsed, type UnitSystem, groupedReason } from './length.ts';

/** How an area is read and printed: a floor in square feet or metres, an opening for air in square inches or centimetres. */
export type AreaSize = 'floor' | 'opening';

const UNITS: Record<string, number> = {
  ft: MM_PER_FOOT ** 2,
  in: MM_PER_INCH ** 2,
  mm: 1,
  cm: 100,
  m: 1e6,
};
const PRINTED = { floor: { imperial: 'ft', metric: 'm' }, opening: { imperial: 'in', metric: 'cm' } } as const;

const WRITTEN = /^(\d+(?:\.\d+)?|\.\d+)\s*(?:(?:sq\.?\s*(ft|in|mm|cm|m))|(ft|in|mm|cm|m)(?:2|²))?$/;

/**
 * Reads an area: `1200 ft²`, `1200 sq ft`, `310 in2`, `112 m²`. A bare number is in the unit that size is printed in.
 * @returns square millimetres, or a sentence saying what could not be read.
 */
export function parseArea(text: string, system: UnitSystem, size: AreaSize): Parsed {
  if (GROUPED.test(text)) return { ok: false, reason: groupedReason(text) };
  const plain = text.trim().toLowerCase().replace(',', '.');
  if (plain === '') return { ok: false, reason: 'is empty' };
  const [, figure, before, after] = WRITTEN.exec(plain) ?? [];
  if (figure === undefined)
    return { ok: false, reason: `"${text.trim()}" is no area; write it such as ${printArea(1e6, system, size)}` };
  return { ok: true, value: Number(figure) * UNITS[before ?? after ?? PRINTED[size][system]]! };
}

/** Prints an area from square millimetres: a floor to one decimal in square feet or metres, an opening in whole square inches or centimetres. */
export function printArea(squareMm: number, system: UnitSystem, size: AreaSize = 'floor'): string {
  const unit = PRINTED[size][system];
  return `${(squareMm / UNITS[unit]!).toFixed(size === 'floor' ? 1 : 0).replace(/\.0$/, '')} ${unit}²`;
}
