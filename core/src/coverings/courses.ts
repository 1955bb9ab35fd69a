import type { Facet } from '../assembly/index.ts';
import { type EdgeKind, type Outline, type Point, bounds, rectangle, unionOutlines } from '../roof/index.ts';
import { leastOf } from '../rules/index.ts';
import { type PlaneContext, onPlane, patchesRound, rakeStretches } from '../slope/index.ts';
import { buttLine, chalkLine } from '../surface/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';

/** The slope itself: what stands on it, what comes through it, and the edges that caps and metal go over. */
export function slopeFacet(context: PlaneContext): Facet {
  const { plane, lines } = context;
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
    ...(context.pierced.length > 0 ? { pierced: context.pierced } : {}),
    ...(plane.joined.sheltered.length > 0 ? { sheltered: plane.joined.sheltered } : {}),
  };
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
  return outlines.filter((outline) => {
    const { x0, x1, y0 } = bounds(outline);
    if (x1 - x0 >= narrowest || y0 < buttLine(context.lines, n + 1) - LINE_TOLERANCE) return true;
    return outlines.some((other) => other !== outline && unionOutlines([outline, other]).length === 1);
  });
}
