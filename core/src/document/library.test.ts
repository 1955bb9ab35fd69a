import { describe, expect, it } from 'vitest';
import { changed, demoHouse, demoJob, demoLibrary, demoShelf, stripOf } from '../../fixtures/demo.ts';
import { planFor } from '../../fixtures/planned.ts';
import { inches, toInches } from '../units/index.ts';
import { type Job, libraryFor, makerPacks, newJob, newestLibrary, onNewest, productsOf, sourcesOf, summaryOf } from './index.ts';

const barrier = (job: Job) => planFor(job).planes[0]!.barrier!;
const inside = (job: Job) => planFor(job).planes[0]!.requirements.find(({ key }) => key === 'iceBarrier.insideWall')!;

describe('what is set for one job', () => {
  it('the barrier’s reach inside the wall line: 36 in where 24 in governs is 12 in more, level, and says who set it', () => {
    const wider = changed((job) => void (stripOf(job).underlayers.insideWall = inches(36)));
    expect(toInches(barrier(wider).level - barrier(demoJob()).level)).toBeCloseTo(12, 6);
    expect(inside(wider).statements.find(({ standing }) => standing === 'tightens')?.name).toBe('Set for this job');
  });

  it('never less than what governs', () => {
    const less = changed((job) => void (stripOf(job).underlayers.insideWall = inches(12)));
    expect(barrier(less).level).toBeCloseTo(barrier(demoJob()).level, 6);
    expect(inside(less).statements.find(({ name }) => name === 'Set for this job')?.standing).toBe('may not loosen');
  });

  it('keeps the unit it was written in', () => {
    const metric = changed((job) => {
      job.units = 'metric';
      stripOf(job).underlayers.insideWall = 900;
    });
    const word = sourcesOf(metric, demoLibrary, stripOf(metric)).local!.find(({ name }) => name === 'Set for this job')!;
    expect([word.rule.value, word.rule.unit]).toEqual([900, 'mm']);
  });

  it('what was decided on the roof below a rule is used, and stays a finding with its reason', () => {
    const lower = changed((job) =>
      job.deviations.push({
        key: 'edgeMetal.lap',
        sense: 'atLeast',
        value: 1,
        unit: 'in',
        reason: 'Short of two inches at the porch',
      }),
    );
    const made = planFor(lower);
    const finding = made.findings.find(({ id }) => id === 'rule.edgeMetal.lap')!;
    expect(finding.severity).toBe('breaks a rule');
    expect(finding.fix.join('')).toContain('Short of two inches at the porch');
  });
});

describe('makers speak only where their product is used', () => {
  it('the shingle’s maker speaks; another shingle brings another maker', () => {
    const ids = (job: Job): string[] => makerPacks(job, demoLibrary.catalog).map(({ id }) => id);
    const other = changed((job) => void (stripOf(job).shingle = 'thrupley-moorland'));
    expect(ids(demoJob())).toContain('marrowgate-laminated');
    expect(ids(other)).not.toContain('marrowgate-laminated');
    expect(productsOf(other)).toContain('thrupley-moorland');
  });
});

describe('versions', () => {
  it('a job is planned with the catalog it names, or not at all', () => {
    expect(libraryFor(demoShelf, demoJob().catalog)!.catalog.version).toBe(demoJob().catalog);
    expect(libraryFor(demoShelf, 99)).toBeUndefined();
    expect(() => newestLibrary({ packs: [], catalogs: [] })).toThrow('There is no catalog.');
  });

  it('the newest of each pack and of the catalog, and nothing else of the job', () => {
    const newer = { ...demoLibrary.packs[0]!, version: 77 };
    const shelf = {
      packs: [...demoShelf.packs, newer],
      catalogs: [...demoShelf.catalogs, { ...demoLibrary.catalog, version: 50 }],
    };
    const moved = onNewest(demoHouse(), shelf);
    expect(moved.catalog).toBe(50);
    expect(moved.packs.some(({ id, version }) => id === newer.id && version === 77)).toBe(
      demoHouse().packs.some(({ id }) => id === newer.id),
    );
    expect({ ...moved, catalog: 0, packs: [] }).toEqual({ ...demoHouse(), catalog: 0, packs: [] });
  });
});

describe('a new job', () => {
  it('can be planned as it is, in either unit', () => {
    for (const units of ['imperial', 'metric'] as const) {
      const job = newJob(demoLibrary, 'Shed', units)!;
      expect(planFor(job).pieces.length).toBeGreaterThan(10);
      expect(summaryOf(job)).toMatchObject({ name: 'Shed', slopes: 1, walls: 0, features: 0 });
    }
  });

  it('is none where the catalog lacks a kind it needs', () => {
    for (const kind of ['shingle', 'starter', 'ridgeCap', 'iceBarrier', 'underlayment'] as const) {
      const catalog = { ...demoLibrary.catalog, items: demoLibrary.catalog.items.filter((item) => item.kind !== kind) };
      expect(newJob({ ...demoLibrary, catalog }, 'Shed', 'imperial'), kind).toBeUndefined();
    }
  });
});
