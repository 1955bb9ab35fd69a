import { type Assembly, type LayKey, STAGE } from '../assembly/index.ts';
import type { Catalog, ItemOf } from '../catalog/index.ts';
import type { CourseLayout } from '../covering/index.ts';
import type { Plane } from '../job/planes.ts';
import type { Feature, Job, Wall } from '../job/schema.ts';
import { type Outline, type Point, distanceToStretch, intersectOutlines, subtractOutlines, tidyOutline } from '../roof/index.ts';
import { inches } from '../units/index.ts';
import type { Requirements, RuleKey } from '../rules/index.ts';
import type { Footprint, Frame } from './standing.ts';

/** A wall with its top resolved to a distance up the slope. */
export type PlacedWall = Omit<Wall, 'to' | 'cladding' | 'cavityWall'> & {
  /** What trays through it cross; only walls the crew enters can have them. */
  readonly cavityWall?: Wall['cavityWall'];
  /** `frame`: a skylight's, closed by its own cladding. */
  readonly cladding: Wall['cladding'] | 'frame';
  readonly to: number;
  /** +1: the covering lies to the right of the face; −1: to the left. */ readonly side: 1 | -1;
  /** What has a front that turns the corner with this wall: a chimney, a dormer, a frame, or a wall that begins up the slope. */
  readonly partOf?: string;
  /** One of the faces of what it is part of, and told there; otherwise it is told by itself. */
  readonly face?: true;
  /** Its steps come with a maker's kit. */
  readonly inKit?: boolean;
};

/** A face that looks down the slope: the wall along its top, the front of a chimney or dormer. */
export type Front = {
  readonly id: string;
  readonly name: string;
  readonly x0: number;
  readonly x1: number;
  /** Where it stands, up the slope. */
  readonly y: number;
  readonly height: number;
  readonly cladding: PlacedWall['cladding'];
  readonly apronLeg: number;
  readonly apron: 'exposed' | 'strip adhered' | 'strip nailed';
  readonly counter: 'reglet' | 'repair' | 'through-wall' | 'kit';
  readonly jointSpacing: number;
  /** Does the covering go on past that end (an outside corner), or does it meet a wall or the slope's end? */
  readonly left: 'corner' | 'wall' | 'end';
  readonly right: 'corner' | 'wall' | 'end';
};

/** One slope's side of a valley, on its own chart. */
export type ValleySide = {
  readonly id: string;
  readonly other: string;
  /** From its lower to its upper end. */
  readonly low: Point;
  readonly high: Point;
  /** +1: this slope lies to the right of the line going up (the valley is at its left); −1: to its left. */
  readonly side: 1 | -1;
  readonly role: 'through' | 'cut' | 'open' | 'woven';
  /** The covering stops this far from the centre, square to it, at the lower and at the upper end. */
  readonly clearLow: number;
  readonly clearHigh: number;
  /** By the rules of both its slopes: shingles cross its centre by so much, and no nail stands within so much of it. */
  readonly cross: number;
  readonly noNail: number;
  /** Where the valley begins up this slope (at a dormer's eave): the course its lower end empties on to. 0 where it begins at the eave. */
  readonly footOn: number;
  /** Places of this chart that lie beyond the line, on the other slope's chart. */
  across(point: Point): Point;
  /** Height of the lower end up the other slope. */
  readonly acrossLow: number;
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
  /** Things with four faces that stand on the slope. */
  readonly frames: readonly Frame[];
  /** Where walls stand on the plane and no covering lies. */
  readonly blocks: readonly Block[];
  /** Blocks as one course sees them: what stands there, and what is cut out of the covering alone. */
  blocksFor(course: number): readonly Block[];
  /** Faces that look down the slope. */
  readonly fronts: readonly Front[];
  readonly valleys: readonly ValleySide[];
  /** Shapes a course (0: the starter) leaves open besides the blocks: along valleys, behind a cricket. */
  openingsAt(course: number): readonly Outline[];
  /** Where underlayment is slit round what stands on the slope, lowest first. */
  /** Holes in the deck that something round comes through, with an upstand round each. */
  readonly pierced: readonly Outline[];
  readonly slits: readonly { readonly x0: number; readonly x1: number; readonly from: number }[];
  /** Metal that no shingle nail may go through: pans, crickets, head flashings. */
  readonly metal: readonly Outline[];
  /** Stretches of a course that are to have no joint (above a skylight). */
  jointFree(course: number): readonly { readonly x0: number; readonly x1: number }[];
  /** Stretches where a course's joints must not stand: over a flange, over a step's nail. */
  jointOff(course: number): readonly { readonly x0: number; readonly x1: number }[];
  /** Where field nails keep clear of something other than a wall (a pipe's flange): rectangles. */
  readonly nailFree: readonly (Footprint & { readonly detail: string; readonly rule: RuleKey })[];
  readonly features: readonly Feature[];
  /** Place of the slope in the order of laying, for all but its covering. */
  readonly order: number;
  /** Place of a course (0: the starter) in the order of covering: below a dormer's eave a slope's courses come before the dormer's, above it after. */
  orderAt(course: number): number;
  readonly shingle: ItemOf<'shingle'>;
  /** Roof leg of the steps at a wall, and their length up the slope. */
  stepLeg(wall: PlacedWall): number;
  stepLength(wall: PlacedWall): number;
  /** How far down the slope the ridge caps reach. */
  readonly capHalfWidth: number;
  /** The context of another slope of the roof. */
  other(plane: string): PlaneContext;
  /** Facet id of the plane. */
  readonly facet: string;
};

