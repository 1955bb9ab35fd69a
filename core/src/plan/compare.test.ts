import { describe, expect, it } from 'vitest';
import { changed, demoHouse, demoJob, stripOf } from '../../fixtures/demo.ts';
import { planFor } from '../../fixtures/planned.ts';
import type { Job } from '../document/index.ts';
import { inches } from '../units/index.ts';
import { type Difference, comparePlans } from './index.ts';

const compared = (before: Job, after: Job): Difference => comparePlans(planFor(before), planFor(after));

describe('two plans of one roof', () => {
  it('of the same job differ in nothing', () => {
    expect(compared(demoHouse(), demoHouse())).toEqual({ pieces: [], order: [], gone: [], added: [] });
  });

  it('say what there is more and fewer of, by kind, and what is ordered otherwise', () => {
    const shorter = changed((job) => void (stripOf(job).exposure = inches(5)));
    const { pieces, order } = compared(demoJob(), shorter);
    // 205.7 in of slope and half an inch at 5 in are 42 courses where 5 5/8 in make 37
    expect(pieces).toContainEqual({ name: 'course', before: 37, after: 42 });
    // the last step would be 1 1/4 in tall: the one below reaches the ridge without it
    expect(pieces).toContainEqual({ name: 'step flashing', before: 37, after: 41 });
    expect(pieces.some(({ name }) => name === 'ridge cap')).toBe(false);
    const shingles = order.find(({ name }) => name === 'Laminated shingle')!;
    expect(shingles.after).toBeGreaterThan(shingles.before);
  });

  it('a product changed for another is one line gone to nothing and one come from nothing', () => {
    const other = changed((job) => void (stripOf(job).shingle = 'thrupley-moorland'));
    const { order } = compared(demoJob(), other);
    expect(order.find(({ name }) => name === 'Laminated shingle')?.after).toBe(0);
    expect(order.filter(({ before }) => before === 0).length).toBeGreaterThan(0);
  });

  it('findings that come and go stand on their own side, and turn round with the plans', () => {
    const late = changed((job) => void (stripOf(job).firstButt = inches(1)));
    const [there, back] = [compared(demoJob(), late), compared(late, demoJob())];
    expect(there.added.map(({ id }) => id)).toContain('covering.firstButt');
    expect(there.gone.map(({ id }) => id)).not.toContain('covering.firstButt');
    expect(back.gone.map(({ id }) => id)).toEqual(there.added.map(({ id }) => id));
  });
});
