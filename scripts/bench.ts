// npm run bench: how long planning takes, and how that grows. Medians of several runs in this process.
import { readFileSync, readdirSync } from 'node:fs';
import {
  type CheckRequest,
  type Job,
  type Library,
  type PartOf,
  type Wall,
  catalogSchema,
  checkDrainage,
  checkJob,
  inches,
  jobSchema,
  measureReserve,
  packSchema,
  keptPlans,
  planJob,
} from '#core';
import { demoJob } from '../core/fixtures/demo.ts';
import { manyFeatures, manyOf } from '../core/fixtures/roofs.ts';

const demo = new URL('../demo/', import.meta.url);
const json = (path: string): unknown => JSON.parse(readFileSync(new URL(path, demo), 'utf8'));
const library: Library = {
  packs: readdirSync(new URL('packs/', demo)).map((file) => packSchema.parse(json(`packs/${file}`))),
  catalog: catalogSchema.parse(json('catalog.json')),
};
const ringingHouse = jobSchema.parse(json('jobs/ringing-house-north.ruvet.json'));
const wholeHouse = jobSchema.parse(json('jobs/ringing-house.ruvet.json'));
const slopePart = (job: Job): PartOf<'slope'> => job.parts[0] as PartOf<'slope'>;

/** A slope of so many courses with so many walls up its whole length, in pairs back to back, 12 ft of covering between pairs. */
function largeSlope(courses: number, walls: number): Job {
  const job = structuredClone(ringingHouse);
  const part = slopePart(job);
  const plane = part.planes[0]!;
  const template = plane.walls[0]!;
  part.slope = { kind: 'slope', length: inches(5.625 * (courses - 0.5)) };
  part.eaveLength = inches(144 * (walls / 2 + 1) + 24 * (walls / 2));
  plane.walls = Array.from({ length: walls }, (_, i): Wall => {
    const pair = Math.floor(i / 2);
    const start = 144 + pair * 168;
    return {
      ...template,
      id: `SW${i + 1}`,
      name: `Wall ${i + 1}`,
      stands: i % 2 === 0 ? 'right' : 'left',
      x: inches(i % 2 === 0 ? start : start + 24),
    };
  });
  const issues = checkJob(job, library);
  if (issues.length > 0) throw new Error(issues[0]!.message);
  return job;
}

function median(work: () => void, runs: number): number {
  work();
  const times = Array.from({ length: runs }, () => {
    const started = performance.now();
    work();
    return performance.now() - started;
  }).sort((a, b) => a - b);
  return times[runs >> 1]!;
}

function report(name: string, job: Job, runs: number): number {
  const plan = planJob(job, library);
  const time = median(() => planJob(job, library), runs);
  console.log(
    `${name.padEnd(36)} ${time.toFixed(1).padStart(8)} ms   ${String(plan.pieces.length).padStart(6)} pieces, ${plan.fasteners.length} fasteners`,
  );
  return time;
}

report('Ringing House, north plane', ringingHouse, 21);
let before: number | undefined;
for (const courses of [60, 125, 250]) {
  const time = report(`${courses} courses, 10 walls`, largeSlope(courses, 10), 3);
  if (before !== undefined) console.log(`  twice the courses: ${(time / before).toFixed(2)} times as long`);
  before = time;
}
before = undefined;
for (const walls of [10, 20, 40]) {
  const time = report(`125 courses, ${walls} walls`, largeSlope(125, walls), 3);
  if (before !== undefined) console.log(`  twice the walls: ${(time / before).toFixed(2)} times as long`);
  before = time;
}

// ---- water ----

/** A bare breadth-first sweep over a grid of as many states: what a pass would cost without any rule of water. */
function bareSweep(states: number): void {
  const width = Math.ceil(Math.sqrt(states));
  const seen = new Uint8Array(states);
  const queue = new Int32Array(states);
  let head = 0;
  let tail = 0;
  for (let start = 0; start < width; start++) {
    seen[start] = 1;
    queue[tail++] = start;
  }
  while (head < tail) {
    const at = queue[head++]!;
    for (const next of [at + width, at - 1, at + 1]) {
      if (next < 0 || next >= states || seen[next]) continue;
      seen[next] = 1;
      queue[tail++] = next;
    }
  }
}

/** One unit of work: the bare sweep over a million states. Machines drift: times are told in units taken right before and after. */
const unit = (): number => {
  const started = performance.now();
  bareSweep(1_000_000);
  return performance.now() - started;
};

/** As often is a roof planned before it is timed, as by somebody who has typed for a while: until then the time goes to compiling. */
const WARM = 40;