/** A rectangle of the plane taken up by what stands on it; without width where a wall stands at the plane's end. */
export type Block = { readonly x0: number; readonly x1: number; readonly from: number; readonly to: number };

/** The first butt may hang this far over the deck's edge, and what lies on the slope is cut to its outline with that much added. */
const OVERHANG = inches(3);

/** The slope's outline with its eaves carried down over the deck's edge, for what hangs over it. */
export function overhung(plane: Plane): Outline {
  const eaves = plane.edges.filter(({ kind }) => kind === 'eave');
  return plane.outline.flatMap((from, i): Point[] => {
    const to = plane.outline[(i + 1) % plane.outline.length]!;
    const isEave = eaves.some((edge) => edge.from === from && edge.to === to);
    return isEave ? [from, [from[0], from[1] - OVERHANG], [to[0], to[1] - OVERHANG]] : [from];
  });
}

/** What of an outline lies on the slope: within its outline, off what stands up through it and off other shapes. */
export function onPlane(plane: Plane, outline: Outline, alsoOff: readonly Outline[] = []): Outline[] {
  const off = [...plane.holes, ...alsoOff];
  if (off.length === 0 && isRectangular(plane)) return [outline];
  const within = isRectangular(plane) ? [outline] : intersectOutlines(overhung(plane), outline);
  return within.flatMap((part) => subtractOutlines(part, off));
}

/** A strip along a valley, from its centre `low` wide at the lower end and `high` at the upper, on this slope's side of it. */
export function besideValley({ low, high, side, footOn }: ValleySide, atLow: number, atHigh: number): Outline {
  const length = Math.hypot(high[0] - low[0], high[1] - low[1]);
  const run: Point = [(high[0] - low[0]) / length, (high[1] - low[1]) / length];
  const inward: Point = [side * run[1], -side * run[0]];
  // carried on past the lower end, so that what hangs over the deck's edge is cut on the same line
  const past = footOn > 0 ? 0 : OVERHANG * 2;
  const at = (along: number, off: number): Point => [
    low[0] + run[0] * along + inward[0] * off,
    low[1] + run[1] * along + inward[1] * off,
  ];
  const atPast = atLow - ((atHigh - atLow) * past) / length;
  // at its head two valleys may meet: nothing is cut beyond this one's own line there
  return tidyOutline([at(-past, -OVERHANG), at(length, 0), at(length, atHigh), at(-past, atPast)]);
}

/** On which side of a valley's line, carried on beyond its ends, a place lies and how far square to it; positive on this slope. */
export function fromValley({ low, high, side }: ValleySide, [x, y]: Point): number {
  const length = Math.hypot(high[0] - low[0], high[1] - low[1]);
  return (side * ((x - low[0]) * (high[1] - low[1]) - (y - low[1]) * (high[0] - low[0]))) / length;
}

/** How far a place is from a valley as far as it goes: from its line between the two ends. */
export const fromValleyLine = ({ low, high }: ValleySide, point: Point): number => distanceToStretch(point, low, high);

/** A slope nothing is cut from: what is laid on it need not be cut either. */
export const isRectangular = (plane: Plane): boolean =>
  plane.outline.length === 4 &&
  plane.outline.every(([x], i) => {
    const [nx, ny] = plane.outline[(i + 1) % 4]!;
    return Math.abs(nx - x) < 1e-6 || Math.abs(ny - plane.outline[i]![1]) < 1e-6;
  });

/** Place on a valley or hip line at a height up the slope. */
export const onLine = (low: Point, high: Point, y: number): number =>
  low[0] + ((high[0] - low[0]) * (y - low[1])) / Math.max(high[1] - low[1], 1e-9);

export type DetailFamily = (context: PlaneContext) => Assembly;

/** Place in the stack of what wraps a thing standing at `from`: over the underlayment below it, under the underlayment above. */
export const wrapLay = (context: PlaneContext, from: number, rank: number, along: number): LayKey => [
  STAGE.underlayment,
  context.order,
  from,
  rank,
  along,
];

/** Above every slit, and above all the underlayment: what goes on last of the sheets. */
export const ABOVE_SLITS = 1e6;
export const TOPMOST = 2e6;

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

export const blocksBehind = (walls: readonly PlacedWall[], eaveLength: number): Block[] =>
  walls.map((wall) => blockBehind(wall, walls, eaveLength));
