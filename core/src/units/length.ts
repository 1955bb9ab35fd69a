/** Which tape the user reads. Inside the core every length is millimetres. */
export type UnitSystem = 'imperial' | 'metric';

export type Parsed = { readonly ok: true; readonly value: number } | { readonly ok: false; readonly reason: string };

export const MM_PER_INCH = 25.4;
export const MM_PER_FOOT = 304.8;

export const inches = (value: number): number => value * MM_PER_INCH;
export const toInches = (mm: number): number => mm / MM_PER_INCH;

/** Removes binary noise far below any tape's reach (one millionth of a millimetre), so that equal readings compare equal. */
const tidy = (mm: number): number => Math.round(mm * 1e6) / 1e6;

const VULGAR: Record<string, string> = {
  '½': '1/2',
  '¼': '1/4',
  '¾': '3/4',
  '⅛': '1/8',
  '⅜': '3/8',
  '⅝': '5/8',
  '⅞': '7/8', // prettier-ignore
};

const NUMBER = String.raw`\d+(?:\.\d+)?|\.\d+`;
const MIXED = String.raw`(?:\d+\s+\d+\s*/\s*\d+|\d+\s*/\s*\d+|${NUMBER})`;
const FEET_INCHES = new RegExp(String.raw`^(${NUMBER})\s*(?:'|ft|feet|foot)\s*-?\s*(?:(${MIXED})\s*(?:"|in|inch|inches)?)?$`);
const FEET_DASH_INCHES = new RegExp(String.raw`^(\d+)\s*-\s*(${MIXED})\s*(?:"|in|inch|inches)?$`);
const INCHES = new RegExp(String.raw`^(${MIXED})\s*(?:"|in|inch|inches)$`);
const METRIC = new RegExp(String.raw`^(${NUMBER})\s*(mm|cm|m)$`);
const BARE = new RegExp(String.raw`^(${MIXED})$`);
const METRIC_FACTOR: Record<string, number> = { mm: 1, cm: 10, m: 1000 };

/** A comma with three digits after it: thousands to some, decimals to others. */
export const GROUPED = /\d,\d{3}(?!\d)/;

export const groupedReason = (text: string): string =>
  `"${text.trim()}" can be read two ways; write it without a comma, such as ${text.trim().replace(/,/g, '')} or ${text.trim().replace(/,/g, '.')}`;

function readMixed(text: string): number {
  const [whole = '', fraction] = text.includes('/') ? splitMixed(text) : [text, undefined];
  const base = whole === '' ? 0 : Number(whole);
  if (fraction === undefined) return base;
  const [top, bottom] = fraction.split('/').map(Number);
  return base + (top ?? Number.NaN) / (bottom ?? Number.NaN);
}

function splitMixed(text: string): [string, string] {
  const compact = text.replace(/\s*\/\s*/, '/').trim();
  const gap = compact.search(/\s/);
  return gap < 0 ? ['', compact] : [compact.slice(0, gap), compact.slice(gap).trim()];
}

function normalise(text: string): string {
  const plain = text
    .trim()
    .toLowerCase()
    .replace(/[′’‘]/g, "'")
    .replace(/[″”“]|''/g, '"')
    .replace(/[−–—]/g, '-')
    .replace(/,/g, '.');
  return plain.replace(/\s*([½¼¾⅛⅜⅝⅞])/g, (_, glyph: string) => ` ${VULGAR[glyph]}`).trim();
}

/**
 * Reads a length as a crew writes it: `12' 6 3/4"`, `12-6 3/4`, `12.5'`, `150 3/4"`, `150.75in`, `3810 mm`, `3.81 m`.
 * A bare number is in the job's unit (inches or millimetres).
 * @returns millimetres, or a sentence saying what could not be read. A leading minus is read; whether it makes sense is the field's matter.
 */
export function parseLength(text: string, system: UnitSystem): Parsed {
  if (GROUPED.test(text)) return { ok: false, reason: groupedReason(text) };
  const plain = normalise(text);
  if (plain === '') return { ok: false, reason: 'is empty' };
  const negative = plain.startsWith('-');
  const body = negative ? plain.slice(1).trim() : plain;
  const mm = readUnsigned(body, system);
  if (mm === undefined || !Number.isFinite(mm)) {
    const example = system === 'imperial' ? `12' 6 3/4" or 150 3/4"` : '3810 or 3.81 m';
    return { ok: false, reason: `"${text.trim()}" cannot be read as a length; write it like ${example}` };
  }
  return { ok: true, value: tidy(negative ? -mm : mm) };
}

function readUnsigned(body: string, system: UnitSystem): number | undefined {
  const feet = FEET_INCHES.exec(body);
  if (feet) return Number(feet[1]) * MM_PER_FOOT + (feet[2] === undefined ? 0 : inches(readMixed(feet[2])));
  const dashed = FEET_DASH_INCHES.exec(body);
  if (dashed) return Number(dashed[1]) * MM_PER_FOOT + inches(readMixed(dashed[2]!));
  const inch = INCHES.exec(body);
  if (inch) return inches(readMixed(inch[1]!));
  const metric = METRIC.exec(body);
  if (metric) return Number(metric[1]) * METRIC_FACTOR[metric[2]!]!;
  const bare = BARE.exec(body);
  if (bare) return system === 'imperial' ? inches(readMixed(bare[1]!)) : readMixed(bare[1]!);
  return undefined;
}

function reduceSixteenths(sixteenths: number): string {
  if (sixteenths === 0) return '';
  let top = sixteenths;
  let bottom = 16;
  while (top % 2 === 0) {
    top /= 2;
    bottom /= 2;
  }
  return `${top}/${bottom}`;
}

function printInches(sixteenths: number, afterFeet: boolean): string {
  const whole = Math.floor(sixteenths / 16);
  const fraction = reduceSixteenths(sixteenths % 16);
  if (fraction === '') return `${whole}"`;
  return whole === 0 && !afterFeet ? `${fraction}"` : `${whole} ${fraction}"`;
}

/**
 * Prints a length for the user's tape: imperial to 1/16 in reduced (`6'-3 3/8"`), metric in whole millimetres (`1915 mm`).
 * Rounding happens here and nowhere else. `inchesOnly` keeps imperial lengths in inches (`51 7/16"`), as strips and pieces are cut.
 */
export function printLength(mm: number, system: UnitSystem, options: { inchesOnly?: boolean } = {}): string {
  if (!Number.isFinite(mm)) throw new Error(`a length to print must be finite, got ${mm}`);
  if (system === 'metric') return `${Math.round(mm) || 0} mm`;
  const sixteenths = Math.round(Math.abs(toInches(mm)) * 16);
  const sign = mm < 0 && sixteenths > 0 ? '-' : '';
  const feet = Math.floor(sixteenths / 192);
  if (options.inchesOnly || feet === 0) return sign + printInches(sixteenths, false);
  return `${sign}${feet}'-${printInches(sixteenths % 192, true)}`;
}

const LITRES_PER_US_GALLON = 3.785411784;

/** Prints a flow from litres a minute: US gallons or litres a minute, two significant decimals where small. */
export function printFlow(litresPerMinute: number, system: UnitSystem): string {
  const value = system === 'imperial' ? litresPerMinute / LITRES_PER_US_GALLON : litresPerMinute;
  return `${value.toFixed(value < 10 ? 2 : 1)} ${system === 'imperial' ? 'gal/min' : 'L/min'}`;
}
