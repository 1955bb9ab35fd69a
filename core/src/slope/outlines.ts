import type { Plane } from '../document/index.ts';
import { type Outline, type Point, distanceToStretch, intersectOutlines, subtractOutlines, tidyOutline } from '../roof/index.ts';
import { NOISE, inches } from '../units/index.ts';
import type { ValleySide } from './model.ts';

/** The first butt may hang this far over the deck's edge, and what lies on the slope is cut to its outline with that much added. */
const OVERHANG = inches(3);

/** The slope's outline with its eaves carried down over the deck's edge, for what hangs over it. */
export function overhung(plane: Plane): Outline {
  const eaves = plane.edges.filter(({ kind }) => kind === 'eave');
  return plane.outline.flatMap((from, i): Point[] => {
    const to = plane.outline[(i + 1) % plane.outline.length]!;
    const isEave = eaves.some((edge) => edge.from === from && edge.to === to);
    return isEave ? [from, [from[0], from[1] - OVERHANG], [to[0], to[1] - OVERHANG]] : [from];
  });
}

/** What of an outline lies on the slope: within its outline, off what stands up through it and off other shapes. */
export function onPlane(plane: Plane, outline: Outline, alsoOff: readonly Outline[] = []): Outline[] {
  const off = [...plane.holes, ...alsoOff];
  if (off.length === 0 && isRectangular(plane)) return [outline];
  const within = isRectangular(plane) ? [outline] : intersectOutlines(overhung(plane), outline);
  return within.flatMap((part) => subtractOutlines(part, off));
}

/** A strip along a valley, from its centre `low` wide at the lower end and `high` at the upper, on this slope's side of it. */
export function besideValley({ low, high, side, footOn }: ValleySide, atLow: number, atHigh: number): Outline {
  const length = Math.hypot(high[0] - low[0], high[1] - low[1]);
  const run: Point = [(high[0] - low[0]) / length, (high[1] - low[1]) / length];
  const inward: Point = [side * run[1], -side * run[0]];
  // carried on past the lower end, so that what hangs over the deck's edge is cut on the same line
  const past = footOn > 0 ? 0 : OVERHANG * 2;
  const at = (along: number, off: number): Point => [
    low[0] + run[0] * along + inward[0] * off,
    low[1] + run[1] * along + inward[1] * off,
  ];
  const atPast = atLow - ((atHigh - atLow) * past) / length;
  const corner = at(-past, atPast);
  // one that runs flat or is wide ends above what hangs over the deck's edge
  const down: Point[] = footOn > 0 || corner[1] < low[1] - OVERHANG ? [] : [[corner[0], low[1] - OVERHANG]];
  // at its head two valleys may meet: nothing is cut beyond this one's own line there
  return tidyOutline([at(-past, -OVERHANG), at(length, 0), at(length, atHigh), corner, ...down]);
}

/** On which side of a valley's line, carried on beyond its ends, a place lies and how far square to it; positive on this slope. */
export function fromValley({ low, high, side }: ValleySide, [x, y]: Point): number {
  const length = Math.hypot(high[0] - low[0], high[1] - low[1]);
  return (side * ((x - low[0]) * (high[1] - low[1]) - (y - low[1]) * (high[0] - low[0]))) / length;
}

/** How long along a valley one course is cut, from butt line to butt line. */
export const cutAlong = ({ gauge }: { readonly gauge: number }, { low, high }: Pick<ValleySide, 'low' | 'high'>): number =>
  (gauge * Math.hypot(high[0] - low[0], high[1] - low[1])) / (high[1] - low[1]);

/** How far a place is from a valley as far as it goes: from its line between the two ends. */
export const fromValleyLine = ({ low, high }: ValleySide, point: Point): number => distanceToStretch(point, low, high);

/** A slope nothing is cut from: what is laid on it need not be cut either. */
export const isRectangular = (plane: Plane): boolean =>
  plane.outline.length === 4 &&
  plane.outline.every(([x], i) => {
    const [nx, ny] = plane.outline[(i + 1) % 4]!;
    return Math.abs(nx - x) < NOISE || Math.abs(ny - plane.outline[i]![1]) < NOISE;
  });

/** Place on a valley or hip line at a height up the slope. */
export const onLine = (low: Point, high: Point, y: number): number =>
  low[0] + ((high[0] - low[0]) * (y - low[1])) / Math.max(high[1] - low[1], 1e-9);
