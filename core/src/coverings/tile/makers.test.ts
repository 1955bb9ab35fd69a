import { describe, expect, it } from 'vitest';
import { demoLibrary } from '../../../fixtures/demo.ts';
import { backSlope, washHouse } from '../../../fixtures/tiles.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { itemsOf } from '../../catalog/index.ts';
import type { Job } from '../../document/index.ts';

/** The job as somebody enters it, who ticks the practice that speaks and leaves the makers to speak through their products. */
const unnamed = (job: Job): Job => ({ ...job, packs: job.packs.filter(({ id }) => !id.endsWith('-tiles')) });
const courses = (job: Job): number => planFor(unnamed(job)).planes[0]!.lines.count;

describe('a tile’s maker speaks through it', () => {
  it('every tile names its maker’s instructions', () => {
    const ids = new Set(demoLibrary.packs.map(({ id }) => id));
    for (const { name, instructions } of itemsOf(demoLibrary.catalog, 'tile')) {
      expect([name, instructions && ids.has(instructions.id)]).toEqual([name, true]);
    }
  });

  it('so the wash-house at 20° has a headlap of 100 and 8 courses, the main roof at 30° one of 75 and 14', () => {
    expect(courses(washHouse())).toBe(8);
    expect(courses(backSlope())).toBe(14);
    // another maker’s: 100 under 30°, so at 25° a gauge of 4265 in 13
    const other = backSlope((job, tiles) => {
      Object.assign(tiles, { tile: 'hollin-two-roll', tileAndHalf: 'hollin-two-roll-half' });
      Object.assign(job.parts[0]!, { pitch: { degrees: 25 } });
    });
    expect(planFor(unnamed(other)).planes[0]!.lines.gauge).toBeCloseTo(4265 / 13, 6);
  });
});
