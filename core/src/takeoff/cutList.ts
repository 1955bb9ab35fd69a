import type { Piece, Role } from '../assembly/index.ts';
import { bounds } from '../roof/index.ts';
import { LINE_TOLERANCE, isOver } from '../units/index.ts';

/** Pieces of a detail that are cut alike, or taken as they come. Lengths millimetres. */
export type CutListRow = {
  readonly role: Role;
  readonly product: string;
  readonly marks: readonly string[];
  /** How many blanks are cut: two for a piece that is made of halves. */
  readonly count: number;
  /** The blank as it is cut: across and along, each where it is cut at all. */
  readonly width?: number;
  readonly length?: number;
  readonly halves?: true;
};

/** What is cut, or taken as it comes, for a detail: equal blanks in one row, in the order of laying. Pieces that are not ours to order are left out. */
export function cutListOf(pieces: readonly Piece[]): CutListRow[] {
  const rows: CutListRow[] = [];
  for (const { role, product, mark, flat, cutLength, sheetWidth, halves } of pieces) {
    if (product === undefined) continue;
    const box = flat && bounds(flat.outline);
    const width = box ? box.x1 - box.x0 : sheetWidth;
    const length = box ? box.y1 - box.y0 : cutLength;
    const at = rows.findIndex(
      (row) =>
        row.role === role && row.product === product && row.halves === (halves && true) && isSame(row.width, width) && isSame(row.length, length), // prettier-ignore
    );
    const before = rows[at];
    const count = halves ?? 1;
    if (before) rows[at] = { ...before, marks: [...before.marks, mark], count: before.count + count };
    else
      rows.push({
        role,
        product,
        marks: [mark],
        count,
        ...(width === undefined ? {} : { width }),
        ...(length === undefined ? {} : { length }),
        ...(halves ? { halves: true } : {}),
      });
  }
  return rows;
}

const isSame = (a: number | undefined, b: number | undefined): boolean =>
  a === undefined || b === undefined ? a === b : !isOver(Math.abs(a - b), LINE_TOLERANCE);
