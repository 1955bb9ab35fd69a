import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { changed, demoHouse, demoJob, demoShelf, demoText, slopeRecord } from '../../fixtures/demo.ts';
import { planFor } from '../../fixtures/planned.ts';
import { holdWords } from '../sequence/index.ts';
import { orderCsv, readJobText, runSheetCsv, writeJobText } from './index.ts';

const problems = (text: string): string[] => {
  const read = readJobText(text, demoShelf);
  return read.ok ? [] : read.issues.map(({ message }) => message);
};
const edited = (change: (draft: Record<string, object>) => void): string => {
  const draft = JSON.parse(demoText());
  change(draft);
  return JSON.stringify(draft);
};

describe('a job file', () => {
  it('reads back what it writes, byte for byte', () => {
    const text = writeJobText(demoJob());
    const read = readJobText(text, demoShelf);
    expect(read.ok && writeJobText(read.job)).toBe(text);
  });

  it('of another version, another kind, cut off anywhere, or too large is refused in one sentence', () => {
    expect(problems(edited((draft) => Object.assign(draft, { version: 8 })))).toEqual([
      'Job file: it is version 8 of the format; this Ruvet reads versions 1 to 7.',
    ]);
    expect(problems('[]')[0]).toContain('not a Ruvet job');
    expect(problems(`{"format":"ruvet-job","x":"${'a'.repeat(20 * 1024 * 1024)}"}`)).toEqual([
      'Job file: it is 20 MB; a job file may be at most 2 MB.',
    ]);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: demoText().trimEnd().length - 1 }), (end) => {
        expect(problems(demoText().slice(0, end))).toHaveLength(1);
      }),
    );
  });

  it('with an unknown entry names it and the field it stands in', () => {
    expect(problems(edited((draft) => Object.assign(draft, { colour: 'red' })))).toEqual([
      'Job file has an entry Ruvet does not know: "colour".',
    ]);
    expect(problems(edited((draft) => Object.assign(draft['covering']!, { tint: 1 })))[0]).toContain('coverings.0 has an entry');
  });

  it.each([
    ['eaveLength', -5, 'Eave length must be between'],
    ['eaveLength', 0, 'Eave length must be between'],
    ['eaveLength', 1e12, 'Eave length must be between'],
    ['eaveLength', 'long', 'Eave length must be between'],
    ['pitch', 0, 'Pitch must be a rise and a run, or degrees above level, from 0.24/12 to 48/12.'],
    ['pitch', { rise: 6, run: 0 }, 'Pitch must be a rise and a run'],
    ['overhang', null, 'Eave overhang must be between'],
  ])('with %s = %j says so by the field’s name', (field, value, sentence) => {
    const text = edited((draft) => Object.assign((draft['planes'] as object[])[0]!, { [field]: value }));
    expect(problems(text)).toHaveLength(1);
    expect(problems(text)[0]).toContain(sentence);
  });

  it('never throws, whatever it holds', () => {
    fc.assert(fc.property(fc.jsonValue(), (value) => void problems(JSON.stringify(value))));
  });
});

describe('tables', () => {
  it('the run sheet has a row a line, and the order list a row a product, in both unit systems', () => {
    const plan = planFor(demoJob());
    const rows = Papa.parse<string[]>(runSheetCsv(plan, 'imperial'), { skipEmptyLines: true }).data;
    expect(rows).toHaveLength(1 + plan.planes[0]!.runSheet.reduce((sum, { lines }) => sum + lines.length, 0));
    const course14 = rows.filter(([, , course]) => course === 'Course 14');
    expect(course14.map((row) => row[3])).toEqual([`6'-0 5/8"`, `6'-0 5/8"`]);
    expect(runSheetCsv(plan, 'metric')).toContain('1845 mm');
    // what has to be seen first, and what to beware of, stands in its own line
    const lines = plan.planes[0]!.runSheet.flatMap((group) => group.lines);
    expect(lines.filter(({ holdPoint }) => holdPoint).length).toBeGreaterThan(3);
    for (const { line, holdPoint, caution } of lines) {
      const row = rows.find(([number]) => number === String(line))!;
      for (const words of [holdPoint && holdWords(holdPoint), caution]) if (words) expect(row).toContain(words);
    }
    const order = Papa.parse<string[]>(orderCsv(plan, 'imperial'), { skipEmptyLines: true }).data;
    expect(order.find(([name]) => name!.startsWith('Step flashing'))).toEqual([
      'Step flashing 4 × 4 × 8 in, aluminium',
      'Pellwick Sheet Metal',
      '37',
      'pieces',
      '',
      '1',
      'box',
      '0',
      '13 pieces',
      'SW1',
    ]);
    // what is bought beside what is needed stands with its reason
    const [, , needed, , beside] = order.find(([name]) => name === 'Laminated shingle')!;
    expect(beside).toMatch(new RegExp(`^${Math.ceil(Number(needed) * 0.02)} more: breakage, 2 %; .* of ends fit nowhere$`));
  });

  it('the run sheet of a whole roof is the roof’s: every slope’s dry-in before the first course, numbered as on the sheet', () => {
    const plan = planFor(demoHouse());
    const rows = Papa.parse<string[]>(runSheetCsv(plan, 'imperial'), { skipEmptyLines: true }).data.slice(1);
    expect(rows.map(([line]) => Number(line))).toEqual(rows.map((_, i) => i + 1));
    const [first, last] = [
      rows.findIndex(([, , group]) => group === 'Course 1'),
      rows.findLastIndex(([, , group]) => group === 'Rakes'),
    ];
    expect(last).toBeLessThan(first);
    // and the whole roof's own lines, of no slope
    expect(new Set(rows.slice(0, last).map(([, slope]) => slope)).size).toBe(plan.planes.length + 1);
    expect(rows.some((row) => row[7]!.includes('× Roofing nail'))).toBe(true);
    expect(rows.some((row) => row[8]!.includes('mortar thumb-hard'))).toBe(true);
  });

  it('a name that a spreadsheet would take for a formula is made harmless', () => {
    for (const name of ['=1+1', '+1', '-1+cmd', '@x', '=1+1\nnorth', '=HYPERLINK("x")\r\n']) {
      const job = changed((draft) => void (slopeRecord(draft).name = name));
      const rows = Papa.parse<string[]>(runSheetCsv(planFor(job), 'imperial')).data;
      expect(rows.flat().filter((cell) => /^[=+\-@\t\r\n]/.test(cell))).toEqual([]);
      expect(rows.flat()).toContain(`'${name}`);
    }
  });

  it('what cannot be kept, or is no job by its depth, is refused by its place', () => {
    expect(problems(edited((draft) => Object.assign(draft, { note: 'a\0' })))).toEqual([
      'Note has a character in it that cannot be kept (a NUL or half a character); write it anew.',
    ]);
    const deep = `${'{"a":'.repeat(5000)}1${'}'.repeat(5000)}`;
    expect(problems(deep)[0]).toMatch(/^Job file: a\.a\..*… is nested too deep to be a job\.$/);
  });

  it('a catalog that is not here is told with those that are', () => {
    const text = writeJobText({ ...demoJob(), catalog: 10 });
    expect(problems(text)).toEqual(['Catalog: version 10 is not here; there are 2, 3, 4, 5, 6, 7, 8 and 9.']);
  });
});
