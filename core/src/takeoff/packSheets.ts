import { LINE_TOLERANCE, inches } from '../units/index.ts';
import { cutRun } from './runs.ts';

/** A rectangle to be cut, in whichever way round fits. */
export type Blank = { readonly width: number; readonly length: number };

export type SheetPacking = {
  readonly sheets: number;
  /** Fewest sheets by area alone: no cutting needs less. */
  readonly bound: number;
};

/** Sheets joined to one blank lap by this much: the end lap of aprons and pans (trade practice). */
export const SHEET_LAP = inches(4);

/**
 * What a blank is cut from a sheet as: itself where it fits, either way round, else the fewest parts that lap each other by 4 in along every joint.
 * A 130 × 60 in blank from 4 × 10 ft sheets: 2 × 2 parts one way round, 130 in = 120 + 14; across, 60 in = 48 + 16.
 */
export function partsOf(blank: Blank, sheet: Blank): Blank[] {
  const split = (along: number, stock: number): number[] =>
    cutRun(along, stock, Math.min(SHEET_LAP, stock / 2), stock).map(({ from, to }) => to - from);
  const ways = [
    [split(blank.width, sheet.width), split(blank.length, sheet.length)],
    [split(blank.width, sheet.length), split(blank.length, sheet.width)],
  ] as const;
  const [widths, lengths] = ways[1][0].length * ways[1][1].length < ways[0][0].length * ways[0][1].length ? ways[1] : ways[0];
  return widths.flatMap((width) => lengths.map((length) => ({ width, length })));
}

/**
 * Sheets needed for blanks, shelf by shelf across the sheet: longest blanks first, each on the first shelf with room. Straight cuts only,
 * as a shear makes them. Not always the fewest possible; `bound` says how few it could be at best.
 */
export function packSheets(blanks: readonly Blank[], sheet: Blank): SheetPacking {
  const turned = blanks.map(({ width, length }): Blank =>
    width <= length ? { width, length } : { width: length, length: width },
  );
  const tooLarge = turned.find(
    ({ width, length }) => width > sheet.width + LINE_TOLERANCE || length > sheet.length + LINE_TOLERANCE,
  );
  if (tooLarge) throw new Error(`a blank of ${tooLarge.width} × ${tooLarge.length} does not fit the sheet: part it first`);
  const shelves: { depth: number; left: number; sheet: number }[] = [];
  const room: number[] = [];
  for (const { width, length } of turned.sort((a, b) => b.width - a.width || b.length - a.length)) {
    let shelf = shelves.find(({ depth, left }) => depth >= width - LINE_TOLERANCE && left >= length - LINE_TOLERANCE);
    if (!shelf) {
      let index = room.findIndex((left) => left >= width - LINE_TOLERANCE);
      if (index < 0) index = room.push(sheet.width) - 1;
      room[index]! -= width;
      shelf = { depth: width, left: sheet.length, sheet: index };
      shelves.push(shelf);
    }
    shelf.left -= length;
  }
  const area = turned.reduce((sum, { width, length }) => sum + width * length, 0);
  return { sheets: room.length, bound: Math.ceil(area / (sheet.width * sheet.length) - 1e-9) };
}
