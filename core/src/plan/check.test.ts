import { describe, expect, it } from 'vitest';
import { changed, demoHouse, demoJob, demoLibrary, slopePart, slopeRecord, stripOf } from '../../fixtures/demo.ts';
import { crossed, dormered, feature, slopeWith } from '../../fixtures/roofs.ts';
import { type Feature, type FeatureOf, type Job, type PartOf, type Wall, newFeature } from '../document/index.ts';
import { inches, onTwelve } from '../units/index.ts';
import { checkJob } from './index.ts';

const issues = (job: Job): string[] => checkJob(job, demoLibrary).map(({ path, message }) => `${path}: ${message}`);
const place = (across: number, up: number, from: 'left' | 'right' = 'left') => ({
  across: { from, distance: inches(across) },
  up: { kind: 'slope' as const, length: inches(up) },
});
/** A slope 160 by 170 in with what is named on it. */
const standing = (kinds: Parameters<typeof slopeWith>[0], change: (features: Feature[], job: Job) => void) =>
  issues(slopeWith(kinds, change));
const wallOf = (job: Job): Wall => slopeRecord(job).walls[0]!;

it('finds nothing wrong with the demo jobs', () => {
  expect([issues(demoJob()), issues(demoHouse())]).toEqual([[], []]);
});

describe('ids and marks', () => {
  const doubled = (change: (job: Job) => void): string[] => {
    const job = demoHouse();
    change(job);
    return issues(job);
  };

  it('two parts, two slopes, two walls or two features with one id are refused at the second', () => {
    expect(doubled((job) => void (job.parts[1]!.id = job.parts[0]!.id))[0]).toMatch(
      /^parts\.1\.id: .*another part of the roof has the id/,
    );
    expect(doubled((job) => void (job.parts[1]!.planes[0]!.id = job.parts[0]!.planes[0]!.id))[0]).toMatch(
      /^parts\.1\.planes\.0\.id: .*another slope has the id/,
    );
    expect(doubled((job) => void (job.features[1]!.id = job.features[0]!.id))[0]).toMatch(/^features\.1\.id: .*already marked/);
    const walls = changed((job) => void slopeRecord(job).walls.push({ ...wallOf(job), name: 'Second', x: inches(100) }));
    expect(issues(walls)[0]).toBe('parts.0.planes.0.walls.1.id: Second, mark: another wall is already marked SW1.');
  });

  it('a feature marked like a wall is refused, and one on a slope that is not there', () => {
    const like = changed((job) => {
      const plane = { id: 'north', eaveLength: inches(528), slope: { length: inches(205) } };
      job.features.push({ ...newFeature('pipe', job, plane), id: 'SW1' } as Feature);
    });
    expect(issues(like)[0]).toMatch(/^features\.0\.id: .*something else is already marked SW1/);
    const lost = slopeWith(['pipe'], ([one]) => void (one!.plane = 'nowhere'));
    expect(issues(lost)[0]).toBe('features.0.plane: Pipe 1, slope: there is no slope "nowhere".');
  });
});

describe('walls', () => {
  it.each<[string, (wall: Wall) => void, RegExp]>([
    ['past the top of the slope', (wall) => void (wall.to = inches(300)), /to: .*is past the top of the slope/],
    [
      'upside down',
      (wall) => Object.assign(wall, { from: inches(90), to: inches(60), foot: 'corner', runsPastEave: false }),
      /from: .*is not below its upper end/,
    ],
    ['past the end of the eave', (wall) => void (wall.x = inches(700)), /x: .*is past the end of the eave/],
    ['facing off the slope', (wall) => void (wall.x = inches(528)), /stands: .*no covering is left on the right of it/],
    [
      'without roof for its apron',
      (wall) => Object.assign(wall, { from: inches(2), foot: 'corner', runsPastEave: false }),
      /from: .*there is no roof below it for an apron/,
    ],
  ])('%s', (_, change, sentence) => {
    expect(issues(changed((job) => change(wallOf(job))))[0]).toMatch(sentence);
  });

  it('in what another wall takes up, and on the same face twice', () => {
    const second = (x: number, stands: 'left' | 'right') =>
      issues(
        changed((job) => {
          wallOf(job).x = inches(120);
          slopeRecord(job).walls.push({
            ...wallOf(job),
            id: 'SW2',
            name: 'Second',
            x: inches(x),
            stands,
            foot: 'corner',
            runsPastEave: false,
          });
        }),
      );
    expect(second(60, 'left')[0]).toMatch(
      /Second, distance from the left end: Hide tower, west wall already takes up that place/,
    );
    expect(second(120, 'left')[0]).toMatch(/already takes up that place/);
    expect(second(300, 'left')[0]).toBeDefined();
    expect(second(300, 'right')).toEqual([]);
  });
});

