import { type Stretch, layRows } from '../assembly/index.ts';
import { slopeFactor } from '../roof/index.ts';
import { type Requirements, leastOf } from '../rules/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';

export type BarrierExtent = {
  /** Level distance from the eave edge: overhang + wall + inside distance. */
  readonly level: number;
  /** The same along the slope. */
  readonly byLevel: number;
  /** Distance needed along the slope from the deck's eave edge: the level measure's, or the least along the slope where that is more. */
  readonly needed: number;
  /** How far short the barrier ends when the level distance is laid off along the slope by mistake. */
  readonly shortfall: number;
  /** Rows up the slope; with barrier first, row 1 starts below the deck edge by the fold. */
  readonly rows: readonly Stretch[];
  readonly covered: number;
};

export type BarrierInput = {
  readonly pitch: number;
  readonly overhang: number;
  readonly wallThickness: number;
  readonly insideWall: number;
  /** Least along the slope whatever the level measure gives. */
  readonly alongSlope: number;
  readonly rollWidth: number;
  readonly sideLap: number;
  /** 0 with metal first; what folds over the deck edge with barrier first. */
  readonly fold: number;
  /** The slope ends there: no row begins above it. */
  readonly top: number;
};

/**
 * How far up the ice barrier goes and in how many rows. The distance inside the wall is level, so along the slope it is longer by the
 * slope factor. Overhang 16", wall 6", inside 24" at 6/12: 46" level, 51.4" along the slope, 2 rows of 36" (covering 69", or 67.5"
 * with a 1 1/2" fold). Overhang 24", inside 36" at 9/12: 82.5", 3 rows (102" or 100.5").
 */
export function barrierExtent(input: BarrierInput): BarrierExtent {
  const level = input.overhang + input.wallThickness + input.insideWall;
  const byLevel = level * slopeFactor(input.pitch);
  const needed = Math.max(byLevel, input.alongSlope);
  const rows = layRows(-input.fold, Math.min(needed, input.top), input.rollWidth, input.sideLap);
  return { level, byLevel, needed, shortfall: byLevel - level, rows, covered: rows.at(-1)!.to };
}

export type UnderlaymentRow = Stretch & { readonly layer: 1 | 2 };

/**
 * Rows of underlayment from `from` to the top. One layer: full sheets with the side lap. Two layers (low pitch): a starter a lap wide,
 * then sheets lapping by just over half, 19 in for a 36 in sheet, so that every point has two.
 */
export function underlaymentRows(
  from: number,
  top: number,
  width: number,
  layers: number,
  rules: Requirements,
): UnderlaymentRow[] {
  const sideLap = leastOf(rules, 'underlayment.sideLap');
  const lap = layers >= 2 ? Math.max(sideLap, width / 2) : sideLap;
  // with two layers the row below the topmost must reach the top too
  const reach = layers >= 2 ? top + width - lap : top;
  const rows: UnderlaymentRow[] = layRows(from, reach, width, lap).map((row) => ({ ...row, layer: 1 }));
  // one that ends a hair below the top is drawn up to it
  const trimmed = rows.map((row) => ({ ...row, to: row.to > top - LINE_TOLERANCE ? top : row.to }));
  return layers >= 2 ? [{ from, to: Math.min(from + lap, top), layer: 2 }, ...trimmed] : trimmed;
}
