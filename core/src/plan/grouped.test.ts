import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoHouse, demoLibrary } from '../../fixtures/demo.ts';
import { anyJob } from '../../fixtures/jobs.ts';
import { anyFeatured } from '../../fixtures/roofs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { type Finding, SEVERITIES, printWords } from '../assembly/index.ts';
import type { Job } from '../document/index.ts';
import { type Plan, applyRemedy, groupFindings, groupWords, planJob, remedyWords } from './index.ts';

const plan = (job: Job): Plan => planJob(job, demoLibrary);

describe('findings that say the same of several things', () => {
  const house = plan(demoHouse());
  const groups = groupFindings(house.findings);

  it('are one, with every name, where the first of them stood', () => {
    expect(groups.length).toBeLessThan(house.findings.length);
    expect(groups.flatMap(({ findings }) => findings).length).toBe(house.findings.length);
    const told = groups.map((group) => printWords(groupWords(group), 'imperial'));
    expect(new Set(told).size).toBe(told.length);
    expect(told.filter((text) => text.includes('one shingle over its head'))).toEqual([
      expect.stringMatching(/^West skylight and East skylight: one shingle over its head reaches/) as string,
    ]);
    expect(told.filter((text) => text.includes('below the ridge'))).toEqual([
      'Cross gable, west slope and Cross gable, east slope: the last course shows only 11/16" below the ridge.',
    ]);
  });

  it('keep those apart that differ in a figure or in what mends them', () => {
    const [one] = house.findings;
    const other = { ...one!, id: 'other', fix: ['Something else.'] };
    expect(groupFindings([one!, other])).toHaveLength(2);
    const nameless = { ...one!, sentence: ['The same words'] };
    expect(groupFindings([nameless, { ...nameless, id: 'again' }])).toHaveLength(2);
  });
});

describe('a fix that can be done by itself', () => {
  it('on the porch sets 5 1/2 in: 18 courses, the last 8.19 in tall, and the finding is gone', () => {
    const job = demoHouse();
    const before = plan(job).findings.find(({ id }) => id === 'HW1.lastCourse')!;
    expect(printWords(remedyWords(before.remedy!), 'imperial')).toBe('Set 5 1/2" on this slope');
    applyRemedy(job, before.remedy!);
    const after = plan(job);
    expect(after.findings.map(({ id }) => id)).not.toContain('HW1.lastCourse');
    expect(after.planes.find(({ id }) => id === 'porch')!.lines.count).toBe(18);
  });

  it('on any roof: what it was offered for is gone, and nothing graver has come', () => {
    let offered = 0;
    fc.assert(
      fc.property(fc.oneof(anyJob, anyFeatured), (job) => {
        const before = plan(job);
        const found = before.findings.find(({ remedy }) => remedy);
        fc.pre(found !== undefined);
        offered++;
        const changed = structuredClone(job);
        applyRemedy(changed, found!.remedy!);
        const after = plan(changed);
        const same = ({ id, sentence }: Finding): boolean =>
          id.split('#')[0] === found!.id.split('#')[0] && JSON.stringify(sentence) === JSON.stringify(found!.sentence);
        expect(after.findings.filter(same)).toEqual([]);
        const rank = ({ severity }: Finding): number => SEVERITIES.indexOf(severity);
        const known = new Set(before.findings.map(({ id }) => id));
        const graver = after.findings.filter((one) => !known.has(one.id) && rank(one) < rank(found!));
        expect(graver.map(({ id }) => id)).toEqual([]);
      }),
      cases(8),
    );
    expect(offered).toBeGreaterThan(0);
  });
});
