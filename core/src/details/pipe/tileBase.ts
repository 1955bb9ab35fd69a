import { LINE_TOLERANCE } from '../../units/index.ts';

/** How far a base reaches from the pipe's middle to either side; millimetres. */
export type Reach = { readonly left: number; readonly right: number };

/** On a flat tile a base reaches `past` the pipe on each side: 4 in, metric 100 mm (trade practice). */
export const reachOnFlat = (diameter: number, past: number): Reach => ({ left: diameter / 2 + past, right: diameter / 2 + past });

/**
 * On a profiled tile a base reaches `past` (1 in, metric 25 mm; trade practice) the nearest crown the pipe does not stand on, each side. `crowns`: how far
 * they are apart; `at`: from a crown to the pipe's middle. 12 in apart, a 3 1/2 in pipe midway: 7 in each side; 3 in off a crown: 4 and 10; on one: 13 each.
 */
export function reachPastCrowns(crowns: number, at: number, diameter: number, past: number): Reach {
  const below = (x: number): number => Math.floor((x + LINE_TOLERANCE) / crowns) * crowns;
  const above = (x: number): number => Math.ceil((x - LINE_TOLERANCE) / crowns) * crowns;
  return { left: at - below(at - diameter / 2) + past, right: above(at + diameter / 2) - at + past };
}

/** A base whose collar is in its middle needs twice the longer reach. */
export const centredWidth = ({ left, right }: Reach): number => 2 * Math.max(left, right);
