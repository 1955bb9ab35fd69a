import { type Catalog, type Metal, chooseLengthMetal, itemsOf } from '../catalog/index.ts';
import { type Requirements, leastOf } from '../rules/index.ts';

/** Stock for the lining of an open valley, at least as wide as the rules ask: its width each side of the centre, and its rib's height. Undefined where the catalog has none. */
export function liningStock(
  {
    catalog,
    rules,
    covering,
  }: { readonly catalog: Catalog; readonly rules: Requirements; readonly covering: { readonly metal: Metal } },
  ribbed: boolean,
) {
  const half = leastOf(rules, 'valley.lining') / 2;
  const linings = itemsOf(catalog, 'valleyMetal').filter(({ rib }) => (rib !== undefined) === ribbed);
  const stock = chooseLengthMetal({ ...catalog, items: linings }, 'valleyMetal', covering.metal, {
    first: half,
    second: half,
    thickness: leastOf(rules, 'flashing.thickness'),
  });
  return stock && { ...stock, rib: linings.find(({ id }) => id === stock.id)?.rib ?? 0 };
}
