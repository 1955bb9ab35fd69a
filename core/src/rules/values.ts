import { type UnitSystem, inches, printLength, printPitch } from '../units/index.ts';

/** What a rule key's values are made of; numbers keep the unit they were written in. */
export type KeyKind = 'length' | 'pitch' | 'angle' | 'count' | 'ratio' | 'time' | 'temperature' | 'choice' | 'yesNo';

/** Units a rule's number may be written in. `x12` is a rise on 12, `ratio` a share of one. */
export const RULE_UNITS = ['in', 'mm', 'x12', 'deg', 'count', '%', 'ratio', 'min', 'h', 'days', 'C', 'F'] as const;
export type RuleUnit = (typeof RULE_UNITS)[number];

/** Those each kind of key takes. A share may still be written as a bare count, as it was before it had a unit. */
export const UNITS_OF: Record<KeyKind, readonly (RuleUnit | undefined)[]> = {
  length: ['in', 'mm'],
  pitch: ['x12', 'deg'],
  angle: ['deg'],
  count: ['count'],
  ratio: ['%', 'ratio', 'count'],
  time: ['min', 'h', 'days'],
  temperature: ['C', 'F'],
  choice: [undefined],
  yesNo: [undefined],
};

const FACTOR: Record<Exclude<RuleUnit, 'F' | 'deg'>, number> = {
  in: inches(1),
  mm: 1,
  x12: 1 / 12,
  count: 1,
  '%': 1 / 100,
  ratio: 1,
  min: 1,
  h: 60,
  days: 24 * 60,
  C: 1,
};

/** A written value in the core's units: millimetres, rise over run, degrees of angle, a share of one, minutes, degrees Celsius, or a plain count. */
export function toCore(value: number, unit: RuleUnit | undefined, kind?: KeyKind): number {
  if (unit === 'F') return ((value - 32) * 5) / 9;
  if (unit === 'deg') return kind === 'pitch' ? Math.tan((value * Math.PI) / 180) : value;
  return value * FACTOR[unit ?? 'count'];
}

/** Up to two decimals, none where there are none. */
const plain = (value: number): string => String(Number(value.toFixed(2)));

/** A value in the core's units by the kind of its key, in the user's system. */
export function printBound(kind: KeyKind, value: number, system: UnitSystem): string {
  switch (kind) {
    case 'length':
      return printLength(value, system, { inchesOnly: true });
    case 'pitch':
      return printPitch(value, system === 'imperial' ? 'x12' : 'degrees');
    case 'angle':
      return `${plain(value)}°`;
    case 'ratio':
      return `${plain(value * 100)} %`;
    case 'time':
      return value >= FACTOR.days
        ? `${plain(value / FACTOR.days)} days`
        : value >= 60
          ? `${plain(value / 60)} h`
          : `${plain(value)} min`;
    case 'temperature':
      return system === 'imperial' ? `${plain((value * 9) / 5 + 32)} °F` : `${plain(value)} °C`;
    case 'count':
    case 'choice':
    case 'yesNo':
      return plain(value);
  }
}

/** Prints a rule value in the unit it was written in (2" never prints as 50.8), with the user's unit beside it where that differs. */
export function printRuleValue(
  { value, unit }: { readonly value: number | boolean | readonly string[]; readonly unit?: RuleUnit | undefined },
  system: UnitSystem,
): string {
  if (typeof value === 'boolean') return value ? 'required' : 'not required';
  if (typeof value !== 'number') return value.join(' or ');
  switch (unit) {
    case 'in': {
      // sheet thicknesses such as 0.019 in are written in thousandths, not sixteenths
      const written = value > 0 && value < 1 / 16 ? `${value}"` : printLength(inches(value), 'imperial', { inchesOnly: true });
      return system === 'metric'
        ? `${written} (${value < 1 / 16 ? `${(value * 25.4).toFixed(2)} mm` : printLength(inches(value), 'metric')})`
        : written;
    }
    case 'mm':
      return system === 'imperial' ? `${value} mm (${printLength(value, 'imperial', { inchesOnly: true })})` : `${value} mm`;
    case 'x12':
      return printPitch(value / 12, 'x12');
    case 'deg':
      return `${value}°`;
    case '%':
      return `${value} %`;
    case 'min':
    case 'h':
    case 'days':
      return `${value} ${unit}`;
    case 'C':
      return system === 'imperial' ? `${value} °C (${printBound('temperature', value, system)})` : `${value} °C`;
    case 'F':
      return system === 'metric' ? `${value} °F (${printBound('temperature', toCore(value, 'F'), system)})` : `${value} °F`;
    default:
      return String(value);
  }
}
