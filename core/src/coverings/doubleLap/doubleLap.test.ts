import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoFile, demoLibrary } from '../../../fixtures/demo.ts';
import { cases } from '../../../fixtures/seeds.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { type Piece, printWords } from '../../assembly/index.ts';
import type { CoveringOf, Job } from '../../document/index.ts';
import { type WhatIf, applyWhatIfs, checkDrainage, measureReserve } from '../../drainage/index.ts';
import { type Plan, checkJob } from '../../plan/index.ts';
import { bounds } from '../../roof/index.ts';
import { unitsOf } from '../rows.ts';
import { halfBond } from './bond.ts';
import { fillSlope, largestGauge } from './layOut.ts';
import { lengthsAt } from './slate.ts';

const porch = (change: (job: Job, slates: CoveringOf<'doubleLap'>) => void = () => undefined): Job => {
  const job = demoFile('keepers-cottage-porch');
  change(job, job.coverings[0] as CoveringOf<'doubleLap'>);
  return job;
};
const plan = (job = porch()): Plan => planFor(job);
const ofRole = ({ pieces }: Plan, role: Piece['role']): Piece[] => pieces.filter((piece) => piece.role === role);
const CHECK = { plane: 'porch', stage: 'finished' } as const;

describe('lengths that follow from the lap (trade practice)', () => {
  it.each([
    ['slate 500 × 250, lap 90, 3200 under an apron of 150', 500, 90, 3200, 50, 150, 16, 193.75, 112.5, 306.25, 311.25],
    ['plain tile 265 × 165, lap 65, 4000 under a ridge of 75', 265, 65, 4000, 50, 75, 40, 99.375, 66.25, 165.625, 170.625],
  ])('%s', (_, height, headlap, slope, overhang, covered, courses, gauge, lap, underEave, hole) => {
    const filled = fillSlope(slope, overhang, covered, largestGauge(height, headlap));
    expect(filled.courses).toBe(courses);
    expect(filled.gauge).toBeCloseTo(gauge, 6);
    expect(height - 2 * filled.gauge).toBeCloseTo(lap, 6);
    expect(lengthsAt(height, filled.gauge).underEave).toBeCloseTo(underEave, 6);
    expect(lengthsAt(height, filled.gauge).hole).toBeCloseTo(hole, 6);
  });

  it('never opens the least headlap, and never lays a course more than it takes', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 500, max: 12_000, noNaN: true }),
        fc.double({ min: 0, max: 80, noNaN: true }),
        fc.double({ min: 0, max: 250, noNaN: true }),
        fc.double({ min: 60, max: 120, noNaN: true }),
        (slope, overhang, covered, headlap) => {
          const largest = largestGauge(500, headlap);
          const { courses, gauge } = fillSlope(slope, overhang, covered, largest);
          expect(gauge).toBeLessThanOrEqual(largest + 0.4);
          expect(courses * gauge).toBeCloseTo(slope + overhang - covered, 6);
          if (courses > 1) expect((slope + overhang - covered) / (courses - 1)).toBeGreaterThan(largest);
        },
      ),
    );
  });
});

describe('half bond', () => {
  it('joints stand half a slate from those of the next course wherever the stretch begins and ends, and nothing is half a slate or less', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 3000, noNaN: true }),
        fc.double({ min: 501, max: 6000, noNaN: true }),
        fc.integer({ min: 0, max: 30 }),
        (from, length, n) => {
          const rows = [n, n + 1].map((course) => halfBond([from, from + length], course, 250));
          for (const x of rows[0]!.joints)
            for (const y of rows[1]!.joints) expect(Math.abs(x - y)).toBeGreaterThanOrEqual(125 - 1e-6);
          for (const row of rows)
            for (const [a, b] of unitsOf({ rows: [row] })) {
              expect(b - a).toBeGreaterThanOrEqual(125);
              expect(b - a).toBeLessThanOrEqual(375 + 1.5);
            }
        },
      ),
      cases(100),
    );
  });

  it('on 2400: odd courses whole from the verge, even ones a slate and a half at either end', () => {
    const widths = (n: number): number[] => unitsOf({ rows: [halfBond([0, 2400], n, 250)] }).map(([a, b]) => b - a);
    expect(widths(1)).toEqual([...Array.from({ length: 9 }, () => 250), 150]);
    expect(widths(2)).toEqual([375, ...Array.from({ length: 7 }, () => 250), 275]);
    expect(widths(0)).toEqual(widths(2));
  });
});