describe('features', () => {
  it.each<[string, Parameters<typeof slopeWith>[0], (features: Feature[]) => void, RegExp]>([
    [
      'wider than the slope',
      ['chimney'],
      ([one]) => Object.assign(one!, { width: inches(200) }),
      /width: .*is wider than the slope/,
    ],
    [
      'past the left end',
      ['chimney'],
      ([one]) => Object.assign(one!, place(150, 60, 'right'), { width: inches(24) }),
      /past the left end/,
    ],
    [
      'past the right end',
      ['chimney'],
      ([one]) => Object.assign(one!, place(150, 60), { width: inches(24) }),
      /past the right end/,
    ],
    ['over the eave', ['pipe'], ([one]) => Object.assign(one!, place(80, 0)), /it would hang over the eave/],
    ['past the top', ['skylight'], ([one]) => Object.assign(one!, place(60, 150)), /is past the top of/],
    [
      'over one another',
      ['pipe', 'skylight'],
      (all) => {
        Object.assign(all[0]!, place(80, 80));
        Object.assign(all[1]!, place(70, 70));
      },
      /it would overlap Pipe 1/,
    ],
  ])('%s', (_, kinds, change, sentence) => {
    const said = standing(kinds, change);
    expect(said.join('\n')).toMatch(sentence);
    expect(said.every((one) => /^features\.\d/.test(one))).toBe(true);
  });

  it('a headwall where the slope ends in a ridge, and two on one slope', () => {
    expect(standing(['headwall'], (_, job) => void (slopeRecord(job).top = 'ridge'))[0]).toMatch(
      /does not end against a wall at its top/,
    );
    const two = slopeWith(['headwall', 'headwall'], (all) => void (all[1]!.id = 'HW2'));
    expect(issues(two)[0]).toMatch(/^features\.1\.plane: .*is already there/);
  });

  it('in a wall, and in the room a wall takes up behind its face', () => {
    const at = (x: number) =>
      issues(
        changed((job) => {
          wallOf(job).x = inches(120);
          const plane = { id: 'north', eaveLength: inches(528), slope: { length: inches(205) } };
          job.features.push({
            ...(newFeature('chimney', job, plane) as FeatureOf<'chimney'>),
            ...place(x, 60),
            width: inches(24),
          });
        }),
      );
    expect(at(110)[0]).toMatch(/Hide tower, west wall runs through it/);
    expect(at(60)[0]).toMatch(/a wall takes up that part of the slope/);
    expect(at(200)).toEqual([]);
  });

  it('in a valley, and where another part of the roof is', () => {
    const at = (across: number, up: number) =>
      issues(
        crossed((job) => {
          const plane = { id: 'south', eaveLength: inches(300), slope: { length: inches(134) } };
          job.features.push({
            ...(newFeature('pipe', job, plane) as FeatureOf<'pipe'>),
            plane: 'south',
            diameter: inches(6),
            ...place(across, up),
          });
        }),
      );
    expect(at(132, 60).join()).toMatch(/it would stand in a valley/);
    expect(at(150, 30).join()).toMatch(/it would stand off|in a valley/);
    expect(at(30, 60)).toEqual([]);
  });
});

