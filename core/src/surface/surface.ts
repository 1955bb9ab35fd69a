import { LINE_TOLERANCE } from '../units/index.ts';
import type { Lines } from './lines.ts';

/** Columns of tiles that lock into each other: where one begins, how wide each lies, and whether every other course is moved by half of one. */
export type LockedColumns = { readonly from: number; readonly width: number; readonly broken: boolean };

/** Where the columns of a course are counted from: in broken bond every even course half a tile on. */
export const columnStart = ({ from, width, broken }: LockedColumns, course: number): number =>
  from + (broken && course % 2 === 0 ? width / 2 : 0);

/** Where the column begins that holds the slope's left end, or begins there. */
function firstColumn(columns: LockedColumns, course: number): number {
  const start = columnStart(columns, course);
  return start + columns.width * Math.floor(-start / columns.width + LINE_TOLERANCE);
}

/** From where to where a column of a course lies, by its number from the slope's left end; millimetres. */
export function columnSpan(columns: LockedColumns, course: number, number: number): readonly [number, number] {
  const from = firstColumn(columns, course) + columns.width * (number - 1);
  return [from, from + columns.width];
}

/**
 * Numbers, counted from the slope's left end, of the columns of a course that a stretch along the eave takes in; a cut one at the end counts. Columns 300 wide from
 * the left, 3000 to 3600: 11 and 12.
 */
export function columnsWithin(
  columns: LockedColumns,
  course: number,
  [x0, x1]: readonly [number, number],
): readonly [number, number] {
  const start = firstColumn(columns, course);
  const at = (x: number): number => Math.floor((x - start) / columns.width) + 1;
  return [Math.max(1, at(x0 + LINE_TOLERANCE)), Math.max(1, at(x1 - LINE_TOLERANCE))];
}

/** What the covering of a slope is to all that is flashed against it. Lengths millimetres. */
export type Surface = {
  /** Its product, as the order has it, and who makes it. */
  readonly product: string;
  readonly name: string;
  readonly maker: string;
  /** How long its maker says it lasts, where he says so. */
  readonly years?: number;
  readonly lines: Lines;
  /** One whole unit: along the eave, and up the slope. */
  readonly unit: { readonly width: number; readonly height: number };
  /** A unit is wide enough to lie whole over a skylight's head, or two layers of them; narrower ones go over it in bond. */
  readonly wholeOverHead: boolean;
  /** How far one layer of it stands above what it lies on. */
  readonly thickness: number;
  /** How far down the slope what covers the ridge reaches. */
  readonly underRidge: number;
  /** What stands beside a wall: one piece a line, bought step flashings or soakers cut to fit under a cover flashing; or lengths of cover flashing over it all. */
  readonly sides: 'steps' | 'soakers' | 'covers';
  /** Where it stands up out of the pans between, along the eave, the same in all courses: water does not cross there. */
  readonly crowns?: readonly number[];
  /** The columns it lies in, where its tiles lock. */
  readonly columns?: LockedColumns;
  /** Ways its courses may meet in a valley: `open` is the only one for what is stiff or brittle (trade practice). */
  readonly valleys: 'any' | 'open';
  /** Upper edges of the battens its courses hang on, from the eave up; absent where it has none or they are set out by its lines. */
  readonly battens?: readonly number[];
  /** Upper edges of those battens that lie unbroken on a sheet that cannot sag under them: water on it stands behind each. */
  readonly dams?: readonly number[];
  /** What its underlayment lies on: a deck, or rafters with nothing between them. */
  readonly bearing: 'deck' | 'rafters';
};

/** What stands beside a wall, counted: 37 steps. */
export const SIDE_WORDS: Record<Surface['sides'] | 'pans', string> = {
  steps: 'steps',
  soakers: 'soakers',
  covers: 'lengths of cover flashing',
  pans: 'lengths of pan flashing',
};
