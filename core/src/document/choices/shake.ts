import { z } from 'zod';
import type { Catalog } from '../../catalog/index.ts';
import { inches } from '../../units/index.ts';
import { length, productId } from '../fields.ts';
import { type ProductField, entry, firstOf, firstRidgeFor } from './entry.ts';

/** Split wood shakes, with a strip of felt between the courses. */
export const shakeSchema = z.strictObject({
  kind: z.literal('shake'),
  ...entry,
  shake: productId,
  interlay: productId,
  ridgeCap: productId,
  /** Null: the greatest exposure allowed. */
  exposure: length(inches(4), inches(15)).nullable(),
  firstButt: length(0, inches(3)),
});

export const SHAKE_PRODUCTS: readonly ProductField[] = [
  { field: 'shake', label: 'Shake', kind: 'shake' },
  { field: 'interlay', label: 'Felt interlay', kind: 'interlay' },
  { field: 'ridgeCap', label: 'Ridge units', kind: 'ridgeCap' },
];

/** The first of each product it needs; undefined where the catalog lacks one. */
export function newShake(catalog: Catalog): Omit<z.infer<typeof shakeSchema>, keyof typeof entry> | undefined {
  const [shake, interlay, ridgeCap] = [firstOf(catalog, 'shake'), firstOf(catalog, 'interlay'), firstRidgeFor(catalog, 'shake')];
  return shake && interlay && ridgeCap
    ? { kind: 'shake', shake, interlay, ridgeCap, exposure: null, firstButt: inches(1.5) }
    : undefined;
}
