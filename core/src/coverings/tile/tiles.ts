import { type ItemOf, itemById } from '../../catalog/index.ts';
import { coveringOfKind } from '../../document/index.ts';
import type { PlaneContext } from '../../slope/index.ts';
import { type Lines, buttLine } from '../../surface/index.ts';

/** The tiles of a slope: the usual one, and the one half as wide again where there is one. */
export function tilesOf(context: Pick<PlaneContext, 'covering' | 'catalog'>): {
  readonly tile: ItemOf<'tile'>;
  readonly wide: ItemOf<'tile'> | undefined;
} {
  const { tile, tileAndHalf } = coveringOfKind(context, 'singleLap');
  return {
    tile: itemById(context.catalog, 'tile', tile),
    wide: tileAndHalf === null ? undefined : itemById(context.catalog, 'tile', tileAndHalf),
  };
}

/** Where a course's batten has its upper edge: a tile's length less its nib above the tails. Tails at -50, 420 long, nib 25: 345. */
export const battenAbove = (tail: number, { height, nib }: Pick<ItemOf<'tile'>, 'height' | 'nib'>): number => tail + height - nib;

/** Upper edges of the battens under the courses of a slope, the top one no higher than the slope goes. */
export const battensOn = (lines: Lines, tile: Pick<ItemOf<'tile'>, 'height' | 'nib'>): number[] =>
  Array.from({ length: lines.count }, (_, i) => Math.min(battenAbove(buttLine(lines, i + 1), tile), lines.end - 1));
