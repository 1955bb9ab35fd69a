import { z } from 'zod';
import type { Catalog } from '../../catalog/index.ts';
import { inches } from '../../units/index.ts';
import { length, productId } from '../fields.ts';
import { type ProductField, entry, firstOf, firstRidgeFor } from './entry.ts';

/** Shingles in strips. */
export const stripSchema = z.strictObject({
  kind: z.literal('strip'),
  ...entry,
  shingle: productId,
  starter: productId,
  ridgeCap: productId,
  /** Null: the greatest exposure allowed. */
  exposure: length(inches(2), inches(24)).nullable(),
  firstButt: length(0, inches(3)),
});

export const STRIP_PRODUCTS: readonly ProductField[] = [
  { field: 'shingle', label: 'Shingle', kind: 'shingle' },
  { field: 'starter', label: 'Starter', kind: 'starter' },
  { field: 'ridgeCap', label: 'Ridge cap', kind: 'ridgeCap' },
];

/** The first of each product it needs; undefined where the catalog lacks one. */
export function newStrip(catalog: Catalog): Omit<z.infer<typeof stripSchema>, keyof typeof entry> | undefined {
  const [shingle, starter, ridgeCap] = [
    firstOf(catalog, 'shingle'),
    firstOf(catalog, 'starter'),
    firstRidgeFor(catalog, 'shingle'),
  ];
  return shingle && starter && ridgeCap
    ? { kind: 'strip', shingle, starter, ridgeCap, exposure: null, firstButt: inches(0.5) }
    : undefined;
}
