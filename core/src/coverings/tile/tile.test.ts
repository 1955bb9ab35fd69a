import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cases } from '../../../fixtures/seeds.ts';
import { buttLine, clearPlaces, evenLines, singleStretch } from '../../surface/index.ts';
import { LINE_TOLERANCE } from '../../units/index.ts';
import { columnsOver, cutAt } from './columns.ts';
import { fillWithTiles, isTooClose } from './gauge.ts';

const ROLL = { length: 420, nib: 25, leastGauge: 250 };
const EAVE = { overhang: 50, top: 35 };

/** Tails 50 past the fascia, the rest by the gauge, in tiles 420 long. */
const linesAt = (gauge: number) => evenLines(-50, gauge, 420, 4650);

describe('courses of tile, the worked figures', () => {
  it.each([
    { slope: 4650, headlap: 75, y1: 345, gauge: 328.46, courses: 14 },
    { slope: 4650, headlap: 100, y1: 345, gauge: 305, courses: 15 },
    // 4830 over 345 comes out whole: 14 gauges and not 15
    { slope: 5210, headlap: 75, y1: 345, gauge: 345, courses: 15 },
    { slope: 2309.4, headlap: 75, y1: 345, gauge: 321.57, courses: 7 },
    { slope: 2400, headlap: 100, y1: 345, gauge: 288.57, courses: 8 },
  ])('$slope at a headlap of $headlap: $courses courses, $gauge apart', ({ slope, headlap, y1, gauge, courses }) => {
    const laid = fillWithTiles(slope, ROLL, { ...EAVE, headlap });
    expect([laid.firstBatten, laid.courses]).toEqual([y1, courses]);
    expect(laid.gauge).toBeCloseTo(gauge, 1);
    expect(isTooClose(laid, ROLL)).toBe(false);
  });

  it('a gauge under the least is too close', () => {
    // one batten over the first: 600 − 35 − 345 = 220
    expect(isTooClose(fillWithTiles(600, ROLL, { ...EAVE, headlap: 75 }), ROLL)).toBe(true);
  });

  it('a tile lies alone between the head of those below and the tails of those above', () => {
    const { gauge } = fillWithTiles(4650, ROLL, { ...EAVE, headlap: 75 });
    expect(singleStretch(linesAt(gauge), 6).map(Math.round)).toEqual([1684, 1921]);
    expect(singleStretch(linesAt(gauge), 9).map(Math.round)).toEqual([2669, 2906]);
    const low = fillWithTiles(2400, ROLL, { ...EAVE, headlap: 100 });
    expect(singleStretch(linesAt(low.gauge), 5).map(Math.round)).toEqual([1236, 1393]);
  });

  it('a conduit at 2600 stands in a lap, clear at 2565 and 2682; the soil pipe stands clear; one is too wide for a tile', () => {
    const { gauge } = fillWithTiles(4650, ROLL, { ...EAVE, headlap: 75 });
    expect(clearPlaces(linesAt(gauge), 2600, 25).map(Math.round)).toEqual([2565, 2682]);
    expect(clearPlaces(linesAt(gauge), 1800, 110)).toEqual([1800]);
    expect(clearPlaces(linesAt(gauge), 1800, 300)).toEqual([]);
  });
});

