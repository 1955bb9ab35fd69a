// npm run bench: how long planning takes, and how that grows. Medians of several runs in this process.
import { readFileSync, readdirSync } from 'node:fs';
import { type Job, type Library, type Wall, catalogSchema, checkJob, inches, jobSchema, packSchema, planJob } from '@ruvet/core';

const demo = new URL('../demo/', import.meta.url);
const json = (path: string): unknown => JSON.parse(readFileSync(new URL(path, demo), 'utf8'));
const library: Library = {
  packs: readdirSync(new URL('packs/', demo)).map((file) => packSchema.parse(json(`packs/${file}`))),
  catalog: catalogSchema.parse(json('catalog.json')),
};
const ringingHouse = jobSchema.parse(json('jobs/ringing-house-north.ruvet.json'));

/** A slope of so many courses with so many walls up its whole length, in pairs back to back, 12 ft of covering between pairs. */
function largeSlope(courses: number, walls: number): Job {
  const job = structuredClone(ringingHouse);
  const plane = job.planes[0]!;
  const template = plane.walls[0]!;
  plane.slope = { kind: 'slope', length: inches(5.625 * (courses - 0.5)) };
  plane.eaveLength = inches(144 * (walls / 2 + 1) + 24 * (walls / 2));
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
