import { Kept, NOISE } from '../units/index.ts';
import { type Outline, type Point, outlineArea, slopeFactor } from './plane.ts';
import {
  bounds,
  clipByLine,
  cutShapes,
  distanceToStretch,
  intersectOutlines,
  isWithin,
  subtractOutlines,
  tidyOutline,
} from './polygon.ts';

/**
 * Where a slope stands in plan. The eave's left end (seen from outside) is at `origin`, `x` east and `y` north; the slope faces `facing`
 * degrees clockwise from north, so 180 faces south. `height` is its deck's eave edge above the job's datum.
 */
export type RoofPlace = { readonly origin: Point; readonly facing: number; readonly height: number };

/** One slope before it meets others: its outline in level measure, `u` right along the eave and `v` level run up the slope. */
export type Face = {
  readonly id: string;
  readonly part: string;
  readonly place: RoofPlace;
  readonly pitch: number;
  readonly outline: Outline;
  /** The part of it that hangs free over its walls: what lies below goes on under it. */
  readonly over?: Outline;
  /** Walls at an angle that it runs up against: its outline ends at these lines. */
  readonly against?: readonly (readonly [Point, Point])[];
};

export type EdgeKind = 'eave' | 'rake' | 'ridge' | 'hip' | 'valley' | 'top' | 'wall' | 'change of pitch';

/** An edge of a joined slope on its own chart (`x` along the eave, `y` up the slope), and the slope it is shared with. */
export type FaceEdge = { readonly kind: EdgeKind; readonly from: Point; readonly to: Point; readonly other?: string };

/** A slope as it is once the roof is put together: outlines and edges on its own chart, outline in plan. */
export type JoinedFace = {
  readonly face: Face;
  readonly outline: Outline;
  /** What stands up through it (a dormer with its valleys), clockwise. */
  readonly holes: readonly Outline[];
  readonly plan: Outline;
  readonly edges: readonly FaceEdge[];
  /** Where a face of another part hangs over it, on its own chart. */
  readonly sheltered: readonly Outline[];
  /** More than one: the roof splits it, and only the largest is here. */
  readonly parts: number;
};

type Axes = { right: Point; up: Point };

/** Directions in plan of a slope's own axes. */
export function axesOf({ facing }: Pick<RoofPlace, 'facing'>): Axes {
  const turn = (facing * Math.PI) / 180;
  const up: Point = [-Math.sin(turn), -Math.cos(turn)];
  return { right: [up[1], -up[0]], up };
}

/** A place of the slope, level measure, in plan. */
export function toPlan({ place }: Pick<Face, 'place'>, [u, v]: Point): Point {
  const { right, up } = axesOf(place);
  return [place.origin[0] + u * right[0] + v * up[0], place.origin[1] + u * right[1] + v * up[1]];
}

/** The inverse of `toPlan`. */
export function fromPlan({ place }: Pick<Face, 'place'>, [x, y]: Point): Point {
  const { right, up } = axesOf(place);
  const [dx, dy] = [x - place.origin[0], y - place.origin[1]];
  return [dx * right[0] + dy * right[1], dx * up[0] + dy * up[1]];
}

/** Height of the slope's surface above the datum over a place in plan. */
export const heightAt = (face: Face, point: Point): number => face.place.height + face.pitch * fromPlan(face, point)[1];

/** Eight points of the compass, clockwise from north. */
export const COMPASS = ['north', 'north-east', 'east', 'south-east', 'south', 'south-west', 'west', 'north-west'] as const;
/** The nearest of eight points of the compass to a direction in degrees clockwise from north. */
export const compass = (degrees: number): (typeof COMPASS)[number] => COMPASS[((Math.round(degrees / 45) % 8) + 8) % 8]!;

/** Slopes nearer than this in height are one surface. */
const SAME_HEIGHT = 0.5;

/** Roofs joined lately, by their slopes: what stands on a roof changes far oftener than the roof. */
const joinedLately = new Kept<readonly JoinedFace[]>(16);

/**
 * Puts slopes together: where two parts stand over the same place, the higher one is the roof (in a valley the higher plane; within a
 * part the outlines already meet at its ridges and hips). Edges and what they are follow from which slopes meet there.
 */
