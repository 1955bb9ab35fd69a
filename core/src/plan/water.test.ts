import { describe, expect, it } from 'vitest';
import { changed, demoHouse, demoJob, slopeRecord } from '../../fixtures/demo.ts';
import { planFor } from '../../fixtures/planned.ts';
import { backSlope } from '../../fixtures/tiles.ts';
import { printWords } from '../assembly/index.ts';
import { checkDrainage } from '../drainage/index.ts';
import { tallyOf, waterRequests, withWater } from './index.ts';

describe('the water’s part of the findings', () => {
  const house = planFor(demoHouse());

  it('asks every slope once, those that share valleys together, finished and at dry-in', () => {
    expect(waterRequests(house).map(({ plane, stage }) => `${plane} ${stage}`)).toEqual([
      'south finished',
      'south dry-in',
      'north finished',
      'north dry-in',
      'porch finished',
      'porch dry-in',
    ]);
  });

  it('counts nothing wet on the demo roofs', () => {
    for (const job of [demoHouse(), demoJob()]) expect(tallyOf(planFor(job))).toMatchObject({ leaks: 0, breaks: 0 });
  });

  it('counts a missing kick-out as a leak, told before what is only worth a look', () => {
    const plan = planFor(changed((job) => void (slopeRecord(job).walls[0]!.foot = 'corner')));
    expect(tallyOf(plan).leaks).toBeGreaterThan(0);
    const told = withWater(
      plan,
      waterRequests(plan).map((request) => checkDrainage(plan, request)),
    );
    expect(told[0]!.severity).toBe('leaks');
    const order = told.map(({ severity }) => ['leaks', 'breaks a rule', 'relies on sealant', 'worth a look'].indexOf(severity));
    expect(order).toEqual(order.toSorted((a, b) => a - b));
  });

  it('tells what reads alike once: on tiles 400 mm apart many nails leak at one height', () => {
    const plan = planFor(backSlope((_, tiles) => (tiles.gauge = 400)));
    const results = waterRequests(plan).map((request) => checkDrainage(plan, request));
    const all = results.flatMap(({ problems }) => problems.map(({ sentence }) => printWords(sentence, 'metric')));
    expect(new Set(all).size).toBeLessThan(all.length);
    const told = withWater(plan, results)
      .filter(({ id }) => id.startsWith('water.'))
      .map(({ sentence }) => printWords(sentence, 'metric'));
    expect(told.length).toBeGreaterThan(0);
    expect(told).toEqual([...new Set(told)]);
  });
});
