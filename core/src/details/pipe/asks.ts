import { type Outline, rectangle, slopeFactor } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import type { Asks, BaseContext } from '../../slope/index.ts';
import { buttLine } from '../../surface/index.ts';
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
  return {
    blocksFor: (n) =>
      legs.map((leg) => {
        const { gap } = bootNeeds(context, leg.hot);
        const half = leg.diameter / 2 + (leg.clearance ?? 0);
        const over = leg.place !== undefined && n >= leg.place.firstOver;
        return {
          x0: leg.x - half,
          x1: leg.x + half,
          from: over ? Number.NEGATIVE_INFINITY : leg.y - leg.half - gap,
          to: leg.y + leg.half + gap,
        };
      }),
    jointOff: (n) =>
      legs.flatMap(({ x, boot, place }) =>
        boot && place && n >= place.firstOver && buttLine(context.lines, n) < place.upper
          ? [{ x0: x - boot.baseWidth / 2 - CLEAR_OF_JOINT, x1: x + boot.baseWidth / 2 + CLEAR_OF_JOINT }]
          : [],
      ),
    pierced: legs.map((leg) => around(context, leg, leg.clearance ?? 0)),
    pipes: legs.map((leg) => around(context, leg, 0)),
    slits: legs.flatMap(({ x, y, half, boot }) =>
      boot ? [{ x0: x - boot.baseWidth / 2 - COLLAR, x1: x + boot.baseWidth / 2 + COLLAR, from: y - half }] : [],
    ),
    // a tile's nail is at its head, under the course above: where a base lies over it too it only lies drier
    nailFree: legs.flatMap(({ feature, place, boot, x, reach }) =>
      place && boot && !reach
        ? [
            {
              x0: x - boot.baseWidth / 2 - clear(),
              x1: x + boot.baseWidth / 2 + clear(),
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
