import { type ItemOf, itemById } from '../catalog/index.ts';
import { mostOf } from '../rules/index.ts';
import type { ToLayOut } from '../slope/index.ts';
import { type Surface, evenLines, fittedLines } from '../surface/index.ts';

/**
 * A slope in units laid by how much of each is left exposed: as far apart as the slope or the covering says, else as their maker and the rules allow;
 * butts measured on the roof stand where they are.
 */
export function exposedSurface(
  { plane, rules, catalog }: ToLayOut,
  unit: ItemOf<'shingle'> | ItemOf<'shake'>,
  covering: { readonly exposure: number | null; readonly firstButt: number; readonly ridgeCap: string },
): Omit<Surface, 'valleys' | 'wholeOverHead'> {
  const exposure = plane.exposure ?? covering.exposure ?? Math.min(unit.maxExposure, mostOf(rules, 'covering.exposure'));
  return {
    product: unit.id,
    name: unit.name,
    maker: unit.maker,
    lines: fittedLines(evenLines(-covering.firstButt, exposure, unit.height, plane.slope.length), plane.measuredButts ?? []),
    unit: { width: unit.width, height: unit.height },
    thickness: unit.thickness,
    underRidge: itemById(catalog, 'ridgeCap', covering.ridgeCap).halfWidth,
    sides: 'steps',
    bearing: 'deck',
  };
}
