import type { Plane, Wall } from '../document/index.ts';
import type { Block, Frame, PlacedWall, PlaneContext } from './model.ts';

/** Walls in order along the eave, with their tops resolved; `to` null is the top of the slope. */
export const placeWalls = (walls: readonly Wall[], slope: number): PlacedWall[] =>
  [...walls]
    .map((wall): PlacedWall => ({ ...wall, to: Math.min(wall.to ?? slope, slope), side: wall.stands === 'left' ? 1 : -1 }))
    .sort((a, b) => a.x - b.x || a.from - b.from || (a.id < b.id ? -1 : 1));

/**
 * What stands behind a wall's face: as far as the next wall that faces the other way over the same stretch of slope, else to the
 * end of the plane.
 */
export function blockBehind(wall: PlacedWall, walls: readonly PlacedWall[], eaveLength: number): Block {
  const partners = walls.filter(
    (other) => other.side !== wall.side && other.from < wall.to && other.to > wall.from && (other.x - wall.x) * wall.side < 0,
  );
  const far = wall.side === 1 ? Math.max(0, ...partners.map(({ x }) => x)) : Math.min(eaveLength, ...partners.map(({ x }) => x));
  const [x0, x1] = wall.side === 1 ? [far, wall.x] : [wall.x, far];
  // a wall that starts at the eave stands beside the first butt's overhang too
  return { x0, x1, from: wall.from > 0 ? wall.from : Number.NEGATIVE_INFINITY, to: wall.to };
}

/** The same for every wall, in the walls’ order. */
export const blocksBehind = (walls: readonly PlacedWall[], eaveLength: number): Block[] =>
  walls.map((wall) => blockBehind(wall, walls, eaveLength));

/** Room the frames themselves take up, for what is laid under the covering. */
export const standingBlocks = (walls: readonly PlacedWall[], frames: readonly Frame[], plane: Plane): Block[] => [
  ...blocksBehind(
    walls.filter((wall) => wall.partOf === undefined),
    plane.eaveLength,
  ),
  ...frames.map(({ x0, x1, from, to }) => ({ x0, x1, from, to })),
];

/** What closes a wall over its flashing; boards that came off a wall that stood there go back. */
export const claddingWords = ({ job }: Pick<PlaneContext, 'job'>, cladding: PlacedWall['cladding']): string =>
  cladding !== 'boards'
    ? 'render over the drainage layer'
    : `${job.work.kind === 'new' ? 'lapped boards' : 'the numbered boards, lapped,'} over the drainage layer`;
