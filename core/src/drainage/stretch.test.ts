import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cases } from '../../fixtures/seeds.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import { Queue } from './queue.ts';
import {
  FAR,
  type Stretch,
  along,
  climbedAt,
  creptAt,
  leastAlong,
  leastOf,
  onBorder,
  place,
  stretch,
  through,
  within,
} from './stretch.ts';

const size = fc.double({ min: -200, max: 200, noNaN: true });
const distance = fc.double({ min: 0, max: 50, noNaN: true });

/** A stretch along which what has crept changes no faster than one creeps. */
const anyStretch: fc.Arbitrary<Stretch> = fc
  .record({ xa: size, ya: size, xb: size, yb: size, d: distance, share: fc.double({ min: -1, max: 1, noNaN: true }) })
  .map(({ xa, ya, xb, yb, d, share }) => stretch(xa, ya, d + Math.abs(xb - xa) * Math.max(0, -share), xb, yb, d + Math.abs(xb - xa) * Math.max(0, share))); // prettier-ignore

const pointOf = ({ x0, y0, d0, x1, y1, d1 }: Stretch, share: number): { x: number; y: number; d: number } => ({
  x: x0 + (x1 - x0) * share,
  y: y0 + (y1 - y0) * share,
  d: d0 + (d1 - d0) * share,
});

/** What `creptAt` says in a formula, tried out place by place. */
function byTrying(from: Stretch, x: number, y: number): number {
  let least = FAR;
  for (let i = 0; i <= 2000; i++) {
    const at = pointOf(from, i / 2000);
    if (at.y >= y - 1e-9) least = Math.min(least, at.d + Math.abs(x - at.x));
  }
  return least;
}

describe('how far water of a stretch has crept', () => {
  it('is the least over all its places as high or higher', () => {
    fc.assert(
      fc.property(anyStretch, size, size, (from, x, y) => {
        const told = creptAt(from, x, y);
        if (y > from.y1 + LINE_TOLERANCE) expect(told).toBe(FAR);
        if (y > from.y1) return;
        const step = Math.hypot(from.x1 - from.x0, from.y1 - from.y0) / 2000;
        expect(told).toBeGreaterThan(byTrying(from, x, y) - 2 * step - LINE_TOLERANCE - 1e-6);
        expect(told).toBeLessThan(byTrying(from, x, y) + 2 * step + LINE_TOLERANCE + 1e-6);
      }),
      cases(300),
    );
  });

  it('is never more farther down, nor changes faster than one goes aside', () => {
    fc.assert(
      fc.property(anyStretch, size, size, distance, (from, x, y, more) => {
        expect(creptAt(from, x, y - more)).toBeLessThanOrEqual(creptAt(from, x, y) + 1e-6);
        const here = creptAt(from, x, y);
        if (here < FAR) expect(creptAt(from, x + more, y)).toBeLessThanOrEqual(here + more + 1e-6);
      }),
      cases(300),
    );
  });

  it('keeps along a line what it is there, in straight parts', () => {
    fc.assert(
      fc.property(anyStretch, size, size, fc.double({ min: 1, max: 200, noNaN: true }), size, (from, xa, ya, wide, yb) => {
        const xb = xa + wide;
        const parts = along(from, xa, ya, xb, yb);
        for (const part of parts)
          for (const end of [0, 1]) {
            const at = pointOf(part, end);
            expect(at.d).toBeCloseTo(creptAt(from, at.x, at.y), 6);
            expect(at.y).toBeCloseTo(ya + ((yb - ya) * (at.x - xa)) / wide, 6);
          }
        const least = leastAlong(from, xa, ya, xb, yb);
        for (const part of parts) expect(leastOf(part)).toBeGreaterThanOrEqual(least - LINE_TOLERANCE);
      }),
      cases(200),
    );
  });

  it('on an upright border is what it is there, as high as it comes', () => {
    fc.assert(
      fc.property(anyStretch, size, size, fc.double({ min: 1, max: 200, noNaN: true }), (from, x, low, height) => {
        const on = onBorder(from, x, low, low + height);
        expect(on === undefined).toBe(from.y1 <= low + LINE_TOLERANCE);
        if (!on) return;
        expect(on.y1).toBeCloseTo(Math.min(low + height, from.y1), 9);
        expect(on.d1).toBe(creptAt(from, x, on.y1));
        expect(on.d0).toBe(creptAt(from, x, on.y0));
      }),
      cases(200),
    );
  });

  it('through a line goes only what lies over it, or what creeps to its nearest end', () => {
    fc.assert(
      fc.property(anyStretch, size, fc.double({ min: 1, max: 100, noNaN: true }), (from, xa, wide) => {
        const low = from.y0 - 10;
        const part = through(from, xa, low, xa + wide, low)!;
        for (const x of [xa, xa + wide / 3, xa + wide]) {
          expect(Math.min(part.x0, part.x1)).toBeGreaterThanOrEqual(xa - LINE_TOLERANCE);
          expect(Math.max(part.x0, part.x1)).toBeLessThanOrEqual(xa + wide + LINE_TOLERANCE);
          expect(creptAt(part, x, low)).toBeCloseTo(creptAt(from, x, low), 4);
        }
        const inside = within(from, xa, xa + wide);
        expect(inside.y0).toBeGreaterThanOrEqual(from.y0 - 1e-6);
        expect(inside.y1).toBeLessThanOrEqual(from.y1 + 1e-6);
      }),
      cases(200),
    );
  });

  it('from a single place is the way aside', () => {
    expect(creptAt(place(10, 20, 3), 14, 5)).toBe(7);
    expect(creptAt(place(10, 20, 3), 14, 25)).toBe(FAR);
  });
});

describe('how far water has climbed', () => {
  it('straight up from its stretch, by what a millimetre up the surface takes', () => {
    const from = stretch(0, 10, 1, 10, 20, 3);
    expect(climbedAt(from, 5, 25, 1)).toBeCloseTo(2 + 10, 9);
    expect(climbedAt(from, 5, 25, 2)).toBeCloseTo(2 + 20, 9);
    expect(climbedAt(from, 11, 25, 1)).toBe(FAR);
  });
});

describe('what waits', () => {
  it('comes out by its key, of equal keys in the order it went in', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 20 }), { maxLength: 60 }), (keys) => {
        const queue = new Queue<{ key: number; at: number }>();
        keys.forEach((key, at) => queue.add({ key, at }));
        const out = keys.map(() => queue.take()!);
        expect(out).toEqual(keys.map((key, at) => ({ key, at })).sort((a, b) => a.key - b.key || a.at - b.at));
        expect(queue.take()).toBeUndefined();
      }),
      cases(100),
    );
  });
});
