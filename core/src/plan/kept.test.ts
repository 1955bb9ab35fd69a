import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoHouse, demoLibrary, stripOf } from '../../fixtures/demo.ts';
import { anyCrossed, anyDormered, anyFeatured } from '../../fixtures/roofs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { type Job, possibleRepairs } from '../document/index.ts';
import { Kept, inches } from '../units/index.ts';
import { keptPlans, planJob } from './index.ts';

const plan = (job: Job, kept?: Parameters<typeof planJob>[2]): string => JSON.stringify(planJob(job, demoLibrary, kept));

/** Changes a crew makes one after another, each to something else that a plan is worked out from. */
const CHANGES: readonly ((job: Job) => void)[] = [
  (job) => void (stripOf(job).metal = stripOf(job).metal === 'copper' ? 'aluminium' : 'copper'),
  (job) => void (stripOf(job).firstButt += 1),
  (job) => void (job.site.rainPerHour *= 1.5),
  (job) => void (job.site.iceDams = !job.site.iceDams),
  (job) => void (stripOf(job).underlayers.longestStrip = inches(200)),
  (job) => void (stripOf(job).deckThickness += 2),
  (job) => void (job.parts[0]!.overhang += inches(2)),
  (job) => void job.features.splice(0, 1),
  (job) => job.parts.forEach((part) => part.planes.forEach(({ walls }) => walls.forEach((wall) => void (wall.height += 100)))),
  (job) =>
    job.features.forEach(
      (feature) => feature.kind !== 'headwall' && void (feature.up = { ...feature.up, length: feature.up.length + 5 }),
    ),
  (job) => Object.values(job.valleys).forEach((valley) => void (valley.style = 'open')),
  (job) => void job.packs.pop(),
  (job) => void (job.work = { kind: 're-roof', old: 'shingles', layers: 1, perDay: 40e6, load: 5 }),
  (job) => {
    const repairs = possibleRepairs(job, []);
    const one = repairs[job.features.length % repairs.length];
    if (one) job.work = { kind: 'repair', what: one.what, of: one.of, reuse: job.work.kind === 'new' };
  },
  (job) => void (job.name = 'Another name'),
];

describe('slopes kept from one plan to the next', () => {
  it('make no difference to the plan, whatever was changed in between', () => {
    fc.assert(
      fc.property(
        fc.oneof(anyCrossed, anyDormered, anyFeatured),
        fc.array(fc.integer({ min: 0, max: CHANGES.length - 1 }), { minLength: 1, maxLength: 4 }),
        (roof, changes) => {
          const kept = keptPlans();
          let job = structuredClone(roof);
          plan(job, kept);
          for (const change of changes) {
            job = structuredClone(job);
            CHANGES[change]!(job);
            expect(plan(job, kept)).toBe(plan(job));
          }
        },
      ),
      cases(8),
    );
  });

  it('a change to one slope of the Ringing House leaves the others as they are; one to the whole roof leaves none', () => {
    const made: string[] = [];
    const kept = keptPlans();
    const count = (job: Job): number => {
      made.length = 0;
      const of = kept.of.bind(kept);
      kept.of = (from, make) => of(from, () => (made.push(from), make()));
      planJob(job, demoLibrary, kept);
      kept.of = of;
      return made.length;
    };
    const house = demoHouse();
    expect(count(house)).toBe(house.parts.flatMap(({ planes }) => planes).length);
    expect(count({ ...house, name: 'Another name', done: ['1'] })).toBe(0);
    const repaired = (of: string): Job => ({ ...house, work: { kind: 'repair', what: 'boot', of, reuse: true } });
    count(repaired('P1'));
    expect(count(repaired('P2'))).toBe(0);
    const moved = structuredClone(house);
    const pipe = moved.features.find((feature) => feature.kind === 'pipe')!;
    if (pipe.kind === 'pipe') pipe.up = { ...pipe.up, length: pipe.up.length + 10 };
    expect(count(moved)).toBe(1);
    // what stands on a slope decides where shingles that cross its valleys are nailed: the slopes across them are planned anew too
    const skylight = structuredClone(house).features.find((feature) => feature.kind === 'skylight')!;
    const across = new Set(
      planJob(house, demoLibrary).valleys.flatMap(({ a, b }) => (a === skylight.plane ? [b] : b === skylight.plane ? [a] : [])),
    );
    const nearer = { ...house, features: house.features.filter(({ id }) => id !== skylight.id) };
    expect(across.size).toBeGreaterThan(0);
    expect(count(nearer)).toBe(1 + across.size);
    expect(count({ ...moved, coverings: [{ ...stripOf(moved), metal: 'copper' }] })).toBe(
      house.parts.flatMap(({ planes }) => planes).length,
    );
  });

  it('the one not asked for longest goes first', () => {
    const kept = new Kept<number>(2);
    const ask = (from: string, value: number): number => kept.of(from, () => value);
    ask('a', 1);
    ask('b', 2);
    expect(ask('a', 9)).toBe(1);
    ask('c', 3);
    expect(ask('a', 9)).toBe(1);
    expect(ask('b', 9)).toBe(9);
  });
});
