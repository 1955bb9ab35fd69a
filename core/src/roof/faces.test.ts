import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cases } from '../../fixtures/seeds.ts';
import { inches, toInches } from '../units/index.ts';
import {
  type Face,
  drainedInto,
  heightAt,
  joinFaces,
  measureLine,
  outlineArea,
  rectangle,
  toPlan,
  valleySection,
} from './index.ts';

const feet = (value: number): number => inches(12 * value);

/** Two slopes whose eaves meet at a square corner at the origin: one faces south, the other west. */
const corner = (m1: number, m2: number, rise: number): [Face, Face] => [
  {
    id: 'a',
    part: 'a',
    pitch: m1,
    place: { origin: [-20_000, 0], facing: 180, height: 0 },
    outline: rectangle(0, 0, 40_000, rise / m1),
  },
  {
    id: 'b',
    part: 'b',
    pitch: m2,
    place: { origin: [0, 20_000], facing: 270, height: 0 },
    outline: rectangle(0, 0, 40_000, rise / m2),
  },
];

describe('two slopes that meet', () => {
  it.each([
    // worked by hand: plan, true length and slope of the valley for R = 72 in
    [0.5, 0.5, 203.6, 216, 4.24],
    [0.5, 0.75, 173.1, 187.4, 4.99],
  ])('%f and %f with a rise of 72 in', (m1, m2, plan, length, twelfths) => {
    const [a, b] = joinFaces(corner(m1, m2, inches(72)));
    const edge = a!.edges.find(({ kind }) => kind === 'valley')!;
    expect(edge.other).toBe('b');
    expect(b!.edges.some(({ kind, other }) => kind === 'valley' && other === 'a')).toBe(true);
    const k = Math.hypot(1, m1);
    const line = measureLine(
      a!.face,
      toPlan(a!.face, [edge.from[0], edge.from[1] / k]),
      toPlan(a!.face, [edge.to[0], edge.to[1] / k]),
    );
    expect(toInches(line.planLength)).toBeCloseTo(plan, 1);
    expect(toInches(line.trueLength)).toBeCloseTo(length, 1);
    expect(line.slope * 12).toBeCloseTo(twelfths, 2);
  });

  it('has the V of the worked figures: z 3 and 3 at 6/12, 3.905 and 1.736 at 6/12 with 9/12', () => {
    const section = (m1: number, m2: number) => {
      const [a, b] = corner(m1, m2, inches(72));
      return valleySection(a, b, measureLine(a, [0, 0], [inches(72) / m2, inches(72) / m1]));
    };
    const even = section(0.5, 0.5);
    expect(even.zA).toBeCloseTo(3, 6);
    expect(even.zB).toBeCloseTo(3, 6);
    expect(even.sine).toBeCloseTo(1 / 3, 6);
    const uneven = section(0.5, 0.75);
    expect(Math.max(uneven.zA, uneven.zB)).toBeCloseTo(3.905, 3);
    expect(Math.min(uneven.zA, uneven.zB)).toBeCloseTo(1.736, 3);
    expect(uneven.sine).toBeCloseTo(0.384, 3);
  });

  it('keeps the higher surface everywhere and loses nothing, whatever the pitches and the eave angle', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.2, max: 1.2, noNaN: true }),
        fc.double({ min: 0.2, max: 1.2, noNaN: true }),
        fc.double({ min: 200, max: 340, noNaN: true }),
        fc.double({ min: 0, max: 600, noNaN: true }),
        (m1, m2, facing, height) => {
          const [first] = corner(m1, m2, feet(6));
          const other: Face = {
            id: 'b',
            part: 'b',
            pitch: m2,
            place: { origin: [feet(3), feet(25)], facing, height },
            outline: rectangle(0, 0, feet(40), feet(8)),
          };
          const joined = joinFaces([first, other]);
          for (const one of joined) {
            const their = joined.find((candidate) => candidate !== one)!;
            for (const { kind, from, to, other: id } of one.edges) {
              if (id === undefined) continue;
              expect(id).toBe(their.face.id);
              const k = Math.hypot(1, one.face.pitch);
              const middle = toPlan(one.face, [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2 / k]);
              // outlines are kept to a tenth of a millimetre, heights to half of one
              expect(Math.abs(heightAt(one.face, middle) - heightAt(their.face, middle))).toBeLessThan(0.5);
              expect(['valley', 'hip', 'change of pitch']).toContain(kind);
            }
          }
        },
      ),
      cases(60),
    );
  });
});

