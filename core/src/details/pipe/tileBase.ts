import { leastOf } from '../../rules/index.ts';
import { type BaseContext, isOnTiles } from '../../slope/index.ts';
import { LINE_TOLERANCE } from '../../units/index.ts';

/** How far a base reaches from the pipe's middle to either side; millimetres. */
export type Reach = { readonly left: number; readonly right: number };

/** On a flat tile a base reaches `past` the pipe on each side: 4 in, metric 100 mm (trade practice). */
export const reachOnFlat = (diameter: number, past: number): Reach => ({ left: diameter / 2 + past, right: diameter / 2 + past });

/**
 * On a profiled tile a base reaches `past` (1 in, metric 25 mm; trade practice) the nearest crown the pipe does not stand on, each side, or the pipe itself
 * where there is none. `crowns`: where they are along the eave; `x`: the pipe's middle. 12 in apart, a 3 1/2 in pipe midway: 7 in each side; 3 in off a crown: 4
 * and 10; on one: 13 each.
 */
export function reachPastCrowns(crowns: readonly number[], x: number, diameter: number, past: number): Reach {
  const [from, to] = [x - diameter / 2, x + diameter / 2];
  const below = Math.max(...crowns.filter((crown) => crown <= from + LINE_TOLERANCE));
  const above = Math.min(...crowns.filter((crown) => crown >= to - LINE_TOLERANCE));
  return {
    left: x - (Number.isFinite(below) ? below : from) + past,
    right: (Number.isFinite(above) ? above : to) - x + past,
  };
}

/** How far a place along the eave is from the nearest crown. */
export const crownOff = (crowns: readonly number[], x: number): number => Math.min(...crowns.map((crown) => Math.abs(crown - x)));

/** Within so much of its line a crown stands up out of the water, millimetres (trade practice). */
export const CROWN_WIDE = 30;

/** A base whose collar is in its middle needs twice the longer reach. */
export const centredWidth = ({ left, right }: Reach): number => 2 * Math.max(left, right);

/** A crown this near to the hole goes with what is cut, millimetres. */
const SAW = 1;

/** What a base on tiles must reach, past crowns that the hole round the pipe leaves whole; undefined on other coverings. */
export const reachOn = (
  { surface, rules }: Pick<BaseContext, 'surface' | 'rules'>,
  { x, diameter }: { readonly x: number; readonly diameter: number },
): Reach | undefined =>
  !isOnTiles({ surface })
    ? undefined
    : surface.crowns
      ? reachPastCrowns(surface.crowns, x, diameter + 2 * (leastOf(rules, 'pipe.gap') + SAW), leastOf(rules, 'cover.pastCrown'))
      : reachOnFlat(diameter, leastOf(rules, 'pipe.besideOnTile'));
