import { type Step, cut, piecesOf } from '../assembly/index.ts';
import { itemsOf } from '../catalog/index.ts';
import type { Plane } from '../document/index.ts';
import { type Requirements, isRequired, leastOf, mostOf, unheard } from '../rules/index.ts';
import type { Surface } from '../surface/index.ts';
import { stepsToReach } from '../units/index.ts';
import type { PlacedWall, PlaneContext, SidePiece } from './model.ts';
import { alongWall, faceAt } from './walls.ts';

/** On tiles metal lies over the covering, dressed to it and held by clips: nothing goes through a tile. */
export const isOnTiles = ({ surface }: { readonly surface: Pick<Surface, 'sides'> }): boolean => surface.sides === 'covers';

/** Is the sheet under tiles the roof, by the school of the region? Where nobody speaks on it the tiles are, and it is not asked. */
export const sheetIsRoof = ({
  surface,
  rules,
}: {
  readonly surface: Pick<Surface, 'sides'>;
  readonly rules: Requirements;
}): boolean => isOnTiles({ surface }) && isRequired(unheard(rules), 'sheet.isRoof') && isRequired(rules, 'sheet.isRoof');

/** Along a course, for what lies across the foot of a thing on tiles: before the cover flashings beside it. */
export const BEFORE_SIDES = -1;

/** What of a slope says how far flashing over its tiles reaches along the eave. */
type Tiled = {
  readonly surface: Pick<Surface, 'crowns'>;
  readonly plane: Pick<Plane, 'eaveLength'>;
  readonly rules: Requirements;
};

/** Crowns beside an edge at `x`, to the right (`side` 1) or left, as far as they are off; one that is cut through there turns no water. */
function crownsFrom({ surface: { crowns = [] }, rules }: Tiled, x: number, side: 1 | -1): number[] {
  const whole = leastOf(rules, 'covering.gapAtWall') + leastOf(rules, 'cover.pastCrown');
  return crowns.map((crown) => (crown - x) * side).filter((distance) => distance > whole);
}

/** How far off the nearest crown is from an edge at `x`, to the right (`side` 1) or left, or the slope's end where it has none there; undefined on flat tiles. */
export const crownBeside = (context: Tiled, x: number, side: 1 | -1): number | undefined =>
  context.surface.crowns && Math.min(...crownsFrom(context, x, side), side === 1 ? context.plane.eaveLength - x : x);

/**
 * How far flashing that lies over tiles reaches along the eave from an edge at `x`: at least `least`, and on profiled ones past a crown, over which no water comes
 * from the pan its free edge lies in; to the slope's end where there is none. Crowns 300.8 apart from 40 on, an edge at 9025, 150 and past a crown by 25: 285.8,
 * past the crown 260.8 off.
 */
export function reachOverCrown(context: Tiled, x: number, side: 1 | -1, least: number): number {
  const off = crownBeside(context, x, side);
  if (off === undefined) return least;
  return crownsFrom(context, x, side).length > 0 ? Math.max(least, off + leastOf(context.rules, 'cover.pastCrown')) : off;
}

/** Places along a wall at an angle at which its crowns are looked for: as near as a tape tells. */
const LOOKS = 2000;

/**
 * How far a cover flashing beside a wall reaches over the tiles from one height to another. Where a channel under their cut edges takes the water it is
 * trim, as wide as the rules ask; else past a crown everywhere, however far off that is from a wall at an angle.
 */
export function reachBeside(context: Tiled, wall: PlacedWall, from: number, to: number): number {
  const least = leastOf(context.rules, 'cover.roofLeg');
  if (wall.slant && wall.slant.drain !== 'cover alone') return least;
  return reachPastCrowns(context, wall, from, to, least);
}

/** How far metal beside a wall reaches to be past a crown at every height between two. */
export function reachPastCrowns(context: Tiled, wall: PlacedWall, from: number, to: number, least: number): number {
  if (wall.lean === 0) return reachOverCrown(context, wall.x, wall.side, least);
  const off = Array.from({ length: LOOKS + 1 }, (_, i) =>
    reachOverCrown(context, faceAt(wall, from + ((to - from) * i) / LOOKS), wall.side, least),
  );
  return Math.max(...off) / alongWall(wall);
}

/** How far metal goes up masonry, square to the slope, so that the counterflashing over it laps it as the rules ask. */
export const underCounter = ({
  rules,
  surface,
}: {
  readonly rules: Requirements;
  readonly surface: Pick<Surface, 'thickness'>;
}): number => leastOf(rules, 'counterflashing.cover') + leastOf(rules, 'counterflashing.clearance') + surface.thickness;

/** Is a hemmed pan under the tiles flashed beside a wall, rather than metal over them? It empties over the eave, so it begins there, and runs straight up. */
export const hasPan = (context: { readonly surface: Pick<Surface, 'sides'> }, wall: PlacedWall): boolean =>
  isOnTiles(context) && wall.besideTiles === 'pan flashing' && wall.from === 0 && wall.lean === 0;

/** What stands beside a wall. */
export type BesideWall = Surface['sides'] | 'pans';
export const besideWallOf = (context: { readonly surface: Pick<Surface, 'sides'> }, wall: PlacedWall): BesideWall =>
  hasPan(context, wall) ? 'pans' : context.surface.sides;

/** What stands beside a wall, as a line names it. */
export const BESIDE_NAMES: Record<BesideWall, string> = {
  steps: 'steps',
  soakers: 'soakers',
  covers: 'cover flashing',
  pans: 'pan flashing',
};

/** A cover flashing as it lies over the tiles beside a wall, or a pan under them, before it is cut into lengths: up the wall far enough for what hangs over it on masonry. */
export const coverFor = (
  { rules, surface, plane }: Pick<PlaneContext, 'rules' | 'surface' | 'plane'>,
  wall: PlacedWall,
): SidePiece => ({
  name: hasPan({ surface }, wall) ? 'Pan flashing' : 'Cover flashing',
  length: mostOf(rules, 'cover.longest'),
  roofLeg: hasPan({ surface }, wall)
    ? leastOf(rules, 'cover.roofLeg')
    : reachBeside({ rules, surface, plane }, wall, wall.from, wall.to),
  wallLeg: Math.max(leastOf(rules, 'cover.up'), wall.cladding === 'masonry' ? underCounter({ rules, surface }) : 0),
});

/** Clips along a free edge, one at each end and never more than so far apart; `how`: what they are hooked on, and when they are turned over. */
export function clipsAlong(
  { catalog, covering }: Pick<PlaneContext, 'catalog' | 'covering'>,
  run: number,
  apart: number,
  how: string,
): Required<Pick<Step, 'fasteners' | 'uses'>> {
  const clip = itemsOf(catalog, 'cleat').find(({ metal }) => metal === covering.metal);
  const count = stepsToReach(run, apart) + 1;
  return {
    fasteners: [`${count} clips, at most `, cut(apart), ` apart: ${how}`],
    uses: [piecesOf(clip, `${covering.metal} clip`, count)],
  };
}
