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
  newFeature,
  planJob,
  upgradeJob,
} from '@ruvet/core';

const demo = new URL('../demo/', import.meta.url);
const json = (path: string): unknown => JSON.parse(readFileSync(new URL(path, demo), 'utf8'));
const library: Library = {
  packs: readdirSync(new URL('packs/', demo)).map((file) => packSchema.parse(json(`packs/${file}`))),
  catalog: catalogSchema.parse(json('catalog.json')),
};
const ringingHouse = jobSchema.parse(upgradeJob(json('jobs/ringing-house-north.ruvet.json')));
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
for (const courses of [125, 250, 500, 1000]) {
  const time = report(`${courses} courses, 20 walls`, largeSlope(courses, 20), 5);
  if (before !== undefined) console.log(`  twice the courses: ${(time / before).toFixed(2)} times as long`);
  before = time;
}
before = undefined;
for (const walls of [10, 20, 40]) {
  const time = report(`500 courses, ${walls} walls`, largeSlope(500, walls), 5);
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

function reportWater(name: string, plan: ReturnType<typeof planJob>, request: CheckRequest): void {
  const told = checkDrainage(plan, request);
  const pass = median(() => checkDrainage(plan, request), 7) / 2; // sealed edges closed, then open: two passes
  const reserve = median(() => measureReserve(plan, request), 3);
  const bare = median(() => bareSweep(told.states), 15);
  const layers = told.states - told.cells;
  console.log(`${name}: ${told.verdict}, ${told.cells} cells, ${layers} cells × layers`);
  console.log(
    `  one pass ${pass.toFixed(1)} ms, ${(layers / pass / 1000).toFixed(2)} million cells × layers a second; reserve search ${reserve.toFixed(0)} ms`,
  );
  console.log(
    `  bare sweep over ${told.states} states ${bare.toFixed(2)} ms: a pass takes ${(pass / bare).toFixed(1)} times as long`,
  );
}

/** A wide slope with so many features in rows: pipes, skylights and chimneys by turns. */
function manyFeatures(count: number): Job {
  const job = structuredClone(ringingHouse);
  const part = slopePart(job);
  const rows = Math.ceil(count / 40);
  part.eaveLength = inches(40 * 72 + 72);
  part.slope = { kind: 'slope', length: inches(rows * 110 + 60) };
  const plane = { id: 'north', eaveLength: part.eaveLength, slope: part.slope };
  for (let i = 0; i < count; i++) {
    const feature = newFeature((['pipe', 'skylight', 'chimney'] as const)[i % 3]!, job, plane);
    if (feature.kind === 'headwall') continue;
    feature.across = { from: 'left', distance: inches(48 + (i % 40) * 72) };
    feature.up = { kind: 'slope', length: inches(48 + Math.floor(i / 40) * 110) };
    job.features.push(feature);
  }
  const issues = checkJob(job, library);
  if (issues.length > 0) throw new Error(issues[0]!.message);
  return job;
}

report('the whole Ringing House', wholeHouse, 5);
const hundred = report('100 features', manyFeatures(100), 2);
const twoHundred = report('200 features', manyFeatures(200), 2);
console.log(`twice the features: ${(twoHundred / hundred).toFixed(1)} times as long`);

const detail = structuredClone(ringingHouse);
Object.assign(slopePart(detail), { eaveLength: inches(120), slope: { kind: 'slope', length: inches(120) } });
const finished = { plane: 'north', stage: 'finished' } as const;
reportWater('10 ft × 10 ft with a wall, 1/2 in cells', planJob(detail, library), { ...finished, cellSize: inches(0.5) });
reportWater('10 ft × 10 ft with a wall, cut at the edges', planJob(detail, library), finished);
reportWater('Ringing House, north plane, cut at the edges', planJob(ringingHouse, library), finished);
for (const plane of ['south', 'north'])
  reportWater(`the whole Ringing House, ${plane} and what shares its valleys`, planJob(wholeHouse, library), {
    plane,
    stage: 'finished',
  });
