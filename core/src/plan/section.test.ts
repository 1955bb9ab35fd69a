import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoFile, demoHouse } from '../../fixtures/demo.ts';
import { anyCrossed, anyDormered, anyFeatured } from '../../fixtures/roofs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { planFor } from '../../fixtures/planned.ts';
import { compareLay } from '../assembly/index.ts';
import { slopeFactor } from '../roof/index.ts';
import { inches } from '../units/index.ts';
import { type Plan, type Section, type SectionSurface, sectionsOf } from './index.ts';

const house = planFor(demoHouse());
const sections = (plan: Plan, detail: string): Section[] =>
  sectionsOf(
    plan,
    plan.panels.find((panel) => panel.detail === detail)!,
  );
const surface = ({ surfaces }: Section, facet: string): SectionSurface => surfaces.find((one) => one.facet === facet)!;
const layers = (section: Section, facet: string, mark: string) =>
  surface(section, facet).layers.filter((layer) => layer.mark === mark);
const extent = (section: Section, facet: string, mark: string): [number, number] => {
  const all = layers(section, facet, mark);
  return [Math.min(...all.map(({ from }) => from)), Math.max(...all.map(({ to }) => to))];
};

describe('sections through the details of the house', () => {
  it('up the slope through a chimney: apron on course and face, counterflashing let in over its leg', () => {
    const [up] = sections(house, 'CH1');
    expect(up!.title).toBe('up the slope');
    // 8 ft up, an apron of 4 in: from 7 ft 8 in to the face, and 5 in up it
    expect(extent(up!, 'north', 'CH1F-A1')).toEqual([expect.closeTo(inches(92), 3), expect.closeTo(inches(96), 3)]);
    expect(extent(up!, 'north/CH1F', 'CH1F-A1')).toEqual([expect.closeTo(0, 6), expect.closeTo(inches(5), 6)]);
    const [apron] = layers(up!, 'north/CH1F', 'CH1F-A1');
    const counter = layers(up!, 'north/CH1F', 'CH1F-R1');
    expect(counter.some(({ letIn }) => letIn)).toBe(true);
    // the membrane behind is stuck to the wall, not let into it
    expect(layers(up!, 'north/CH1F', 'CH1F-M1').some(({ letIn }) => letIn)).toBe(false);
    expect(counter[0]!.level).toBeGreaterThan(apron!.level);
    expect(up!.marks.indexOf('CH1F-A1')).toBeGreaterThan(up!.marks.indexOf('N-C17'));
    expect(up!.marks.indexOf('CH1F-R1')).toBeGreaterThan(up!.marks.indexOf('CH1F-A1'));
    // the face stands where the roof is 8 ft up it, plumb
    const { start, run } = surface(up!, 'north/CH1F');
    expect(run).toEqual([0, 1]);
    expect(Math.hypot(...start)).toBeCloseTo(inches(96), 6);
    expect(start[1] / start[0]).toBeCloseTo(0.5, 6);
    // no deck within the chimney
    expect(surface(up!, 'north').ground.some(([from, to]) => from < inches(100) && to > inches(100))).toBe(false);
  });

  it('through a hot flue: deck and sheets stop at its hole, 12 in across; the flue in it is 8 in', () => {
    const [up, across] = sections(house, 'P2');
    for (const [one, along] of [
      [up!, slopeFactor(0.5)],
      [across!, 1],
    ] as const) {
      const { pipes, ground } = surface(one, 'north');
      expect(pipes).toHaveLength(1);
      const [from, to] = pipes[0]!;
      expect(to - from).toBeCloseTo(inches(8) * along, 6);
      const [below, above] = [ground.findLast(([, end]) => end < from)!, ground.find(([start]) => start > to)!];
      expect(above[0] - below[1]).toBeCloseTo(inches(12) * along, 6);
    }
  });

  it('across beside a wall: 4 in of step on the roof under the course, the next one over it, and both up the wall behind the boards', () => {
    const across = sections(house, 'SW1')[1]!;
    expect(across.title).toBe('across the slope');
    for (const mark of ['SW1-06', 'SW1-07']) expect(extent(across, 'north', mark)[1]).toBeCloseTo(inches(4), 6);
    const levelAt = (mark: string): number =>
      layers(across, 'north', mark).find(({ from, to }) => from < inches(2) && to > inches(2))!.level;
    const levels = ['SW1-06', 'N-C06', 'SW1-07'].map(levelAt);
    expect(levels).toEqual(levels.toSorted((a, b) => a - b));
    // plumb, so the 4 in square to the roof are the longer by the slope factor
    const [, top] = extent(across, 'north/SW1', 'SW1-07');
    expect(top).toBeLessThanOrEqual(inches(4) * slopeFactor(0.5) + 1e-6);
    expect(top).toBeGreaterThan(inches(4));
    expect(layers(across, 'north/SW1', 'SW1-CL')[0]!.from).toBeGreaterThan(inches(1));
  });

  it('through a pipe: the hole is its diameter across and longer up the slope, and the collar lies under the base', () => {
    const [up, across] = sections(house, 'P1');
    const hole = (one: Section): number => surface(one, 'north').pipes.reduce((sum, [a, b]) => sum + b - a, 0);
    expect(hole(across!)).toBeCloseTo(inches(3.5), 0);
    expect(hole(up!)).toBeCloseTo(inches(3.5) * slopeFactor(0.5), 0);
    expect(up!.marks.indexOf('P1-B')).toBeGreaterThan(up!.marks.indexOf('P1-M1'));
  });

  it('square to a valley: both slopes rise as steeply, the sheet lies half on each under everything', () => {
    const [square] = sections(house, 'V1');
    const [a, b] = square!.surfaces;
    expect(a!.run[1]).toBeCloseTo(b!.run[1], 6);
    expect(a!.run[0]).toBeCloseTo(-b!.run[0], 6);
    for (const { facet } of square!.surfaces) expect(extent(square!, facet, 'V1-S1')[1]).toBeCloseTo(inches(18), 0);
    expect(square!.marks[0]).toBe('V1-S1');
  });

  it('across the slates beside masonry: soaker, slate and the next soaker', () => {
    const porch = planFor(demoFile('keepers-cottage-porch'));
    const across = sections(porch, 'SW1').find(({ title }) => title === 'across the slope')!;
    const soakers = across.marks.filter((mark) => porch.pieces.find((piece) => piece.mark === mark)!.role === 'soaker');
    expect(soakers.length).toBe(2);
  });
});

