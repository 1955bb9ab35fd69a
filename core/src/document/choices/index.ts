import { z } from 'zod';
import type { Catalog } from '../../catalog/index.ts';
import { ENTRY_PRODUCTS, type ProductField } from './entry.ts';
import { DOUBLE_LAP_PRODUCTS, doubleLapSchema, newDoubleLap } from './doubleLap.ts';
import { SHAKE_PRODUCTS, newShake, shakeSchema } from './shake.ts';
import { SINGLE_LAP_PRODUCTS, newSingleLap, singleLapSchema } from './singleLap.ts';
import { STRIP_PRODUCTS, newStrip, stripSchema } from './strip.ts';

/** A covering of a job: its kind and products, its metal, its deck and what lies under it. A new kind is a file beside these, and a line in each table here. */
export const coveringSchema = z.discriminatedUnion('kind', [stripSchema, doubleLapSchema, shakeSchema, singleLapSchema]);
export type Covering = z.infer<typeof coveringSchema>;
export type CoveringKind = Covering['kind'];
export type CoveringOf<K extends CoveringKind> = Extract<Covering, { kind: K }>;

const PRODUCTS: Record<CoveringKind, readonly ProductField[]> = {
  strip: STRIP_PRODUCTS,
  doubleLap: DOUBLE_LAP_PRODUCTS,
  shake: SHAKE_PRODUCTS,
  singleLap: SINGLE_LAP_PRODUCTS,
};

/** What a fresh covering of each kind holds besides what all have; undefined where the catalog lacks what it needs. */
export const FRESH_COVERINGS = {
  strip: newStrip,
  doubleLap: newDoubleLap,
  shake: newShake,
  singleLap: newSingleLap,
} satisfies Record<CoveringKind, (catalog: Catalog) => object | undefined>;

/** What a covering of each kind is called until somebody names it. */
export const COVERING_NAMES: Record<CoveringKind, string> = {
  strip: 'Shingles',
  doubleLap: 'Slates',
  shake: 'Shakes',
  singleLap: 'Tiles',
};

/** A product a covering names: the field, its label, the kind of item and its id; null where none is chosen. */
export type NamedProduct = ProductField & { readonly id: string | null };

/** The products a covering names, its own before its underlayers'. */
export const productsNamedBy = (covering: Covering): NamedProduct[] =>
  [...PRODUCTS[covering.kind], ...ENTRY_PRODUCTS].map((one) => ({ ...one, id: idAt(covering, one.field) }));

function idAt(covering: Covering, field: string): string | null {
  let value: unknown = covering;
  for (const key of field.split('.')) value = (value as Record<string, unknown>)[key];
  return value as string | null;
}
