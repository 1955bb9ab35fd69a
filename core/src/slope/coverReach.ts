import type { Plane } from '../document/index.ts';
import { type Requirements, leastOf, mostOf } from '../rules/index.ts';
import type { Surface } from '../surface/index.ts';
import type { PlacedWall, PlaneContext, SidePiece } from './model.ts';

/** What of a slope says how far flashing over its tiles reaches along the eave. */
type Tiled = { readonly surface: Pick<Surface, 'crowns'>; readonly plane: Pick<Plane, 'eaveLength'> };

/** How far off the nearest crown is from an edge at `x`, to the right (`side` 1) or left, or the slope's end where it has none there; undefined on flat tiles. */
export function crownBeside({ surface: { crowns }, plane }: Tiled, x: number, side: 1 | -1): number | undefined {
  if (!crowns) return undefined;
  const off = crowns.map((crown) => (crown - x) * side).filter((distance) => distance > 0);
  return Math.min(...off, side === 1 ? plane.eaveLength - x : x);
}

/** Does flashing that reaches so far from an edge at `x` end past a crown, and not at the slope's end for want of one? */
const hasCrown = ({ surface: { crowns = [] } }: Tiled, x: number, side: 1 | -1): boolean =>
  crowns.some((crown) => (crown - x) * side > 0);

/**
 * How far flashing that lies over tiles reaches along the eave from an edge at `x`: at least `least`, and on profiled ones past a crown, over which no water comes
 * from the pan its free edge lies in; to the slope's end where there is none. Crowns 300.8 apart from 40 on, an edge at 9025, 150 and past a crown by 25: 285.8,
 * past the crown 260.8 off.
 */
export function reachOverCrown(
  context: Tiled & { readonly rules: Requirements },
  x: number,
  side: 1 | -1,
  least: number,
): number {
  const off = crownBeside(context, x, side);
  if (off === undefined) return least;
  return hasCrown(context, x, side) ? Math.max(least, off + leastOf(context.rules, 'cover.pastCrown')) : off;
}

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
  { rules, surface, plane }: Pick<PlaneContext, 'rules' | 'surface' | 'plane'>,
  { x, side, cladding }: Pick<PlacedWall, 'x' | 'side' | 'cladding'>,
): SidePiece => ({
  name: 'Cover flashing',
  length: mostOf(rules, 'cover.longest'),
  roofLeg: reachOverCrown({ rules, surface, plane }, x, side, leastOf(rules, 'cover.roofLeg')),
  wallLeg: Math.max(leastOf(rules, 'cover.up'), cladding === 'masonry' ? underCounter({ rules, surface }) : 0),
});
