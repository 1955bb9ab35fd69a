import { type Outline, byExtent, rectangle, slopeFactor } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import type { Asks, BaseContext } from '../../slope/index.ts';
import { buttLine, courseBand } from '../../surface/index.ts';
import { inches } from '../../units/index.ts';
import { type Leg, bootNeeds, legsOf } from './legs.ts';

/** A joint over a flange stands this far from its edges: farther than the creep a plan is to have in hand. */
const CLEAR_OF_JOINT = inches(2.25);

/** The collar reaches 3 in past the base, and an inch. */
const COLLAR = inches(4);

/** What a plumb pipe takes of the slope, and so much clear of it all round. */
function around({ plane }: BaseContext, { x, y, diameter }: Leg, clear: number): Outline {
  const wide = diameter / 2 + clear;
  const high = wide * slopeFactor(plane.pitch);
  return rectangle(x - wide, y - high, x + wide, y + high);
}

/** Round a pipe the covering under its flange has a hole, the covering over it a cut-out open to the butt below. */
export function pipeAsks(context: BaseContext): Partial<Asks> {
  const legs = legsOf(context);
  const clear = (): number => leastOf(context.rules, 'fieldNails.fromWall');
  const { lines } = context;
  // under one base alone the sheet is cut tight round it: no hole, no collar
  const inSheet = legs.filter(({ formed }) => !formed);
  const holes = byExtent(
    legs.map((leg) => {
      const { gap } = bootNeeds(context, leg);
      const half = leg.diameter / 2 + (leg.clearance ?? 0);
      return { leg, x0: leg.x - half, x1: leg.x + half, from: leg.y - leg.half - gap, to: leg.y + leg.half + gap };
    }),
    // the first course over it may begin above it, where its base reaches so far
    ({ leg, from, to }) => [Math.min(from, leg.place ? buttLine(lines, leg.place.firstOver) : from), to],
  );
  const flanges = byExtent(legs, ({ y, place }) => (place ? [Math.min(y, place.lower), Math.max(y, place.upper)] : [y, y]));
  return {
    blocksFor: (n) =>
      holes(...courseBand(lines, n)).map(({ from, leg, ...hole }) => ({
        ...hole,
        from: leg.place !== undefined && n >= leg.place.firstOver ? Number.NEGATIVE_INFINITY : from,
      })),
    jointOff: (n) =>
      flanges(...courseBand(lines, n)).flatMap(({ x, lies, place }) =>
        lies && place && n >= place.firstOver && buttLine(lines, n) < place.upper
          ? [{ x0: x - lies.left - CLEAR_OF_JOINT, x1: x + lies.right + CLEAR_OF_JOINT }]
          : [],
      ),
    pierced: inSheet.map((leg) => around(context, leg, leg.clearance ?? 0)),
    pipes: inSheet.map((leg) => around(context, leg, 0)),
    slits: inSheet.flatMap(({ x, y, half, lies }) =>
      lies ? [{ x0: x - lies.left - COLLAR, x1: x + lies.right + COLLAR, from: y - half }] : [],
    ),
    // a tile's nail is at its head, under the course above: where a base lies over it too it only lies drier
    nailFree: legs.flatMap(({ feature, place, lies, x, reach }) =>
      place && lies && !reach
        ? [
            {
              x0: x - lies.left - clear(),
              x1: x + lies.right + clear(),
              from: place.lower,
              to: place.upper,
              detail: feature,
              rule: 'fieldNails.fromWall' as const,
            },
          ]
        : [],
    ),
  };
}
