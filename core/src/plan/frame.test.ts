import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { changed, demoHouse } from '../../fixtures/demo.ts';
import { anyCrossed, anyDormered, anyFeatured } from '../../fixtures/roofs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { planFor } from '../../fixtures/planned.ts';
import { printWords } from '../assembly/index.ts';
import { type RunLine, filterRunSheet } from '../sequence/index.ts';
import { type Plan } from './index.ts';

const linesOf = ({ runSheet }: Plan): RunLine[] => runSheet.flatMap(({ lines }) => lines);
const words = ({ action }: RunLine): string => printWords(action, 'imperial');
const house = planFor(demoHouse());
const lines = linesOf(house);
const at = (test: (line: RunLine) => boolean): number => {
  const found = lines.findIndex(test);
  expect(found).toBeGreaterThanOrEqual(0);
  return found;
};
const last = (test: (line: RunLine) => boolean): number => lines.findLastIndex(test);
const says = (text: string) => (line: RunLine) => words(line).includes(text);

describe('the frame of a job', () => {
  it('has its stages in order, each once', () => {
    const headings = house.runSheet.filter(({ course }) => course === undefined).map(({ title }) => title);
    expect(headings).toEqual([
      'Make safe',
      'Deck',
      'Eave',
      'Ice barrier',
      'Openings, one at a time',
      'Valleys',
      'Wraps and underlayment',
      'Rakes',
      'Dried in',
      'Masonry above',
      'Ridge',
      'Counterflashing and cladding',
      'Water test',
      'Hand-over',
    ]);
  });

  it('begins no opening before the barrier is down and the one before it is glazed and taped', () => {
    const openings = lines.filter(({ lay, detail }) => house.runSheet.some(({ id, lines: own }) => id.startsWith('Openings') && own.some((one) => one.lay === lay)) && detail !== 'roof'); // prettier-ignore
    const order = openings.map(({ detail }) => detail);
    expect([...new Set(order)]).toEqual(['SK1', 'SK2']);
    expect(order).toEqual([...order].sort());
    expect(at(says('West skylight: cut and frame'))).toBeGreaterThan(last(says('ice barrier row')));
    expect(at(says('East skylight: cut and frame'))).toBeGreaterThan(at(says('West skylight: tape the frame')));
    // taped deck to frame before any underlayment, wrapped as the rows come to it
    expect(last(says('tape the frame to the deck'))).toBeLessThan(at(says('Unroll')));
  });

  it('is dried in, then the masonry above is opened, then that wall’s membrane and the covering go on', () => {
    const stop = at(says('Walk the whole roof'));
    expect(lines[stop]!.holdPoint).toContain('nothing else goes on before');
    expect(last(says('Unroll'))).toBeLessThan(stop);
    expect(last(says('rake metal'))).toBeLessThan(stop);
    const opened = at(says('prop the veneer'));
    expect(opened).toBeGreaterThan(stop);
    expect(at(({ pieces }) => pieces.includes('HW1-M1'))).toBeGreaterThan(at(says('roll on the liquid air barrier')));
    expect(at(({ pieces }) => pieces.includes('HW1-M1'))).toBeLessThan(at(({ course }) => course !== undefined));
  });

  it('begins a slope that is cut over others with what it waits for, and says how its valleys are cut', () => {
    const south = house.runSheet.filter(({ plane, course }) => plane === 'south' && course !== undefined);
    const [gate, cut] = south[0]!.lines;
    expect(words(gate!)).toBe(
      'Start this slope only with Cross gable, west slope and Cross gable, east slope on and the cut at V1 and V2 snapped 2" back from the centre.',
    );
    expect(words(cut!)).toBe(
      'Cut at V1 and V2 on the chalk line, crop each upper corner 1" at 45°, bed it in 3" of cement; no nail within 6" of the centre.',
    );
    // and it comes when they are
    expect(lines.indexOf(gate!)).toBeGreaterThan(last(({ plane, course }) => plane === 'cross-east' && course !== undefined));
  });

  it('says each evening what is open and how it is closed', () => {
    expect(lines.filter(says('Close up for the night')).map(words)).toEqual([
      'Close up for the night: SK1 and SK2 glazed and taped, none open; tarp the bare deck from the ridge down, 12" over the barrier, edges battened.',
      'Close up for the night: sheet the open wall at HW1 on Porch down over the roof’s sheet, 12" lap; leave the boards on the roof below.',
      ...lines
        .filter(({ plane, action }) => plane && printWords(action, 'imperial').includes('tarp over the ridge'))
        .map(() => 'Close up for the night: tarp over the ridge, 12" down both sides, until the caps are on.'),
    ]);
    expect(words(lines[at(says('Walk the whole roof'))]!)).toContain('The sheets may lie open 90 days at most.');
  });

  it('names what it tests with the hose, and ends with the hand-over', () => {
    expect(words(lines[at(says('Hose'))]!)).toContain('SK1, SK2, SW1, CH1, P1, P2, SW2, HW1, V1 and V2.');
    expect(words(lines.at(-1)!)).toMatch(/^Hand over/);
  });

  it('on any roof: safe first, dried in before any course, tested last; a slope’s own sheet is the roof’s, filtered, with its numbers', () => {
    fc.assert(
      fc.property(fc.oneof(anyFeatured, anyCrossed, anyDormered), (job) => {
        const made = planFor(job);
        const all = linesOf(made);
        const order = all.map(words);
        expect(order[0]).toMatch(/^Set anchors/);
        const dry = order.findIndex((one) => one.startsWith('Walk the whole roof'));
        expect(dry).toBeGreaterThan(0);
        all.forEach(({ course }, i) => course !== undefined && expect(i).toBeGreaterThan(dry));
        for (const { id, runSheet } of made.planes) {
          const own = runSheet.flatMap((group) => group.lines);
          expect(own.map(({ whole }) => whole)).toEqual(
            all.filter(({ plane }) => plane === undefined || plane === id).map(({ whole }) => whole),
          );
        }
      }),
      cases(25),
    );
  });

  it('leaves a line its number while nothing before it changes', () => {
    const after = changed((job) => void (job.note = 'x'));
    const before = linesOf(planFor(changed(() => undefined)));
    expect(linesOf(planFor(after)).map(({ id, whole }) => `${whole} ${id}`)).toEqual(
      before.map(({ id, whole }) => `${whole} ${id}`),
    );
    const house2 = demoHouse();
    // the chimney goes: what is laid before the first line of it keeps its number
    house2.features = house2.features.filter(({ id }) => id !== 'CH1');
    const first = lines.findIndex(({ detail }) => detail === 'CH1');
    expect(linesOf(planFor(house2)).slice(0, first).map(({ id }) => id)).toEqual(lines.slice(0, first).map(({ id }) => id)); // prettier-ignore
  });

  it('is a detail of its own to look at', () => {
    const own = filterRunSheet(house.runSheet, { detail: 'roof' }).flatMap((group) => group.lines);
    expect(own.length).toBeGreaterThan(8);
    expect(own.every(({ pieces }) => pieces.length === 0)).toBe(true);
  });
});
