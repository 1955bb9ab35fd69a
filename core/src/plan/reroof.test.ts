import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoFile, demoHouse } from '../../fixtures/demo.ts';
import { anyCrossed, anyDormered } from '../../fixtures/roofs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { planFor } from '../../fixtures/planned.ts';
import { printWords } from '../assembly/index.ts';
import { type Job, OLD_COVERINGS, type WorkOf } from '../document/index.ts';
import { intersectOutlines, outlineArea, rectangle } from '../roof/index.ts';
import { type RunLine } from '../sequence/index.ts';
import { pounds } from '../units/index.ts';
import { type Plan } from './index.ts';

const SQ_FT = 304.8 ** 2;
const strip = (change: Partial<WorkOf<'re-roof'>> = {}): WorkOf<'re-roof'> => ({
  kind: 're-roof',
  old: 'shingles',
  layers: 2,
  perDay: 500 * SQ_FT,
  load: pounds(4000),
  ...change,
});
const plan = (job: Job, work: Job['work'] = strip()): Plan => planFor({ ...job, work });
const linesOf = ({ runSheet }: Plan): RunLine[] => runSheet.flatMap(({ lines }) => lines);
const words = ({ action }: RunLine): string => printWords(action, 'imperial');
const lots = (made: Plan): RunLine[] => linesOf(made).filter((line) => words(line).startsWith('Strip on day'));
const dayOf = (line: RunLine): number => Number(/on day (\d+)/.exec(words(line))![1]);
const areaIn = ({ action }: RunLine): number =>
  action.reduce<number>((sum, part) => (typeof part !== 'string' && 'area' in part ? part.area : sum), 0);
const weightIn = ({ action }: RunLine): number =>
  action.reduce<number>((sum, part) => (typeof part !== 'string' && 'kg' in part ? part.kg : sum), 0);

describe('a roof that is stripped first', () => {
  const made = plan(demoHouse());
  const lines = linesOf(made);
  const at = (text: string): number => {
    const found = lines.findIndex((line) => words(line).includes(text));
    expect(found, text).toBeGreaterThanOrEqual(0);
    return found;
  };

  it('is looked over before it is made safe, stripped before its deck is seen, and the rest is as on a new roof', () => {
    expect(at('Look in from inside')).toBe(0);
    expect(at('Photograph the old flashing')).toBeLessThan(at('Set anchors'));
    expect(at('Take the boards off')).toBeLessThan(at('Strip on day 1'));
    expect(at('Strip on day 5')).toBeLessThan(at('Look the deck over'));
    const ofNew = linesOf(planFor(demoHouse())).map(words);
    const kept = lines.map(words).filter((line) => ofNew.includes(line));
    // only how the boards go back is told otherwise
    expect(ofNew.filter((line) => !kept.includes(line))).toEqual([expect.stringContaining('close with lapped boards')]);
    expect(lines.some((line) => words(line).includes('close with the numbered boards'))).toBe(true);
  });

  it('weighs 5 lb a square foot in two layers of shingles: 1610 ft² are 8049 lb, three loads of 4000', () => {
    expect(words(lines[at('Have skips')]!)).toBe(
      'Have skips for 8049 lb: 3 loads of at most 4000 lb. Cover plants, paths and gutters below.',
    );
    const area = made.roof.reduce(
      (sum, { outline, holes }) => sum + [outline, ...holes].reduce((all, one) => all + outlineArea(one), 0),
      0,
    );
    expect((area / SQ_FT) * 5).toBeCloseTo(8049, -1);
  });

  it('parts a slope by its area, whatever is cut out of it: the south’s first half is the narrower, its valleys lie in the other', () => {
    const south = lots(made).filter(({ plane }) => plane === 'south');
    const to = south[0]!.action.flatMap((part) => (typeof part !== 'string' && 'mm' in part ? part.mm : []))[1]!;
    const { outline } = made.roof.find(({ id }) => id === 'south')!;
    const left = intersectOutlines(outline, rectangle(0, 0, to, 10_000)).reduce(
      (sum, one) => sum + Math.abs(outlineArea(one)),
      0,
    );
    expect(left / outlineArea(outline)).toBeCloseTo(0.5, 5);
    expect(to / 304.8).toBeLessThan(20);
    expect(south.map(areaIn)[0]).toBeCloseTo(left, -3);
  });

  it('allows one deck sheet in twenty, on the order: 1610 ft² are 51 sheets, so 3', () => {
    expect(words(lines[at('Cut soft sheets')]!)).toContain('Allowed for: 3 sheets, 1 in 20');
    // one more is for the cricket
    expect(made.order.find(({ product }) => product === 'holmgarth-sheet-58')!.needed).toBe(4);
  });

  it('has no deck sheets allowed where there is no deck, and heavier waste where slates come off', () => {
    const porch = plan(demoFile('keepers-cottage-porch'), strip({ old: 'slate', layers: 1 }));
    expect(linesOf(porch).some((line) => words(line).includes('soft sheets'))).toBe(false);
    const [lot] = lots(porch);
    expect(weightIn(lot!) / (areaIn(lot!) / 1e6)).toBeCloseTo(OLD_COVERINGS.slate.weighs, 6);
  });

  it('in lots that are no more than a day’s work, day after day, and together are the roof', () => {
    fc.assert(
      fc.property(
        fc.oneof(anyCrossed, anyDormered),
        fc.double({ min: 60, max: 1200, noNaN: true }),
        fc.integer({ min: 1, max: 3 }),
        (job, perDay, layers) => {
          const all = plan(job, strip({ perDay: perDay * SQ_FT, layers }));
          const own = lots(all);
          const days = own.map(dayOf);
          expect(days).toEqual([...days].sort((a, b) => a - b));
          expect(days[0]).toBe(1);
          for (const day of new Set(days)) {
            const today = own.filter((line) => dayOf(line) === day).reduce((sum, line) => sum + areaIn(line), 0);
            expect(today).toBeLessThanOrEqual(perDay * SQ_FT * 1.000001);
          }
          const whole = all.roof.reduce(
            (sum, { outline, holes }) => sum + [outline, ...holes].reduce((a, one) => a + outlineArea(one), 0),
            0,
          );
          expect(own.reduce((sum, line) => sum + areaIn(line), 0) / whole).toBeCloseTo(1, 6);
          for (const line of own) expect(line.holdPoint).toContain('dry again by evening');
        },
      ),
      { ...cases(8), endOnFailure: true },
    );
  });
});