it('on any roof: what a section shows lies there, in the order of laying, with nothing between one layer and the next', () => {
  fc.assert(
    fc.property(fc.oneof(anyFeatured, anyDormered, anyCrossed), (job) => {
      const plan = planFor(job);
      const pieces = new Map(plan.pieces.map((piece) => [piece.mark, piece]));
      for (const panel of plan.panels)
        for (const { title, surfaces, marks } of sectionsOf(plan, panel)) {
          const lays = marks.map((mark) => pieces.get(mark)!.lay);
          expect(lays.every((lay, i) => i === 0 || compareLay(lays[i - 1]!, lay) <= 0)).toBe(true);
          for (const { facet, layers: all, shown, run } of surfaces) {
            expect(Math.hypot(...run)).toBeCloseTo(1, 6);
            for (const { mark, number, from, to, level } of all) {
              const where = `${panel.title}, ${title}, ${mark} on ${facet}`;
              expect(marks[number - 1], where).toBe(mark);
              expect(
                pieces.get(mark)!.covers.some((cover) => cover.facet === facet),
                where,
              ).toBe(true);
              expect(from >= shown[0] - 1e-6 && to <= shown[1] + 1e-6 && to > from, where).toBe(true);
              const at = (from + to) / 2;
              const here = all.filter((other) => other.from < at && other.to > at).map((other) => other.level);
              expect(
                here.toSorted((a, b) => a - b),
                where,
              ).toEqual(here.map((_, i) => i));
              expect(here).toContain(level);
            }
          }
        }
    }),
    cases(20),
  );
});
