import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { distanceToStretch } from './polygon.ts';
import { clipSpans, mergeSpans, spanNear, spansAcross, subtractSpans, type Span } from './spans.ts';

const spans = fc.array(fc.tuple(fc.integer({ min: 0, max: 100 }), fc.integer({ min: 1, max: 20 })).map(([from, length]): Span => [from, from + length]), { maxLength: 8 }); // prettier-ignore
const inAny = (all: readonly Span[], x: number): boolean => all.some(([a, b]) => x > a && x < b);

describe('stretches of a level line', () => {
  it('merged, subtracted and clipped hold what they should at every place between whole numbers', () => {
    fc.assert(
      fc.property(spans, spans, (own, taken) => {
        const merged = mergeSpans(own);
        const left = subtractSpans(merged, taken);
        const clipped = clipSpans(merged, 30, 60);
        for (let i = 1; i < merged.length; i++) expect(merged[i]![0]).toBeGreaterThan(merged[i - 1]![1]);
        const places = Array.from({ length: 121 }, (_, i) => i + 0.5);
        const held = (is: (x: number) => boolean): number[] => places.filter(is);
        expect(held((x) => inAny(merged, x))).toEqual(held((x) => inAny(own, x)));
        expect(held((x) => inAny(left, x))).toEqual(held((x) => inAny(own, x) && !inAny(taken, x)));
        expect(held((x) => inAny(clipped, x))).toEqual(held((x) => inAny(own, x) && x > 30 && x < 60));
      }),
    );
  });

  it('across a U-shaped outline come in two parts below its bottom’s top, one in it', () => {
    const u = [[0, 0], [30, 0], [30, 30], [20, 30], [20, 10], [10, 10], [10, 30], [0, 30]] as const; // prettier-ignore
    expect(spansAcross(u, 5)).toEqual([[0, 30]]);
    expect(spansAcross(u, 20)).toEqual([[0, 10], [20, 30]]); // prettier-ignore
    expect(spansAcross(u, 40)).toEqual([]);
  });

  it('near a stretch of line go exactly as far as the distance, round its ends too', () => {
    const number = fc.double({ min: -50, max: 50, noNaN: true });
    fc.assert(
      fc.property(
        number,
        number,
        number,
        number,
        fc.double({ min: 1, max: 30, noNaN: true }),
        number,
        (ax, ay, bx, by, distance, y) => {
          const [a, b] = [[ax, ay], [bx, by]] as const; // prettier-ignore
          fc.pre(Math.hypot(bx - ax, by - ay) > 0.001);
          const near = spanNear(a, b, distance, y);
          const wrong: number[] = [];
          for (let x = -100; x <= 100; x += 0.5) {
            const off = distanceToStretch([x, y], a, b) - distance;
            const isNear = near !== undefined && x > near[0] && x < near[1];
            if (Math.abs(off) >= 1e-6 && isNear !== off < 0) wrong.push(x);
          }
          expect(wrong).toEqual([]);
        },
      ),
    );
  });
});

it('clipping spans in order gives what lies of each between two places', () => {
  const inOrder = fc
    .array(fc.tuple(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 40 })), { maxLength: 30 })
    .map((steps) => {
      let at = 0;
      return steps.map(([gap, length]): Span => {
        const from = at + gap;
        at = from + length;
        return [from, at];
      });
    });
  fc.assert(
    fc.property(inOrder, fc.integer({ min: -10, max: 1000 }), fc.integer({ min: 0, max: 300 }), (spans, from, length) => {
      const to = from + length;
      const expected = spans.filter(([a, b]) => b > from && a < to).map(([a, b]): Span => [Math.max(a, from), Math.min(b, to)]);
      expect(clipSpans(spans, from, to)).toEqual(expected);
    }),
  );
});
