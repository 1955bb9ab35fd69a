import {
  type CheckRequest,
  type Plan,
  type PlanePlan,
  type UnitSystem,
  checkDrainage,
  dryInMarks,
  measureReserve,
  planJob,
  printWords,
  reserveWords,
} from '@ruvet/core';
import { readJobFile } from './jobFile.ts';

const USAGE = 'Usage: ./ruvet check FILE';

/** Lets the water judge one plane: at dry-in, finished, and what it has in hand. False when something gets wet. */
function checkPlane(plan: Plan, plane: PlanePlan, system: UnitSystem): boolean {
  const requests: [string, CheckRequest][] = [
    ['dry-in', { plane: plane.id, stage: 'dry-in', laid: dryInMarks(plane) }],
    ['finished', { plane: plane.id, stage: 'finished' }],
  ];
  let clean = true;
  for (const [name, request] of requests) {
    const told = checkDrainage(plan, request);
    clean &&= told.verdict === 'clean';
    console.log(`${plane.name}, ${name}: ${told.verdict} (${told.cells} cells, ${told.states} states)`);
    for (const problem of told.problems)
      console.log(`  ${problem.verdict}, ${problem.cause}: ${printWords(problem.sentence, system)}`);
  }
  if (clean) {
    const reserve = measureReserve(plan, { plane: plane.id, stage: 'finished' });
    for (const kind of ['reach', 'creep'] as const) console.log(`  ${printWords(reserveWords(kind, reserve[kind]), system)}`);
  }
  return clean;
}

async function run(args: string[]): Promise<void> {
  const [file, ...more] = args;
  if (!file || more.length > 0) throw new Error(USAGE);
  const { job, library } = await readJobFile(file);
  const plan = planJob(job, library);
  const clean = plan.planes.map((plane) => checkPlane(plan, plane, job.units)).every(Boolean);
  if (!clean) process.exitCode = 2;
}

run(process.argv.slice(2)).catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : String(error));
  process.exitCode = 1;
});