/** How many units some work takes, the median of the runs whose units agree to 20 %; the time is the shortest run's. */
function inUnits(work: () => void, runs: number, warm = 1): { units: number; ms: number; kept: number } {
  for (let i = 0; i < warm; i++) {
    work();
    unit();
  }
  const kept = Array.from({ length: runs }, () => {
    const before = unit();
    const started = performance.now();
    work();
    const ms = performance.now() - started;
    const after = unit();
    return { ms, units: (2 * ms) / (before + after), good: Math.abs(before - after) <= 0.2 * Math.min(before, after) };
  });
  const good = kept.filter((run) => run.good).sort((a, b) => a.units - b.units);
  return {
    units: good[good.length >> 1]?.units ?? Number.NaN,
    ms: Math.min(...kept.map(({ ms }) => ms)),
    kept: good.length,
  };
}

const told = ({ units, ms, kept }: { units: number; ms: number; kept: number }, runs: number): string =>
  kept === 0
    ? `void (${ms.toFixed(0)} ms; the machine was not quiet)`
    : `${units.toFixed(2)} units (${ms.toFixed(0)} ms at best, ${kept} of ${runs} runs kept)`;

function reportWater(name: string, plan: ReturnType<typeof planJob>, request: CheckRequest): void {
  const result = checkDrainage(plan, request);
  const check = inUnits(() => checkDrainage(plan, request), 9);
  const reserve = inUnits(() => measureReserve(plan, request), 7);
  const bare = median(() => bareSweep(result.states), 15);
  console.log(`${name}: ${result.verdict}, ${result.cells} cells, ${result.states} states, ${result.visited} gone through`);
  console.log(`  check ${told(check, 9)}, ${(check.ms / bare).toFixed(0)} times a bare sweep over as many states`);
  console.log(`  reserve ${told(reserve, 7)}`);
}

report('the whole Ringing House', wholeHouse, 5);
const anew = inUnits(() => void planJob(wholeHouse, library), 31, WARM);
console.log(`  planned anew: ${told(anew, 31)}`);
const printed = planJob(wholeHouse, library);
const copied = inUnits(() => void JSON.parse(JSON.stringify(printed)), 15);
console.log(
  `  printing and parsing that plan as JSON: ${told(copied, 15)}; planning takes ${(anew.units / copied.units).toFixed(1)} times that`,
);
for (const id of ['P1', 'SK1']) {
  const kept = keptPlans();
  let moved = 0;
  // what a crew waits for when it moves one thing
  const edit = inUnits(
    () => {
      const job = structuredClone(wholeHouse);
      const feature = job.features.find((one) => one.id === id);
      if (feature && feature.kind !== 'headwall') feature.up = { ...feature.up, length: feature.up.length + ++moved };
      planJob(job, library, kept);
    },
    31,
    WARM,
  );
  console.log(`  after moving ${id}, the other slopes kept: ${told(edit, 31)}`);
}
const thirty = report('30 features', manyFeatures(demoJob(), 30, 10), 5);
const threeHundred = report('300 features', manyFeatures(demoJob(), 300, 10), 3);
console.log(`ten times the features on ten times the roof: ${(threeHundred / thirty).toFixed(1)} times as long`);

const finished = { plane: 'north', stage: 'finished' } as const;
const detail = structuredClone(ringingHouse);
Object.assign(slopePart(detail), { eaveLength: inches(120), slope: { kind: 'slope', length: inches(120) } });
reportWater('10 ft × 10 ft with a wall, 1/2 in cells', planJob(detail, library), { ...finished, cellSize: inches(0.5) });
reportWater('10 ft × 10 ft with a wall, cut at the edges', planJob(detail, library), finished);
reportWater('Ringing House, north plane', planJob(ringingHouse, library), finished);
const house = planJob(wholeHouse, library);
for (const plane of ['south', 'north'])
  reportWater(`the whole Ringing House, ${plane} and what shares its valleys`, house, { plane, stage: 'finished' });
for (const kind of ['pipe', 'chimney'] as const)
  for (const count of [1, 5, 20, 50])
    reportWater(
      `${count} ${kind === 'pipe' ? 'pipe' : 'chimney with cricket'}${count > 1 ? ', the slope as large as they need' : ''}`,
      planJob(manyOf(kind, count), library),
      finished,
    );

// ---- the server ----

if (process.env['DATABASE_URL']) {
  const { benchServer } = await import('./benchServer.ts');
  await benchServer();
} else console.log('the server was not measured: DATABASE_URL is not set');
