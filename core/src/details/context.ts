import type { Assembly } from '../assembly/index.ts';
import type { Catalog, ItemOf } from '../catalog/index.ts';
import type { CourseLayout } from '../covering/index.ts';
import type { Job, Plane, Wall } from '../job/schema.ts';
import type { Requirements } from '../rules/index.ts';

/** A wall with its top resolved to a distance up the slope. */
export type PlacedWall = Omit<Wall, 'to'> & {
  readonly to: number;
  /** +1: the covering lies to the right of the face; −1: to the left. */ readonly side: 1 | -1;
};

/** All that a detail family may read to plan its part of one plane. */
export type PlaneContext = {
  readonly job: Job;
  readonly plane: Plane;
  readonly catalog: Catalog;
  readonly rules: Requirements;
  readonly layout: CourseLayout;
  readonly courses: number;
  readonly slopeFactor: number;
  readonly angle: number;
  readonly walls: readonly PlacedWall[];
  /** Where walls stand on the plane and no covering lies. */
  readonly blocks: readonly Block[];
  readonly shingle: ItemOf<'shingle'>;
  /** Facet id of the plane. */
  readonly facet: string;
};

/** A rectangle of the plane taken up by what stands on it; without width where a wall stands at the plane's end. */
export type Block = { readonly x0: number; readonly x1: number; readonly from: number; readonly to: number };

export type DetailFamily = (context: PlaneContext) => Assembly;

/** Walls in order along the eave, with their tops resolved; `to` null is the top of the slope. */
export const placeWalls = (plane: Plane, slope: number): PlacedWall[] =>
  plane.walls
    .map((wall): PlacedWall => ({ ...wall, to: Math.min(wall.to ?? slope, slope), side: wall.stands === 'left' ? 1 : -1 }))
    .sort((a, b) => a.x - b.x || a.from - b.from || (a.id < b.id ? -1 : 1));

/**
 * What stands behind each wall's face: as far as the next wall that faces the other way over the same stretch of slope, else to the
 * end of the plane.
 */
export function blocksBehind(walls: readonly PlacedWall[], eaveLength: number): Block[] {
  const blocks: Block[] = [];
  for (const wall of walls) {
    const partners = walls.filter(
      (other) => other.side !== wall.side && other.from < wall.to && other.to > wall.from && (other.x - wall.x) * wall.side < 0,
    );
    const far =
      wall.side === 1 ? Math.max(0, ...partners.map(({ x }) => x)) : Math.min(eaveLength, ...partners.map(({ x }) => x));
    const [x0, x1] = wall.side === 1 ? [far, wall.x] : [wall.x, far];
    // a wall that starts at the eave stands beside the first butt's overhang too
    blocks.push({ x0, x1, from: wall.from > 0 ? wall.from : Number.NEGATIVE_INFINITY, to: wall.to });
  }
  return blocks;
}
