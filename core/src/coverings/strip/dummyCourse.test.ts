import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoFile, demoHouse } from '../../../fixtures/demo.ts';
import { anyFeatured, feature, slopeWith } from '../../../fixtures/roofs.ts';
import { cases } from '../../../fixtures/seeds.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { type Fastener, type Piece, printWords } from '../../assembly/index.ts';
import type { FeatureOf, Job } from '../../document/index.ts';
import { type Plan, tallyOf } from '../../plan/index.ts';
import { bounds } from '../../roof/index.ts';
import { inches, toInches } from '../../units/index.ts';
import { dummyEdges } from './dummyCourse.ts';

const WIDTH = inches(39.375);
const over = (...corners: number[]) => ({ corners: corners.map(inches), past: inches(8) });
const inInches = (xs: readonly number[]): number[] => xs.map((x) => Math.round(toInches(x) * 1e6) / 1e6);

const doubled = (change: Partial<FeatureOf<'skylight'>> = {}, more = 0): Job =>
  slopeWith(['skylight', ...Array.from({ length: more }, () => 'skylight' as const)], (features) =>
    features.forEach((one) =>
      Object.assign(one, { flashing: 'site-bent', width: inches(30), height: inches(40), headCourse: 'two layers', ...change }),
    ),
  );
const dummies = ({ pieces }: Plan): Piece[] => pieces.filter(({ role }) => role === 'dummyCourse');
const box = ({ covers }: Piece) => bounds(covers.flatMap(({ outline }) => outline));
const nailsOf = ({ fasteners }: Plan, mark: string): Fastener[] => fasteners.filter(({ piece }) => piece === mark);
/** The course that lies over a dummy course, on one slope. */
const overIt = ({ pieces }: Plan, dummy: Piece): Piece =>
  pieces.find(
    ({ role, course, covers }) => role === 'course' && course === dummy.course && covers[0]!.facet === dummy.covers[0]!.facet,
  )!;

describe('the lower of two layers over a head', () => {
  it('30 1/2 in of frame and 8 in past each side: two shingles, the joint over the middle', () => {
    expect(inInches(dummyEdges(over(66, 96.5), WIDTH, []))).toEqual([41.875, 81.25, 120.625]);
  });

  it('goes 6 in aside of a joint of the layer over it, and no nearer than 8 in to a corner', () => {
    expect(Math.abs(inInches(dummyEdges(over(66, 96.5), WIDTH, [inches(81.25)]))[1]! - 81.25)).toBe(6);
    // the joint over it stands 2 in left of the middle: 4 in to the right is enough
    expect(inInches(dummyEdges(over(66, 96.5), WIDTH, [inches(79.25)]))[1]).toBe(85.25);
  });

  it('22 1/2 in of frame: one shingle reaches, 8 7/16 in past each side', () => {
    expect(inInches(dummyEdges(over(60, 82.5), WIDTH, []))).toEqual([51.5625, 90.9375]);
  });

  it('of any frame: joints off the corners and off those over it, past both sides, one shingle more than the fewest at most', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 16.5, max: 70, noNaN: true }),
        fc.double({ min: 0, max: 39.375, noNaN: true }),
        (frame, from) => {
          const [x0, x1] = [100, 100 + frame];
          const upper = Array.from({ length: 6 }, (_, i) => from + i * 39.375).filter((x) =>
            [x0, x1].every((corner) => Math.abs(x - corner) >= 8),
          );
          const edges = inInches(dummyEdges(over(x0, x1), WIDTH, upper.map(inches)));
          expect(edges[0]).toBeLessThanOrEqual(x0 - 8 + 1e-6);
          expect(edges.at(-1)).toBeGreaterThanOrEqual(x1 + 8 - 1e-6);
          expect(edges.length - 1).toBeLessThanOrEqual(Math.ceil((frame + 16) / 39.375) + 1);
          for (const joint of edges.slice(1, -1))
            for (const corner of [x0, x1]) expect(Math.abs(joint - corner)).toBeGreaterThanOrEqual(8 - 1e-6);
          for (const edge of edges) for (const x of upper) expect(Math.abs(edge - x)).toBeGreaterThanOrEqual(6 - 1e-6);
        },
      ),
      cases(200),
    );
  });
});

