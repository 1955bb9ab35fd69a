import { z } from 'zod';
import { type Catalog, andHalfFor, isTileAndHalf, itemsOf } from '../../catalog/index.ts';
import { length, productId } from '../fields.ts';
import { type ProductField, entry, firstOf, firstRidgeFor } from './entry.ts';

export const BEARINGS = ['rafters', 'deck'] as const;
export const BATTEN_LAYS = ['straight', 'drip gaps', 'counter-battens'] as const;

/** Tiles that lap once up the slope and lock into each other along it. */
export const singleLapSchema = z.strictObject({
  kind: z.literal('singleLap'),
  ...entry,
  tile: productId,
  /** Half as wide again, for verges and walls; null: none is to be had. */
  tileAndHalf: productId.nullable(),
  batten: productId,
  ridge: productId,
  /** Null: by the courses that fill the slope. */
  gauge: length(100, 600).nullable(),
  /** Tails of the first course past the slope's lower edge. */
  overhang: length(0, 120),
  /** From the top of the slope down to the top batten's upper edge. */
  topBatten: length(0, 150),
  /** What its battens are over, under the underlayment: the rafters, between which the sheet sags, or a solid deck. */
  bearing: z.enum(BEARINGS).default('rafters'),
  /** Straight on the sheet, the same in short lengths with gaps between them, or on counter-battens that run up the slope. */
  battenLay: z.enum(BATTEN_LAYS).default('straight'),
  /** Its ridge and hip units dry under clamps, or bedded in mortar. */
  ridgeSet: z.enum(['dry', 'bedded']).default('dry'),
});

export const SINGLE_LAP_PRODUCTS: readonly ProductField[] = [
  { field: 'tile', label: 'Tile', kind: 'tile' },
  { field: 'tileAndHalf', label: 'Tile and a half', kind: 'tile' },
  { field: 'batten', label: 'Battens', kind: 'batten' },
  { field: 'ridge', label: 'Ridge', kind: 'ridgeCap' },
];

/** The first tile and what goes with it; undefined where the catalog lacks one. */
export function newSingleLap(catalog: Catalog): Omit<z.infer<typeof singleLapSchema>, keyof typeof entry> | undefined {
  const tile = itemsOf(catalog, 'tile')[0];
  const [ridge, batten] = [firstRidgeFor(catalog, 'tile'), firstOf(catalog, 'batten')];
  if (!tile || !ridge || !batten) return undefined;
  return {
    kind: 'singleLap',
    tile: tile.id,
    tileAndHalf: andHalfFor(itemsOf(catalog, 'tile'), tile.id, isTileAndHalf),
    batten,
    ridge,
    gauge: null,
    overhang: 50,
    topBatten: 35,
    bearing: 'rafters',
    battenLay: 'straight',
    ridgeSet: 'dry',
  };
}