describe('columns of tile, the worked figures', () => {
  const tile = { cover: 300, play: 1.5 };
  it('9025: 30 tiles opened 0.8 each', () => {
    const { opened, ...rest } = columnsOver(9025, tile);
    expect(rest).toEqual({ whole: 30, cut: 0, wide: false });
    expect(opened).toBeCloseTo(0.83, 2);
  });

  it('9060: 60 over is under half a tile, so a 360 is cut from a tile and a half', () => {
    expect(columnsOver(9060, tile)).toEqual({ whole: 29, opened: 0, cut: 360, wide: true });
  });

  it('3600: 12 tiles as they are', () => {
    expect(columnsOver(3600, tile)).toEqual({ whole: 12, opened: 0, cut: 0, wide: false });
  });

  it('against the shed’s wall: 14 cut tiles, those of courses 3 to 8 from a tile and a half', () => {
    const { gauge, courses } = fillWithTiles(4650, ROLL, { ...EAVE, headlap: 75 });
    const cuts = Array.from({ length: courses }, (_, i) => {
      const y = buttLine(linesAt(gauge), i + 1);
      return cutAt(8675 + (y * (9000 - 8675)) / 4650, 300);
    });
    expect(cuts.filter(({ cut }) => cut > 0)).toHaveLength(14);
    expect(cuts.flatMap(({ wide }, i) => (wide ? [i + 1] : []))).toEqual([3, 4, 5, 6, 7, 8]);
    const rest = cuts.map(({ cut, wide }) => (wide ? cut - 300 : cut));
    for (const [course, width] of [
      [1, 271.5],
      [2, 294.5],
      [3, 17.4],
      [8, 132.2],
      [9, 155.2],
      [14, 270],
    ] as const)
      expect(rest[course - 1]).toBeCloseTo(width, 0);
  });
});

const between = (min: number, max: number): fc.Arbitrary<number> => fc.double({ min, max, noNaN: true });

describe('for every slope in tile', () => {
  it('the gauge leaves the headlap, the fewest courses are taken, and the last batten is where the ridge wants it', () => {
    fc.assert(
      fc.property(between(600, 15_000), between(300, 480), between(60, 130), (slope, length, headlap) => {
        const tile = { length, nib: 25 };
        const { firstBatten, gauge, courses, largest } = fillWithTiles(slope, tile, { ...EAVE, headlap });
        expect(gauge).toBeLessThanOrEqual(largest + LINE_TOLERANCE);
        expect(firstBatten + (courses - 1) * gauge).toBeCloseTo(slope - EAVE.top, 6);
        if (courses > 2) expect((slope - EAVE.top - firstBatten) / (courses - 2)).toBeGreaterThan(largest);
        // a tail lies a tile's length, less the nib, below its batten
        expect(buttLine(linesAt(gauge), courses)).toBeCloseTo(slope - EAVE.top + 25 - length, 6);
      }),
      cases(300),
    );
  });

  it('a clear place is clear, and the nearest there is', () => {
    fc.assert(
      fc.property(between(0, 4000), between(10, 200), between(250, 345), (y, across, gauge) => {
        const [place, other] = clearPlaces(linesAt(gauge), y, across);
        if (place === undefined) {
          expect(across).toBeGreaterThan(2 * gauge - 420);
          return;
        }
        const clear = (at: number): boolean =>
          Array.from({ length: 20 }, (_, i) => singleStretch(linesAt(gauge), i + 1)).some(
            ([from, to]) => at - across / 2 >= from - LINE_TOLERANCE && at + across / 2 <= to + LINE_TOLERANCE,
          );
        expect(clear(place)).toBe(true);
        if (other !== undefined)
          expect((clear(other) && (other - y) * (place - y) < 0) || y < singleStretch(linesAt(gauge), 1)[0]).toBe(true);
        const away = Math.abs(place - y);
        for (let share = 0; share < 1; share += 0.05)
          for (const way of [-1, 1])
            if (share * away < away - 1) expect(clear(y + way * share * away) && y + way * share * away > 0).toBe(false);
      }),
      cases(300),
    );
  });

  it('tiles fill a width within their play, or none cut is under half a one', () => {
    fc.assert(
      fc.property(between(600, 20_000), between(150, 350), between(0, 3), (width, cover, play) => {
        const { whole, opened, cut, wide } = columnsOver(width, { cover, play });
        expect(whole * (cover + opened) + cut).toBeCloseTo(width, 0);
        expect(Math.abs(opened)).toBeLessThanOrEqual(play + LINE_TOLERANCE);
        if (cut > 0) {
          expect(cut).toBeGreaterThanOrEqual(cover / 2 - LINE_TOLERANCE);
          expect(cut).toBeLessThan(1.5 * cover);
        }
        expect(wide).toBe(cut > cover);
      }),
      cases(500),
    );
  });
});
