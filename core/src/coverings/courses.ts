import type { Facet } from '../assembly/index.ts';
import {
  type EdgeKind,
  type Outline,
  type Point,
  type Span,
  bounds,
  byExtent,
  distanceToStretch,
  intersectOutlines,
  rectangle,
  unionOutlines,
} from '../roof/index.ts';
import { leastOf } from '../rules/index.ts';
import { type PlaneContext, onPlane, patchesRound, rakeStretches, sheetIsRoof } from '../slope/index.ts';
import { buttLine, chalkLine } from '../surface/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';

/** The slope itself: what stands on it, what comes through it, and the edges that caps and metal go over. */
export function slopeFacet(context: PlaneContext): Facet {
  const { plane, lines } = context;
  const sheltered = [...plane.joined.sheltered, ...underWhatGoesOn(context)];
  const edgesOf = (...kinds: EdgeKind[]): [Point, Point][] =>
    plane.edges.filter(({ kind }) => kinds.includes(kind)).map(({ from, to }) => [from, to]);
  return {
    id: context.facet,
    kind: 'roof',
    name: plane.name,
    outline: plane.outline,
    fall: [0, -1],
    angle: context.angle,
    taken: [
      ...context.blocks
        .filter(({ x0, x1 }) => x1 > x0)
        .map(({ x0, x1, from, to }) => rectangle(x0, Math.max(from, 0), x1, Math.min(to, lines.end))),
      ...plane.holes,
    ],
    capped: edgesOf('ridge', 'hip', ...(plane.top === 'ridge' ? (['top'] as const) : [])),
    rakes: (['left', 'right'] as const).flatMap(
      (side) =>
          rakeStretches(context, side).map(({ x, from, to }) => [[x, from], [x, to]] as const), // prettier-ignore
    ),
    ...(context.pierced.length > 0 ? { pierced: context.pierced, pipes: context.pipes } : {}),
    ...(sheetIsRoof(context) ? { sheetSheds: true as const } : {}),
    ...(context.surface.dams ? { dams: context.surface.dams } : {}),
    ...(sheltered.length > 0 ? { sheltered } : {}),
  };
}

/**
 * Where a slope goes on past its top, what comes there lies over the last course and its nails: from the line of the next course, or as far down as a ridge unit
 * would cover (trade practice).
 */
function underWhatGoesOn({ plane, lines, surface }: PlaneContext): Outline[] {
  if (plane.top !== 'continues') return [];
  const from = Math.min(buttLine(lines, lines.count + 1), lines.end - surface.underRidge);
  return plane.edges
    .filter(({ kind, from: [, y0], to: [, y1] }) => kind === 'top' && Math.min(y0, y1) > lines.end - LINE_TOLERANCE)
    .map((edge) => rectangle(Math.min(edge.from[0], edge.to[0]), from, Math.max(edge.from[0], edge.to[0]), lines.end));
}

/**
 * What a course covers: its band cut round what stands in it, then to the slope's own edges. A bit that is cut off by itself, too narrow to hold
 * and wholly hidden by the next course, is not laid.
 */
export function courseOutlines(context: PlaneContext, n: number): Outline[] {
  const { lines, plane } = context;
  const band = { x0: 0, x1: plane.eaveLength, y0: buttLine(lines, n), y1: Math.min(chalkLine(lines, n), lines.end) };
  const gap = leastOf(context.rules, 'covering.gapAtWall');
  const outlines = patchesRound(band, context.blocksFor(n), gap).flatMap(({ x0, x1, y0, y1 }) =>
    onPlane(context.plane, rectangle(x0, y0, x1, y1), context.openingsAt(n)),
  );
  const narrowest = leastOf(context.rules, 'covering.leastPiece');
  const near = alongEave(outlines);
  return outlines.filter((outline) => {
    const { x0, x1, y0 } = bounds(outline);
    if (x1 - x0 >= narrowest || y0 < buttLine(context.lines, n + 1) - LINE_TOLERANCE) return true;
    return near(x0 - 1, x1 + 1).some((other) => other !== outline && unionOutlines([outline, other]).length === 1);
  });
}

/** What of an outline lies between two places along the eave, where only level edges run there and none ends: a plain rectangle. */
function plainBetween(outline: Outline, from: number, to: number): Outline | undefined {
  const { x0, x1 } = bounds(outline);
  const [low, high] = [Math.max(x0, from), Math.min(x1, to)];
  const levels: number[] = [];
  for (let i = 0, j = outline.length - 1; i < outline.length; j = i++) {
    const a = outline[j]!;
    const b = outline[i]!;
    const left = Math.min(a[0], b[0]);
    const right = Math.max(a[0], b[0]);
    if (right <= low || left >= high) continue;
    if (a[1] !== b[1] || left > low || right < high) return undefined;
    levels.push(a[1]);
  }
  return levels.length === 2
    ? rectangle(low, Math.min(levels[0]!, levels[1]!), high, Math.max(levels[0]!, levels[1]!))
    : undefined;
}

/** Outlines of a course, to be asked for by where they are along the eave. */
export const alongEave = (outlines: readonly Outline[]): ((from: number, to: number) => readonly Outline[]) =>
  byExtent(outlines, (outline): Span => {
    const { x0, x1 } = bounds(outline);
    return [x0, x1];
  });

/** The separate pieces of covering in one shingle's width: what stands in the course may part it. */
export function piecesIn(outlines: readonly Outline[], from: number, to: number): Outline[] {
  const here = outlines.filter((outline) => {
    const { x0, x1 } = bounds(outline);
    return Math.min(x1, to) - Math.max(x0, from) > LINE_TOLERANCE;
  });
  const plain = here.length === 1 ? plainBetween(here[0]!, from, to) : undefined;
  if (plain) return [plain];
  const parts = here.flatMap((outline) => {
    const { y0, y1 } = bounds(outline);
    return intersectOutlines(outline, rectangle(from, y0 - 1, to, y1 + 1));
  });
  return parts.length > 1 ? unionOutlines(parts) : parts;
}

/** Is every corner of a piece near enough to a ridge or hip for the caps, and their nails, to hold it? */
export const isUnderCaps = ({ plane, surface }: PlaneContext, piece: Outline): boolean =>
  piece.every((corner) =>
    plane.edges.some(
      ({ kind, from, to }) =>
        (kind === 'ridge' || kind === 'hip' || (kind === 'top' && plane.top === 'ridge')) &&
        distanceToStretch(corner, from, to) <= surface.underRidge + LINE_TOLERANCE,
    ),
  );

/** What a layer along the eaves covers, so far up from the first course's lower edge, cut round what stands there. */
export function eaveOutlines(context: PlaneContext, height: number): Outline[] {
  const { plane, lines, rules } = context;
  const y0 = buttLine(lines, 1);
  const y1 = Math.min(y0 + height, lines.end);
  const gap = leastOf(rules, 'covering.gapAtWall');
  return plane.edges
    .filter(({ kind }) => kind === 'eave')
    .flatMap(({ from, to }) => patchesRound({ x0: from[0], x1: to[0], y0, y1 }, context.blocks, gap))
    .flatMap((patch) => onPlane(plane, rectangle(patch.x0, patch.y0, patch.x1, patch.y1), context.openingsAt(0)));
}
