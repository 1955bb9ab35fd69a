import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { demoFile, demoHouse, demoJob, demoLibrary, demoShelf, stripOf } from '../../fixtures/demo.ts';
import { planFor } from '../../fixtures/planned.ts';
import { itemById } from '../catalog/index.ts';
import { checkJob } from '../plan/index.ts';
import { type Job, JOB_FORMAT_VERSION, jobSchema, upgradeJob } from './index.ts';

type Sample = { version: number } & Record<string, unknown>;

const sample = (version: number): Sample =>
  JSON.parse(
    readFileSync(new URL(`../../fixtures/ringing-house-version-${version}.ruvet.json`, import.meta.url), 'utf8'),
  ) as Sample;

const read = (data: unknown): Job => jobSchema.parse(upgradeJob(data, demoShelf));

describe('files of every version before', () => {
  const EARLIER = Array.from({ length: JOB_FORMAT_VERSION - 1 }, (_, i) => i + 1);

  it.each(EARLIER)('one of version %i is read, passes the checks and is planned', (version) => {
    const data = sample(version);
    expect(data.version).toBe(version);
    const job = read(data);
    expect(job.version).toBe(JOB_FORMAT_VERSION);
    expect(checkJob(job, demoLibrary)).toEqual([]);
    expect(planFor(job).pieces.length).toBeGreaterThan(90);
  });

  it('version 4’s covering, metal, deck and underlayers are one covering of every slope, at the same values', () => {
    const data = sample(4);
    const job = read(data);
    expect(job.coverings).toEqual([
      {
        kind: 'strip',
        id: 'shingles',
        name: 'Shingles',
        ...(data['covering'] as object),
        metal: data['metal'],
        deckThickness: data['deckThickness'],
        underlayers: data['underlayers'],
      },
    ]);
    expect(new Set(job.parts.flatMap(({ planes }) => planes.map(({ covering }) => covering)))).toEqual(new Set(['shingles']));
    // what a version 4 file could not say yet is not decided
    const { wind, ...site } = demoHouse().site;
    expect(wind).not.toBeNull();
    expect({ ...job, catalog: 0, packs: [] }).toEqual({
      ...demoHouse(),
      site: { ...site, wind: null },
      ventilation: null,
      deviations: [],
      catalog: 0,
      packs: [],
    });
  });

  it('version 6’s tiles hang straight on rafters, its walls have cover flashings, its pipes two bases', () => {
    const now = JSON.stringify(demoFile('keepers-cottage-back'));
    const then = JSON.parse(
      now.replace(/"(bearing|battenLay|besideTiles|bases)":"[a-z -]+",?/g, '').replaceAll(',}', '}'),
    ) as Sample;
    expect(then).not.toEqual(demoFile('keepers-cottage-back'));
    expect(read({ ...then, version: 6 })).toEqual(demoFile('keepers-cottage-back'));
  });

  it('what is no job of its version is left for the schema to refuse by its field', () => {
    const without = { ...sample(4), covering: undefined };
    expect(upgradeJob(without, demoShelf)).toBe(without);
    const [first] = jobSchema.safeParse(upgradeJob({ ...sample(4), metal: 'gold' }, demoShelf)).error!.issues;
    expect(first!.path).toEqual(['coverings', 0, 'metal']);
  });
});

describe('several coverings', () => {
  /** Two slopes side by side, each in its own covering. */
  const two = (change: (job: Job) => void = () => undefined): Job => {
    const job = demoJob();
    const east = structuredClone(job.parts[0]!);
    Object.assign(east, { id: 'east', name: 'East plane', place: { east: 40_000, north: 0, facing: 180, height: 0 } });
    Object.assign(east.planes[0]!, { id: 'east', name: 'East plane', covering: 'moor', walls: [] });
    job.parts.push(east);
    job.coverings.push({
      ...structuredClone(stripOf(job)),
      id: 'moor',
      name: 'Moorland',
      shingle: 'thrupley-moorland',
      metal: 'copper',
    });
    change(job);
    return job;
  };
  const planOf = (job: Job, slope: string) => planFor(job).planes.find(({ id }) => id === slope)!;

  it('each slope is laid, flashed and ruled by its own', () => {
    const job = two();
    expect(checkJob(job, demoLibrary)).toEqual([]);
    const made = planFor(job);
    const products = (facet: string) => [
      ...new Set(
        made.pieces.flatMap(({ role, product, covers }) => (role === 'course' && covers[0]!.facet === facet ? [product] : [])),
      ),
    ];
    expect([products('north'), products('east')]).toEqual([['marrowgate-laminated'], ['thrupley-moorland']]);
    const makersOf = (slope: string): string[] => [
      ...new Set(
        planOf(job, slope)
          .requirements.find(({ key }) => key === 'covering.exposure')!
          .statements.flatMap(({ source, name }) => (source === 'maker' ? [name] : [])),
      ),
    ];
    expect(makersOf('north')[0]).toContain('Marrowgate');
    expect(makersOf('east')[0]).toContain('Thrupley');
    expect([makersOf('north').length, makersOf('east').length]).toEqual([1, 1]);
    const metals = (facet: string) => [
      ...new Set(
        made.pieces.flatMap(({ role, product, covers }) =>
          role === 'rakeMetal' && covers[0]!.facet === facet ? itemById(demoLibrary.catalog, 'dripEdge', product!).metal : [],
        ),
      ),
    ];
    expect([metals('north'), metals('east')]).toEqual([['aluminium'], ['copper']]);
  });

  it('a change to one leaves the other slope as it is', () => {
    const thicker = two((job) => void (job.coverings[1]!.underlayers.longestStrip = 2000));
    expect(JSON.stringify(planOf(thicker, 'north'))).toBe(JSON.stringify(planOf(two(), 'north')));
    expect(JSON.stringify(planOf(thicker, 'east'))).not.toBe(JSON.stringify(planOf(two(), 'east')));
  });

  it('one that is not there, and an id given twice, are refused by their field', () => {
    expect(
      checkJob(
        two((job) => void (job.parts[1]!.planes[0]!.covering = 'thatch')),
        demoLibrary,
      ),
    ).toEqual([{ path: 'parts.1.planes.0.covering', message: 'East plane, covering: there is no covering "thatch".' }]);
    const doubled = two((job) => void job.coverings.push({ ...job.coverings[1]!, name: 'Another' }));
    expect(checkJob(doubled, demoLibrary)).toEqual([
      { path: 'coverings.2.id', message: 'Another: another covering has the id "moor".' },
    ]);
  });
});