describe('a slope that hangs over another', () => {
  // a flat-lying main slope 40 ft wide, and one of a dormer 8 ft over the datum whose lowest 2 ft hang free
  const main: Face = {
    id: 'main',
    part: 'main',
    pitch: 0.25,
    place: { origin: [0, 0], facing: 180, height: 0 },
    outline: rectangle(0, 0, feet(40), feet(20)),
  };
  const dormer = (over?: Face['over']): Face => ({
    id: 'dormer',
    part: 'dormer',
    pitch: 0.5,
    place: { origin: [feet(10), feet(6)], facing: 180, height: feet(8) },
    outline: rectangle(0, 0, feet(10), feet(6)),
    ...(over ? { over } : {}),
  });
  const area = (outlines: readonly (readonly (readonly [number, number])[])[]) =>
    outlines.reduce((sum, outline) => sum + Math.abs(outlineArea(outline as Parameters<typeof outlineArea>[0])), 0);

  it('takes away only what stands under its walls; what hangs free shelters the covering that goes on under it', () => {
    const [flush] = joinFaces([main, dormer()]);
    const [hung] = joinFaces([main, dormer(rectangle(0, 0, feet(10), feet(2)))]);
    const k = Math.hypot(1, 0.25);
    const open = ({ outline, holes }: NonNullable<typeof flush>) => area([outline]) - area(holes);
    expect(flush!.sheltered).toEqual([]);
    // 10 ft × 6 ft level are gone, of which 10 ft × 2 ft stay under the overhang
    expect(open(flush!) / feet(1) ** 2).toBeCloseTo((40 * 20 - 60) * k, 2);
    expect(open(hung!) / feet(1) ** 2).toBeCloseTo((40 * 20 - 40) * k, 2);
    expect(area(hung!.sheltered) / feet(1) ** 2).toBeCloseTo(20 * k, 2);
  });

  it('on every pitch: the covering under it and its own walls together are what the whole would have taken', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 1, noNaN: true }),
        fc.double({ min: 0.2, max: 1, noNaN: true }),
        fc.double({ min: 0.1, max: 5.9, noNaN: true }),
        (m1, m2, over) => {
          const under: Face = { ...main, pitch: m1 };
          const stands: Face = { ...dormer(rectangle(0, 0, feet(10), feet(over))), pitch: m2 };
          const high: Face = { ...stands, place: { ...stands.place, height: feet(30) } };
          const [one] = joinFaces([under, high]);
          const taken = area([one!.outline]) - area(one!.holes) - area(one!.sheltered);
          expect(taken / feet(1) ** 2).toBeCloseTo((40 * 20 - 60) * Math.hypot(1, m1), 1);
        },
      ),
      cases(60),
    );
  });
});

it('drains into each valley of the Ringing House what was worked by hand: 109.6 ft² and 64.2 ft²', () => {
  const run = feet(15 + 1 / 3);
  const half = feet(11 + 1 / 3);
  const main: Face = {
    id: 'main',
    part: 'main',
    pitch: 0.5,
    place: { origin: [0, 0], facing: 180, height: 0 },
    outline: rectangle(0, 0, feet(44), run),
  };
  const west: Face = {
    id: 'west',
    part: 'cross',
    pitch: 0.5,
    place: { origin: [feet(30) - half, half], facing: 270, height: 0 },
    outline: rectangle(0, 0, half, half),
  };
  const east: Face = {
    id: 'east',
    part: 'cross',
    pitch: 0.5,
    place: { origin: [feet(30) + half, 0], facing: 90, height: 0 },
    outline: rectangle(0, 0, half, half),
  };
  const joined = joinFaces([main, west, east]);
  const squareFeet = (id: string, other: string): number => {
    const one = joined.find(({ face }) => face.id === id)!;
    const edge = one.edges.find((candidate) => candidate.other === other)!;
    return drainedInto(one, edge.from, edge.to) / feet(1) ** 2;
  };
  expect(squareFeet('main', 'west')).toBeCloseTo(109.6, 1);
  expect(squareFeet('main', 'east')).toBeCloseTo(109.6, 1);
  expect(squareFeet('west', 'main')).toBeCloseTo(64.2, 1);
  expect(
    joined
      .find(({ face }) => face.id === 'west')!
      .edges.map(({ kind }) => kind)
      .sort(),
  ).toEqual(['rake', 'ridge', 'valley']);
  expect(outlineArea(joined[0]!.outline) / Math.hypot(1, 0.5)).toBeCloseTo(feet(44) * run - half * half, -2);
});
