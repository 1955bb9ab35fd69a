import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { changed, demoJob, demoLibrary, slopeRecord } from '../../fixtures/demo.ts';
import { cases } from '../../fixtures/seeds.ts';
import { planFor } from '../../fixtures/planned.ts';
import { printWords } from '../assembly/index.ts';
import type { Job } from '../document/index.ts';
import { checkDrainage } from '../drainage/index.ts';
import { bounds } from '../roof/index.ts';
import { buttLine, gaugeAt } from '../surface/index.ts';
import { inches, toInches } from '../units/index.ts';
import { type Plan, checkJob } from './index.ts';

type Butt = readonly [course: number, inches: number];
const measured = (...butts: readonly Butt[]): Job =>
  changed((job) => void (slopeRecord(job).measuredButts = butts.map(([course, at]) => ({ course, at: inches(at) }))));
const plan = (...butts: readonly Butt[]): Plan => planFor(measured(...butts));
const roofBox = (made: Plan, mark: string) =>
  bounds(made.pieces.find((piece) => piece.mark === mark)!.covers.find(({ facet }) => facet === 'north')!.outline);

describe('butts measured on the roof', () => {
  it('the butt of course 14 really at 6\'-0": that course lies there, its step with it, and all above 5/8 in lower', () => {
    const [as, meant] = [plan([14, 72]), planFor(demoJob())];
    // planned at 72 5/8 in
    expect(toInches(roofBox(meant, 'C14').y0)).toBeCloseTo(72.625, 6);
    for (const mark of ['C14', 'C20', 'C30', 'SW1-14', 'SW1-20']) {
      const drop = roofBox(meant, mark).y0 - roofBox(as, mark).y0;
      expect(toInches(drop), mark).toBeCloseTo(0.625, 6);
    }
    // those below are spread evenly over 72 1/2 in
    expect(toInches(gaugeAt(as.planes[0]!.lines, 5))).toBeCloseTo(72.5 / 13, 6);
    expect(as.runSheet.find(({ course }) => course === 14)!.y).toBeCloseTo(inches(72), 6);
  });

  it('a line that says where it would be anyway changes nothing', () => {
    const meant = planFor(demoJob());
    const same = plan([14, 72.625]);
    expect(same.pieces.map(({ mark }) => mark)).toEqual(meant.pieces.map(({ mark }) => mark));
    expect(same.findings).toEqual(meant.findings);
  });

  it('sheds as before, the courses closer below and as planned above', () => {
    const made = plan([8, 38], [21, 110]);
    expect(checkDrainage(made, { plane: 'north', stage: 'finished' }).problems).toEqual([]);
  });

  it('courses farther apart than may be exposed are said, with both figures, and steps long enough for them are taken', () => {
    const made = plan([5, 24]);
    // 24 1/2 in over four courses
    const finding = made.findings.find(({ id }) => id === 'covering.measured.5')!;
    expect(finding.severity).toBe('breaks a rule');
    expect(printWords(finding.sentence, 'imperial')).toBe(
      'North plane: courses 1 to 5 lie 6 1/8" apart as measured, farther than the 5 5/8" that Laminated shingle may be exposed.',
    );
    const step = made.planes[0]!.walls[0]!.step!;
    expect(toInches(step.length)).toBeGreaterThanOrEqual(6.125 + 2);
    expect(toInches(step.headlap)).toBeCloseTo(toInches(step.length) - 6.125, 6);
  });

  it('no farther than a tape tells is said of nothing', () => {
    const spread = (over: number) => plan([14, 72.625 + over]).findings.some(({ id }) => id === 'covering.measured.14');
    // 1/16 in over 13 courses is under 1/64 in each
    expect([spread(1 / 16), spread(1)]).toEqual([false, true]);
  });

  it('every step laps the next by its headlap and every course lies on its line, whatever was measured', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 2, max: 30 }), fc.double({ min: -0.9, max: 0, noNaN: true })), {
          minLength: 1,
          maxLength: 4,
        }),
        (off) => {
          const butts = [...new Map(off)]
            .map(([course, by]): Butt => [course, -0.5 + (course - 1) * 5.625 + by])
            .toSorted((a, b) => a[0] - b[0]);
          const job = measured(...butts);
          fc.pre(checkJob(job, demoLibrary).length === 0);
          const made = planFor(job);
          const { lines } = made.planes[0]!;
          for (let n = 1; n <= lines.count; n++) {
            const mark = `C${String(n).padStart(2, '0')}`;
            if (made.pieces.some((piece) => piece.mark === mark))
              expect(roofBox(made, mark).y0).toBeCloseTo(buttLine(lines, n), 6);
          }
          const steps = made.pieces.filter(({ role }) => role === 'step').map(({ mark }) => roofBox(made, mark));
          for (let i = 1; i < steps.length; i++)
            expect(toInches(Math.min(steps[i - 1]!.y1, lines.end) - steps[i]!.y0)).toBeGreaterThanOrEqual(
              Math.min(2, toInches(lines.end - steps[i]!.y0)) - 1e-6,
            );
        },
      ),
      cases(15),
    );
  });

  it.each<[string, readonly Butt[], RegExp]>([
    ['below the course below it', [[14, 72], [15, 71]], /measured butt of course 15: at 5'-11" there is no room for 1 course above course 14/], // prettier-ignore
    ['below the first butt', [[3, 1]], /measured butt of course 3: at 1" there is no room for 2 courses above course 1/],
    ['twice', [[14, 72], [14, 73]], /measured butt of course 14: it is there twice/], // prettier-ignore
    ['past the top', [[30, 210]], /is past the top of the slope/],
  ])('%s it is refused by course', (_, butts, sentence) => {
    const issues = checkJob(measured(...butts), demoLibrary);
    expect(issues[0]!.path).toMatch(/^parts\.0\.planes\.0\.measuredButts\.\d\.(at|course)$/);
    expect(issues[0]!.message).toMatch(sentence);
  });
});
