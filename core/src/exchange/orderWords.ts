import type { OrderLine } from '../takeoff/index.ts';
import { type UnitSystem, printLength } from '../units/index.ts';

/** So many of something: `1 bundle`, `3 boxes`. */
const counted = (count: number, one: string): string => `${count} ${one}${count === 1 ? '' : one.endsWith('x') ? 'es' : 's'}`;
const oneOf = ({ unit }: OrderLine): string => unit.replace(/s$/, '');

/** What is bought: `2 bundles`, `1 bundle and 2 loose lengths`. */
export function buyWords(line: OrderLine): string {
  const loose = line.loose ? [counted(line.loose, `loose ${oneOf(line)}`)] : [];
  return [...(line.packages > 0 || loose.length === 0 ? [counted(line.packages, line.package)] : []), ...loose].join(' and ');
}

/** What the plan needs: `1 piece`, `12 lengths`. */
export const neededWords = (line: OrderLine): string => counted(line.needed, oneOf(line));

/** What is bought beside that, and what of it goes as cut ends: `22 more: breakage, 2 %; 14'-2" of ends fit nowhere`. */
export const besideWords = ({ extra, cutEnds }: OrderLine, system: UnitSystem): string =>
  [
    ...extra.map(({ count, why }) => `${count} more: ${why}`),
    ...(cutEnds !== undefined && cutEnds >= 1 ? [`${printLength(cutEnds, system)} of ends fit nowhere`] : []),
  ].join('; ');

/** What is left of an order line, in words. */
export function leftOver(line: OrderLine, system: UnitSystem): string {
  const whole = line.leftPieces ? counted(line.leftPieces, oneOf(line)) : '';
  const offcuts =
    line.leftLength !== undefined && line.leftLength >= 1
      ? `${printLength(line.leftLength, system)} of ${line.unit === 'rolls' ? 'sheet' : 'offcuts'}`
      : '';
  return [whole, offcuts].filter((part) => part !== '').join(', ') || 'none';
}