describe('parts of the roof', () => {
  it('slopes whose edges lie over one another in plan must meet in height too, or stand a wall apart', () => {
    const above = (height: number): string[] => {
      const job = slopeWith([]);
      const lower = slopePart(job);
      Object.assign(lower, {
        slope: { kind: 'level', length: inches(120) },
        place: { east: 0, north: 0, facing: 180, height: 0 },
      });
      const upper = structuredClone(lower);
      Object.assign(upper, { id: 'upper', name: 'Upper', place: { east: 0, north: inches(120), facing: 180, height } });
      Object.assign(upper.planes[0]!, { id: 'upper', name: 'Upper' });
      slopeRecord(job).top = 'continues';
      job.parts.push(upper);
      return issues(job);
    };
    // 120 in level at 6/12 are 60 in of rise
    expect(above(inches(60))).toEqual([]);
    expect(above(inches(60) + 40)[0]).toMatch(
      /^parts\.1\.place\.height: Upper and North plane do not meet: .* 1 9\/16" apart in height/,
    );
    expect(above(inches(60) + 200).filter((one) => /do not meet/.test(one))).toEqual([]);
  });

  it('a dormer that runs off its slope, one that reaches no ridge, one on nothing', () => {
    const off = dormered('gable', (dormer) => void (dormer.centre = inches(20)));
    expect(issues(off)[0]).toMatch(/its middle: there it runs/);
    const steep = dormered('gable', (dormer) => void (dormer.pitch = onTwelve(24)));
    expect(issues(steep)[0]).toMatch(/its ridge comes out above the top|does not reach/);
    const lost = dormered('gable', (dormer) => void (dormer.host = 'nowhere'));
    expect(issues(lost)[0]).toMatch(/there is no slope "nowhere"/);
  });

  it('parts that stand on each other in a ring', () => {
    const job = dormered();
    const [, dormer] = job.parts;
    (dormer as PartOf<'dormer'>).host = dormer!.planes[0]!.id;
    expect(issues(job)[0]).toMatch(/stands on: there is no slope/);
  });
});

describe('products and packs', () => {
  it.each<[string, (job: Job) => void, string]>([
    [
      'a shingle',
      (job) => void (stripOf(job).shingle = 'gone'),
      'coverings.0.shingle: Shingle: the catalog has no such item as "gone".',
    ],
    [
      'an ice barrier',
      (job) => void (stripOf(job).underlayers.iceBarrier = 'gone'),
      'coverings.0.underlayers.iceBarrier: Ice barrier: the catalog has no such item as "gone".',
    ],
    [
      'a step',
      (job) => void (wallOf(job).stepFlashing = 'gone'),
      'parts.0.planes.0.walls.0.stepFlashing: Hide tower, west wall, step flashing: the catalog has no such item as "gone".',
    ],
    [
      'a pack',
      (job) => void (job.packs = [{ id: 'gone', version: 1 }]),
      'packs.0: Rule packs: there is no pack "gone" version 1 here; import it first.',
    ],
  ])('%s that is not there', (_, change, sentence) => {
    expect(issues(changed(change))).toContain(sentence);
  });

  it('a base named for a pipe that the catalog has not', () => {
    expect(standing(['pipe'], (all) => void (feature(all, 'pipe').boot = 'gone'))[0]).toMatch(
      /^features\.0\.boot: Pipe 1, base: the catalog has no such item/,
    );
  });
});

