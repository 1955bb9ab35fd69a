import fc from 'fast-check';
import { expect, it } from 'vitest';
import { countWhile, distanceToNearest } from './inOrder.ts';

it('counts what comes first, and measures to what lies nearest', () => {
  expect(countWhile([1, 4, 6, 9], (one) => one < 7)).toBe(3);
  expect(distanceToNearest([], 5)).toBe(Number.POSITIVE_INFINITY);
  expect(distanceToNearest([2, 9], 5)).toBe(3);
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 60 })), fc.integer({ min: -5, max: 65 }), (given, place) => {
      const places = given.toSorted((a, b) => a - b);
      expect(countWhile(places, (one) => one <= place)).toBe(places.filter((one) => one <= place).length);
      expect(distanceToNearest(places, place)).toBe(Math.min(...places.map((one) => Math.abs(one - place))));
    }),
  );
});
