import { demoHouse, demoLibrary } from './fixtures/demo.ts';
import { planJob } from './src/job/index.ts';
import { isWithin } from './src/roof/index.ts';
const job = demoHouse();
const at = (f: string, x: number, y: number) =>
  console.log(
    f,
    x,
    y,
    plan.pieces
      .filter((p) => p.covers.some((c) => c.facet === f && isWithin(c.outline, [x * 25.4, y * 25.4])))
      .map((p) => p.mark + (p.joints?.filter((j) => Math.abs(j / 25.4 - x) < 2).map((j) => '!' + j / 25.4) ?? ''))
      .join(' '),
  );
let plan = planJob(job, demoLibrary);
at('south', 497.5, 1.5);
at('south', 496.5, 1.5);
at('south', 495.5, 1.5);
for (const k of ['south+cross-west', 'south+cross-east'])
  job.valleys[k] = { style: 'open', through: null, trim: 'back from the centre' };
plan = planJob(job, demoLibrary);
for (const n of ['S-C20', 'S-C21', 'S-C22', 'S-C23'])
  console.log(
    n,
    plan.pieces
      .find((p) => p.mark === n)!
      .joints!.map((j) => (j / 25.4).toFixed(2))
      .join(' '),
  );
