import { GROUPED, type Parsed, type UnitSystem, groupedReason } from './length.ts';

const KG_PER_POUND = 0.45359237;
const WRITTEN = /^(\d+(?:\.\d+)?|\.\d+)\s*(lb|lbs|kg|t)?$/;
const IN_KG: Record<string, number> = { lb: KG_PER_POUND, lbs: KG_PER_POUND, kg: 1, t: 1000 };

/** A weight in kilograms from pounds. */
export const pounds = (value: number): number => value * KG_PER_POUND;

/** Reads a weight: `4000 lb`, `1800 kg`, `1.8 t`; a bare number is pounds or kilograms. @returns kilograms, or a sentence saying what could not be read. */
export function parseMass(text: string, system: UnitSystem): Parsed {
  if (GROUPED.test(text)) return { ok: false, reason: groupedReason(text) };
  const plain = text.trim().toLowerCase().replace(',', '.');
  if (plain === '') return { ok: false, reason: 'is empty' };
  const [, figure, unit] = WRITTEN.exec(plain) ?? [];
  if (figure === undefined)
    return { ok: false, reason: `"${text.trim()}" is no weight; write it such as ${printMass(1000, system)}` };
  return { ok: true, value: Number(figure) * IN_KG[unit ?? (system === 'imperial' ? 'lb' : 'kg')]! };
}

/** Prints a weight from kilograms, in whole pounds or kilograms. */
export const printMass = (kg: number, system: UnitSystem): string =>
  system === 'imperial' ? `${Math.round(kg / KG_PER_POUND)} lb` : `${Math.round(kg)} kg`;
