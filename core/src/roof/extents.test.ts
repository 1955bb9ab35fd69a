import fc from 'fast-check';
import { expect, it } from 'vitest';
import { byExtent } from './extents.ts';
import type { Span } from './spans.ts';

const end = fc.oneof(fc.integer({ min: -300, max: 900 }), fc.constantFrom(Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY));
const stretch = fc.tuple(end, end).map(([a, b]): Span => (a < b ? [a, b] : [b, a]));

it('finds what touches a stretch, in the order it was given, however many there are and wherever they end', () => {
  fc.assert(
    fc.property(fc.array(stretch, { maxLength: 40 }), fc.array(stretch, { minLength: 1, maxLength: 10 }), (things, asked) => {
      const near = byExtent(things, (one) => one);
      for (const [low, high] of asked) expect(near(low, high)).toEqual(things.filter(([from, to]) => from <= high && to >= low));
    }),
    { numRuns: 300 },
  );
});
