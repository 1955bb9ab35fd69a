import type { Catalog } from '../catalog/index.ts';
import type { Covering, Feature, FeatureOf, Job, Plane, Wall } from '../document/index.ts';
import type { Outline, Point } from '../roof/index.ts';
import type { Requirements, RuleKey } from '../rules/index.ts';
import type { Lines, Surface } from '../surface/index.ts';

/** A rectangle on the slope's chart. */
export type Footprint = { readonly x0: number; readonly x1: number; readonly from: number; readonly to: number };

/** Something with four faces: what lies below its front apron, beside it and behind it. */
export type Frame = Footprint & { readonly id: string; readonly apronLeg: number; readonly hasBack: boolean };

/** A wall with its top resolved to a distance up the slope. */
export type PlacedWall = Omit<Wall, 'to' | 'cladding' | 'cavityWall'> & {
  /** What trays through it cross; only walls the crew enters can have them. */
  readonly cavityWall?: Wall['cavityWall'];
  /** `frame`: a skylight's, closed by its own cladding. */
  readonly cladding: Wall['cladding'] | 'frame';
  readonly to: number;
  /** How far its face moves along the eave for each millimetre up the slope: 0 where it is square to the eave. */
  readonly lean: number;
  /** +1: the covering lies to the right of the face; −1: to the left. */ readonly side: 1 | -1;
  /** What has a front that turns the corner with this wall: a chimney, a dormer, a frame, or a wall that begins up the slope. */
  readonly partOf?: string;
  /** One of the faces of what it is part of, and told there, by the crew's word for it; otherwise it is told by itself. */
  readonly face?: 'chimney' | 'frame' | 'cheek';
  /** Its steps come with a maker's kit. */
  readonly inKit?: boolean;
};

/** What stands beside a wall, as bought or as it is cut: one piece a line, or the longest a cover flashing may be. Lengths millimetres; `length` up the slope, as it lies. */
export type SidePiece = {
  /** The catalog item it is, or is cut from; absent where the catalog has nothing to cut it from. */
  readonly product?: string;
  readonly name: string;
  readonly length: number;
  readonly roofLeg: number;
  readonly wallLeg: number;
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
  readonly apron: FeatureOf<'headwall'>['apron'];
  readonly counter: 'reglet' | 'repair' | 'through-wall' | 'kit';
  readonly jointSpacing: number;
  /** Does the covering go on past that end (an outside corner), or does it meet a wall or the slope's end? */
  readonly left: 'corner' | 'wall' | 'end';
  readonly right: 'corner' | 'wall' | 'end';
};

/** A rectangle of the plane taken up by what stands on it; without width where a wall stands at the plane's end. */
export type Block = { readonly x0: number; readonly x1: number; readonly from: number; readonly to: number };

/**
 * A stretch over which a course lies in two layers: the lower one over `on`, between the corners `x0` and `x1` of what stands there and `past` beyond
 * each; no joint of either layer nearer than that to a corner.
 */
export type Doubled = {
  readonly detail: string;
  readonly name: string;
  readonly on: string;
  readonly x0: number;
  readonly x1: number;
  readonly past: number;
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

/** What stands on a slope, found by its name, its owner or its height: it is asked for again for each piece and each course. */
export type Found = {
  wall(id: string): PlacedWall | undefined;
  frame(id: string): Frame | undefined;
  front(id: string): Front | undefined;
  feature(id: string): Feature | undefined;
  /** The side walls of a chimney, a dormer, a frame, or of what stands behind a wall's corner. */
  wallsOf(owner: string): readonly PlacedWall[];
  /** What stands beside the heights from `low` to `high` up the slope. */
  wallsAt(low: number, high: number): readonly PlacedWall[];
  /** Fronts and frames whose aprons end there, over the covering below. */
  frontsOver(low: number, high: number): readonly Front[];
  framesOver(low: number, high: number): readonly Frame[];
  /** Where a side wall meets a headwall in an inside corner, at the slope's top. */
  readonly insideCorners: readonly { readonly front: Front; readonly wall: PlacedWall }[];
};

/** A rectangle that field nails keep clear of. */
export type NailFree = Footprint & { readonly detail: string; readonly rule: RuleKey };

/** All that a detail family may read to plan its part of one plane. */
export type PlaneContext = {
  readonly job: Job;
  readonly plane: Plane;
  /** What this slope is covered with, as the job says it. */
  readonly covering: Covering;
  readonly catalog: Catalog;
  readonly rules: Requirements;
  readonly lines: Lines;
  readonly slopeFactor: number;
  readonly angle: number;
  readonly walls: readonly PlacedWall[];
  /** Things with four faces that stand on the slope. */
  readonly frames: readonly Frame[];
  /** Where walls stand on the plane and no covering lies. */
  readonly blocks: readonly Block[];
  /** The same between two heights. */
  blocksAt(low: number, high: number): readonly Block[];
  /** What stands on the slope, by name and by height. */
  readonly found: Found;
  /** Blocks as one course sees them: what stands in it, and what is cut out of the covering alone. */
  blocksFor(course: number): readonly Block[];
  /** Faces that look down the slope. */
  readonly fronts: readonly Front[];
  readonly valleys: readonly ValleySide[];
  /** Shapes a course (0: the starter) leaves open besides the blocks: along valleys, behind a cricket. */
  openingsAt(course: number): readonly Outline[];
  /** Holes in the deck that something round comes through, with an upstand round each. */
  readonly pierced: readonly Outline[];
  /** What comes through them, as it stands. */
  readonly pipes: readonly Outline[];
  /** Where underlayment is slit round what stands on the slope, lowest first. */
  readonly slits: readonly { readonly x0: number; readonly x1: number; readonly from: number }[];
  /** Metal that no shingle nail may go through: pans, crickets, head flashings. */
  readonly metal: readonly Outline[];
  /** The same that comes between two heights. */
  metalAt(low: number, high: number): readonly Outline[];
  /** Stretches of a course that are to have no joint (above a skylight). */
  jointFree(course: number): readonly { readonly x0: number; readonly x1: number }[];
  /** Where a course lies in two layers. */
  doubled(course: number): readonly Doubled[];
  /** Stretches where a course's joints must not stand: over a flange, over a step's nail. */
  jointOff(course: number): readonly { readonly x0: number; readonly x1: number }[];
  /** Where field nails keep clear of something other than a wall (a pipe's flange): rectangles. */
  readonly nailFree: readonly NailFree[];
  nailFreeAt(low: number, high: number): readonly NailFree[];
  readonly features: readonly Feature[];
  /** Place of the slope in the order of laying, for all but its covering. */
  readonly order: number;
  /** Place of a course (0: the starter) in the order of covering: below a dormer's eave a slope's courses come before the dormer's, above it after. */
  orderAt(course: number): number;
  readonly surface: Surface;
  /** Roof leg of the steps at a wall, and their length up the slope. */
  stepLeg(wall: PlacedWall): number;
  stepLength(wall: PlacedWall): number;
  /** The context of another slope of the roof. */
  other(plane: string): PlaneContext;
  /** A vent lies along its ridge, under the caps. */
  readonly vented: boolean;
  /** Facet id of the plane. */
  readonly facet: string;
};
