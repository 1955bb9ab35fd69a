import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoFile, demoHouse, demoLibrary } from '../../fixtures/demo.ts';
import { anyCrossed, anyFeatured } from '../../fixtures/roofs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { planFor } from '../../fixtures/planned.ts';
import { printWords } from '../assembly/index.ts';
import { type Covering, type Job, newCovering } from '../document/index.ts';
import { checkDrainage } from '../drainage/index.ts';
import { type Plan, checkJob } from '../plan/index.ts';

const PACK = { doubleLap: 'metric-lead-and-slate', shake: 'shake-practice' } as const;

/** A roof dressed anew: the same parts and features, every slope in the other covering. */
function dressed(roof: Job, kind: keyof typeof PACK): Job {
  const job = structuredClone(roof);
  const fresh: Covering = newCovering(kind, demoLibrary.catalog, [])!;
  const { id, underlayers } = job.coverings[0]!;
  job.coverings = [{ ...fresh, id, metal: kind === 'doubleLap' ? 'lead' : 'aluminium', underlayers } as Covering];
  for (const { planes } of job.parts) for (const plane of planes) plane.exposure = null;
  job.packs = [...(kind === 'doubleLap' ? [] : job.packs), { id: PACK[kind], version: 1 }];
  return job;
}

const wetSlopes = (plan: Plan): string[] =>
  plan.planes.flatMap(({ id }) => {
    const { verdict, problems } = checkDrainage(plan, { plane: id, stage: 'finished' });
    return verdict === 'clean' ? [] : [`${id}: ${verdict}, ${problems[0]!.cause} at ${problems[0]!.piece}`];
  });

describe.each(['doubleLap', 'shake'] as const)('any roof in %s', (kind: keyof typeof PACK) => {
  it.each([
    ['with a chimney, skylight, pipe or headwall', anyFeatured],
    ['with a cross gable, its valleys open', anyCrossed],
  ] as const)('%s sheds; nails stand through no metal of another', (_, roofs) => {
    fc.assert(
      fc.property(
        (roofs as fc.Arbitrary<Job>).map((roof) => dressed(roof, kind)).filter((job) => checkJob(job, demoLibrary).length === 0),
        (job) => {
          const plan = planFor(job);
          expect(plan.valleys.every(({ style }) => style === 'open')).toBe(true);
          expect(wetSlopes(plan)).toEqual([]);
        },
      ),
      cases(4),
    );
  });
});

it('the whole house in shakes sheds, and nobody is told to bed shakes in cement as shingles are', () => {
  const shakes = planFor(dressed(demoHouse(), 'shake'));
  expect(wetSlopes(shakes)).toEqual([]);
  const bedded = (plan: Plan): number =>
    plan.steps.filter(({ action }) => printWords(action, 'imperial').includes('bed it in 3" of cement')).length;
  expect([bedded(shakes), bedded(planFor(demoHouse()))]).toEqual([0, 1]);
});

it.each(['ringing-house-north', 'keepers-cottage-porch', 'keepers-cottage-wash-house'] as const)(
  '%s going on past its top is dry there: what goes on lies over its last nails',
  (name) => {
    const job = demoFile(name);
    job.features = job.features.filter(({ kind }) => kind !== 'headwall');
    job.parts[0]!.planes[0]!.top = 'continues';
    const plan = planFor(job);
    expect(wetSlopes(plan)).toEqual([]);
    // the same nails under nothing leak
    const bare = { ...plan, facets: plan.facets.map((facet) => ({ ...facet, sheltered: [] })) };
    expect(wetSlopes(bare).join()).toMatch(/slow leak, fastener at C\d+/);
  },
);
