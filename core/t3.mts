import { demoHouse, demoLibrary } from './fixtures/demo.ts';
import { planJob } from './src/job/index.ts';
import { checkDrainage, measureReserve } from './src/drainage/index.ts';
import { printWords } from './src/assembly/index.ts';
const job = demoHouse();
if (process.argv[2])
  for (const k of ['south+cross-west', 'south+cross-east'])
    job.valleys[k] = { style: process.argv[2] as never, through: null, trim: 'back from the centre' };
const plan = planJob(job, demoLibrary);
for (const id of ['south']) {
  for (const s of [{}, { reach: 24.4 }, { creep: 49.8 }]) {
    const t = performance.now();
    const r = checkDrainage(plan, { plane: id, stage: 'finished' }, s);
    console.log(id, JSON.stringify(s), r.verdict, Math.round(performance.now() - t));
    for (const pr of r.problems.slice(0, 5))
      console.log(
        '   ',
        pr.verdict,
        '|',
        pr.cause,
        '|',
        printWords(pr.sentence, 'imperial'),
        pr.path
          .slice(-8)
          .map((s) => `${s.move}:${s.piece}@${s.facet}(${(s.x / 25.4).toFixed(1)},${(s.y / 25.4).toFixed(1)})`)
          .join(' > '),
      );
  }
}
