import type { Parsed, UnitSystem } from './length.ts';

/** Ways to write a pitch. Inside the core a pitch is rise over run (6/12 is 0.5). */
export type PitchStyle = 'x12' | 'degrees' | 'percent';

const RATIO = /^(\d+(?:\.\d+)?)\s*[/:]\s*(\d+(?:\.\d+)?)$/;
const DEGREES = /^(\d+(?:\.\d+)?)\s*(?:°|deg|degrees?)$/;
const PERCENT = /^(\d+(?:\.\d+)?)\s*%$/;
const BARE = /^(\d+(?:\.\d+)?)$/;

/**
 * Reads a pitch: `6/12`, `6:12`, `26.6°`, `50%`. A bare number means x in 12 for imperial jobs and degrees for metric ones.
 * @returns rise over run, or a sentence saying what could not be read
 */
export function parsePitch(text: string, system: UnitSystem): Parsed {
  const plain = text.trim().toLowerCase().replace(/,/g, '.');
  const value = readPitch(plain, system);
  if (value === undefined || !Number.isFinite(value)) {
    return { ok: false, reason: `"${text.trim()}" cannot be read as a pitch; write it like 6/12, 26.6° or 50%` };
  }
  return { ok: true, value: Math.round(value * 1e9) / 1e9 };
}

function readPitch(plain: string, system: UnitSystem): number | undefined {
  const ratio = RATIO.exec(plain);
  if (ratio) return Number(ratio[1]) / Number(ratio[2]);
  const percent = PERCENT.exec(plain);
  if (percent) return Number(percent[1]) / 100;
  const degrees = DEGREES.exec(plain) ?? (system === 'metric' ? BARE.exec(plain) : null);
  if (degrees) return Number(degrees[1]) < 90 ? Math.tan((Number(degrees[1]) * Math.PI) / 180) : undefined;
  const bare = BARE.exec(plain);
  return bare ? Number(bare[1]) / 12 : undefined;
}

const trim = (value: number, digits: number): string => String(Number(value.toFixed(digits)));

/** Prints a pitch as `6/12`, `26.6°` or `50%` (at most two, one and one decimals). */
export function printPitch(pitch: number, style: PitchStyle): string {
  switch (style) {
    case 'x12':
      return `${trim(pitch * 12, 2)}/12`;
    case 'degrees':
      return `${trim((Math.atan(pitch) * 180) / Math.PI, 1)}°`;
    case 'percent':
      return `${trim(pitch * 100, 1)}%`;
  }
}

/** The style a unit system's crews usually speak. */
export const usualPitchStyle = (system: UnitSystem): PitchStyle => (system === 'imperial' ? 'x12' : 'degrees');
