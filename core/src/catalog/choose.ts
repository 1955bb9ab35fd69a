import { isAtLeast, isUnder } from '../units/index.ts';
import type { Catalog, Item, ItemKind, ItemOf, LengthMetal, Metal } from './schema.ts';

export const itemsOf = <K extends ItemKind>(catalog: Catalog, kind: K): ItemOf<K>[] =>
  catalog.items.filter((item): item is ItemOf<K> => item.kind === kind);

/** The item with this id and kind, or undefined. */
export const findItem = <K extends ItemKind>(catalog: Catalog, kind: K, id: string): ItemOf<K> | undefined =>
  catalog.items.find((item): item is ItemOf<K> => item.id === id && item.kind === kind);

/** An item the job was checked to have; its absence is a broken invariant, not bad input. */
export function itemById<K extends ItemKind>(catalog: Catalog, kind: K, id: string): ItemOf<K> {
  const found = findItem(catalog, kind, id);
  if (!found) throw new Error(`catalog has no ${kind} "${id}"`);
  return found;
}

/** A unit and a half is about half as wide again: those of the trade are 1.5 times as wide, to the millimetre (slates 250 and 375, plain tiles 165 and 248). */
const isHalfAgain = (width: number, wide: number): boolean => wide > 1.4 * width && wide < 1.6 * width;

/** Can one slate be the slate and a half of another: as tall, half as wide again? */
export const isSlateAndHalf = (slate: ItemOf<'slate'>, wide: ItemOf<'slate'>): boolean =>
  wide.height === slate.height && isHalfAgain(slate.width, wide.width);

/** Can one tile be the tile and a half of another: as tall, of the same bond, covering half as much again? */
export const isTileAndHalf = (tile: ItemOf<'tile'>, wide: ItemOf<'tile'>): boolean =>
  wide.height === tile.height && wide.bond === tile.bond && isHalfAgain(tile.cover, wide.cover);

/** The unit and a half that goes with a unit, by its id; null where none is listed. */
export function andHalfFor<T extends Item>(
  units: readonly T[],
  id: string,
  isAndHalf: (unit: T, wide: T) => boolean,
): string | null {
  const unit = units.find((one) => one.id === id);
  return (unit && units.find((one) => isAndHalf(unit, one))?.id) ?? null;
}

/** Smallest by the given measures in turn, then by id, so that the choice never depends on the catalog's order. */
export function smallest<T extends Item>(items: readonly T[], ...measures: ((item: T) => number)[]): T | undefined {
  return [...items].sort((a, b) => {
    for (const measure of measures) {
      const difference = measure(a) - measure(b);
      if (difference !== 0) return difference;
    }
    return a.id < b.id ? -1 : 1;
  })[0];
}

export type StepNeed = {
  readonly metal: Metal;
  readonly length: number;
  readonly roofLeg: number;
  readonly wallLeg: number;
  readonly thickness: number;
};

/** What a step flashing falls short in against a need, as short phrases' subjects; empty when it fits. */
export function stepShortfalls(item: ItemOf<'stepFlashing'>, need: StepNeed): ('length' | 'roofLeg' | 'wallLeg' | 'thickness')[] {
  // sheet is sold to the thousandth of an inch; a hair absorbs binary noise only
  return (['length', 'roofLeg', 'wallLeg', 'thickness'] as const).filter((side) => isUnder(item[side], need[side]));
}

/**
 * The smallest stock step flashing of the wanted metal that meets the need, shortest first, then narrowest;
 * undefined when none fits.
 */
export function chooseStepFlashing(catalog: Catalog, need: StepNeed): ItemOf<'stepFlashing'> | undefined {
  const fitting = itemsOf(catalog, 'stepFlashing').filter(
    (item) => item.metal === need.metal && stepShortfalls(item, need).length === 0,
  );
  return smallest(
    fitting,
    (item) => item.length,
    (item) => item.roofLeg + item.wallLeg,
    (item) => item.thickness,
  );
}

