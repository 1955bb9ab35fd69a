import fc from 'fast-check';
import { expect, it } from 'vitest';
import { cases } from '../../fixtures/seeds.ts';
import { type Outline, type Point, outlineArea, rectangle } from './plane.ts';
import { cutShapes, distanceToStretch, intersectOutlines, isWithin, subtractOutlines } from './polygon.ts';

const millimetres = (least: number, most: number): fc.Arbitrary<number> => fc.integer({ min: least, max: most });

const round = (radii: readonly number[]): Outline =>
  radii.map((radius, i): Point => {
    const turn = (2 * Math.PI * i) / radii.length;
    return [5000 + radius * Math.cos(turn), 5000 + radius * Math.sin(turn)];
  });

/** A star of four to eight corners round the middle of a slope, hardly ever convex and never crossing itself, or one of three to eight that is convex. */
const anyOutline: fc.Arbitrary<Outline> = fc.oneof(
  fc.array(millimetres(200, 4000), { minLength: 4, maxLength: 8 }).map(round),
  fc
    .tuple(fc.integer({ min: 3, max: 8 }), millimetres(200, 4000))
    .map(([corners, radius]) => round(Array.from({ length: corners }, () => radius))),
);

/** From smaller than any of them to larger than all: within, without, across an edge, all round. */
const anyBox: fc.Arbitrary<Outline> = fc
  .tuple(millimetres(0, 9000), millimetres(0, 9000), millimetres(20, 10_000), millimetres(20, 10_000))
  .map(([x, y, width, height]) => rectangle(x, y, x + width, y + height));

const anyPlace: fc.Arbitrary<Point> = fc.tuple(millimetres(0, 10_000), millimetres(0, 10_000));

const isNear = (outline: Outline, place: Point): boolean =>
  outline.some((corner, i) => distanceToStretch(place, corner, outline[(i + 1) % outline.length]!) < 1);
const area = (outlines: readonly Outline[]): number => outlines.reduce((sum, outline) => sum + outlineArea(outline), 0);

it('what two outlines share holds the places that are in both, whichever is named first, and no others', () => {
  fc.assert(
    fc.property(anyOutline, anyBox, fc.array(anyPlace, { minLength: 20, maxLength: 20 }), (outline, box, places) => {
      const shared = intersectOutlines(outline, box);
      expect(area(intersectOutlines(box, outline))).toBeCloseTo(area(shared), -2);
      for (const place of places) {
        if (isNear(outline, place) || isNear(box, place)) continue;
        expect(shared.some((part) => isWithin(part, place))).toBe(isWithin(outline, place) && isWithin(box, place));
      }
    }),
    cases(300),
  );
});

it('what is shared and what is cut away make the whole, with holes and without', () => {
  fc.assert(
    fc.property(anyOutline, anyBox, (outline, box) => {
      const rest = cutShapes(outline, [box]);
      const left = area(rest.map((shape) => shape.outline)) + area(rest.flatMap(({ holes }) => holes));
      // slivers under a square millimetre are dropped, and corners are whole thousandths
      expect(Math.abs(left + area(intersectOutlines(outline, box)) - outlineArea(outline))).toBeLessThan(60);
      expect(Math.abs(area(subtractOutlines(outline, [box])) - left)).toBeLessThan(60);
    }),
    cases(300),
  );
});
