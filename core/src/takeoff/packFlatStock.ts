import type { Blank } from '../assembly/index.ts';
import { LINE_TOLERANCE, NOISE } from '../units/index.ts';

export type FlatPacking = {
  readonly needed: number;
  /** Fewest sheets by area alone: no cutting needs less. */
  readonly bound: number;
};

/**
 * Sheets needed for blanks, shelf by shelf across the sheet: longest blanks first, each on the first shelf with room. Straight cuts only,
 * as a shear makes them. Not always the fewest possible; `bound` says how few it could be at best.
 */
export function packFlatStock(blanks: readonly Blank[], sheet: Blank): FlatPacking {
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
  return { needed: room.length, bound: Math.ceil(area / (sheet.width * sheet.length) - NOISE) };
}