/** The shortest nail of a use at least `length` long that suits the metal it goes through (if any); undefined when none does. */
export function chooseNail(
  catalog: Catalog,
  use: ItemOf<'nail'>['use'],
  length: number,
  metal?: Metal,
): ItemOf<'nail'> | undefined {
  const suited = itemsOf(catalog, 'nail').filter(
    (item) => item.use === use && isAtLeast(item.length, length) && (metal === undefined || item.suits.includes(metal)),
  );
  return smallest(suited, (item) => item.length);
}

/** The narrowest metal sold by the length, of a kind and metal, with at least these legs and thickness; undefined when none is. */
export const chooseLengthMetal = (
  catalog: Catalog,
  kind: LengthMetal['kind'],
  metal: Metal,
  least: { first?: number; second?: number; thickness?: number } = {},
): LengthMetal | undefined =>
  smallest(
    catalog.items.filter(
      (item): item is LengthMetal =>
        item.kind === kind &&
        item.metal === metal &&
        isAtLeast(item.first, least.first ?? 0) &&
        isAtLeast(item.second, least.second ?? 0) &&
        isAtLeast(item.thickness, least.thickness ?? 0),
    ),
    (item) => item.first + item.second,
  );

/** The narrowest self-adhered tape at least `width` wide; undefined when the catalog has none. */
export const chooseTape = (catalog: Catalog, width: number): ItemOf<'tape'> | undefined =>
  smallest(
    itemsOf(catalog, 'tape').filter((item) => item.use === 'strip' && isAtLeast(item.width, width)),
    (item) => item.width,
  );

/** The sealant for a use in the largest package (a pail before a tube); undefined when the catalog has none. */
export const sealantFor = (
  catalog: Catalog,
  use: ItemOf<'sealant'>['use'],
  most = Number.POSITIVE_INFINITY,
): ItemOf<'sealant'> | undefined =>
  smallest(
    itemsOf(catalog, 'sealant').filter((item) => item.use === use && item.tubeMillilitres <= most),
    (item) => -item.tubeMillilitres,
  );

export const coatingFor = (catalog: Catalog, use: ItemOf<'coating'>['use']): ItemOf<'coating'> | undefined =>
  smallest(
    itemsOf(catalog, 'coating').filter((item) => item.use === use),
    (item) => item.litresPerSquareMetre,
  );

/** The smallest flat sheet of a metal and thickness a blank can be cut from, either way round; undefined when none is large enough. */
export const flatStockFor = (
  catalog: Catalog,
  metal: Metal,
  thickness: number,
  blank: { readonly width: number; readonly length: number },
): ItemOf<'flatSheet'> | undefined => {
  const [short, long] = [Math.min(blank.width, blank.length), Math.max(blank.width, blank.length)];
  return smallest(
    itemsOf(catalog, 'flatSheet').filter(
      (item) =>
        item.metal === metal &&
        isAtLeast(item.thickness, thickness) &&
        isAtLeast(Math.min(item.width, item.length), short) &&
        isAtLeast(Math.max(item.width, item.length), long),
    ),
    (item) => item.width * item.length,
  );
};

/** The largest flat sheet of a metal and thickness; undefined when the catalog has none. */
export const largestFlatStock = (catalog: Catalog, metal: Metal, thickness: number): ItemOf<'flatSheet'> | undefined =>
  smallest(
    itemsOf(catalog, 'flatSheet').filter((item) => item.metal === metal && isAtLeast(item.thickness, thickness)),
    (item) => -item.width * item.length,
  );

/** The thinnest deck sheet at least so thick, the largest of those; undefined when the catalog has none. */
export const sheathingFor = (catalog: Catalog, thickness: number): ItemOf<'sheathing'> | undefined =>
  smallest(
    itemsOf(catalog, 'sheathing').filter((item) => isAtLeast(item.thickness, thickness)),
    (item) => item.thickness,
    (item) => -item.length * item.width,
  );
