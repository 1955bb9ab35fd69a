import {
  type Assembly,
  type Cover,
  type FlatPattern,
  type Piece,
  cut,
  emptyAssembly,
  inCourse,
  laid,
} from '../../assembly/index.ts';
import { type Point, bounds, intersectOutlines, rectangle } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import { type PlaneContext, cutFromStock, isOnTiles, onPlane, reachOverCrown } from '../../slope/index.ts';
import { buttLine, courseMark } from '../../surface/index.ts';
import { METAL_TAIL } from './lining.ts';
import { type One, hostOf, sideOf } from './one.ts';

/**
 * Soft metal under the foot of a valley that begins up a slope of tile: over the course it empties on to, from beside the wall past the cover flashing there, on
 * profiled ones past a crown, and up under the next course. Without it what comes down on that course runs on under the lining's edge. Nothing elsewhere.
 */
export function planFoot(one: One): Assembly {
  const host = hostOf(one);
  if (!host || !isOnTiles(host.context)) return emptyAssembly;
  const { valley, rules } = one;
  const { context, side } = host;
  const { lines, facet } = context;
  const { footOn, low, high } = side;
  const [y0, y1] = [
    Math.min(buttLine(lines, footOn), low[1] - METAL_TAIL),
    buttLine(lines, footOn + 1) + leastOf(rules, 'cover.lap'),
  ];
  const reach = reachOverCrown(
    context,
    low[0],
    side.side,
    Math.max(...besideFoot(context, low, side.side), leastOf(rules, 'cover.roofLeg')),
  );
  // this slope's side of the valley's line, as far as the metal goes
  const at = (y: number): number => low[0] + ((high[0] - low[0]) * (Math.max(y, low[1]) - low[1])) / (high[1] - low[1]);
  const far = low[0] + side.side * reach;
  const outlines = intersectOutlines(
    [[far, y0], [far, y1], [at(y1), y1], [low[0], low[1]], [low[0], y0]] satisfies Point[],
    context.plane.outline,
  ); // prettier-ignore
  if (outlines.length === 0) return emptyAssembly;
  // over the valley's line as well: what climbs in over the lining's edge comes down on it there, and runs out on the course
  const fold = leastOf(rules, 'cover.lap');
  const { x0, x1 } = bounds(outlines.flat());
  const flat: FlatPattern = { outline: rectangle(0, 0, x1 - x0 + fold, y1 - y0), bends: [] };
  const piece: Piece = {
    mark: `${valley.id}-F`,
    detail: valley.id,
    role: 'valleyFoot',
    ...cutFromStock(context, flat),
    flat,
    covers: [
      ...outlines.map((outline): Cover => ({ facet, outline, holds: ['open'] })),
      ...overFold(one, context === one.a ? one.b : one.a, fold, (y1 - low[1]) / (high[1] - low[1])),
    ],
    lay: inCourse(context, footOn, 'pastAll', context.plane.eaveLength + low[0]),
    liesOn: [courseMark(footOn)],
    keys: ['cover.pastCrown', 'cover.lap'],
  };
  return {
    ...emptyAssembly,
    pieces: [piece],
    steps: [
      {
        ...laid([piece], {
          course: footOn,
          stage: 'covering',
          action: [
            `${valley.id}: dress foot ${piece.mark} over course ${footOn} of ${context.plane.name}, `,
            cut(reach),
            ` from the wall, ${context.surface.crowns ? 'past a crown, into the hollow and ' : ''}over the cover flashing’s end, `,
            cut(fold),
            ' over the valley’s line; its head comes under the next course, the lining over it.',
          ],
          people: 1,
          ...(context.covering.metal === 'lead' ? { caution: 'Lead: gloves, wash before eating.' } : {}),
        }),
        plane: context.plane.id,
      },
    ],
  };
}

/** What of a foot lies over the valley's line on the other slope, so wide, as far up as a share of the line. */
function overFold({ valley }: One, { plane, facet }: PlaneContext, wide: number, share: number): Cover[] {
  const { low, high, side } = sideOf(valley, plane.id);
  const top: Point = [low[0] + (high[0] - low[0]) * share, low[1] + (high[1] - low[1]) * share];
  const along = Math.hypot(top[0] - low[0], top[1] - low[1]);
  const off = ([x, y]: Point): Point => [
    x + (side * wide * (top[1] - low[1])) / along,
    y - (side * wide * (top[0] - low[0])) / along,
  ];
  return onPlane(plane, [low, top, off(top), off(low)]).map((outline): Cover => ({ facet, outline, holds: ['open'] }));
}

/** How far the cover flashing of the wall below a valley's foot reaches from it. */
const besideFoot = (context: NonNullable<ReturnType<typeof hostOf>>['context'], low: Point, side: 1 | -1): number[] =>
  context.walls.filter((wall) => wall.side === side && Math.abs(wall.x - low[0]) < 1).map((wall) => context.stepLeg(wall));