export const joinFaces = (faces: readonly Face[]): readonly JoinedFace[] =>
  joinedLately.of(JSON.stringify(faces), () => joinAnew(faces));

function joinAnew(faces: readonly Face[]): JoinedFace[] {
  const plans = faces.map((face) => face.outline.map((point) => toPlan(face, point)));
  const boxes = plans.map(bounds);
  const cut = faces.map((face, i): Cut => {
    const higher = faces.flatMap((other, j): Outline[] => {
      if (other.part === face.part || areApart(boxes[i]!, boxes[j]!)) return [];
      const region = clipByLine(plans[j]!, (p) => heightAt(other, p) - heightAt(face, p) - (j < i ? 0 : NOISE));
      if (region.length < 3 || outlineArea(region) <= 100) return [];
      const free = other.over?.map((point) => toPlan(other, point));
      return (free ? subtractOutlines(region, [free]) : [region]).filter((part) => intersectOutlines(plans[i]!, part).length > 0);
    });
    const left = cutShapes(plans[i]!, higher).sort((a, b) => outlineArea(b.outline) - outlineArea(a.outline));
    return { rings: left[0] ? [left[0].outline, ...left[0].holes] : [], parts: left.length };
  });
  return faces.map((face, i) => {
    const k = slopeFactor(face.pitch);
    const { rings, parts } = cut[i]!;
    const charts = rings.map((ring) => ring.map((point) => fromPlan(face, point)).map(([u, v]): Point => [u, v * k]));
    const edges = charts.flatMap((corners, r) =>
      corners.map((from, e): FaceEdge => {
        const next = (e + 1) % corners.length;
        return { from, to: corners[next]!, ...classify(faces, cut, i, [rings[r]![e]!, rings[r]![next]!]) };
      }),
    );
    const chart = ([x, y]: Point): Point => {
      const [u, v] = fromPlan(face, [x, y]);
      return [u, v * k];
    };
    const sheltered = faces.flatMap((other): Outline[] => {
      const over = other.part === face.part ? undefined : other.over?.map((point) => toPlan(other, point));
      return over && rings[0] ? intersectOutlines(rings[0], over).map((part) => tidyOutline(part.map(chart))) : [];
    });
    return { face, outline: charts[0] ?? [], holes: charts.slice(1), plan: rings[0] ?? [], edges, sheltered, parts };
  });
}

type Box = ReturnType<typeof bounds>;

const areApart = (one: Box, other: Box): boolean =>
  one.x1 < other.x0 || other.x1 < one.x0 || one.y1 < other.y0 || other.y1 < one.y0;

/** The rings of a slope in plan: its outline, then its holes. */
type Cut = { readonly rings: readonly Outline[]; readonly parts: number };

const onRing = (ring: Outline, point: Point): boolean =>
  ring.some((p, e) => distanceToStretch(point, p, ring[(e + 1) % ring.length]!) < SAME_HEIGHT);

const covers = ({ rings }: Cut, point: Point): boolean =>
  rings.length > 0 && isWithin(rings[0]!, point) && !rings.slice(1).some((hole) => isWithin(hole, point));

/** Does a place in plan lie on one of the walls at an angle that a slope runs up against? */
const isAlong = (face: Face, point: Point): boolean =>
  (face.against ?? []).some(([foot, top]) => distanceToStretch(fromPlan(face, point), foot, top) < SAME_HEIGHT);

