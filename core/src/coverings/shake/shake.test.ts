import { describe, expect, it } from 'vitest';
import { demoFile, demoLibrary } from '../../../fixtures/demo.ts';
import { planFor } from '../../../fixtures/planned.ts';
import type { Piece } from '../../assembly/index.ts';
import type { CoveringOf, Job } from '../../document/index.ts';
import { applyWhatIfs, checkDrainage, measureReserve } from '../../drainage/index.ts';
import { type Plan, checkJob } from '../../plan/index.ts';
import { bounds } from '../../roof/index.ts';
import { inches, toInches } from '../../units/index.ts';

const shed = (change: (job: Job, shakes: CoveringOf<'shake'>) => void = () => undefined): Job => {
  const job = demoFile('peat-shed-shakes');
  change(job, job.coverings[0] as CoveringOf<'shake'>);
  return job;
};
const plan = (job = shed()): Plan => planFor(job);
const on = ({ pieces }: Plan, role: Piece['role'], facet = 'shed-front'): Piece[] =>
  pieces.filter((piece) => piece.role === role && piece.covers[0]!.facet === facet);
const front = { plane: 'shed-front', stage: 'finished' } as const;
const buttOf = ({ covers }: Piece): number => Math.min(...covers.map(({ outline }) => bounds(outline).y0));

describe('the shake roof', () => {
  const made = plan();
  const courses = on(made, 'course');

  it('is laid at 10 in from an inch and a half past the eave', () => {
    expect(toInches(made.planes[0]!.lines.gauge)).toBeCloseTo(10, 6);
    expect(courses.map((one) => toInches(buttOf(one)))).toEqual(
      courses.map((_, i) => expect.closeTo(-1.5 + 10 * i, 4) as number),
    );
  });

  it('felt lies on every course but the last, its lower edge 20 in above that course’s butts, so that none of it shows', () => {
    const felts = on(made, 'interlay').filter(({ detail }) => detail === 'covering');
    expect(felts.map(({ course }) => course)).toEqual(courses.slice(0, felts.length).map(({ course }) => course));
    for (const felt of felts) {
      expect(toInches(buttOf(felt) - buttOf(courses[felt.course! - 1]!)), felt.mark).toBeCloseTo(20, 4);
      const over = courses[felt.course! + 1];
      if (over) expect(buttOf(felt), felt.mark).toBeGreaterThanOrEqual(buttOf(over) - 0.01);
    }
  });

  it('joints keep an inch and a half from those below, each shake two nails, an inch or more from its joints', () => {
    for (const [i, course] of courses.entries()) {
      const below = i === 0 ? on(made, 'starter')[0]! : courses[i - 1]!;
      for (const x of course.joints!)
        for (const other of below.joints!) expect(Math.abs(x - other), course.mark).toBeGreaterThanOrEqual(inches(1.5) - 0.4);
      const nails = made.fasteners.filter(({ piece }) => piece === course.mark);
      expect(nails.length, course.mark).toBeGreaterThanOrEqual(2 * (course.joints!.length + 1));
      expect(nails.length % 2, course.mark).toBe(0);
      for (const { at } of nails)
        for (const x of course.joints!) expect(Math.abs(at[0] - x), course.mark).toBeGreaterThanOrEqual(inches(1) - 0.4);
    }
  });

  it('nails stand 1 3/4 in above the next butt where nothing lies under them', () => {
    const nails = made.fasteners.filter(({ piece }) => piece === courses[1]!.mark);
    const onLine = nails.filter(({ at }) => Math.abs(toInches(at[1] - buttOf(courses[2]!)) - 1.75) < 0.01);
    expect(onLine).toHaveLength(nails.length);
  });

  it('sheds on both slopes, with two inches and the headlap in hand; its findings are none', () => {
    expect(made.findings).toEqual([]);
    for (const { id } of made.planes) expect(checkDrainage(made, { ...front, plane: id }).verdict, id).toBe('clean');
    expect(toInches(measureReserve(made, front).reach!.distance)).toBeGreaterThanOrEqual(2 - 0.01);
  });

  it('the felt over the vent’s flange is what keeps its nails dry under the joints', () => {
    const felt = on(made, 'interlay').find(({ detail }) => detail === 'P1')!;
    const { assembly, ignored } = applyWhatIfs(made, [{ kind: 'leave-out', piece: felt.mark }]);
    expect(ignored).toEqual([]);
    expect(checkDrainage(assembly, front).problems.map(({ cause }) => cause)).toContain('fastener');
  });

  it('the kick-out is as wide as the steps it catches, 6 in here', () => {
    const kickOut = on(made, 'kickOut')[0]!;
    const step = on(made, 'step')[0]!;
    const wide = ({ covers }: Piece): number => bounds(covers[0]!.outline).x1 - bounds(covers[0]!.outline).x0;
    expect(wide(kickOut)).toBeGreaterThanOrEqual(wide(step) - 0.01);
  });

  it('orders shakes by what an average one covers with its gap', () => {
    const run = courses.concat(on(made, 'course', 'shed-back'), on(made, 'starter'), on(made, 'starter', 'shed-back'));
    const needed = run.reduce((sum, { units }) => sum + units!.whole + units!.parts.length, 0);
    expect(made.order.find(({ product }) => product === 'sallow-shake-24')).toMatchObject({ needed, unit: 'pieces' });
    // 24 ft of front and back, 8 3/8 in each: 34.4 a course, 15 courses and a starter a slope
    expect(needed).toBe(2 * 16 * 35);
  });
});

describe('what cannot be laid in shakes is refused by its field', () => {
  const problems = (change: Parameters<typeof shed>[0]): string[] =>
    checkJob(shed(change), demoLibrary).map(({ path, message }) => `${path}: ${message}`);

  it.each<[string, Parameters<typeof shed>[0], string]>([
    ['too flat', (job) => void (job.parts[0]!.pitch = { rise: 3, run: 12 }), 'parts.0.pitch: South slope, pitch: 3/12 is under the least for Split shake 24 in, 1/2 in butt, 4/12.'],
    ['too far apart', (_, shakes) => void (shakes.exposure = inches(11)), 'coverings.0.exposure: Exposure: 11" is more than Split shake 24 in, 1/2 in butt may be exposed, 10".'],
    ['under shingle caps', (_, shakes) => void (shakes.ridgeCap = 'marrowgate-cap'), 'coverings.0.ridgeCap: Ridge units: Ridge cap, two-layer is not made for shakes.'],
  ])('%s', (_, change, sentence) => expect(problems(change)).toContain(sentence)); // prettier-ignore
});

describe('measured and closer', () => {
  it('a measured butt fits what lies above it, and shakes at 13 in no longer cover twice', () => {
    const measured = plan(shed((job) => void (job.parts[0]!.planes[0]!.measuredButts = [{ course: 5, at: inches(40) }])));
    expect(toInches(buttOf(on(measured, 'course')[4]!))).toBeCloseTo(40, 4);
    const wide = plan(shed((job) => void (job.parts[0]!.planes[0]!.measuredButts = [{ course: 2, at: inches(11.5) }])));
    expect(wide.findings.map(({ id }) => id)).toContain('covering.headlap');
  });
});
