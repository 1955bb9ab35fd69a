import type { Fastener } from '../assembly/index.ts';
import { type Outline, type Span, bounds, clipSpans, mergeSpans, spansAcross, subtractSpans } from '../roof/index.ts';
import { type PlaneContext, spansOf } from '../slope/index.ts';

/** A stretch of a course with the joints between its units. */
export type Row = { readonly span: Span; readonly joints: readonly number[] };

/** A course: what it covers of the slope, and its units. Course 0 lies along the eave under the first. */
export type Course = { readonly n: number; readonly outlines: readonly Outline[]; readonly rows: readonly Row[] };

/**
 * A stretch with the joints of its regular bond. A unit at an end of it that does not do (too narrow, no room for its nails) is joined to the one beside it, which
 * is then cut from a wider one.
 */
export function rowOf([x0, x1]: Span, regular: readonly number[], does: (from: number, to: number) => boolean): Row {
  let joints = regular;
  if (joints.length > 0 && !does(x0, joints[0]!)) joints = joints.slice(1);
  if (joints.length > 0 && !does(joints.at(-1)!, x1)) joints = joints.slice(0, -1);
  return { span: [x0, x1], joints };
}

/** A course of what it covers, each stretch in its bond. */
export const courseOf = (n: number, outlines: readonly Outline[], row: (span: Span) => Row): Course => ({
  n,
  outlines,
  rows: spansOf(outlines.map(bounds)).map(row),
});

/** The units of a course by where they begin and end, left to right. */
export const unitsOf = ({ rows }: Pick<Course, 'rows'>): Span[] =>
  rows.flatMap(({ span, joints }) => {
    const edges = [span[0], ...joints, span[1]];
    return edges.slice(1).map((x, i): Span => [edges[i]!, x]);
  });

/** Where nails may stand at a height: where the course is, clear of metal and of what is kept free round flanges. */
export const nailGroundAt = (
  { metal, nailFree }: Pick<PlaneContext, 'metal' | 'nailFree'>,
  outlines: readonly Outline[],
  y: number,
): readonly Span[] =>
  subtractSpans(
    mergeSpans(outlines.flatMap((outline) => spansAcross(outline, y))),
    mergeSpans([
      ...metal.flatMap((outline) => spansAcross(outline, y)),
      ...nailFree.flatMap(({ x0, x1, from, to }): Span[] => (y > from && y < to ? [[x0, x1]] : [])),
    ]),
  );

/** Where the two nails of a unit go, `inset` from its edges; one or none where there is no room for both `apart`. */
export function nailsIn([from, to]: Span, ground: readonly Span[], inset: number, apart: number): number[] {
  const by = Math.min(inset, (to - from) / 4);
  const room = clipSpans(ground, from + by, to - by);
  const [first, last] = [room[0]?.[0], room.at(-1)?.[1]];
  if (first === undefined || last === undefined) return [];
  return last - first < apart ? [(first + last) / 2] : [first, last];
}

/** How the units of a course are nailed: the product, the mark of their piece, how far in from their edges, and how far apart. */
export type Nailing = { readonly product: string; readonly piece: string; readonly inset: number; readonly apart: number };

/**
 * The two nails of each unit, at the first of some heights where it has room for both: its line, then others where a flange lies under that. Units that have
 * none are told.
 */
export function nailed(
  { facet }: Pick<PlaneContext, 'facet'>,
  course: Course,
  heights: readonly number[],
  groundAt: (y: number) => readonly Span[],
  { product, piece, inset, apart }: Nailing,
): { fasteners: Fastener[]; loose: Span[] } {
  const fasteners: Fastener[] = [];
  const loose: Span[] = [];
  const grounds = heights.map((y) => ({ y, ground: groundAt(y) }));
  for (const unit of unitsOf(course)) {
    const tries = grounds.map(({ y, ground }) => nailsIn(unit, ground, inset, apart).map((x) => [x, y] as const));
    const best = tries.find((spots) => spots.length === 2) ?? tries.find((spots) => spots.length > 0) ?? [];
    if (best.length < 2) loose.push(unit);
    for (const at of best) fasteners.push({ piece, facet, at, product, keptDry: 'covered' });
  }
  return { fasteners, loose };
}

/** Heights to nail at: the line, then up towards the top, a step at a time. */
export const heightsFrom = (line: number, top: number, step: number): number[] => [
  line,
  ...Array.from({ length: Math.max(0, Math.floor((top - line) / step)) }, (_, i) => line + (i + 1) * step),
];
