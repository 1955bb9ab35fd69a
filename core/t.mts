import { demoHouse, demoJob, demoLibrary } from './fixtures/demo.ts';
import { checkJob, planJob } from './src/job/index.ts';
import { checkDrainage, measureReserve } from './src/drainage/index.ts';
import { printWords } from './src/assembly/index.ts';
import { dryInMarks } from './src/sequence/index.ts';
const which = process.argv[2] ?? 'house';
const job = which === 'north' ? demoJob() : demoHouse();
console.log(checkJob(job, demoLibrary));
let t = performance.now();
const plan = planJob(job, demoLibrary);
console.log('plan ms', performance.now() - t, plan.pieces.length, plan.fasteners.length);
for (const f of plan.findings)
  console.log(f.severity, '|', printWords(f.sentence, 'imperial'), '|', printWords(f.fix, 'imperial'));
for (const p of plan.planes) {
  if (process.argv[3] && p.id !== process.argv[3]) continue;
  console.log('==', p.id, p.mark, 'courses', p.courses, p.layout.slopeLength / 25.4);
  t = performance.now();
  for (const [name, req] of [
    ['fin', { plane: p.id, stage: 'finished' }],
    ['dry', { plane: p.id, stage: 'dry-in', laid: dryInMarks(plan) }],
  ] as const) {
    const r = checkDrainage(plan, req as never);
    console.log(name, r.verdict, r.cells, r.states, Math.round(performance.now() - t));
    for (const pr of r.problems.slice(0, 3))
      console.log(
        '   ',
        pr.verdict,
        '|',
        pr.cause,
        '|',
        printWords(pr.sentence, 'imperial'),
        JSON.stringify(pr.at),
        pr.path
          .slice(0, 14)
          .map((s) => `${s.move}:${s.piece}@${s.facet}(${(s.x / 25.4).toFixed(1)},${(s.y / 25.4).toFixed(1)})`)
          .join(' > '),
      );
  }
}
console.log(
  [...dryInMarks(plan)].filter((m) => m.startsWith('P-') || m.startsWith('N-')).slice(0, 10),
  plan.runSheet.slice(0, 30).map((g) => `${g.id}:${g.lines.length}`),
);
