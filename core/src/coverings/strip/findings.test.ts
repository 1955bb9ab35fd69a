import { describe, expect, it } from 'vitest';
import { changed, demoLibrary, slopePart, stripOf } from '../../../fixtures/demo.ts';
import { type Finding, printWords } from '../../assembly/index.ts';
import type { Item } from '../../catalog/index.ts';
import type { Job, Library } from '../../document/index.ts';
import { planJob } from '../../plan/index.ts';
import { inches } from '../../units/index.ts';

const found = (id: string, change: (job: Job) => void, library: Library = demoLibrary): Finding | undefined =>
  planJob(changed(change), library).findings.find((finding) => finding.id === id);
const told = (finding: Finding | undefined): string => (finding ? printWords(finding.sentence, 'imperial') : 'nothing');

/** The demo's library with its laminated shingle changed. */
const withShingle = (change: object): Library => ({
  ...demoLibrary,
  catalog: {
    ...demoLibrary.catalog,
    items: demoLibrary.catalog.items.map((item): Item =>
      item.id === 'marrowgate-laminated' ? ({ ...item, ...change } as Item) : item,
    ),
  },
});

describe('the first butt', () => {
  it.each([
    [0.25, undefined],
    [0.5, undefined],
    [0.75, undefined],
    [0.125, 'breaks a rule'],
    [1, 'breaks a rule'],
  ])('%d in past the deck edge: %s', (overhang, severity) => {
    expect(found('covering.firstButt', (job) => void (stripOf(job).firstButt = inches(overhang)))?.severity).toBe(severity);
  });

  it('says what is right and where to change it', () => {
    const finding = found('covering.firstButt', (job) => void (stripOf(job).firstButt = inches(1)));
    expect(told(finding)).toBe('The first butt hangs 1" past the deck edge; from 1/4" to 3/4" is right.');
    expect(finding!.piece).toBe('C01');
  });
});

describe('headlap', () => {
  it('13 1/4 in at 6 5/8 in still covers twice; a hair more leaves every joint open', () => {
    const shingle = withShingle({ maxExposure: inches(8) });
    const at = (exposure: number) => found('covering.headlap', (job) => void (stripOf(job).exposure = inches(exposure)), shingle);
    expect(at(6.625)).toBeUndefined();
    expect(at(6.75)?.severity).toBe('leaks');
    expect(told(at(6.75))).toContain('6 3/4" exposure does not cover twice');
  });
});

describe('joints of neighbouring courses', () => {
  it.each([
    [4, true],
    [3.9, false],
    // 39 3/8 in wide: 36 in on is 3 3/8 in back
    [36, false],
    [35, true],
  ])('an offset of %d in keeps them 4 in apart: %s', (offset, good) => {
    const finding = found('covering.jointOffset', () => undefined, withShingle({ bondOffset: inches(offset) }));
    expect(finding === undefined).toBe(good);
  });
});

describe('the last course below the ridge', () => {
  it.each([
    // 36 courses of 5 5/8 in less the half inch that hangs over reach 202 in
    [202.9, 'worth a look'],
    [203.1, undefined],
    [205, undefined],
  ])('on a slope of %d in: %s', (up, severity) => {
    expect(found('covering.ridge', (job) => void (slopePart(job).slope = { kind: 'slope', length: inches(up) }))?.severity).toBe(
      severity,
    );
  });
});
