import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cases } from '../../fixtures/seeds.ts';
import { rectangle } from '../roof/index.ts';
import { inches } from '../units/index.ts';
import { type Piece, acrossAt, evenlyAlong, evenlyOn, fastenersAt, laid, notInCatalog, printWords, standUp, underlaymentRow } from './index.ts'; // prettier-ignore

describe('places along a run', () => {
  it('a 30 in run at most 12 in apart: four, 10 in from one to the next', () => {
    expect(evenlyAlong(30, 12)).toEqual([0, 10, 20, 30]);
  });

  it('both ends always, never farther apart than asked, never one more than that takes', () => {
    const run = fc.double({ min: 1, max: 20_000, noNaN: true });
    const spacing = fc.double({ min: 20, max: 900, noNaN: true });
    fc.assert(
      fc.property(run, spacing, (length, apart) => {
        const places = evenlyAlong(length, apart);
        expect(places[0]).toBe(0);
        expect(places.at(-1)).toBeCloseTo(length, 6);
        const gap = length / (places.length - 1);
        expect(gap).toBeLessThanOrEqual(apart + 0.1);
        expect(places.length === 2 || length / (places.length - 2) > apart - 0.1).toBe(true);
        places.slice(1).forEach((place, i) => expect(place - places[i]!).toBeCloseTo(gap, 6));
      }),
      cases(200),
    );
  });

  it('on shapes: an inch in from the ends of each stretch, and none between two of them', () => {
    const shapes = [rectangle(0, 0, inches(26), 100), rectangle(inches(40), 0, inches(42), 100)];
    const level = evenlyOn(shapes, { y: 50 }, inches(12)).map(([x, y]) => [x / inches(1), y]);
    expect(level.map(([x]) => Math.round(x! * 1000) / 1000)).toEqual([1, 13, 25, 40.5, 41.5]);
    expect(new Set(level.map(([, y]) => y))).toEqual(new Set([50]));
    // up a slope: the same on the shapes turned over
    const turned = shapes.map((shape) => shape.map(([x, y]) => [y, x] as const));
    expect(evenlyOn(turned, { x: 50 }, inches(12)).map(([x, y]) => [y / inches(1), x])).toEqual(level);
    expect(evenlyOn(shapes, { y: 101 }, inches(12))).toEqual([]);
  });
});

describe('what every family does', () => {
  const piece = (mark: string, row: number): Piece => ({
    mark,
    detail: 'W1',
    role: 'underlayment',
    covers: [],
    lay: underlaymentRow({ order: 0, slits: [] }, row, 0),
    liesOn: [],
    keys: ['underlayment.layers'],
  });

  it('a line lays its pieces at the place of the first, for its rules, unless it says otherwise', () => {
    const pieces = [piece('A', 1), piece('B', 2)];
    const line = laid(pieces, { stage: 'dry-in', action: ['x'], people: 1 });
    expect(line).toMatchObject({ pieces: ['A', 'B'], lay: pieces[0]!.lay, detail: 'W1', keys: ['underlayment.layers'] });
    expect(laid(pieces, { stage: 'dry-in', action: ['x'], people: 1, keys: [] }).keys).toEqual([]);
  });

  it('nothing to fasten with: no fastener', () => {
    const on = { piece: 'A', facet: 'north', keptDry: 'covered' } as const;
    expect(fastenersAt(undefined, on, [[1, 2]])).toEqual([]);
    expect(fastenersAt({ id: 'n' }, on, [[1, 2]])).toEqual([{ ...on, product: 'n', at: [1, 2] }]);
  });

  it('a face stands upright, meets the slope level, and what the catalog lacks is told by name', () => {
    const face = standUp('north', { id: 'north/F', detail: 'F', name: 'Front', outline: rectangle(10, 0, 30, 100) });
    expect(face).toMatchObject({ kind: 'wall', on: 'north', fall: [0, -1], angle: Math.PI / 2 });
    const joint = acrossAt('front', 'north', face.id, { x0: 10, x1: 30, y: 700 });
    expect(joint.onA).toEqual([[10, 700], [30, 700]]); // prettier-ignore
    expect(joint.onB).toEqual([face.outline[0], face.outline[1]]);
    const said = notInCatalog('Front', ['copper apron'], { id: 'F.apron', severity: 'leaks', fix: ['Add it.'] });
    expect(printWords(said.sentence, 'metric')).toBe('Front: the catalog has no copper apron.');
  });
});
