import { type Plane, type Wall, isSlanted } from '../document/index.ts';
import { type Stretch, cutRun } from '../assembly/index.ts';
import { type Outline, type Point, tidyOutline } from '../roof/index.ts';
import type { Block, Frame, PlacedWall, PlaneContext } from './model.ts';

/** Walls in order along the eave, with their tops resolved; `to` null is the top of the slope. */
export const placeWalls = (walls: readonly Wall[], slope: number): PlacedWall[] =>
  [...walls]
    .map((wall): PlacedWall => ({
      ...wall,
      to: Math.min(wall.to ?? slope, slope),
      side: wall.stands === 'left' ? 1 : -1,
      slant: isSlanted(wall) ? wall.slant : null,
      lean: isSlanted(wall) ? (wall.slant.topX - wall.x) / slope : 0,
    }))
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

/** Where a wall's face is along the eave at a height up the slope. A wall from 8675 at the eave to 9000 at 4650, at 4219.98: 8969.9. */
export const faceAt = ({ x, lean }: Pick<PlacedWall, 'x' | 'lean'>, y: number): number => x + lean * y;

/** Does the roof narrow downward at a wall at an angle, so that its water runs into the wall? Else it leads away from it. */
export const takesWater = ({ lean, side }: Pick<PlacedWall, 'lean' | 'side'>): boolean => lean * side < 0;

/** How much longer something beside a wall is along it than it goes up the slope: 1 where it is square to the eave, 1.0024 at 4°. */
export const alongWall = ({ lean }: Pick<PlacedWall, 'lean'>): number => Math.hypot(1, lean);

/** Lengths of stock beside a wall over a run up the slope, each from where to where of it: as long along the wall as they are bought, lapped there. */
export const cutBeside = (wall: Pick<PlacedWall, 'lean'>, run: number, stock: number, lap: number): Stretch[] =>
  cutRun(run, stock / alongWall(wall), lap / alongWall(wall));

/**
 * What lies beside a wall on the slope between two heights, from one distance off its face to another, square to it. What hangs past the eave hangs straight down: there is
 * no wall.
 */
export function besideFace(
  wall: Pick<PlacedWall, 'x' | 'lean' | 'side'>,
  near: number,
  far: number,
  y0: number,
  y1: number,
): Outline {
  const at = (off: number, y: number): Point => [faceAt(wall, Math.max(y, 0)) + wall.side * off * alongWall(wall), y];
  const eave = y0 < 0 && y1 > 0 ? [0] : [];
  const up = [y0, ...eave, y1];
  return tidyOutline([...up.map((y) => at(far, y)), ...up.toReversed().map((y) => at(near, y))]);
}

/** Does a valley begin where a wall ends, as over a dormer's cheek? Its own pieces lie over the wall's last. */
export const endsUnderValley = ({ valleys }: Pick<PlaneContext, 'valleys'>, { x, to }: Pick<PlacedWall, 'x' | 'to'>): boolean =>
  valleys.some(({ low }) => Math.abs(low[0] - x) < 1 && Math.abs(low[1] - to) < 1);

/** Walls square to the eave: where one stands at an angle the slope itself ends at it, and nothing lies behind. */
export const squareWalls = <W extends Pick<Wall, 'x' | 'slant'>>(walls: readonly W[]): W[] =>
  walls.filter((wall) => !isSlanted(wall));

/** What stands behind each of some walls, in their order. */
export const blocksBehind = (walls: readonly PlacedWall[], eaveLength: number): Block[] =>
  walls.map((wall) => blockBehind(wall, walls, eaveLength));

/** Room the frames themselves take up, for what is laid under the covering. */
export const standingBlocks = (walls: readonly PlacedWall[], frames: readonly Frame[], plane: Plane): Block[] => [
  ...blocksBehind(
    squareWalls(walls).filter((wall) => wall.partOf === undefined),
    plane.eaveLength,
  ),
  ...frames.map(({ x0, x1, from, to }) => ({ x0, x1, from, to })),
];

/** What closes a wall over its flashing; boards that came off a wall that stood there go back. */
export const claddingWords = ({ job }: Pick<PlaneContext, 'job'>, cladding: PlacedWall['cladding']): string =>
  cladding !== 'boards'
    ? 'render over the drainage layer'
    : `${job.work.kind === 'new' ? 'lapped boards' : 'the numbered boards, lapped,'} over the drainage layer`;
