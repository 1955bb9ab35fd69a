import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cases } from '../../../core/fixtures/seeds.ts';
import type { Dimension } from '#core';
import { LINE, type Place, apart, drawn, spanOf, within } from './dimensionWords.ts';

/** A drawing of a tenth of a pixel to the millimetre, `y` up from 500. */
const place: Place = ([x, y]) => [x / 10, 500 - y / 10];
const mirrored: Place = ([x, y]) => [800 - x / 10, 500 - y / 10];
const dimension = (what: string, from: Dimension['from'], to: Dimension['to'], off: Dimension['off']): Dimension => ({
  what,
  piece: 'A-1',
  facet: 'south',
  from,
  to,
  off,
});

describe('where a dimension is drawn', () => {
  const upright = dimension('high', [1000, 0], [1000, 1000], [-1, 0]);

  it('its line stands off the way it is told, and its words on the far side of that', () => {
    const { line, x, anchor, words } = drawn(upright, '39 3/8"', place, 15);
    expect(line).toEqual([
      [85, 500],
      [85, 400],
    ]);
    expect([x, anchor, words]).toEqual([78, 'end', '39 3/8" high']);
  });

  it('on a mirrored face to the other hand', () => {
    const { line, x, anchor } = drawn(upright, '39 3/8"', mirrored, 15);
    expect(line[0][0]).toBe(715);
    expect([x, anchor]).toEqual([722, 'start']);
  });

  it('the words of a level one stand over it where it stands off upwards, else under it', () => {
    const over = drawn(dimension('level', [0, 0], [1000, 0], [0, 1]), '1"', place, 15);
    const under = drawn(dimension('wide', [0, 0], [1000, 0], [0, -1]), '1"', place, 15);
    expect([over.line[0][1], over.y]).toEqual([485, 480]);
    expect([under.line[0][1], under.y]).toEqual([515, 515 + LINE]);
  });

  it('the words of one shorter than they are stand past its end, of a gap before its beginning: never on what is measured', () => {
    const leg = drawn(dimension('leg on the roof', [1000, 0], [1180, 0], [0, -1]), '4"', place, 15);
    const gap = drawn(dimension('gap', [1000, 0], [1038, 0], [0, 0]), '3/8"', place, 15);
    const onMirrored = drawn(dimension('leg on the roof', [1000, 0], [1180, 0], [0, -1]), '4"', mirrored, 15);
    expect([leg.x, leg.anchor]).toEqual([118 + 7, 'start']);
    expect([gap.x, gap.anchor]).toEqual([100 - 7, 'end']);
    expect([onMirrored.x, onMirrored.anchor]).toEqual([682 - 7, 'end']);
  });
});

it('words never lie on one another, and none goes down', () => {
  const places = fc.tuple(fc.integer({ min: 0, max: 4000 }), fc.integer({ min: 0, max: 3000 }));
  const any = fc
    .tuple(
      fc.constantFrom('gap', 'on the roof', 'over the leg'),
      places,
      places,
      fc.constantFrom([-1, 0], [1, 0], [0, 1], [0, -1], [0, 0]),
    ) // prettier-ignore
    .map(([what, from, to, off]) => drawn(dimension(what, from, to, off as [number, number]), '3 13/16"', place, 15));
  fc.assert(
    fc.property(fc.array(any, { minLength: 2, maxLength: 9 }), (all) => {
      const placed = apart(all);
      expect(placed.length).toBe(all.length);
      placed.forEach((one, i) => {
        const before = all.find(({ dimension: own }) => own === one.dimension)!;
        expect(one.y).toBeLessThanOrEqual(before.y);
        const [from, to] = spanOf(one);
        for (const other of placed.slice(0, i)) {
          const [low, high] = spanOf(other);
          if (low < to && high > from) expect(Math.abs(other.y - one.y)).toBeGreaterThanOrEqual(LINE - 0.5);
        }
      });
    }),
    cases(200),
  );
});

it('nor on what is lettered beside them', () => {
  const gap = drawn(dimension('gap', [1000, 0], [1038, 0], [0, 0]), '3/8"', place, 15);
  const [from, to] = spanOf(gap);
  const [moved] = apart([gap], [{ words: 'SW1-01', x: (from + to) / 2, y: gap.y }]);
  expect(gap.y - moved!.y).toBeGreaterThanOrEqual(LINE - 1);
  expect(apart([gap], [{ words: 'SW1-01', x: to + 100, y: gap.y }])[0]!.y).toBe(gap.y);
});

it('nor off the drawing’s edge', () => {
  const at = (x: number) => drawn(dimension('past the corner', [x, 0], [x, 1000], [-1, 0]), '282 mm', place, 15);
  const [from] = spanOf(within(at(200), 600));
  expect(spanOf(at(200))[0]).toBeLessThan(0);
  expect(from).toBeGreaterThanOrEqual(0);
  expect(within(at(4000), 600).x).toBe(at(4000).x);
});
