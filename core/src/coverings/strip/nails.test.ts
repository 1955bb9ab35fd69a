import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cases } from '../../../fixtures/seeds.ts';
import { type Outline, type Span, bounds, isWithin, mergeSpans, rectangle, subtractSpans } from '../../roof/index.ts';
import { inches, toInches } from '../../units/index.ts';
import { piecesIn } from '../courses.ts';
import { type NailGround, NAILS_APART, hasRoom, nailPiece } from './nails.ts';

const box = (x0: number, y0: number, x1: number, y1: number): Outline =>
  rectangle(inches(x0), inches(y0), inches(x1), inches(y1));

/** Ground along 0 to 400 in: wanted at 6 in, 4 to 12 in possible, `taken` off it at every height below `below`. */
function ground(taken: readonly Span[] = [], below = 100, spare: readonly Span[] = []): NailGround {
  const off = taken.map(([a, b]): Span => [inches(a), inches(b)]);
  const heights = [6, 7, 5, 8, 4, 9, 10, 11, 12] as const;
  const free = (level: number): readonly Span[] =>
    heights[level]! < below ? subtractSpans([[0, inches(400)]], off) : [[0, inches(400)]];
  return {
    headlap: 0,
    levels: [inches(heights[0]), ...heights.slice(1).map(inches)],
    free,
    anywhere: () => mergeSpans(heights.flatMap((_, level) => free(level))),
    spare: (level) => (heights[level]! > 10.5 ? spare.map(([a, b]): Span => [inches(a), inches(b)]) : []),
  };
}

const placed = (...told: Parameters<typeof nailPiece>) =>
  nailPiece(...told).map(({ at: [x, y], inHeadlap }) => [toInches(x), toInches(y), ...(inHeadlap ? ['headlap'] : [])]);

describe('nails of one piece', () => {
  // a shingle of 39 3/8 in: 1 in from either end, the others a third of 37 3/8 apart
  const shingle = box(100, 0, 139.375, 13.25);

  it('stand on the line, an inch from the ends, evenly', () => {
    const third = 37.375 / 3;
    const spots = placed(ground(), shingle, 4, 2);
    expect(spots.map(([x]) => x)).toEqual([101, 101 + third, 101 + 2 * third, 138.375].map((x) => expect.closeTo(x, 6)));
    expect(spots.every(([, y]) => Math.abs(Number(y) - 6) < 1e-9)).toBe(true);
  });

  it('move aside from metal while that is nearer than going up, and up where it is not', () => {
    // 100 to 102: an inch aside costs less than any height
    expect(placed(ground([[100, 102]]), shingle, 4, 2)[0]).toEqual([expect.closeTo(102, 6), expect.closeTo(6, 6)]);
    // 100 to 110, but only below 7 in: an inch up against nine aside
    expect(placed(ground([[100, 110]], 7), shingle, 4, 2)[0]).toEqual([expect.closeTo(101, 6), expect.closeTo(7, 6)]);
  });

  it('fewer than the least go into the headlap, and none where there is none', () => {
    const metal: Span[] = [[90, 150]];
    expect(placed(ground(metal, 100, [[0, 400]]), shingle, 4, 2)).toEqual([
      [expect.closeTo(101, 6), expect.closeTo(11, 6), 'headlap'],
      [expect.closeTo(138.375, 6), expect.closeTo(11, 6), 'headlap'],
    ]);
    expect(placed(ground(metal), shingle, 4, 2)).toEqual([]);
  });

  it('keep 3/4 in from nails driven before', () => {
    const [first] = nailPiece(ground(), shingle, 4, 2, [[inches(101), inches(6)]]);
    expect(toInches(first!.at[0])).toBeCloseTo(101.75, 6);
  });

  it('whatever stands in the way: on the piece, on free ground, 3/4 in apart, never more than wanted, and two where there is room', () => {
    const span = fc.tuple(fc.double({ min: 0, max: 60, noNaN: true }), fc.double({ min: 0.5, max: 20, noNaN: true }));
    fc.assert(
      fc.property(
        fc.array(span, { maxLength: 5 }),
        fc.double({ min: 8, max: 40, noNaN: true }),
        fc.integer({ min: 2, max: 6 }),
        fc.constantFrom(5, 8, 100),
        (blocks, width, wanted, below) => {
          const on = ground(
            blocks.map(([a, long]): Span => [a, a + long]),
            below,
          );
          const piece = box(10, 0, 10 + width, 13.25);
          const spots = nailPiece(on, piece, wanted, 2);
          expect(spots.length).toBeLessThanOrEqual(wanted);
          if (hasRoom(on, inches(10), inches(10 + width))) expect(spots.length).toBeGreaterThanOrEqual(2);
          spots.forEach(({ at: [x, y] }, i) => {
            expect(isWithin(piece, [x, y])).toBe(true);
            expect(on.free(on.levels.indexOf(y)).some(([a, b]) => x >= a - 1e-6 && x <= b + 1e-6)).toBe(true);
            for (const { at: other } of spots.slice(0, i))
              expect(Math.hypot(x - other[0], y - other[1])).toBeGreaterThanOrEqual(NAILS_APART - 1e-6);
          });
        },
      ),
      cases(200),
    );
  });
});

describe('the pieces in a shingle’s width', () => {
  it('are one where nothing stands, two where a pipe’s sleeve goes through, none beside the covering', () => {
    const band = box(0, 0, 200, 13);
    expect(piecesIn([band], inches(40), inches(80)).map(bounds)).toEqual([bounds(box(40, 0, 80, 13))]);
    expect(piecesIn([band], inches(210), inches(250))).toEqual([]);
    const parted = [box(0, 0, 55, 13), box(65, 0, 200, 13)];
    expect(piecesIn(parted, inches(40), inches(80)).map((piece) => toInches(bounds(piece).x1 - bounds(piece).x0))).toEqual([
      expect.closeTo(15, 6),
      expect.closeTo(15, 6),
    ]);
  });

  it('what is notched but holds together stays one', () => {
    // cut round a sleeve that ends at 8 in: two legs under one band
    const notched = [box(0, 0, 55, 8), box(65, 0, 200, 8), box(0, 8, 200, 13)];
    expect(piecesIn(notched, inches(40), inches(80))).toHaveLength(1);
  });
});

it('room for nails is wanted between two joints, at any height', () => {
  expect(hasRoom(ground(), inches(0), inches(8))).toBe(true);
  expect(hasRoom(ground([[0, 8]]), inches(0), inches(8))).toBe(false);
  expect(hasRoom(ground([[0, 8]], 9), inches(0), inches(8))).toBe(true);
  // 1 1/4 in free is less than two nails 3/4 in apart take at any height
  expect(hasRoom(ground([[2, 8], [9.25, 20]]), inches(2), inches(14))).toBe(false); // prettier-ignore
});
