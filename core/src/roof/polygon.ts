import { ClipType, FillRule, type Path64, type PolyPath64, PolyTree64, booleanOpWithPolyTree } from 'clipper2-ts';
import { type Outline, type Point, isInside, outlineArea, rectangle } from './plane.ts';

/** Corners closer than this, millimetres, are one corner: far under what a tape shows, far over binary noise. */
const SAME_CORNER = 0.01;

/** Outlines are cut in whole thousandths of a millimetre: whole numbers keep the cutting exact. */
const FINE = 1000;

const whole = (outline: Outline): Path64 =>
  (outlineArea(outline) < 0 ? outline.toReversed() : outline).map(([x, y]) => ({
    x: Math.round(x * FINE),
    y: Math.round(y * FINE),
    z: 0,
  }));

/** An outline with the holes in it; holes run clockwise, so that the surface is on the left of every edge. */
export type Shape = { readonly outline: Outline; readonly holes: readonly Outline[] };

function clip(kind: ClipType, from: Outline, others: readonly Outline[]): Shape[] {
  const tree = new PolyTree64();
  booleanOpWithPolyTree(kind, [whole(from)], others.map(whole), tree, FillRule.NonZero);
  return shapesIn(tree);
}

/** The outlines of a tree of rings, each with its holes; what stands in a hole is a shape of its own. */
function shapesIn(tree: PolyPath64): Shape[] {
  return children(tree).flatMap((ring): Shape[] => {
    const holes = children(ring);
    const inside = holes.flatMap(shapesIn);
    const outline = tidied(ring);
    if (!isSomething(outline)) return inside;
    const open = holes.map(tidied).filter(isSomething);
    return [{ outline, holes: open.map((hole) => hole.toReversed()) }, ...inside];
  });
}

/** Not just a sliver, a square millimetre or less. */
const isSomething = (outline: Outline): boolean => outline.length >= 3 && outlineArea(outline) > 1;

const children = (ring: PolyPath64): PolyPath64[] => Array.from({ length: ring.count }, (_, i) => ring.child(i));
const tidied = (ring: PolyPath64): Outline =>
  fromLowest(tidyOutline((ring.polygon ?? []).map(({ x, y }): Point => [x / FINE, y / FINE])));

/** An outline told from its lowest corner on, the left one of two: edges come in the same order whichever way it was cut. */
function fromLowest(outline: Outline): Outline {
  const first = outline.reduce((low, [x, y], i) => {
    const [lx, ly] = outline[low]!;
    return y < ly - SAME_CORNER || (y < ly + SAME_CORNER && x < lx) ? i : low;
  }, 0);
  return [...outline.slice(first), ...outline.slice(0, first)];
}

