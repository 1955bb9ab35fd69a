import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoHouse, demoLibrary } from '../../../core/fixtures/demo.ts';
import { anyCrossed, anyFeatured } from '../../../core/fixtures/roofs.ts';
import { cases } from '../../../core/fixtures/seeds.ts';
import { type FigurePanel, type Plan, planJob } from '#core';
import { foldsOf, folded, turnAcross } from './fold.ts';
import { framesOf } from './frames.ts';

const house = planJob(demoHouse(), demoLibrary);
const panelOf = (plan: Plan, detail: string): FigurePanel => plan.panels.find((panel) => panel.detail === detail)!;
const frames = (plan: Plan, panel: FigurePanel) => framesOf(plan, panel, foldsOf(plan, panel));
const words = (detail: string): string[] => frames(house, panelOf(house, detail)).map((frame) => frame.words);
const INCH = 25.4;

describe('a detail folded flat', () => {
  it('lays the faces of a chimney inwards from its edges, as high as they are', () => {
    const folds = foldsOf(house, panelOf(house, 'CH1'));
    const chimney = house.facets.filter(({ detail, kind }) => detail === 'CH1' && kind === 'wall');
    expect(chimney.length).toBeGreaterThanOrEqual(4);
    const at = (facet: string, x: number, y: number) => folds.get(facet)!([x, y]);
    // 8 ft up the slope: 5 in up the front is 5 in on from there, and what is higher than a foot stays at a foot
    expect(at('north/CH1F', 200 * INCH, 5 * INCH)).toEqual([200 * INCH, expect.closeTo(101 * INCH, 6)]);
    expect(at('north/CH1F', 200 * INCH, 40 * INCH)[1]).toBeCloseTo(108 * INCH, 6);
    // its left side folds to the right, its right side to the left, along the slope where the roof line runs
    const [left, right] = (['CH1L', 'CH1R'] as const).map((id) => {
      const joint = house.joints.find(({ b }) => b === `north/${id}`)!;
      const [foot] = joint.onB;
      return { x: joint.onA[0][0], on: at(`north/${id}`, foot[0], foot[1]), up: at(`north/${id}`, foot[0], foot[1] + 4 * INCH) };
    });
    expect(left!.on[0]).toBeCloseTo(left!.x, 6);
    expect(left!.up[0]).toBeGreaterThan(left!.x);
    expect(right!.up[0]).toBeLessThan(right!.x);
  });

  it('turns the other slope of a valley about its line, and keeps lengths', () => {
    const panel = panelOf(house, 'V1');
    const { other } = turnAcross(house, panel)!;
    const fold = foldsOf(house, panel).get(other.id)!;
    const joint = house.joints.find(({ kind, a, b }) => kind === 'valley' && [a, b].includes(other.id) && [a, b].includes(panel.plane))!; // prettier-ignore
    const [own, theirs] = joint.a === panel.plane ? [joint.onA, joint.onB] : [joint.onB, joint.onA];
    theirs.forEach((end, i) => {
      const [x, y] = fold(end);
      expect([x, y]).toEqual(own[i]!.map((value) => expect.closeTo(value, 3)));
    });
    const [p, q] = [fold([0, 0]), fold([300, 400])];
    expect(Math.hypot(q[0] - p[0], q[1] - p[1])).toBeCloseTo(500, 6);
  });
});

describe('the build-up of a detail', () => {
  it('of a chimney goes from membrane to counterflashing; what comes course after course is shown three times, then at once', () => {
    const told = words('CH1');
    const place = (text: string): number => told.findIndex((one) => one.startsWith(text));
    const order = ['wall membrane CH1F-M1', 'apron CH1F-A1', 'step flashing', 'cricket', 'counterflashing CH1F-R1'].map(place);
    expect(order.every((at) => at >= 0)).toBe(true);
    expect(order).toEqual(order.toSorted((a, b) => a - b));
    expect(told.filter((one) => one.startsWith('step flashing')).length).toBe(4);
  });

  it('of a valley begins with its sheet and goes on with the courses that run through before those that are cut', () => {
    const told = words('V1');
    expect(told[0]).toMatch(/^valley sheet V1-S1/);
    const through = told.findIndex((one) => one.includes('CW-C01'));
    const cut = told.findIndex((one) => one.includes('S-C01'));
    expect(through).toBeGreaterThan(0);
    expect(cut).toBeGreaterThan(through);
    expect(told.some((one) => one.includes('CE-'))).toBe(false);
  });
});

it('on any roof: every piece of a detail that is in sight comes in once, in the order of the lines', () => {
  fc.assert(
    fc.property(fc.oneof(anyFeatured, anyCrossed), (job) => {
      const plan = planJob(job, demoLibrary);
      const lineOf = new Map(plan.runSheet.flatMap(({ lines }) => lines.flatMap(({ pieces, whole }) => pieces.map((mark) => [mark, whole] as const)))); // prettier-ignore
      for (const panel of plan.panels) {
        const folds = foldsOf(plan, panel);
        const all = framesOf(plan, panel, folds);
        const fresh = all.flatMap((frame) => frame.fresh.map(({ mark }) => mark));
        expect(new Set(fresh).size, panel.title).toBe(fresh.length);
        const { x0, x1, y0, y1 } = panel.window;
        const inSight = plan.pieces.filter(
          ({ mark, detail, covers }) =>
            detail === panel.detail &&
            lineOf.has(mark) &&
            folded(folds, covers).some((outline) => outline.some(([x, y]) => x > x0 && x < x1 && y > y0 && y < y1)),
        );
        for (const { mark } of inSight) expect(fresh, `${panel.title}: ${mark}`).toContain(mark);
        const lasts = all.map(({ lines }) => lines.at(-1)!.whole);
        expect(lasts, panel.title).toEqual(lasts.toSorted((a, b) => a - b));
        for (const { lines, fresh: pieces } of all) {
          const whole = new Set(lines.map((line) => line.whole));
          for (const { mark } of pieces) expect(whole.has(lineOf.get(mark)!), mark).toBe(true);
        }
      }
    }),
    cases(15),
  );
});
