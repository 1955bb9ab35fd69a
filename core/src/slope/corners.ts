import type { Cover, FourEdges } from '../assembly/index.ts';
import type { Outline } from '../roof/index.ts';
import type { PlacedWall, PlaneContext } from './model.ts';

/** A strip that reaches an outside corner on a face across the slope. */
type AtCorner = {
  /** What the face belongs to: its side walls carry this. */
  readonly owner: string;
  readonly end: 'front' | 'back';
  /** Round which corners: the left one (−1), the right one (1). */
  readonly sides: readonly (1 | -1)[];
  /** How far the strip goes on along the side, and from what height to what height above the foot of the corner. */
  readonly reach: number;
  readonly low: number;
  readonly high: number;
  /** How its lower edge, its end, its upper edge and the fold are held. */
  readonly holds: FourEdges;
};

/**
 * What a strip covers round the outside corners of its face: it is cut on the corner and folded on to the side walls, where what comes after laps over
 * it. Two strips that only met at the corner would let water in between (trade practice).
 */
export function foldedRound(context: PlaneContext, { owner, end, sides, reach, low, high, holds }: AtCorner): Cover[] {
  const k = context.slopeFactor;
  return context.found
    .wallsOf(owner)
    .filter(({ side }) => sides.includes(side))
    .map((wall): Cover => {
      const corner = (end === 'front' ? wall.from : wall.to) / k;
      const foot = corner * context.plane.pitch;
      const far = end === 'front' ? Math.min(corner + reach, wall.to / k) : Math.max(corner - reach, wall.from / k);
      const [x0, x1] = [Math.min(corner, far), Math.max(corner, far)];
      // behind, its upper edge comes down with the slope, no higher on the wall than what it goes on from
      const fallen = end === 'back' ? (x1 - x0) * context.plane.pitch : 0;
      const outline: Outline = [[x0, foot + low], [x1, foot + low], [x1, foot + high], [x0, foot + high - fallen]]; // prettier-ignore
      const [lower, tip, upper, fold] = holds;
      return {
        facet: `${context.facet}/${wall.id}`,
        outline,
        holds: end === 'front' ? [lower, tip, upper, fold] : [lower, fold, upper, tip],
      };
    });
}

/**
 * The same the other way round: a strip on a side wall goes on round its lower (front) or upper (back) corner on to the face there. `rise`: how much higher
 * its end lies than the fold, where it goes on as straight as it runs up the wall.
 */
export function foldedOnto(
  context: PlaneContext,
  wall: PlacedWall,
  { end, reach, low, high, holds, rise = 0 }: Omit<AtCorner, 'owner' | 'sides'> & { rise?: number },
): Cover[] {
  const { partOf } = wall;
  const face =
    end === 'front'
      ? context.found.front(`${partOf}F`)?.id
      : partOf !== undefined && context.found.frame(partOf)?.hasBack
        ? `${partOf}B`
        : undefined;
  if (face === undefined) return [];
  // what the wall belongs to stands on the side away from the covering
  const [x0, x1] = wall.side === 1 ? [wall.x - reach, wall.x] : [wall.x, wall.x + reach];
  const [left, right] = wall.side === 1 ? [rise, 0] : [0, rise];
  const [lower, tip, upper, fold] = holds;
  return [
    {
      facet: `${context.facet}/${face}`,
      outline: [[x0, low + left], [x1, low + right], [x1, high + right], [x0, high + left]], // prettier-ignore
      holds: wall.side === 1 ? [lower, fold, upper, tip] : [lower, tip, upper, fold],
    },
  ];
}

/**
 * A strip let into a side wall goes on level round the inside corner at its upper end, on to the headwall there. Two that only met in the corner would let
 * water in between (trade practice).
 */
export function foldedInside(
  context: PlaneContext,
  wall: PlacedWall,
  { reach, low, high, holds }: Pick<AtCorner, 'reach' | 'low' | 'high' | 'holds'>,
): Cover[] {
  const corner = context.found.insideCorners.find((one) => one.wall === wall);
  if (!corner) return [];
  const [x0, x1] = wall.side === 1 ? [wall.x, wall.x + reach] : [wall.x - reach, wall.x];
  const [lower, tip, upper, fold] = holds;
  return [
    {
      facet: `${context.facet}/${corner.front.id}`,
      outline: [[x0, low], [x1, low], [x1, high], [x0, high]], // prettier-ignore
      holds: wall.side === 1 ? [lower, tip, upper, fold] : [lower, fold, upper, tip],
    },
  ];
}
