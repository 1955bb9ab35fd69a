import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoFile, demoHouse, demoJob, demoLibrary, demoShelf, stripOf } from '../../fixtures/demo.ts';
import { cases } from '../../fixtures/seeds.ts';
import { planFor } from '../../fixtures/planned.ts';
import { printWords } from '../assembly/index.ts';
import { itemsOf } from '../catalog/index.ts';
import { type Job, jobSchema } from '../document/index.ts';
import { readJob } from '../exchange/index.ts';
import { inches, onTwelve } from '../units/index.ts';
import { checkJob, setAside } from './index.ts';

const house = (change: (job: Job) => void): Job => {
  const job = demoHouse();
  change(job);
  return jobSchema.parse(job);
};
const told = (job: Job): string[] =>
  planFor(job).findings.flatMap(({ id, sentence }) => (id.startsWith('job.') ? [printWords(sentence, job.units)] : []));
const marks = (job: Job): string[] => planFor(job).pieces.map(({ mark }) => mark);

describe('what cannot be planned is kept and told, and the rest is planned', () => {
  it('of a job with nothing wrong nothing is set aside', () => {
    expect(setAside(demoHouse(), demoLibrary)).toEqual({ sound: demoHouse(), aside: [] });
    expect(told(demoHouse())).toEqual([]);
  });

  it('a pipe off its slope: the same plan as without it, and a finding that names its field', () => {
    const off = house((job) => {
      const pipe = job.features.find(({ id }) => id === 'P1')!;
      if (pipe.kind === 'pipe') pipe.across.distance = inches(9000);
    });
    expect(marks(off)).toEqual(marks(house((job) => void (job.features = job.features.filter(({ id }) => id !== 'P1')))));
    expect(told(off)).toEqual(['Soil pipe, across the slope: it would stand past the right end of North plane.']);
    const read = readJob(off, demoShelf);
    expect(read.ok && read.job).toEqual(off);
  });

  it('whatever tile and tile and a half, or slate and a half, are taken together, what does not go with the other is set aside', () => {
    const ids = (kind: 'tile' | 'slate'): string[] => itemsOf(demoLibrary.catalog, kind).map(({ id }) => id);
    for (const [kind, file] of [
      ['tile', 'keepers-cottage-wash-house'],
      ['slate', 'keepers-cottage-porch'],
    ] as const)
      for (const one of ids(kind))
        for (const wide of ids(kind)) {
          const job = demoFile(file);
          Object.assign(job.coverings[0]!, { [kind]: one, [`${kind}AndHalf`]: wide });
          const { sound, aside } = setAside(job, demoLibrary);
          expect([one, wide, sound === undefined]).toEqual([one, wide, false]);
          if (sound) expect(checkJob(sound, demoLibrary).every(({ planned }) => planned)).toBe(true);
          // what is taken is not changed behind anybody’s back
          if (aside.length === 0) expect(sound).toEqual(job);
        }
  });

  it('a wall that ends below where it begins goes, its neighbours stay', () => {
    const wrong = house((job) => {
      const wall = job.parts.flatMap(({ planes }) => planes.flatMap(({ walls }) => walls))[0]!;
      Object.assign(wall, { from: inches(100), to: inches(50) });
    });
    expect(told(wrong).join(' ')).toMatch(/lower end: 8'-4" is not below its upper end, 4'-2"/);
    expect(marks(wrong).some((mark) => mark.startsWith('CH1'))).toBe(true);
  });

  it('a product the catalog does not have is planned with the first of its kind', () => {
    const gone = house((job) => void (stripOf(job).shingle = 'gone'));
    expect(told(gone)).toEqual(['Shingle: the catalog has no such item as "gone".']);
    const courses = planFor(gone).pieces.filter(({ role }) => role === 'course');
    expect(new Set(courses.map(({ product }) => product))).toEqual(new Set(['marrowgate-laminated']));
  });

  it('a pitch under the least and an exposure over the greatest are planned as they are', () => {
    const flat = demoJob();
    flat.parts[0]!.pitch = onTwelve(1);
    flat.parts[0]!.planes[0]!.exposure = inches(7);
    const { lines, pitch } = planFor(flat).planes[0]!;
    expect([pitch, lines.gauge]).toEqual([1 / 12, inches(7)]);
    expect(told(flat)).toHaveLength(2);
    expect(planFor(flat).findings.map(({ id }) => id)).toContain('covering.headlap');
  });

  it('a choice that contradicts another is planned as if it were not made, and the document keeps it', () => {
    const job = house((draft) => {
      const chimney = draft.features.find(({ kind }) => kind === 'chimney')!;
      if (chimney.kind === 'chimney') Object.assign(chimney, { masonry: false, counter: 'reglet' });
    });
    expect(told(job)).toEqual(['Chimney: that is let into masonry, and this is not masonry.'.replace('Chimney:', `${job.features.find(({ kind }) => kind === 'chimney')!.name}, counterflashing:`)]); // prettier-ignore
    const read = readJob(job, demoShelf);
    expect(read.ok && read.job.features.find(({ kind }) => kind === 'chimney')).toMatchObject({ counter: 'reglet' });
  });

  it('a part whose host is gone goes with all that stands on it', () => {
    const job = house((draft) => {
      const cross = draft.parts.find(({ kind }) => kind === 'crossGable')!;
      if (cross.kind === 'crossGable') cross.host = 'nowhere';
    });
    expect(told(job)[0]).toContain('stands on: there is no slope "nowhere"');
    expect(planFor(job).valleys).toEqual([]);
  });

  it('a job of which no slope is left is refused, with the reason', () => {
    const job = demoJob();
    job.parts = [{ ...demoHouse().parts.find(({ kind }) => kind === 'crossGable')!, host: 'nowhere' } as Job['parts'][number]];
    expect(setAside(job, demoLibrary).sound).toBeUndefined();
    expect(readJob(job, demoShelf)).toMatchObject({ ok: false, issues: [{ path: 'parts.0.host' }] });
  });
});

describe('whatever the schema takes', () => {
  const length = (most: number) => fc.double({ min: 0, max: inches(most), noNaN: true });
  const wild = fc.record({
    x12: fc.double({ min: 0.5, max: 40, noNaN: true }),
    exposure: fc.double({ min: inches(2), max: inches(24), noNaN: true }),
    places: fc.array(fc.tuple(length(700), length(300)), { minLength: 6, maxLength: 6 }),
    walls: fc.array(fc.tuple(length(600), length(300), length(300)), { minLength: 2, maxLength: 2 }),
    plane: fc.constantFrom('south', 'north', 'nowhere'),
    shingle: fc.constantFrom('marrowgate-laminated', 'thrupley-moorland', 'gone'),
    twice: fc.boolean(),
    which: fc.integer({ min: 0, max: 2 }),
  });

  it('is planned without an error; every wrong is told once, and what is planned is sound', () => {
    fc.assert(
      fc.property(wild, (draw) => {
        const job = house((draft) => {
          draft.parts[draw.which]!.pitch = onTwelve(draw.x12);
          draft.parts[0]!.planes[0]!.exposure = draw.exposure;
          stripOf(draft).shingle = draw.shingle;
          draft.features.forEach((feature, i) => {
            if (feature.kind === 'headwall') return;
            const [x, y] = draw.places[i % draw.places.length]!;
            Object.assign(feature, { across: { from: 'left', distance: x }, up: { kind: 'slope', length: y } });
            if (i === 0) feature.plane = draw.plane;
            if (i === 1 && draw.twice) feature.id = draft.features[0]!.id;
          });
          const walls = draft.parts.flatMap(({ planes }) => planes.flatMap((plane) => plane.walls));
          walls.forEach((wall, i) => {
            const [x, from, to] = draw.walls[i % draw.walls.length]!;
            Object.assign(wall, { x, from, to: Math.max(1, to) });
          });
        });
        const { sound, aside } = setAside(job, demoLibrary);
        const plan = planFor(job);
        expect(JSON.stringify(plan)).not.toMatch(/null,null|NaN|Infinity/);
        expect(new Set(told(job))).toEqual(new Set(aside.map(({ message }) => message)));
        const left = sound ? checkJob(sound, demoLibrary).filter(({ planned }) => !planned) : [];
        expect(left).toEqual([]);
      }),
      cases(6),
    );
  });
});
