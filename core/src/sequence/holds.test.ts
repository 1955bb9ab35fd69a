import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoHouse, demoJob } from '../../fixtures/demo.ts';
import { anyFeatured } from '../../fixtures/roofs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { planFor } from '../../fixtures/planned.ts';
import type { Role } from '../assembly/index.ts';
import { newFeature } from '../document/index.ts';
import { type Plan } from '../plan/index.ts';
import type { RunLine } from './index.ts';

const linesOf = ({ runSheet }: Plan): RunLine[] => runSheet.flatMap(({ lines }) => lines);
const house = planFor(demoHouse());

/** What nobody can see any more once the next thing lies on it: of each detail that has it, the crew stops there and looks. */
const HIDDEN: readonly Role[] = [
  'iceBarrier',
  'valleySheet',
  'wallMembrane',
  'frameBand',
  'step',
  'kickOut',
  'cricket',
  'cornerPan',
  'throughWall',
  'topSeal',
];

describe('hold points', () => {
  it.each(HIDDEN)('stand at the %s of every detail of the Ringing House that has one', (role) => {
    const stops = linesOf(house).filter(({ holdPoint }) => holdPoint !== undefined);
    const details = new Set(house.pieces.filter((piece) => piece.role === role).map(({ detail }) => detail));
    expect(details.size).toBeGreaterThan(0);
    const marks = new Map(house.pieces.map((piece) => [piece.mark, piece]));
    for (const detail of details)
      expect(
        stops.some((line) => line.pieces.some((mark) => marks.get(mark)!.role === role && marks.get(mark)!.detail === detail)),
        detail,
      ).toBe(true);
  });

  it('the deck is seen before anything lies on it, on every slope', () => {
    const lines = linesOf(house);
    for (const { id } of house.planes) {
      const seen = lines.findIndex((line) => line.plane === id && line.holdPoint?.startsWith('deck sound'));
      const covered = lines.findIndex((line) => line.plane === id && line.pieces.some((mark) => /-(GA|IB|UL)/.test(mark)));
      expect(seen, id).toBeGreaterThanOrEqual(0);
      expect(seen, id).toBeLessThan(covered);
    }
  });

  it('stand at every joint cut in masonry, before anything is let into it', () => {
    const lines = linesOf(house);
    const counters = house.pieces.filter(({ role }) => role === 'counter').map(({ mark }) => mark);
    const hung = lines.flatMap((line, i) => (line.pieces.some((mark) => counters.includes(mark)) ? [{ line, i }] : []));
    expect(hung.length).toBeGreaterThan(3);
    for (const { line, i } of hung) {
      const cutting = lines[i - 1]!;
      expect([cutting.detail, cutting.holdPoint]).toEqual([line.detail, 'joints clean, bare and deep enough']);
    }
  });

  it('come after what is looked at and before what lies on it', () => {
    fc.assert(
      fc.property(anyFeatured, (job) => {
        const made = planFor(job);
        const lines = linesOf(made);
        const lineOf = new Map(lines.flatMap(({ pieces }, i) => pieces.map((mark) => [mark, i] as const)));
        lines.forEach(({ holdPoint, pieces }, i) => {
          if (holdPoint === undefined) return;
          for (const over of made.pieces.filter(({ liesOn }) => liesOn.some((mark) => pieces.includes(mark))))
            // what was there before the job is not laid
            if (!pieces.includes(over.mark) && lineOf.has(over.mark))
              expect(lineOf.get(over.mark), `${over.mark} over ${pieces[0]}`).toBeGreaterThan(i);
        });
      }),
      cases(12),
    );
  });
});

describe('the ids of run-sheet lines, by which what is done is remembered', () => {
  const ids = (made: Plan): string[] => linesOf(made).map(({ id }) => id);

  it('are each line’s own', () => {
    for (const made of [house, planFor(demoJob())]) expect(new Set(ids(made)).size).toBe(ids(made).length);
  });

  it('stay when something is added elsewhere: a pipe on the porch leaves every other line its id', () => {
    const job = demoHouse();
    const pipe = newFeature('pipe', job, { id: 'porch', eaveLength: 3000, slope: { length: 2500 } });
    Object.assign(pipe, { across: { from: 'left', distance: 1500 }, up: { kind: 'slope', length: 1300 } });
    job.features.push(pipe);
    const after = new Set(ids(planFor(job)));
    expect(ids(house).filter((id) => !after.has(id))).toEqual([]);
    expect([...after].filter((id) => !ids(house).includes(id)).every((id) => id.includes(pipe.id))).toBe(true);
  });

  it('stay when the job is named otherwise, or shown in other units', () => {
    const job = demoHouse();
    Object.assign(job, { name: 'Another', units: 'metric', note: 'x' });
    expect(ids(planFor(job))).toEqual(ids(house));
  });
});
