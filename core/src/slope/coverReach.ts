import { type Requirements, leastOf, mostOf } from '../rules/index.ts';
import type { Surface } from '../surface/index.ts';
import type { PlacedWall, PlaneContext, SidePiece } from './model.ts';

/** How far off the nearest crown is from an edge at `x`, to the right (`side` 1) or left; undefined on flat tiles. */
export function crownBeside({ crowns = [] }: Pick<Surface, 'crowns'>, x: number, side: 1 | -1): number | undefined {
  const off = crowns.map((crown) => (crown - x) * side).filter((distance) => distance > 0);
  return off.length > 0 ? Math.min(...off) : undefined;
}

/**
 * How far flashing that lies over tiles reaches along the eave from an edge at `x`: at least `least`, and on profiled ones past a crown, over which no water comes
 * from the pan its free edge lies in. Crowns 300.8 apart from 40 on, an edge at 9025, 150 and past a crown by 25: 285.8, past the crown 260.8 off.
 */
export const reachOverCrown = (
  { surface, rules }: { readonly surface: Pick<Surface, 'crowns'>; readonly rules: Requirements },
  x: number,
  side: 1 | -1,
  least: number,
): number => {
  const crown = crownBeside(surface, x, side);
  return crown === undefined ? least : Math.max(least, crown + leastOf(rules, 'cover.pastCrown'));
};

/** How far metal goes up masonry, square to the slope, so that the counterflashing over it laps it as the rules ask. */
export const underCounter = ({
  rules,
  surface,
}: {
  readonly rules: Requirements;
  readonly surface: Pick<Surface, 'thickness'>;
}): number => leastOf(rules, 'counterflashing.cover') + leastOf(rules, 'counterflashing.clearance') + surface.thickness;

/** A cover flashing as it lies over the tiles beside a wall, before it is cut into lengths: up the wall far enough for what hangs over it on masonry. */
export const coverFor = (
  { rules, surface }: Pick<PlaneContext, 'rules' | 'surface'>,
  { x, side, cladding }: Pick<PlacedWall, 'x' | 'side' | 'cladding'>,
): SidePiece => ({
  name: 'Cover flashing',
  length: mostOf(rules, 'cover.longest'),
  roofLeg: reachOverCrown({ rules, surface }, x, side, leastOf(rules, 'cover.roofLeg')),
  wallLeg: Math.max(leastOf(rules, 'cover.up'), cladding === 'masonry' ? underCounter({ rules, surface }) : 0),
});
