import { GROUPED, type UnitSystem, groupedReason } from './length.ts';
import { SAME_PITCH } from './tolerances.ts';

/** Ways to write a pitch as a number. Inside the core a pitch that is computed with is rise over run (6/12 is 0.5). */
export type PitchStyle = 'x12' | 'degrees' | 'percent';

/** A pitch as it was said: a rise on a run (6 on 12; 50% is 50 on 100), or an angle above level. Kept so, nothing is rounded away. */
export type Pitch = { readonly rise: number; readonly run: number } | { readonly degrees: number };

export type ParsedPitch = { readonly ok: true; readonly value: Pitch } | { readonly ok: false; readonly reason: string };

/** A pitch as rise over run: 6/12 is 0.5, 45° is 1. */
export const pitchOf = (pitch: Pitch): number =>
  'degrees' in pitch ? Math.tan((pitch.degrees * Math.PI) / 180) : pitch.rise / pitch.run;

/** `x` in 12. */
export const onTwelve = (x: number): Pitch => ({ rise: x, run: 12 });

const RATIO = /^(\d+(?:\.\d+)?)\s*[/:]\s*(\d+(?:\.\d+)?)$/;
const DEGREES = /^(\d+(?:\.\d+)?)\s*(?:°|deg|degrees?)$/;
const PERCENT = /^(\d+(?:\.\d+)?)\s*%$/;
const BARE = /^(\d+(?:\.\d+)?)$/;

/**
 * Reads a pitch: `6/12`, `6:12`, `26.6°`, `50%`. A bare number means x in 12 for imperial jobs and degrees for metric ones.
 * @returns the pitch as it was said, or a sentence saying what could not be read
 */
export function parsePitch(text: string, system: UnitSystem): ParsedPitch {
  if (GROUPED.test(text)) return { ok: false, reason: groupedReason(text) };
  const value = readPitch(text.trim().toLowerCase().replace(/,/g, '.'), system);
  if (value === undefined || !Number.isFinite(pitchOf(value))) {
    return { ok: false, reason: `"${text.trim()}" cannot be read as a pitch; write it like 6/12, 26.6° or 50%` };
  }
  return { ok: true, value };
}

function readPitch(plain: string, system: UnitSystem): Pitch | undefined {
  const ratio = RATIO.exec(plain);
  if (ratio) return { rise: Number(ratio[1]), run: Number(ratio[2]) };
  const percent = PERCENT.exec(plain);
  if (percent) return { rise: Number(percent[1]), run: 100 };
  const degrees = DEGREES.exec(plain) ?? (system === 'metric' ? BARE.exec(plain) : null);
  if (degrees) return Number(degrees[1]) < 90 ? { degrees: Number(degrees[1]) } : undefined;
  const bare = BARE.exec(plain);
  return bare ? onTwelve(Number(bare[1])) : undefined;
}

const trim = (value: number, digits: number): string => String(Number(value.toFixed(digits)));

/** Prints rise over run as `6/12`, `26.6°` or `50%` (at most two, one and one decimals). */
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

/** Prints a pitch the way it was said, so that reading it again gives the same: `4/12`, `18.5°`, `50%`. */
export function printSaidPitch(pitch: Pitch): string {
  if ('degrees' in pitch) return `${pitch.degrees}°`;
  return pitch.run === 100 ? `${pitch.rise}%` : `${pitch.rise}/${pitch.run}`;
}

/**
 * The pitch a rise over run was once said as: a half in 12, a tenth of a degree or a whole percent when it is one to within what nine decimals keep
 * (job files before version 3 held the bare number), else so much in 12.
 */
export function pitchSaidAs(value: number): Pitch {
  const near = (a: number, b: number): boolean => Math.abs(a - b) < SAME_PITCH / 100;
  const x12 = Math.round(value * 24) / 2;
  if (near(x12 / 12, value)) return onTwelve(x12);
  const degrees = Math.round(((Math.atan(value) * 180) / Math.PI) * 10) / 10;
  if (near(pitchOf({ degrees }), value)) return { degrees };
  const percent = Math.round(value * 100);
  if (near(percent / 100, value)) return { rise: percent, run: 100 };
  return onTwelve(value * 12);
}
