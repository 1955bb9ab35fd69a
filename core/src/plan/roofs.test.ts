import { describe, expect, it } from 'vitest';
import { demoLibrary } from '../../fixtures/demo.ts';
import { VALLEYS, crossed, dormered, valleyOf } from '../../fixtures/roofs.ts';
import { planFor } from '../../fixtures/planned.ts';
import { type Joint, printWords } from '../assembly/index.ts';
import { type Job, newJob, newPart } from '../document/index.ts';
import { checkDrainage } from '../drainage/index.ts';
import { inches, onTwelve, toInches } from '../units/index.ts';
import { type Plan, checkJob } from './index.ts';

const sheds = (made: Plan, plane: string): string => checkDrainage(made, { plane, stage: 'finished' }).verdict;
const figure = (made: Plan, family: string, label: string): string =>
  printWords(made.panels.find((sheet) => sheet.family === family)!.figures.find((one) => one.label === label)!.value, 'imperial');
const steps = (made: Plan, wall: string): number =>
  made.pieces.filter(({ role, mark }) => role === 'step' && mark.startsWith(`${wall}-`)).length;

describe('roofs put together', () => {
  const bare = (...kinds: Parameters<typeof newPart>[0][]): Job => {
    const job = newJob(demoLibrary, 'Shed', 'imperial')!;
    job.parts = [];
    for (const kind of kinds) job.parts.push(newPart(kind, job.parts, 'shingles')!);
    return job;
  };

  it('a hip: four slopes of as many courses, hips and ridge capped once, nothing leaks', () => {
    const hip = planFor(bare('hip'));
    expect(hip.planes.map(({ lines }) => lines.count)).toEqual([30, 30, 30, 30]);
    // 15 ft of ridge and four hips of 18 ft 9 in, by the exposure of the caps
    const caps = hip.pieces.flatMap(({ role, units }) => (role === 'ridgeCap' && units ? [units.whole] : []));
    const length = inches(180) + 4 * Math.hypot(Math.hypot(150, 150), 75) * inches(1);
    const exposure = demoLibrary.catalog.items.find((item) => item.kind === 'ridgeCap')!;
    if (exposure.kind !== 'ridgeCap') throw new Error('a ridge cap');
    const counted = caps.reduce((sum, whole) => sum + whole, 0);
    expect(counted).toBeGreaterThanOrEqual(Math.ceil(length / exposure.exposure));
    expect(counted).toBeLessThan(length / exposure.exposure + caps.length);
    for (const { id } of hip.planes) expect(sheds(hip, id)).toBe('clean');
  });

  it('a cross gable whose eaves stand higher has side walls up to its valleys, with a kick-out where it stands out', () => {
    const job = bare('gable', 'crossGable');
    const cross = job.parts[1]!;
    if (cross.kind !== 'crossGable') throw new Error('a cross gable');
    Object.assign(cross, { rise: inches(24), projection: inches(36) });
    const made = planFor(job);
    // 24 in of rise at 6/12 are 53 11/16 in of slope: courses 1 to 10
    expect([steps(made, 'CG1L'), steps(made, 'CG1R')]).toEqual([10, 10]);
    expect(made.pieces.filter(({ role }) => role === 'kickOut')).toHaveLength(2);
    expect(made.findings.filter(({ severity }) => severity !== 'worth a look')).toEqual([]);
    expect(sheds(made, made.roof[0]!.id)).toBe('clean');
    cross.projection = 0;
    expect(planFor(job).pieces.filter(({ role }) => role === 'kickOut')).toHaveLength(0);
  });

  it('a cross gable as high as the roof it runs into: both stay whole slopes, their ridges meet, nothing leaks', () => {
    const made = planFor(
      crossed((job) => {
        const [main, cross] = job.parts;
        if (cross!.kind === 'crossGable') Object.assign(cross!, { halfWidth: inches(120), pitch: main!.pitch });
      }),
    );
    expect(made.roof.map(({ joined }) => joined.parts)).toEqual([1, 1, 1, 1]);
    expect(made.findings).toEqual([]);
    // 10 ft level at 6/12 is 134 3/16 in of slope: 24 courses at 5 5/8 in on every slope
    expect(made.planes.map(({ lines }) => lines.count)).toEqual([24, 24, 24, 24]);
    // over 10 ft each way at 6/12 a valley rises 5 ft: the root of 120 squared twice and 60 squared is 15 ft
    for (const { line } of made.valleys) expect(toInches(line.trueLength)).toBeCloseTo(180, 0);
    // the highest course of the main slope lies in two stretches, one beside either valley
    const highest = made.pieces.find(({ mark }) => mark === 'S-C24')!;
    expect(highest.covers.filter(({ facet }) => facet === 'south')).toHaveLength(2);
    expect(sheds(made, 'south')).toBe('clean');
  });

  it('the two valleys of one gable run the same way by their water together; decided otherwise, it is said', () => {
    const job = dormered('hip', (dormer) => void (dormer.centre = inches(150)));
    const made = planFor(job);
    const through = made.valleys.map((valley) => valley.through);
    const host = made.roof[0]!.id;
    expect(new Set(through.map((plane) => plane === host)).size).toBe(1);
    expect(made.findings.some(({ id }) => id.endsWith('.opposite'))).toBe(false);
    const [first] = made.valleys;
    const other = first!.through === host ? first!.b : host;
    job.valleys[first!.key] = valleyOf('closed cut', other);
    expect(planFor(job).findings.find(({ id }) => id === 'V1.V2.opposite')!.severity).toBe('worth a look');
  });

  it('a dormer: front, two sidewalls, two valleys, told on a sheet of its own', () => {
    const made = planFor(dormered());
    expect([steps(made, 'D1L'), steps(made, 'D1R')]).toEqual([13, 13]);
    expect(figure(made, 'dormer', 'V1 empties on to')).toContain('course 21');
    expect(made.valleys.map(({ through }) => through)).toEqual(['dormer-left', 'dormer-right']);
    expect(made.planes[0]!.walls).toEqual([]);
  });

  it('a dormer that runs on to another slope is refused where it stands', () => {
    const [issue] = checkJob(
      dormered('hip', (dormer) => void Object.assign(dormer, { centre: inches(110) })),
      demoLibrary,
    );
    expect(issue!.path).toBe('parts.1.centre');
    expect(issue!.message).toMatch(/^Dormer, its middle: there it runs (on to|off)/);
  });

  it('slopes that meet at any eave angle share a valley of the same length seen from both, and shed', () => {
    for (const facing of [75, 112.5, 135]) {
      const job = bare('slope', 'slope');
      const turn = (facing * Math.PI) / 180;
      const right = [-Math.cos(turn), Math.sin(turn)] as const;
      const [south, turned] = job.parts;
      if (south?.kind !== 'slope' || turned?.kind !== 'slope') throw new Error('two slopes');
      // eaves that meet at the corner mark, each carried on under the other slope
      Object.assign(south, { eaveLength: inches(440), place: { east: inches(-200), north: 0, facing: 180, height: 0 } });
      Object.assign(turned, {
        eaveLength: inches(440),
        place: { east: -right[0] * inches(240), north: -right[1] * inches(240), facing, height: 0 },
      });
      const made = planFor(job);
      const [valley] = made.joints.filter(({ kind }) => kind === 'valley');
      const along = ([[ax, ay], [bx, by]]: Joint['onA']): number => Math.hypot(bx - ax, by - ay);
      expect(along(valley!.onA)).toBeCloseTo(along(valley!.onB), 1);
      expect(made.valleys).toHaveLength(1);
      expect(sheds(made, made.roof[0]!.id)).toBe('clean');
    }
  });

  it('woven: courses of both slopes take turns as they come by height', () => {
    const made = planFor(
      crossed((job) => {
        job.parts[1]!.pitch = onTwelve(4);
        for (const key of VALLEYS) job.valleys[key] = valleyOf('woven');
      }),
    );
    const heights = made.pieces
      .filter(({ role, mark }) => role === 'course' && /^(S|CW)-/.test(mark))
      .map(({ mark, course }) => (-0.5 + (course! - 1) * 5.625) * Math.sin(Math.atan(mark.startsWith('S') ? 0.5 : 1 / 3)));
    expect(heights).toEqual(heights.toSorted((a, b) => a - b));
    expect(sheds(made, 'south')).toBe('clean');
  });
});