const lengthBetween = (a: Point, b: Point): number => Math.sqrt((b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2);

/** How far left of the line from `a` to `b` a place is, times the length between them: 0 on the line, negative to the right of it. */
const leftOf = (a: Point, b: Point, at: Point): number => (b[0] - a[0]) * (at[1] - a[1]) - (b[1] - a[1]) * (at[0] - a[0]);

/** Drops corners that coincide with, or lie straight between, their neighbours; turns the outline counter-clockwise. */
export function tidyOutline(corners: readonly Point[]): Outline {
  const apart = corners.filter((at, i) => lengthBetween(at, corners.at(i - 1)!) > SAME_CORNER);
  const points = apart.filter((at, i) => {
    const before = apart.at(i - 1)!;
    const after = apart[(i + 1) % apart.length]!;
    return Math.abs(leftOf(before, after, at)) / Math.max(lengthBetween(before, after), SAME_CORNER) > SAME_CORNER;
  });
  return outlineArea(points) < 0 ? points.toReversed() : points;
}

/** What of an outline lies within another one. */
export function intersectOutlines(a: Outline, b: Outline): Outline[] {
  const [one, other] = [bounds(a), bounds(b)];
  if (one.x1 < other.x0 || other.x1 < one.x0 || one.y1 < other.y0 || other.y1 < one.y0) return [];
  if (!enters(a, other)) return isWithin(a, middleOf(other)) ? [tidyOutline(b)] : [];
  if (!isConvex(a) || !isConvex(b)) return clip(ClipType.Intersection, a, [b]).map(({ outline }) => outline);
  const common = commonOf(a, b);
  return isSomething(common) ? [fromLowest(common)] : [];
}

/** Does an outline, corners counter-clockwise, turn left at every corner? */
const isConvex = (outline: Outline): boolean =>
  outline.every((at, i) => leftOf(outline.at(i - 1)!, at, outline[(i + 1) % outline.length]!) >= 0);

/** What two convex outlines have in common: one cut off along each edge of the other. */
const commonOf = (a: Outline, b: Outline): Outline =>
  b.reduce((left: Outline, from, i) => {
    const to = b[(i + 1) % b.length]!;
    return left.length < 3 ? [] : clipByLine(left, (at) => leftOf(from, to, at));
  }, a);

type Box = ReturnType<typeof bounds>;

const middleOf = ({ x0, x1, y0, y1 }: Box): Point => [(x0 + x1) / 2, (y0 + y1) / 2];

/** Does an edge of an outline touch a box, or come within a thousandth of a millimetre of it? */
const enters = (outline: Outline, { x0, x1, y0, y1 }: Box): boolean =>
  outline.some((a, i) => {
    const b = outline[(i + 1) % outline.length]!;
    // the stretch of the edge, from 0 to 1, that lies beyond none of the box's four sides
    let from = 0;
    let to = 1;
    const keep = (past: number, by: number): void => {
      if (by > 0) from = Math.max(from, past / by);
      else if (by < 0) to = Math.min(to, past / by);
      else if (past > 0) to = -1;
    };
    keep(x0 - 1 / FINE - a[0], b[0] - a[0]);
    keep(a[0] - x1 - 1 / FINE, a[0] - b[0]);
    keep(y0 - 1 / FINE - a[1], b[1] - a[1]);
    keep(a[1] - y1 - 1 / FINE, a[1] - b[1]);
    return from <= to;
  });

/** Outlines that touch or overlap made one; the holes they leave are not told. */
export function unionOutlines(outlines: readonly Outline[]): Outline[] {
  const [first, ...others] = outlines;
  const joined = first ? clip(ClipType.Union, first, others).map(({ outline }) => outline) : [];
  // the library leaves some that only touch apart at the first go
  return joined.length > 1 && joined.length < outlines.length ? unionOutlines(joined) : joined;
}

/** What is left of an outline once others are cut out of it, with the holes they leave. */
export function cutShapes(from: Outline, taken: readonly Outline[]): Shape[] {
  const box = bounds(from);
  const near = taken.filter((one) => enters(one, box) || isWithin(one, middleOf(box)));
  if (near.length === 0) return [{ outline: from, holes: [] }];
  const [only] = near;
  const rest = near.length === 1 && isConvex(from) && isConvex(only!) ? cutByOneEdge(from, only!) : undefined;
  return rest ? [{ outline: rest, holes: [] }] : clip(ClipType.Difference, from, near);
}

/** What is left of a convex outline where a single edge of another convex one parts it from what is taken. */
function cutByOneEdge(from: Outline, taken: Outline): Outline | undefined {
  const common = commonOf(from, taken);
  const left = outlineArea(from) - outlineArea(common);
  if (common.length < 3 || left <= 1) return undefined;
  for (const [i, a] of taken.entries()) {
    const b = taken[(i + 1) % taken.length]!;
    const outside = clipByLine(from, (at) => leftOf(b, a, at));
    if (outside.length >= 3 && left - outlineArea(outside) < SAME_CORNER) return fromLowest(outside);
  }
  return undefined;
}

/** The same as outlines without holes: what goes all round a hole is parted through its middle. */
export function subtractOutlines(from: Outline, taken: readonly Outline[]): Outline[] {
  return cutShapes(from, taken).flatMap(({ outline, holes }): Outline[] => {
    const [hole] = holes;
    if (!hole) return [outline];
    const [box, round] = [bounds(hole), bounds(outline)];
    const middle = (box.x0 + box.x1) / 2;
    return [
      rectangle(round.x0 - 1, round.y0 - 1, middle, round.y1 + 1),
      rectangle(middle, round.y0 - 1, round.x1 + 1, round.y1 + 1),
    ].flatMap((half) => intersectOutlines(outline, half).flatMap((part) => subtractOutlines(part, holes)));
  });
}

/** The part of a convex outline where a linear function of the place is at least 0. */
export function clipByLine(outline: Outline, value: (p: Point) => number): Outline {
  const values = outline.map(value);
  if (values.every((one) => one >= 0)) return tidyOutline(outline);
  const kept: Point[] = [];
  for (let i = 0; i < outline.length; i++) {
    const next = (i + 1) % outline.length;
    const a = outline[i]!;
    const b = outline[next]!;
    const va = values[i]!;
    const vb = values[next]!;
    if (va >= 0) kept.push(a);
    if (va >= 0 !== vb >= 0) {
      const t = va / (va - vb);
      kept.push([a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]);
    }
  }
  return tidyOutline(kept);
}

/** Is a point within an outline of any shape? Its edges may fall either way. */
export function isWithin(outline: Outline, [x, y]: Point): boolean {
  let inside = false;
  for (let i = 0, j = outline.length - 1; i < outline.length; j = i++) {
    const a = outline[i]!;
    const b = outline[j]!;
    if (a[1] > y !== b[1] > y && x < ((b[0] - a[0]) * (y - a[1])) / (b[1] - a[1]) + a[0]) inside = !inside;
  }
  return inside;
}

/** Distance of a point from a stretch of line. */
export function distanceToStretch([x, y]: Point, [ax, ay]: Point, [bx, by]: Point): number {
  const length = Math.hypot(bx - ax, by - ay);
  if (length === 0) return Math.hypot(x - ax, y - ay);
  const t = Math.max(0, Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / (length * length)));
  return Math.hypot(x - ax - t * (bx - ax), y - ay - t * (by - ay));
}

/** Is every corner of a convex outline inside another convex one? */
export const isWhollyInside = (inner: Outline, outer: Outline): boolean => inner.every((point) => isInside(outer, point));

export const bounds = (outline: Outline): { x0: number; x1: number; y0: number; y1: number } => {
  const box = { x0: Infinity, x1: -Infinity, y0: Infinity, y1: -Infinity };
  for (let i = 0; i < outline.length; i++) {
    const at = outline[i]!;
    if (at[0] < box.x0) box.x0 = at[0];
    if (at[0] > box.x1) box.x1 = at[0];
    if (at[1] < box.y0) box.y0 = at[1];
    if (at[1] > box.y1) box.y1 = at[1];
  }
  return box;
};