describe('a head course in two layers', () => {
  const plan = planFor(doubled());
  const [dummy] = dummies(plan) as [Piece];

  it('is laid after the head flashing, before its own course, and is said and ordered', () => {
    const place = (mark: string): number => plan.pieces.findIndex((one) => one.mark === mark);
    expect(place('SK1-HD')).toBeLessThan(place(dummy.mark));
    expect(place(dummy.mark)).toBeLessThan(place(overIt(plan, dummy).mark));
    const line = plan.runSheet.flatMap(({ lines }) => lines).find(({ pieces }) => pieces.includes(dummy.mark))!;
    expect(printWords(line.action, 'imperial')).toMatch(
      /^Skylight 1: lay dummy course SK1-DC under course \d+, 2 shingles, .* from the left end, joint at .*; keep the joints of course \d+ 6" from its own\.$/,
    );
    expect(printWords(line.fasteners!, 'imperial')).toMatch(/^\d+ nails, high, /);
    const one = planFor(doubled({ headCourse: 'one layer' }));
    const shingles = (made: Plan): number =>
      made.pieces.reduce(
        (sum, { product, units }) => sum + (product === dummy.product ? (units?.whole ?? 0) + (units?.parts.length ?? 0) : 0),
        0,
      );
    expect(shingles(plan)).toBeGreaterThan(shingles(one));
  });

  it('has its nails an inch or more above the head flashing, under the next course, and clear of the joints over it', () => {
    const head = plan.pieces.find(({ mark }) => mark === 'SK1-HD')!;
    const top = Math.max(
      ...head.covers.filter(({ facet }) => !facet.includes('/')).flatMap(({ outline }) => outline.map(([, y]) => y)),
    );
    const own = nailsOf(plan, dummy.mark);
    expect(own.length).toBeGreaterThanOrEqual(8);
    const next = plan.pieces.find(({ role, course }) => role === 'course' && course === dummy.course! + 1)!;
    const { x0, x1 } = bounds(head.covers[0]!.outline);
    for (const { at } of own) {
      if (at[0] > x0 && at[0] < x1) expect(at[1]).toBeGreaterThanOrEqual(top + inches(1) - 1e-6);
      expect(at[1]).toBeGreaterThan(box(next).y0);
      for (const joint of overIt(plan, dummy).joints!)
        expect(Math.abs(at[0] - joint)).toBeGreaterThanOrEqual(inches(2.25) - 1e-6);
    }
  });

  it('two frames 10 in apart share one, with no joint between them', () => {
    const job = doubled({}, 1);
    Object.assign(job.features[0]!, {
      across: { from: 'left', distance: inches(40) },
      up: { kind: 'slope', length: inches(50) },
    });
    Object.assign(job.features[1]!, {
      across: { from: 'left', distance: inches(80) },
      up: { kind: 'slope', length: inches(50) },
    });
    const made = planFor(job);
    expect(dummies(made).map(({ mark }) => mark)).toEqual(['SK1-DC']);
    const [one] = dummies(made) as [Piece];
    expect(toInches(box(one).x0)).toBeLessThanOrEqual(32);
    expect(toInches(box(one).x1)).toBeGreaterThanOrEqual(118);
    for (const joint of one.joints!)
      for (const corner of [40, 70, 80, 110]) expect(Math.abs(toInches(joint) - corner)).toBeGreaterThanOrEqual(8 - 1e-6);
  });

  it('the house’s two frames, 29 1/2 in apart, meet half-way, and the roof sheds', () => {
    const job = demoHouse();
    for (const one of job.features) if (one.kind === 'skylight') one.headCourse = 'two layers';
    const made = planFor(job);
    const [west, east] = dummies(made).map(box) as [ReturnType<typeof box>, ReturnType<typeof box>];
    expect(inInches([west.x0, west.x1, east.x0])).toEqual([41.875, expect.closeTo(111.25, 6), expect.closeTo(111.25, 6)]);
    expect(tallyOf(made)).toMatchObject({ leaks: 0, breaks: 0 });
  });

  it('on slates there is none: they go over a head in bond', () => {
    const job = demoFile('keepers-cottage-porch');
    const skylight = structuredClone(feature(doubled().features, 'skylight'));
    Object.assign(skylight, {
      plane: job.parts[0]!.planes[0]!.id,
      width: inches(14),
      height: inches(20),
      across: { from: 'left', distance: inches(20) },
      up: { kind: 'slope', length: inches(40) },
    });
    job.features.push(skylight);
    const made = planFor(job);
    expect(made.pieces.some(({ detail }) => detail === 'SK1')).toBe(true);
    expect(dummies(made)).toEqual([]);
    expect(made.findings.filter(({ id }) => id === 'SK1.head')).toEqual([]);
  });

  it('on any roof: no joint of either layer within 8 in of a corner, the layers’ own 6 in apart, and it sheds', () => {
    let seen = 0;
    fc.assert(
      fc.property(anyFeatured, (job) => {
        const skylight = job.features.find((one) => one.kind === 'skylight');
        fc.pre(skylight?.kind === 'skylight' && skylight.headCourse === 'two layers');
        const made = planFor(job);
        const [own] = dummies(made);
        fc.pre(own !== undefined);
        seen++;
        const left = skylight!.across.from === 'left' ? skylight!.across.distance : 0;
        const upper = overIt(made, own!).joints!;
        for (const joint of own!.joints!)
          for (const x of upper) expect(Math.abs(joint - x)).toBeGreaterThanOrEqual(inches(6) - 1e-3);
        for (const joint of [...own!.joints!, ...upper])
          for (const corner of [left, left + skylight!.width])
            expect(Math.abs(joint - corner)).toBeGreaterThanOrEqual(inches(8) - 1e-3);
        // nor a nail of the lower layer where a joint of the upper lets water down to it
        for (const { at } of nailsOf(made, own!.mark))
          for (const x of upper) expect(Math.abs(at[0] - x)).toBeGreaterThanOrEqual(inches(2.25) - 1e-3);
        expect(tallyOf(made).leaks).toBe(0);
      }),
      cases(12),
    );
    expect(seen).toBeGreaterThan(4);
  });
});
