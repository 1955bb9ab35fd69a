import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { demoLibrary, demoShelf } from '../../fixtures/demo.ts';
import { crossed, feature, slopeWith, valleyOf } from '../../fixtures/roofs.ts';
import { planFor } from '../../fixtures/planned.ts';
import { checkJob } from '../plan/index.ts';
import { inches, pitchOf } from '../units/index.ts';
import { type Feature, JOB_FORMAT_VERSION, type Job, contradictions, dropHidden, jobSchema, upgradeJob } from './index.ts';

const messages = (job: Job): string[] => checkJob(job, demoLibrary).map(({ path, message }) => `${path}: ${message}`);

describe('choices that contradict others', () => {
  it.each<[string, Parameters<typeof slopeWith>[0], (all: Feature[]) => void, string]>([
    ['a through-wall flashing in boards', ['headwall'], (all) => Object.assign(feature(all, 'headwall'), { counter: 'through-wall' }), 'features.0.counter: Headwall 1, in the masonry: that is let into masonry, and this is not masonry.'],
    ['a reglet in a framed chimney', ['chimney'], (all) => Object.assign(feature(all, 'chimney'), { masonry: false, counter: 'reglet' }), 'features.0.counter: Chimney 1, counterflashing: that is let into masonry, and this is not masonry.'],
    ['a cricket’s height where a pan lies', ['chimney'], (all) => Object.assign(feature(all, 'chimney'), { back: 'pan', cricketHeight: inches(12) }), 'features.0.cricketHeight: Chimney 1, cricket height: a pan is to lie behind it.'],
    ['the age of a unit in a new opening', ['skylight'], (all) => Object.assign(feature(all, 'skylight'), { age: 12 }), 'features.0.age: Skylight 1, years the old unit has been in: it is a new opening.'],
    ['a plastic flue', ['pipe'], (all) => Object.assign(feature(all, 'pipe'), { hot: true }), 'features.0.material: Pipe 1, material: a hot flue is metal.'],
    ['a clearance round a cold pipe', ['pipe'], (all) => Object.assign(feature(all, 'pipe'), { clearance: inches(2) }), 'features.0.clearance: Pipe 1, clearance: it is not a hot flue.'],
  ])('%s is refused by its field, and goes when what hides it is chosen', (_, kinds, change, sentence) => {
    const job = slopeWith(kinds, change);
    expect(messages(job)).toEqual([sentence]);
    dropHidden(job);
    expect(contradictions(job)).toEqual([]);
    expect(messages(job)).toEqual([]);
    expect(() => planFor(job)).not.toThrow();
  }); // prettier-ignore

  it('a lining of a closed valley, and a choice for a valley that is no more, go too', () => {
    const job = crossed((draft) => {
      draft.valleys['south+cross-west'] = { ...valleyOf('closed cut'), lining: 'ribbed' };
      draft.valleys['south+gone'] = valleyOf('open');
    });
    expect(messages(job)).toEqual([
      'valleys.south+cross-west.lining: Valley south+cross-west, lining: only an open valley has a lining in sight.',
    ]);
    dropHidden(job);
    expect(Object.keys(job.valleys)).toEqual(['south+cross-west']);
    expect(messages(job)).toEqual([]);
  });
});

describe('a file of version 2', () => {
  const old = JSON.parse(readFileSync(new URL('../../fixtures/ringing-house-version-2.ruvet.json', import.meta.url), 'utf8')) as {
    parts: { pitch: number }[];
    features: Record<string, unknown>[];
  };

  it('is read: its pitches are what was said, its flue’s clearance is still to be asked', () => {
    const job = jobSchema.parse(upgradeJob(old, demoShelf));
    expect([job.version, job.catalog, job.packs[0]]).toEqual([JOB_FORMAT_VERSION, 2, { id: 'model-code', version: 2 }]);
    expect(job.parts.map(({ pitch }) => pitch)).toEqual([6, 6, 4].map((rise) => ({ rise, run: 12 })));
    expect(job.features.find((one) => one.kind === 'pipe' && one.hot)).toMatchObject({ clearance: null });
    expect(checkJob(job, demoLibrary)).toEqual([]);
    expect(planFor(job).findings.map(({ id }) => id)).toContain('P2.clearance');
  });

  it('that a form left with hidden choices set is put right', () => {
    const left = structuredClone(old);
    Object.assign(
      left.features.find(({ kind }) => kind === 'headwall')!,
      { cladding: 'boards' },
    );
    const job = jobSchema.parse(upgradeJob(left, demoShelf));
    expect(job.features.find(({ kind }) => kind === 'headwall')).toMatchObject({ cladding: 'boards', counter: 'reglet' });
    expect(checkJob(job, demoLibrary)).toEqual([]);
  });

  it('with 3.999999996 in 12 is a 4 in 12 again: one layer of underlayment', () => {
    const typed = structuredClone(old);
    for (const part of typed.parts) part.pitch = 0.333333333;
    const job = jobSchema.parse(upgradeJob(typed, demoShelf));
    expect(pitchOf(job.parts[0]!.pitch)).toBe(4 / 12);
    const { planes } = planFor(job);
    expect(planes[0]!.requirements.find(({ key }) => key === 'underlayment.layers')!.least).toBe(1);
  });
});
