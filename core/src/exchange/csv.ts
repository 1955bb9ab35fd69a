import Papa from 'papaparse';
import { printWords, usesWords } from '../assembly/index.ts';
import type { Plan } from '../plan/index.ts';
import { holdWords } from '../sequence/index.ts';
import { type UnitSystem, printLength } from '../units/index.ts';
import { besideWords, leftOver } from './orderWords.ts';

type Cell = string | number;

/** A cell a spreadsheet would take for a formula gets an apostrophe, one with a line break in it too. */
const write = (rows: Cell[][]): string => Papa.unparse(rows, { escapeFormulae: /^[=+\-@\t\r\n]/, newline: '\r\n' }) + '\r\n';

/** The run sheet as CSV: one row a line, in the whole roof's order of laying. */
export function runSheetCsv(plan: Plan, system: UnitSystem): string {
  const rows: Cell[][] = [
    ['Line', 'Slope', 'Course', 'Butt line', 'Do', 'Pieces', 'Fasteners', 'Takes', 'Wait', 'People', 'Caution', 'Hold point'],
  ];
  const names = new Map(plan.planes.map(({ id, name }) => [id, name]));
  for (const group of plan.runSheet) {
    for (const line of group.lines) {
      rows.push([
        line.whole,
        names.get(line.plane ?? '') ?? '',
        line.course === undefined ? group.title : line.course === 0 ? 'Starter' : `Course ${line.course}`,
        group.y === undefined ? '' : printLength(group.y, system),
        printWords(line.action, system),
        shortMarks(line.pieces),
        line.fasteners ? printWords(line.fasteners, system) : '',
        printWords(usesWords(line.uses ?? []), system),
        line.wait ?? '',
        line.people,
        line.caution ?? '',
        line.holdPoint ? holdWords(line.holdPoint) : '',
      ]);
    }
  }
  return write(rows);
}

/** The order list as CSV. */
export function orderCsv(plan: Plan, system: UnitSystem): string {
  const rows: Cell[][] = [
    ['Product', 'Maker', 'Needed', 'Unit', 'Beside it', 'Packages', 'Package', 'Loose', 'Left over', 'For'],
  ];
  for (const line of plan.order)
    rows.push([
      line.name,
      line.maker,
      line.needed,
      line.unit,
      besideWords(line, system),
      line.packages,
      line.package,
      line.loose ?? 0,
      leftOver(line, system),
      line.uses.map(({ detail }) => detail).join(', '),
    ]);
  return write(rows);
}

/** Marks for print: a run of one detail's numbers is written first–last. */
export function shortMarks(marks: readonly string[]): string {
  return marks.length > 3 ? `${marks[0]} … ${marks.at(-1)} (${marks.length})` : marks.join(', ');
}