describe('the slate porch', () => {
  const made = plan();

  it('is 16 courses at 193.75, the last tail where the apron comes down', () => {
    expect(made.planes[0]!.lines).toMatchObject({ count: 16, first: -50 });
    expect(made.planes[0]!.lines.gauge).toBeCloseTo(193.75, 6);
    const last = ofRole(made, 'course').at(-1)!;
    expect(bounds(last.covers[0]!.outline).y0 + 193.75).toBeCloseTo(3200 - 150, 3);
  });

  it('its soakers: one a course, 331.25 long, 75 up and 100 under, 25 of it turned down, no nail in any', () => {
    const soakers = ofRole(made, 'soaker');
    expect(soakers.map(({ course }) => course)).toEqual(Array.from({ length: 16 }, (_, i) => i + 1));
    for (const { flat, covers, mark } of soakers) {
      const { x1, y1 } = bounds(flat!.outline);
      expect([x1, y1]).toEqual([175, expect.closeTo(331.25, 3)]);
      expect(flat!.bends.map(({ direction }) => direction)).toEqual(['up', 'down']);
      const lain = bounds(covers[0]!.outline);
      expect([lain.x1 - lain.x0, lain.y1 - lain.y0]).toEqual([expect.closeTo(100, 6), expect.closeTo(306.25, 3)]);
      expect(made.fasteners.filter(({ piece }) => piece === mark)).toEqual([]);
    }
  });

  it('every slate has two nails, just above the head of the slate two courses down', () => {
    for (const { mark, course, covers } of ofRole(made, 'course')) {
      const nails = made.fasteners.filter(({ piece }) => piece === mark);
      const tail = bounds(covers[0]!.outline).y0;
      expect(nails.length, mark).toBe(2 * (course! % 2 === 1 ? 10 : 9));
      for (const { at } of nails) expect(at[1] - tail, mark).toBeCloseTo(311.25, 3);
    }
  });

  it('orders what it takes: 143 slates, 18 and a half, 16 battens of 2.4 m, soakers from one roll of lead', () => {
    const ordered = (product: string) => made.order.find((line) => line.product === product);
    // 8 odd courses of 10, 8 even ones and the under-eave course of 7 beside two slates and a half
    expect(ordered('blackfell-500')).toMatchObject({ needed: 8 * 10 + 9 * 7 });
    expect(ordered('blackfell-500-half')).toMatchObject({ needed: 2 * 9 });
    expect(ordered('fenwick-batten')).toMatchObject({ needed: 8, unit: 'lengths' });
    expect(ordered('pellwick-lead-3')).toMatchObject({ needed: 1, unit: 'sheets' });
    expect(made.order.map(({ product }) => product)).not.toContain('tollen-standard');
  });

  it('is told course by course, nothing assumed, nothing found', () => {
    expect(made.findings).toEqual([]);
    const told = made.runSheet.flatMap(({ lines }) => lines).map(({ action }) => printWords(action, 'metric'));
    expect(told.some((line) => line.includes('cut to 306 mm long'))).toBe(true);
    expect(told.filter((line) => line.includes('its head turned down'))).toHaveLength(16);
  });

  it('sheds, with the headlap in hand', () => {
    expect(checkDrainage(made, CHECK)).toMatchObject({ verdict: 'clean', problems: [] });
    expect(measureReserve(made, CHECK).reach!.distance).toBeCloseTo(112.5, 3);
  });

  it.each<[string, WhatIf, string]>([
    ['one left out', { kind: 'leave-out', piece: 'SW1-06' }, 'caught by the underlayer'],
    ['two swapped', { kind: 'swap', piece: 'SW1-06', other: 'SW1-07' }, 'slow leak'],
    ['one pulled up past the one above', { kind: 'shift', piece: 'SW1-06', across: 0, up: 150 }, 'caught by the underlayer'],
    ['one pulled off the wall', { kind: 'shift', piece: 'SW1-06', across: -40, up: 0 }, 'caught by the underlayer'],
    ['one nailed low', { kind: 'nail', piece: 'SW1-06', facet: 'porch', at: [2370, 976] }, 'slow leak'],
    ['one long piece', { kind: 'one-long-piece', wall: 'SW1' }, 'wet'],
  ])('soakers: %s comes out wet', (_, whatIf, verdict) => {
    const { assembly, ignored } = applyWhatIfs(made, [whatIf]);
    expect(ignored).toEqual([]);
    expect(checkDrainage(assembly, CHECK).verdict).toBe(verdict);
  });
});

