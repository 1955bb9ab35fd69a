/** A rectangle to be cut, in whichever way round fits. */
export type Blank = { readonly width: number; readonly length: number };

export type SheetPacking = {
  readonly sheets: number;
  /** Fewest sheets by area alone: no cutting needs less. */
  readonly bound: number;
  /** Blanks larger than a sheet: bent from coil or joined, and said so. */
  readonly tooLarge: number;
};

/**
 * Sheets needed for blanks, shelf by shelf across the sheet: longest blanks first, each on the first shelf with room. Straight cuts only,
 * as a shear makes them. Not always the fewest possible; `bound` says how few it could be at best.
 */
export function packSheets(blanks: readonly Blank[], sheet: Blank): SheetPacking {
  const turned = blanks.map(({ width, length }): Blank =>
    width <= length ? { width, length } : { width: length, length: width },
  );
  const fits = turned.filter(({ width, length }) => width <= sheet.width + 1e-6 && length <= sheet.length + 1e-6);
  const tooLarge = turned.length - fits.length;
  const shelves: { depth: number; left: number; sheet: number }[] = [];
  const room: number[] = [];
  for (const { width, length } of [...fits].sort((a, b) => b.width - a.width || b.length - a.length)) {
    let shelf = shelves.find(({ depth, left }) => depth >= width - 1e-6 && left >= length - 1e-6);
    if (!shelf) {
      let index = room.findIndex((left) => left >= width - 1e-6);
      if (index < 0) index = room.push(sheet.width) - 1;
      room[index]! -= width;
      shelf = { depth: width, left: sheet.length, sheet: index };
      shelves.push(shelf);
    }
    shelf.left -= length;
  }
  const area = fits.reduce((sum, { width, length }) => sum + width * length, 0);
  return { sheets: room.length + tooLarge, bound: Math.ceil(area / (sheet.width * sheet.length) - 1e-9) + tooLarge, tooLarge };
}
