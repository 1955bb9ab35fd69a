import { describe, expect, it } from 'vitest';
import { callsIn } from '../../fixtures/calls.ts';
import { demoFile, demoJob, demoLibrary } from '../../fixtures/demo.ts';
import { manyFeatures } from '../../fixtures/roofs.ts';
import { checkJob } from './check.ts';
import { planJob } from './planJob.ts';

/** So many times the features on so many times the roof take at most as many times the work. */
const TIMES = 5;

describe('the work of planning grows with the roof, not with its square', () => {
  it.each([
    ['shingles', ['up', 'along'], demoJob],
    ['slates', ['along'], () => demoFile('keepers-cottage-porch')],
    ['tiles', ['up'], () => demoFile('keepers-cottage-wash-house')],
  ] as const)('%s, five times as far %s', async (_, ways, job) => {
    const work = (count: number, inRow: number): Promise<number> => {
      const roof = manyFeatures(job(), count, inRow);
      expect(checkJob(roof, demoLibrary)).toEqual([]);
      return callsIn(() => void planJob(roof, demoLibrary));
    };
    // the first plan reads what later ones find read
    await work(9, 3);
    const few = await work(9, 3);
    expect(few).toBeGreaterThan(100_000);
    for (const way of ways) expect((await work(9 * TIMES, way === 'up' ? 3 : 3 * TIMES)) / few, way).toBeLessThanOrEqual(TIMES);
  });
});