describe('other ways to lay it', () => {
  it('a gauge that opens the headlap, a slate and a half of another height, a ridge of another covering are refused by their field', () => {
    const problems = (change: Parameters<typeof porch>[0]): string[] =>
      checkJob(porch(change), demoLibrary).map(({ path, message }) => `${path}: ${message}`);
    expect(problems((_, slates) => void (slates.gauge = 210))).toEqual([
      'coverings.0.gauge: Gauge: 210 mm is more than the 205 mm that leaves Slate 500 × 250 mm a headlap of 90 mm.',
    ]);
    expect(problems((_, slates) => void (slates.slateAndHalf = 'brindlecombe-plain-half'))).toEqual([
      'coverings.0.slateAndHalf: Slate and a half: Tile and a half 265 × 248 mm is not Slate 500 × 250 mm half as wide again.',
    ]);
    expect(problems((_, slates) => void (slates.ridge = 'marrowgate-cap'))).toEqual([
      'coverings.0.ridge: Ridge: Ridge cap, two-layer is not made for slates or plain tiles.',
    ]);
    expect(problems((job) => void (job.parts[0]!.pitch = { degrees: 20 }))[0]).toMatch(
      /^parts\.0\.pitch: Porch, pitch: 20° is under/,
    );
  });

  it('a gauge of one’s own is laid as said, from the eave up, and stays within the headlap', () => {
    const { lines } = plan(porch((_, slates) => void (slates.gauge = 180))).planes[0]!;
    expect([lines.gauge, lines.count]).toEqual([180, Math.ceil((3200 + 50 - 150) / 180)]);
  });

  it('without a slate and a half it is told', () => {
    const made = plan(porch((_, slates) => void (slates.slateAndHalf = null)));
    expect(made.findings.map(({ id }) => id)).toContain('covering.leastPiece');
  });

  it('on a deck without battens: no battens, the self-adhered sheet at the wall', () => {
    const made = plan(porch((_, slates) => void (slates.batten = null)));
    expect(made.order.map(({ product }) => product)).not.toContain('fenwick-batten');
    expect(ofRole(made, 'wallMembrane').every(({ product }) => product === 'tollen-standard')).toBe(true);
    expect(checkDrainage(made, CHECK).verdict).toBe('clean');
  });

  it('plain tiles: 40 courses on 4000 under a ridge, nothing wet', () => {
    const made = plan(
      porch((job, slates) => {
        Object.assign(slates, { slate: 'brindlecombe-plain', slateAndHalf: 'brindlecombe-plain-half' });
        Object.assign(job.parts[0]!, { slope: { kind: 'slope', length: 4000 } });
        job.parts[0]!.planes[0]!.top = 'ridge';
        job.features = [];
        job.deviations = [{ key: 'covering.headlap', sense: 'atLeast', value: 65, unit: 'mm', reason: 'plain tiles' }];
      }),
    );
    // the angle ridge covers 150: (4000 + 50 − 150) / 100
    expect(made.planes[0]!.lines).toMatchObject({ count: 39, gauge: expect.closeTo(100, 6) as number });
    expect(checkDrainage(made, CHECK).verdict).toBe('clean');
  });
});
