import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { printWords } from '../assembly/index.ts';
import { changed, demoJob, demoLibrary } from '../demo.fixture.ts';
import { type Job, type Plan, planJob } from '../job/index.ts';
import { anyJob } from '../jobs.fixture.ts';
import { inches, toInches } from '../units/index.ts';
import { checkDrainage, measureReserve } from './index.ts';

const plan = (job: Job): Plan => planJob(job, demoLibrary);
const finished = { plane: 'north', stage: 'finished' } as const;

/** What is laid when the dry-in is done. */
const dryIn = (made: Plan) => ({
  plane: 'north',
  stage: 'dry-in' as const,
  laid: new Set(
    made.planes[0]!.runSheet.flatMap(({ lines }) =>
      lines.filter(({ stage }) => stage === 'dry-in').flatMap(({ pieces }) => pieces),
    ),
  ),
});

describe('the Ringing House north plane', () => {
  const demo = plan(demoJob());

  it('sheds, finished and at dry-in', () => {
    expect(checkDrainage(demo, finished)).toMatchObject({ verdict: 'clean', problems: [] });
    expect(checkDrainage(demo, dryIn(demo))).toMatchObject({ verdict: 'clean' });
  });

  it('has the reserve worked by hand: the starter’s lap over the second butt, and the steps’ headlap along the wall', () => {
    const { reach, creep } = measureReserve(demo, finished);
    // starter 7" from -1/2" reaches 6 1/2"; the slit of course 1 lies open up to the second butt line, 5 1/8"
    expect(toInches(reach!.distance)).toBeCloseTo(1.375, 1);
    expect(reach!.problem).toMatchObject({ cause: 'short headlap', piece: 'ST' });
    // water in the gap under the boards, against 2 3/8" of headlap
    expect(toInches(creep!.distance)).toBeCloseTo(2.375, 1);
    expect(creep!.problem.cause).toBe('short sidelap');
  });
});

/** Plans that say themselves that something is missing (a wall's front or upper end, no metal that fits) are not defaults. */
const wholePlans = anyJob.filter(
  (job) =>
    job.planes[0]!.walls.every(({ from, to }) => from === 0 && to === null) &&
    plan(job).findings.every(({ severity }) => severity === 'worth a look' || severity === 'breaks a rule'),
);

describe('every plan Ruvet makes by default', () => {
  it('is clean, finished and at dry-in, with an inch of reach and two of creep', () => {
    fc.assert(
      fc.property(wholePlans, (job) => {
        const made = plan(job);
        const told = checkDrainage(made, finished, { reach: inches(1) - 1 });
        expect(
          told.problems
            .slice(0, 1)
            .map(
              (problem) =>
                `${printWords(problem.sentence, 'imperial')} ${problem.path.map(({ piece, move }) => `${move} ${piece}`).join(', ')}`,
            ),
        ).toEqual([]);
        const sideways = checkDrainage(made, finished, { creep: inches(2) - 1 });
        expect(
          sideways.problems
            .slice(0, 1)
            .map(
              (problem) =>
                `${printWords(problem.sentence, 'imperial')} ${problem.path.map(({ piece, move }) => `${move} ${piece}`).join(', ')}`,
            ),
        ).toEqual([]);
        expect(
          checkDrainage(made, dryIn(made))
            .problems.slice(0, 1)
            .map(({ sentence }) => printWords(sentence, 'imperial')),
        ).toEqual([]);
      }),
      { numRuns: 40, endOnFailure: true },
    );
  });
});
void changed;
