import { z } from 'zod';
import { type Catalog, type ItemKind, type ItemOf, METALS, itemsOf } from '../../catalog/index.ts';
import { inches } from '../../units/index.ts';
import { id, length, name, productId } from '../fields.ts';

/** What every covering of a job has, whatever its kind: its name, the metal it is flashed in, its deck and what lies under it. */
export const entry = {
  id,
  name,
  /** Metal of the flashings. */
  metal: z.enum(METALS),
  /** Thickness of the deck's sheathing. */
  deckThickness: length(inches(0.25), inches(3)),
  underlayers: z.strictObject({
    eaveOrder: z.enum(['metal-first', 'barrier-first']),
    gutter: z.boolean(),
    iceBarrier: productId,
    /** Inside the wall line, level; null: the least that governs. */
    insideWall: length(0, inches(240)).nullable(),
    /** Longest strip the crew can handle; null: the roll's length. */
    longestStrip: length(inches(36), inches(2_400)).nullable(),
    underlayment: productId,
  }),
};

/** A field of a covering that names a catalog item: where it is, what a form calls it, and the kind of item. */
export type ProductField = { readonly field: string; readonly label: string; readonly kind: ItemKind };

/** What all coverings name from the catalog, besides their own. */
export const ENTRY_PRODUCTS: readonly ProductField[] = [
  { field: 'underlayers.iceBarrier', label: 'Ice barrier', kind: 'iceBarrier' },
  { field: 'underlayers.underlayment', label: 'Underlayment', kind: 'underlayment' },
];

/** The first ridge unit made for a covering, by its id; undefined when the catalog has none. */
export const firstRidgeFor = (catalog: Catalog, covering: ItemOf<'ridgeCap'>['for']): string | undefined =>
  itemsOf(catalog, 'ridgeCap').find((item) => item.for === covering)?.id;

/** The first item of a kind that the catalog lists, by its id; undefined when it has none. */
export const firstOf = (catalog: Catalog, kind: ItemKind): string | undefined => itemsOf(catalog, kind)[0]?.id;
