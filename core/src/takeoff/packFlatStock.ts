import type { Blank } from '../assembly/index.ts';
import { LINE_TOLERANCE, NOISE } from '../units/index.ts';

export type FlatPacking = {
  readonly needed: number;
  /** Fewest sheets by area alone: no cutting needs less. */
  readonly bound: number;
};

/**
 * Sheets needed for blanks, shelf by shelf across the sheet: widest blanks first, each on the first shelf with room. Straight cuts only,
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
  // widest first: every shelf cut so far is deep enough for the next blank
  const shelves = firstFit(sheet.length);
  const sheets = firstFit(sheet.width);
  for (const { width, length } of turned.sort((a, b) => b.width - a.width || b.length - a.length))
    if (shelves.take(length)) sheets.take(width);
  const area = turned.reduce((sum, { width, length }) => sum + width * length, 0);
  return { needed: sheets.count(), bound: Math.max(0, Math.ceil(area / (sheet.width * sheet.length) - NOISE)) };
}

/** Lengths taken one after the other from the first stock piece with room. Room only shrinks, so that a search goes on from where the last for that length ended. */
function firstFit(stock: number): {
  /** Says whether a new piece was begun for it. */ take(length: number): boolean;
  count(): number;
} {
  const left: number[] = [];
  const searched = new Map<number, number>();
  return {
    take(length) {
      let at = searched.get(length) ?? 0;
      while (at < left.length && left[at]! < length - LINE_TOLERANCE) at++;
      searched.set(length, at);
      const isNew = at === left.length;
      left[at] = (left[at] ?? stock) - length;
      return isNew;
    },
    count: () => left.length,
  };
}
