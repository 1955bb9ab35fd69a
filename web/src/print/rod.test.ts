import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planJob } from '#core';
import { demoHouse, demoLibrary } from '../../../core/fixtures/demo.ts';
import { cases } from '../../../core/fixtures/seeds.ts';
import { backSlope } from '../../../core/fixtures/tiles.ts';
import { rodOf, rodSections } from './rod.ts';

describe('the gauge rod', () => {
  it('of a tiled slope has its battens’ upper edges: 345, then every 328.5, the last 35 below the top', () => {
    const { what, marks } = rodOf(planJob(backSlope(), demoLibrary).planes[0]!);
    expect([what, marks.length]).toEqual(['Batten', 14]);
    expect(marks.slice(0, 2).map(({ at }) => at)).toEqual([345, 345 + 4270 / 13].map((at) => expect.closeTo(at, 6)));
    expect(marks.at(-1)!.at).toBeCloseTo(4650 - 35, 6);
  });

  it('of a shingled slope has its butts', () => {
    const [plane] = planJob(demoHouse(), demoLibrary).planes;
    const { what, marks } = rodOf(plane!);
    expect([what, marks.length]).toEqual(['Course', plane!.lines.count]);
    expect(marks[0]!.at).toBeCloseTo(plane!.lines.first, 6);
  });

  it('in sections each mark is on one sheet at least, in its place, and neighbours share 20 mm to be joined on', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -60, max: 9000, noNaN: true }), { minLength: 1, maxLength: 60 }),
        fc.integer({ min: 150, max: 280 }),
        (ats, longest) => {
          const marks = ats.map((at, i) => ({ n: i + 1, at }));
          const sections = rodSections(marks, longest);
          for (const mark of marks) expect(sections.some(({ marks: own }) => own.includes(mark))).toBe(true);
          sections.forEach(({ from, to, marks: own }, i) => {
            expect(to - from).toBeCloseTo(longest, 6);
            for (const { at } of own) expect(at >= from && at <= to).toBe(true);
            if (i > 0) expect(sections[i - 1]!.to - from).toBeCloseTo(20, 6);
          });
          expect(sections[0]!.from).toBeLessThanOrEqual(0);
        },
      ),
      cases(200),
    );
  });
});