function classify(
  faces: readonly Face[],
  cut: readonly Cut[],
  own: number,
  [a, b]: readonly [Point, Point],
): { kind: EdgeKind; other?: string } {
  const face = faces[own]!;
  const middle: Point = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  const shared = faces.findIndex(
    (other, j) =>
      j !== own &&
      Math.abs(heightAt(other, middle) - heightAt(face, middle)) < SAME_HEIGHT &&
      cut[j]!.rings.some((ring) => onRing(ring, middle)),
  );
  const [ua, va] = fromPlan(face, a);
  const [ub, vb] = fromPlan(face, b);
  const level = Math.abs(va - vb) <= 1e-3 * Math.hypot(ua - ub, va - vb);
  // a step to the left of an edge goes into this slope, to the right out of it
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const inward: Point = [-(b[1] - a[1]) / length, (b[0] - a[0]) / length];
  const beside = (sign: 1 | -1): Point => [middle[0] + sign * inward[0], middle[1] + sign * inward[1]];
  if (shared < 0) {
    if (faces.some((other, j) => j !== own && covers(cut[j]!, beside(-1)) && heightAt(other, middle) > heightAt(face, middle)))
      return { kind: 'wall' };
    if (isAlong(face, middle)) return { kind: 'wall' };
    if (level) return { kind: ub > ua ? 'eave' : 'top' };
    return { kind: 'rake' };
  }
  const other = faces[shared]!;
  const rise = (f: Face, sign: 1 | -1): number => heightAt(f, beside(sign)) - heightAt(f, middle);
  const [mine, its] = [rise(face, 1), rise(other, -1)];
  const kind =
    mine > NOISE && its > NOISE ? 'valley' : mine < -NOISE && its < -NOISE ? (level ? 'ridge' : 'hip') : 'change of pitch';
  return { kind, other: other.id };
}

/** The line two slopes share in a valley or hip, from its lower to its upper end. All lengths millimetres, angles radians. */
export type SharedLine = {
  readonly low: Point;
  readonly high: Point;
  readonly rise: number;
  readonly planLength: number;
  readonly trueLength: number;
  /** Rise over run along the line. 6/12 with 6/12 at a square corner: 4.24/12. */
  readonly slope: number;
};

/**
 * The line along which c1 + g1·p = c2 + g2·p between two plan points on it. For a valley between pitches 6/12 and 9/12 with a total
 * rise of 72 in: plan 173.1 in, true 187.4 in.
 */
export function measureLine(face: Face, a: Point, b: Point): SharedLine {
  const [low, high] = heightAt(face, a) <= heightAt(face, b) ? [a, b] : [b, a];
  const rise = heightAt(face, high) - heightAt(face, low);
  const planLength = Math.hypot(high[0] - low[0], high[1] - low[1]);
  return { low, high, rise, planLength, trueLength: Math.hypot(planLength, rise), slope: rise / planLength };
}

/**
 * Side slopes z (run over rise) of the V between two slopes, in the plane square to the valley line, and the sine of the line's angle.
 * 6/12 with 6/12 at a square corner: 3, 3 and 1/3; 6/12 with 9/12: 3.905, 1.736 and 0.384.
 */
export function valleySection(a: Face, b: Face, line: SharedLine): { zA: number; zB: number; sine: number } {
  const run: Point = [(line.high[0] - line.low[0]) / line.planLength, (line.high[1] - line.low[1]) / line.planLength];
  const sine = line.rise / line.trueLength;
  const cosine = line.planLength / line.trueLength;
  // level, square to the line: each slope rises away from it, on opposite sides
  const across: Point = [-run[1], run[0]];
  const z = (face: Face): number => {
    const { up } = axesOf(face.place);
    const level = Math.abs(up[0] * across[0] + up[1] * across[1]) * face.pitch;
    // one step level across rises `level`; seen square to the line that rise is shorter by the line's cosine
    return 1 / (level * cosine);
  };
  return { zA: z(a), zB: z(b), sine };
}

/** Plan area of a slope that sheds into a line on it: what lies uphill of the line along the slope's own fall, square millimetres. */
export function drainedInto(joined: JoinedFace, from: Point, to: Point): number {
  const k = slopeFactor(joined.face.pitch);
  const [x0, x1] = [Math.min(from[0], to[0]), Math.max(from[0], to[0])];
  if (x1 - x0 < NOISE) return 0;
  const { y1 } = bounds(joined.outline);
  const onLine = (x: number): number => from[1] + ((to[1] - from[1]) * (x - from[0])) / (to[0] - from[0]);
  const above: Outline = [
    [x0, onLine(x0)],
    [x1, onLine(x1)],
    [x1, Math.max(y1, onLine(x1)) + 1],
    [x0, Math.max(y1, onLine(x0)) + 1],
  ];
  return intersectOutlines(joined.outline, above).reduce((sum, part) => sum + outlineArea(part), 0) / k;
}
