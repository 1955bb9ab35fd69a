import { describe, expect, it } from 'vitest';
import { demoHouse } from '../../fixtures/demo.ts';
import { planFor } from '../../fixtures/planned.ts';
import { printWords } from '../assembly/index.ts';
import { groupFindings, groupWords } from './index.ts';

describe('findings that say the same of several things', () => {
  const house = planFor(demoHouse());
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
