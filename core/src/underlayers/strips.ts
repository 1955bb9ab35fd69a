import { type Stretch, cutRun } from '../assembly/index.ts';
import { type Outline, type Span, bounds, mergeSpans, rectangle } from '../roof/index.ts';
import { type PlaneContext, onPlane, patchesRound } from '../slope/index.ts';

/**
 * Strips of one row across the plane, cut round what stands on it; every second row starts half a strip short, so that end laps are staggered. Where
 * the slope is parted (by a cross gable) each part has strips of its own: none runs on under what parts it.
 */
export function stripRow(
  context: PlaneContext,
  row: Stretch,
  index: number,
  roll: number,
  endLap: number,
  longest: number,
  off: readonly Outline[] = [],
): { outlines: Outline[]; from: number; to: number }[] {
  const top = Math.min(row.to, context.lines.end);
  const parts = onPlane(context.plane, rectangle(0, row.from, context.plane.eaveLength, top)).map(bounds);
  const stock = Math.min(roll, longest);
  const blocks = context.blocksAt(row.from, row.to);
  return mergeSpans(parts.map(({ x0, x1 }): Span => [x0, x1])).flatMap(([start, end]) => {
    const first = index % 2 === 1 && end - start > stock ? stock / 2 : stock;
    return cutRun(end - start, stock, endLap, first).map((strip) => {
      const [from, to] = [start + strip.from, start + strip.to];
      const patches = patchesRound({ x0: from, x1: to, y0: row.from, y1: row.to }, blocks, 0);
      const outlines = patches.flatMap(({ x0, x1, y0, y1 }) => onPlane(context.plane, rectangle(x0, y0, x1, y1), off));
      return { from, to, outlines };
    });
  });
}
