import {
  type CheckRequest,
  type Plan,
  type PlanePlan,
  type UnitSystem,
  checkDrainage,
  MEMORY_LIMIT_MB,
  TooFine,
  dryInMarks,
  measureReserve,
  parseLength,
  planJob,
  printLength,
  printWords,
  reserveWords,
} from '#core';
import { readJobFile } from './jobFile.ts';
import { type Command, printable } from './terminal.ts';

const USAGE =
  'Usage: ./ruvet check FILE [--cell SIZE]   (SIZE: the largest cell, such as 1/2in or 10mm; edges are always cut exactly)';

/** Lets the water judge one plane: at dry-in, finished, and what it has in hand. False when something gets wet. */
function checkPlane(
  plan: Plan,
  plane: PlanePlan,
  system: UnitSystem,
  cell: { cellSize?: number },
  say: (line: string) => void,
): boolean {
  const requests: [string, CheckRequest][] = [
    // the whole roof's: a valley takes the sheets of both its slopes
    ['dry-in', { plane: plane.id, stage: 'dry-in', laid: dryInMarks(plan), ...cell }],
    ['finished', { plane: plane.id, stage: 'finished', ...cell }],
  ];
  let clean = true;
  for (const [name, request] of requests) {
    const told = checkDrainage(plan, request);
    clean &&= told.verdict === 'clean';
    say(`${plane.name}, ${name}: ${told.verdict} (${told.cells} cells, ${told.states} states)`);
    for (const problem of told.problems) say(`  ${problem.verdict}, ${problem.cause}: ${printWords(problem.sentence, system)}`);
  }
  for (const [name, request] of clean ? requests : []) {
    const reserve = measureReserve(plan, request);
    say(`${plane.name}, ${name}, in hand:`);
    for (const kind of ['reach', 'creep'] as const) say(`  ${printWords(reserveWords(kind, reserve[kind]), system)}`);
  }
  return clean;
}

/** Reads `--cell SIZE`; without it only the edges cut the sheet. */
function readCell(args: readonly string[], system: UnitSystem): { cellSize?: number } {
  if (args.length === 0) return {};
  const [flag, size, ...more] = args;
  if (flag !== '--cell' || size === undefined || more.length > 0) throw new Error(USAGE);
  const parsed = parseLength(size, system);
  if (!parsed.ok) throw new Error(`Cell size: ${parsed.reason}.`);
  return { cellSize: parsed.value };
}

/** `./ruvet check FILE`: what the water finds on each slope of its plan; 2 when something gets wet. */
export const check: Command = async ([file, ...options], say) => {
  const line = (text: string): void => say(`${printable(text)}\n`);
  if (!file || file.startsWith('--')) throw new Error(USAGE);
  const { job, library } = await readJobFile(file);
  const cell = readCell(options, job.units);
  const plan = planJob(job, library);
  try {
    return plan.planes.map((plane) => checkPlane(plan, plane, job.units, cell, line)).every(Boolean) ? 0 : 2;
  } catch (error) {
    if (!(error instanceof TooFine)) throw error;
    // rounded up, so that what is offered is allowed
    const finest = printLength(Math.ceil(error.finest), 'metric');
    throw new Error(
      `Cell size: that needs more than the ${MEMORY_LIMIT_MB} MB a check may take; the finest allowed on this slope is ${finest}.`,
      { cause: error },
    );
  }
};
