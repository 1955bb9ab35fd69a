import { LINE_TOLERANCE, NOISE } from '../units/index.ts';

/**
 * A straight stretch of a surface that water has come to, and how far it had crept (or climbed) at each end since it last lay open, in between by
 * the straight line. The first end is the lower one, of a level stretch the left one. From all along it water falls, and creeps level to either side.
 */
export type Stretch = {
  readonly x0: number;
  readonly y0: number;
  readonly d0: number;
  readonly x1: number;
  readonly y1: number;
  readonly d1: number;
};

export const FAR = Number.POSITIVE_INFINITY;

/** A stretch between two places in any order. */
export function stretch(xa: number, ya: number, da: number, xb: number, yb: number, db: number): Stretch {
  const turned = ya > yb || (ya === yb && xa > xb);
  return turned ? { x0: xb, y0: yb, d0: db, x1: xa, y1: ya, d1: da } : { x0: xa, y0: ya, d0: da, x1: xb, y1: yb, d1: db };
}

export const place = (x: number, y: number, d: number): Stretch => ({ x0: x, y0: y, d0: d, x1: x, y1: y, d1: d });
export const leastOf = ({ d0, d1 }: Stretch): number => (d0 < d1 ? d0 : d1);
export const leftEnd = ({ x0, x1 }: Stretch): number => (x0 < x1 ? x0 : x1);
export const rightEnd = ({ x0, x1 }: Stretch): number => (x0 < x1 ? x1 : x0);

/** Water comes no farther than this above a stretch. */
const NEAR = LINE_TOLERANCE;

/**
 * How far water from a stretch has crept to be at a place: falling to it from, or creeping to it level with, that part of the stretch that is as high
 * or higher; FAR above it.
 */
export function creptAt({ x0, y0, d0, x1, y1, d1 }: Stretch, x: number, y: number): number {
  if (y > y1 + NEAR) return FAR;
  let [xl, dl] = [x0, d0];
  if (y > y0) {
    // one that is level within the tolerance is all as high as the place
    const share = y1 - y0 > NEAR ? Math.min(1, (y - y0) / (y1 - y0)) : 0;
    xl = x0 + (x1 - x0) * share;
    dl = d0 + (d1 - d0) * share;
  }
  const least = Math.min(dl + Math.abs(x - xl), d1 + Math.abs(x - x1));
  if ((x > xl && x < x1) || (x < xl && x > x1)) return Math.min(least, dl + ((d1 - dl) * (x - xl)) / (x1 - xl));
  return least;
}

/** How far water from a stretch that climbs has climbed to be at a place; it climbs straight up. `head`: what a millimetre up the surface takes. */
export function climbedAt({ x0, y0, d0, x1, y1, d1 }: Stretch, x: number, y: number, head: number): number {
  const [left, right] = x0 < x1 ? [x0, x1] : [x1, x0];
  if (x < left - NEAR || x > right + NEAR) return FAR;
  const share = right - left > NEAR ? Math.max(0, Math.min(1, (x - x0) / (x1 - x0))) : 0.5;
  return d0 + (d1 - d0) * share + Math.max(0, y - (y0 + (y1 - y0) * share)) * head;
}

/** The least that water of a stretch has crept to be anywhere on a line. */
export function leastAlong(from: Stretch, xa: number, ya: number, xb: number, yb: number): number {
  let least = Math.min(creptAt(from, xa, ya), creptAt(from, xb, yb));
  const y = (x: number): number => (xb - xa > NEAR ? ya + ((yb - ya) * (x - xa)) / (xb - xa) : ya);
  for (const x of [from.x0, from.x1]) if (x > xa && x < xb) least = Math.min(least, creptAt(from, x, y(x)));
  // where it is no higher than the line somewhere
  if (from.y1 < Math.max(ya, yb) && from.y1 > Math.min(ya, yb)) {
    const x = xa + ((xb - xa) * (from.y1 - ya)) / (yb - ya);
    least = Math.min(least, creptAt(from, x, from.y1));
  }
  return least;
}

/** What water of a stretch is on a line from left to right that it comes to, as stretches of that line. */
export function along(from: Stretch, xa: number, ya: number, xb: number, yb: number): Stretch[] {
  const { x0, y0, x1, y1 } = from;
  const shares = [0, 1];
  const between = (share: number): void => {
    if (share > NOISE && share < 1 - NOISE) shares.push(share);
  };
  if (Math.abs(yb - ya) > NEAR) for (const y of [y0, y1]) between((y - ya) / (yb - ya));
  if (xb - xa > NEAR) for (const x of [x0, x1]) between((x - xa) / (xb - xa));
  shares.sort((a, b) => a - b);
  const found: Stretch[] = [];
  for (let i = 1; i < shares.length; i++) {
    const [s, t] = [shares[i - 1]!, shares[i]!];
    const [sx, sy, tx, ty] = [xa + (xb - xa) * s, ya + (yb - ya) * s, xa + (xb - xa) * t, ya + (yb - ya) * t];
    const [ds, dt] = [creptAt(from, sx, sy), creptAt(from, tx, ty)];
    if (ds < FAR && dt < FAR) found.push(stretch(sx, sy, ds, tx, ty, dt));
  }
  return found;
}

/** What water of a stretch is on an upright border between two heights; undefined where it does not come so high. */
export function onBorder(from: Stretch, x: number, low: number, high: number): Stretch | undefined {
  if (from.y1 <= low + NEAR) return undefined;
  const top = Math.max(low, Math.min(high, from.y1));
  const foot = Math.max(low, Math.min(top, from.y0));
  return { x0: x, y0: foot, d0: creptAt(from, x, foot), x1: x, y1: top, d1: creptAt(from, x, top) };
}

/**
 * What water of a stretch falls through a line from left to right: the stretch itself where it lies within, else what of it does, or where it comes
 * to the nearest end.
 */
export function through(from: Stretch, xa: number, ya: number, xb: number, yb: number): Stretch | undefined {
  const [left, right] = [leftEnd(from), rightEnd(from)];
  if (left >= xa - NEAR && right <= xb + NEAR) return from;
  if (right <= xa || left >= xb) {
    const [x, y] = right <= xa ? [xa, ya] : [xb, yb];
    const d = creptAt(from, x, y);
    return d < FAR ? place(x, y, d) : undefined;
  }
  const part = within(from, xa, xb);
  return part;
}

/** The part of a stretch between two uprights that it reaches into. */
export function within(from: Stretch, xa: number, xb: number): Stretch {
  const { x0, y0, d0, x1, y1, d1 } = from;
  const at = (x: number): [number, number, number] => {
    const share = (x - x0) / (x1 - x0);
    return [x, y0 + (y1 - y0) * share, d0 + (d1 - d0) * share];
  };
  const left = Math.max(leftEnd(from), xa);
  const right = Math.min(rightEnd(from), xb);
  if (x1 === x0 || right <= left) return { ...from, x0: Math.max(xa, Math.min(xb, x0)), x1: Math.max(xa, Math.min(xb, x1)) };
  return stretch(...at(left), ...at(right));
}