describe('the covering', () => {
  it('under its least pitch is refused at the part, told by slope where there are several', () => {
    expect(issues(changed((job) => void (slopePart(job).pitch = onTwelve(1.9))))[0]).toMatch(/^parts\.0\.pitch: Pitch: /);
    const two = crossed((job) => job.parts.forEach((part) => void (part.pitch = onTwelve(1.9))));
    expect(issues(two)).toContainEqual(
      expect.stringMatching(/^parts\.0\.pitch: South plane, pitch: 1\.9\/12 is under the least/),
    );
  });

  it('exposed farther than its maker allows is refused, for the whole job and for one slope', () => {
    expect(issues(changed((job) => void (stripOf(job).exposure = inches(5.7))))[0]).toMatch(/^coverings\.0\.exposure: /);
    expect(issues(changed((job) => void (slopeRecord(job).exposure = inches(5.7))))[0]).toMatch(
      /^parts\.0\.planes\.0\.exposure: North plane, /,
    );
    expect(issues(changed((job) => void (slopeRecord(job).exposure = inches(5.625))))).toEqual([]);
  });
});

it('refuses what cannot stand there, a sentence each that names the feature', () => {
  const told = (kinds: Parameters<typeof slopeWith>[0], change: Parameters<typeof slopeWith>[1]): string[] =>
    checkJob(slopeWith(kinds, change), demoLibrary).map(({ path, message }) => `${path}: ${message}`);
  const chimney = (measures: object) => (all: Parameters<typeof feature>[0]) =>
    void Object.assign(feature(all, 'chimney'), measures);
  expect(told(['chimney'], chimney({ width: inches(200) }))[0]).toContain('Chimney 1, width: 16\'-8" is wider than the slope');
  expect(told(['chimney'], chimney({ up: { kind: 'slope', length: inches(160) } }))[0]).toContain('is past the top of');
  expect(told(['chimney'], chimney({ across: { from: 'left', distance: inches(150) } }))[0]).toContain('past the right end');
  expect(told(['chimney', 'pipe'], (all) => {
    const { across, up } = feature(all, 'chimney');
    Object.assign(feature(all, 'pipe'), { across: { ...across, distance: across.distance + 100 }, up: { ...up, length: up.length + 100 } });
  })[0]).toContain('Pipe 1, place: it would overlap Chimney 1.'); // prettier-ignore
  const inValley = crossed((job) => {
    job.features = slopeWith(['pipe']).features.map((one) => ({
      ...one,
      plane: 'south',
      across: { from: 'left', distance: inches(110) },
      up: { kind: 'slope', length: inches(36) },
    })) as Job['features'];
  });
  expect(checkJob(inValley, demoLibrary)[0]!.message).toMatch(/it would stand (in a valley|off)/);
  const tooHigh = crossed((job) => void (job.parts[1]!.pitch = onTwelve(20)));
  expect(checkJob(tooHigh, demoLibrary)[0]!.message).toContain('its ridge comes out above the top');
  // a roof set edge to edge with another, or 5 mm beside it, and 25 mm higher
  const passing = (gap: number): Job =>
    crossed((job) => {
      const [main] = job.parts;
      if (main!.kind !== 'gable') return;
      const copy = structuredClone(main!);
      Object.assign(copy, {
        id: 'annexe',
        name: 'Annexe',
        place: { ...main!.place, east: main!.place.east + main!.eaveLength + gap, height: 25 },
      });
      copy.planes.forEach((plane, i) => Object.assign(plane, { id: `annexe-${i}`, name: `Annexe ${i}` }));
      job.parts.push(copy);
    });
  for (const gap of [0, 5])
    expect(checkJob(passing(gap), demoLibrary)[0]!.message).toContain('do not meet: their edges stand over one another in plan');
  const throughIt = slopeWith(['chimney'], ([chimney], job) => {
    const wall = structuredClone(demoJob().parts[0]!.planes[0]!.walls[0]!);
    if (chimney!.kind === 'headwall') return;
    job.parts[0]!.planes[0]!.walls.push({ ...wall, x: chimney!.across.distance + inches(6), foot: 'kick-out' });
  });
  expect(checkJob(throughIt, demoLibrary)[0]!.message).toContain('Hide tower, west wall runs through it');
  const noHost = crossed((job) => Object.assign(job.parts[1]!, { host: 'nowhere' }));
  expect(checkJob(noHost, demoLibrary)[0]!.message).toContain('there is no slope "nowhere"');
});
