import {
  type Plan,
  type UnitSystem,
  besideWords,
  buyWords,
  groupFindings,
  mutedKinds,
  neededWords,
  told,
  groupWords,
  holdWords,
  leftOver,
  orderCsv,
  planJob,
  printLength,
  printWords,
  runSheetCsv,
  shortMarks,
  SIDE_WORDS,
  usesWords,
} from '#core';
import { readJobFile } from './jobFile.ts';
import { type Command, printable, printableJson } from './terminal.ts';

const USAGE = 'Usage: ./ruvet plan FILE [--json | --csv | --order-csv]';

/** The plan as text for a terminal or a printer: findings, run sheet, pieces, order list. */
function planText(plan: Plan, name: string, system: UnitSystem): string {
  const out = [name, ''];
  for (const group of groupFindings(told(plan.findings))) {
    const [{ severity, fix }] = group.findings;
    out.push(`! ${severity}: ${printWords(groupWords(group), system)} ${printWords(fix, system)}`);
  }
  for (const { kind, count, reason } of mutedKinds(plan.findings)) out.push(`  muted: ${kind}, ${count}: ${reason}`);
  for (const plane of plan.planes) {
    out.push(
      `${plane.name}: ${plane.lines.count} courses at ${printLength(plane.lines.gauge, system)} on ${printLength(plane.lines.end, system)} of slope`,
    );
    if (plane.barrier)
      out.push(
        `Ice barrier: ${printLength(plane.barrier.needed, system, { inchesOnly: true })} needed along the slope, ${plane.barrier.rows.length} rows`,
      );
    for (const wall of plane.walls)
      out.push(
        `${wall.name}: ${wall.pieces} ${wall.sides === 'steps' ? 'step flashings' : SIDE_WORDS[wall.sides]}${wall.step ? ` (${wall.step.name})` : ''}`,
      );
  }
  out.push('', 'RUN SHEET');
  const names = new Map(plan.planes.map(({ id, name: own }) => [id, own]));
  for (const group of plan.runSheet) {
    out.push('', `${group.title}${group.y === undefined ? '' : `, butt line ${printLength(group.y, system)}`}`);
    for (const line of group.lines) {
      const on = group.course === undefined && plan.planes.length > 1 && line.plane ? `${names.get(line.plane)}: ` : '';
      out.push(`  ${line.whole}. ${on}${printWords(line.action, system)}`);
      if (line.fasteners) out.push(`     ${printWords(line.fasteners, system)}`);
      if (line.uses) out.push(`     Takes: ${printWords(usesWords(line.uses), system)}`);
      if (line.people === 2) out.push('     Two people');
      if (line.caution) out.push(`     Caution: ${line.caution}`);
      if (line.holdPoint) out.push(`     ${holdWords(line.holdPoint)}`);
      if (line.wait) out.push(`     Wait: ${line.wait}`);
    }
  }
  out.push('', 'PIECES');
  const details = new Map<string, string[]>();
  for (const { detail, role, mark } of plan.pieces)
    details.set(`${detail} ${role}`, [...(details.get(`${detail} ${role}`) ?? []), mark]);
  for (const [what, marks] of details) out.push(`  ${what}: ${shortMarks(marks)}`);
  out.push('', 'ORDER');
  for (const line of plan.order)
    out.push(
      `  ${buyWords(line)} ${line.name}: ${[neededWords(line), besideWords(line, system)].filter((part) => part !== '').join('; ')}; left over: ${leftOver(line, system)}`,
    );
  out.push('', 'Local code, the maker’s current instructions and licensed practice govern. Ruvet computes; it does not approve.');
  return `${out.join('\n')}\n`;
}

/** `./ruvet plan FILE`: the plan as text, JSON, or a CSV table. */
export const plan: Command = async (args, say) => {
  const flags = args.filter((arg) => arg.startsWith('--'));
  const [file, ...more] = args.filter((arg) => !arg.startsWith('--'));
  if (!file || more.length > 0 || flags.length > 1 || flags.some((flag) => !['--json', '--csv', '--order-csv'].includes(flag)))
    throw new Error(USAGE);
  const { job, library } = await readJobFile(file);
  const planned = planJob(job, library);
  const system = job.units;
  const output = {
    '--json': () => `${printableJson(planned)}\n`,
    '--csv': () => printable(runSheetCsv(planned, system), '\r\n'),
    '--order-csv': () => printable(orderCsv(planned, system), '\r\n'),
  };
  say(flags[0] ? output[flags[0] as keyof typeof output]() : printable(planText(planned, job.name, system)));
  return 0;
};
