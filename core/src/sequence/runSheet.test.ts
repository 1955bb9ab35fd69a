import fc from 'fast-check';
import { expect, it } from 'vitest';
import { demoLibrary } from '../../fixtures/demo.ts';
import { anyJob } from '../../fixtures/jobs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { planJob } from '../plan/index.ts';

it('lays every piece in one line, each course once, in order from the eave up', () => {
  fc.assert(
    fc.property(anyJob, (job) => {
      const plan = planJob(job, demoLibrary);
      const groups = plan.planes[0]!.runSheet;
      const lines = groups.flatMap((group) => group.lines);
      expect(lines.map(({ line }) => line)).toEqual(lines.map((_, i) => i + 1));
      const laid = lines.flatMap(({ pieces }) => pieces);
      expect(new Set(laid).size).toBe(laid.length);
      // what was there before the job (masonry above a reglet) is drawn, not laid
      const before = new Set(
        plan.pieces.filter(({ role, product }) => role === 'cladding' && product === undefined).map(({ mark }) => mark),
      );
      expect(plan.pieces.map(({ mark }) => mark).filter((mark) => !laid.includes(mark) && !before.has(mark))).toEqual([]);
      const courses = groups.flatMap(({ course }) => (course === undefined ? [] : [course]));
      expect(courses).toEqual([...new Set(courses)].sort((a, b) => a - b));
    }),
    cases(30),
  );
});
