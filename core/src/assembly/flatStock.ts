import { inches } from '../units/index.ts';
import { cutRun } from './runs.ts';

/** A rectangle to be cut, in whichever way round fits. */
export type Blank = { readonly width: number; readonly length: number };

/** Sheets joined to one blank lap by this much: the end lap of aprons and pans (trade practice). */
export const FLAT_LAP = inches(4);

/**
 * What a blank is cut from a sheet as: itself where it fits, either way round, else the fewest parts that lap each other by 4 in along every joint.
 * A 60 × 130 in blank from 4 × 10 ft sheets: 2 × 2 parts lengthways (130 in = 120 + 14, 60 in = 48 + 16), three crossways (130 in = 48 + 48 + 42): three.
 */
export function partsOf(blank: Blank, sheet: Blank): Blank[] {
  const split = (along: number, stock: number): number[] =>
    cutRun(along, stock, Math.min(FLAT_LAP, stock / 2), stock).map(({ from, to }) => to - from);
  const ways = [
    [split(blank.width, sheet.width), split(blank.length, sheet.length)],
    [split(blank.width, sheet.length), split(blank.length, sheet.width)],
  ] as const;
  const [widths, lengths] = ways[1][0].length * ways[1][1].length < ways[0][0].length * ways[0][1].length ? ways[1] : ways[0];
  return widths.flatMap((width) => lengths.map((length) => ({ width, length })));
}
