import { z } from 'zod';
import { type Catalog, andHalfFor, isSlateAndHalf, itemsOf } from '../../catalog/index.ts';
import { length, productId } from '../fields.ts';
import { type ProductField, entry, firstOf, firstRidgeFor } from './entry.ts';

/** Slates or plain tiles: every place of the slope under two of them, and under three at the laps. */
export const doubleLapSchema = z.strictObject({
  kind: z.literal('doubleLap'),
  ...entry,
  slate: productId,
  /** Half as wide again, for verges and walls; null: none is to be had, and halves are cut. */
  slateAndHalf: productId.nullable(),
  /** Nailed to these; null: to the deck. */
  batten: productId.nullable(),
  ridge: productId,
  /** Null: by the courses that fill the slope. */
  gauge: length(30, 400).nullable(),
  /** Tail of the first course past the slope's lower edge. */
  overhang: length(0, 120),
});

export const DOUBLE_LAP_PRODUCTS: readonly ProductField[] = [
  { field: 'slate', label: 'Slate', kind: 'slate' },
  { field: 'slateAndHalf', label: 'Slate and a half', kind: 'slate' },
  { field: 'batten', label: 'Battens', kind: 'batten' },
  { field: 'ridge', label: 'Ridge', kind: 'ridgeCap' },
];

/** The first slate and what goes with it; undefined where the catalog lacks one. */
export function newDoubleLap(catalog: Catalog): Omit<z.infer<typeof doubleLapSchema>, keyof typeof entry> | undefined {
  const slate = itemsOf(catalog, 'slate')[0];
  const ridge = firstRidgeFor(catalog, 'slate');
  if (!slate || !ridge) return undefined;
  return {
    kind: 'doubleLap',
    slate: slate.id,
    slateAndHalf: andHalfFor(itemsOf(catalog, 'slate'), slate.id, isSlateAndHalf),
    batten: firstOf(catalog, 'batten') ?? null,
    ridge,
    gauge: null,
    overhang: 50,
  };
}
