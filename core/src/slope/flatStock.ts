import { FLAT_LAP, type FlatPattern, type Words, cut, partsOf } from '../assembly/index.ts';
import { type ItemOf, flatStockFor, largestFlatStock } from '../catalog/index.ts';
import { bounds } from '../roof/index.ts';
import { leastOf } from '../rules/index.ts';
import type { PlaneContext } from './model.ts';

/** What a bent piece is cut from: the smallest flat sheet it fits, else the largest there is, in so many parts lapped; none in the job's metal: undefined. */
export function stockFor(
  { catalog, covering, rules }: Pick<PlaneContext, 'catalog' | 'covering' | 'rules'>,
  { outline }: FlatPattern,
): { readonly item: ItemOf<'flatSheet'> | undefined; readonly parts: number } {
  const { x0, x1, y0, y1 } = bounds(outline);
  const blank = { width: x1 - x0, length: y1 - y0 };
  const thickness = leastOf(rules, 'flashing.thickness');
  const item = flatStockFor(catalog, covering.metal, thickness, blank) ?? largestFlatStock(catalog, covering.metal, thickness);
  return { item, parts: item ? partsOf(blank, item).length : 1 };
}

/** The piece's product, spread into it. */
export const cutFromStock = (
  context: Pick<PlaneContext, 'catalog' | 'covering' | 'rules'>,
  flat: FlatPattern,
): { product?: string } => {
  const { item } = stockFor(context, flat);
  return item ? { product: item.id } : {};
};

/** Said of a piece larger than its sheet. */
export const partsWords = (parts: number): Words =>
  parts > 1
    ? [` Larger than the sheet: ${parts} parts, upper over lower, laps `, cut(FLAT_LAP), ', seams as the metal asks.']
    : [];
