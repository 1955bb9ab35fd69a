import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoHouse, demoJob, slopeRecord } from '../../fixtures/demo.ts';
import {
  VALLEYS,
  anyCrossed,
  anyDormered,
  anyFeatured,
  crossed,
  dormered,
  feature,
  slopeWith,
  valleyOf,
} from '../../fixtures/roofs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { planFor } from '../../fixtures/planned.ts';
import { printWords } from '../assembly/index.ts';
import type { Job } from '../document/index.ts';
import { type Plan } from '../plan/index.ts';
import { isWithin } from '../roof/index.ts';
import { dryInMarks } from '../sequence/index.ts';
import { inches } from '../units/index.ts';
import { type WhatIf, applyWhatIfs, checkDrainage } from './index.ts';

const REACH = { reach: inches(1) - 1 };
const CREEP = { creep: inches(2) - 1 };

/** What the water finds on a slope and what shares its valleys, the first of each kind, in a roofer's words. */
function wet(
  made: Plan,
  plane: string,
  settings: { reach?: number; creep?: number } = {},
  whatIfs: readonly WhatIf[] = [],
): string[] {
  const { assembly, ignored } = applyWhatIfs(made, whatIfs);
  expect(ignored).toEqual([]);
  return checkDrainage(assembly, { plane, stage: 'finished' }, settings).problems.map(
    ({ verdict, cause, sentence }) => `${verdict}, ${cause}: ${printWords(sentence, 'imperial')}`,
  );
}
const wetAtDryIn = (made: Plan, plane: string): string[] =>
  checkDrainage(made, { plane, stage: 'dry-in', laid: dryInMarks(made) }).problems.map(({ sentence }) =>
    printWords(sentence, 'imperial'),
  );

describe('the whole Ringing House', () => {
  const house = planFor(demoHouse());

  it.each(['south', 'north', 'porch'])(
    'sheds on the %s and what shares its valleys, finished and at dry-in, with its reserve',
    (plane) => {
      expect(wet(house, plane)).toEqual([]);
      expect(wet(house, plane, REACH)).toEqual([]);
      expect(wet(house, plane, CREEP)).toEqual([]);
      expect(wetAtDryIn(house, plane)).toEqual([]);
    },
    60_000,
  );
});

describe('what stands on a slope, left out piece by piece', () => {
  const chimney = slopeWith(['chimney'], (all) =>
    Object.assign(feature(all, 'chimney'), { width: inches(42), depth: inches(26) }),
  );
  const small = slopeWith(['chimney']);
  const skylight = slopeWith(['skylight'], (all) => Object.assign(feature(all, 'skylight'), { width: inches(22.5) }));
  const pipe = slopeWith(['pipe']);

  it.each<[string, Job, string, string]>([
    ['a cricket', chimney, 'CH1-CK', 'caught by the underlayer'],
    ['an apron', chimney, 'CH1F-A1', 'caught by the underlayer'],
    ['a counterflashing', chimney, 'CH1L-R02', 'caught by the underlayer'],
    ['the counterflashing behind', chimney, 'CH1B-L2', 'caught by the underlayer'],
    ['a back pan', small, 'CH1-P', 'caught by the underlayer'],
    ['a sill flashing', skylight, 'SK1F-A1', 'caught by the underlayer'],
    ['a head flashing', skylight, 'SK1-HD', 'caught by the underlayer'],
    ['a boot', pipe, 'P1-B', 'caught by the underlayer'],
  ])('%s', (_, job, piece, verdict) => {
    const made = planFor(job);
    expect(wet(made, 'north')).toEqual([]);
    const told = wet(made, 'north', {}, [{ kind: 'leave-out', piece }]);
    expect(told.join('\n')).toContain(verdict);
  });

  it('a flange too short for its cut-out lets wind drive water over its top, and the plan says so', () => {
    const made = planFor(
      slopeWith(['pipe'], (all) => Object.assign(feature(all, 'pipe'), { diameter: inches(2.375), boot: 'oxbourne-boot-2' })),
    );
    const boot = made.pieces.find(({ role }) => role === 'boot')!;
    const lowered = applyWhatIfs(made, [{ kind: 'shift', piece: boot.mark, across: 0, up: -inches(6) }]).assembly;
    expect(checkDrainage(lowered, { plane: 'north', stage: 'finished' }, { reach: inches(1) }).verdict).not.toBe('clean');
  });

  it('a nail in a pan’s trough is a slow leak', () => {
    const made = planFor(small);
    const [x, y] = made.pieces.find(({ mark }) => mark === 'CH1-P')!.covers[0]!.outline[0]!;
    const told = wet(made, 'north', {}, [{ kind: 'nail', piece: 'CH1-P', facet: 'north', at: [x + inches(12), y + inches(1)] }]);
    expect(told.join('\n')).toContain('slow leak');
  });
});

describe('a dormer', () => {
  const made = planFor(dormered());
  const under = made.runSheet.map(({ id }) => id);
  const { id: host } = made.roof[0]!;

  it('is covered when the slope has come up to the course its valleys empty on to, and before the next one', () => {
    expect(wet(made, host)).toEqual([]);
    // eaves at 115 1/16 in: butts at 112 (course 21) and 117 5/8 (22)
    expect(under.indexOf(`${host}.course-21`)).toBeLessThan(under.indexOf('dormer-left.course-1'));
    expect(under.lastIndexOf('dormer-right.course-5')).toBeLessThan(under.indexOf(`${host}.course-22`));
  });

  it.each([
    ['the step below the valley', 'D1L-13', /D1L-M1 catches it/],
    ['the course the valley empties on to', 'GF-C21', /catches it/],
    ['a through course of the dormer', 'DL-C02', /catches it/],
    ['the apron', 'D1F-A1', /D1F-M1 catches it/],
  ])('gets wet without %s', (_, piece, told) => {
    expect(wet(made, host, {}, [{ kind: 'leave-out', piece }]).join('\n')).toMatch(told);
  });
});

describe('one long piece up a wall', () => {
  it('overruns on a slope whose courses are cut along a valley as well', () => {
    const made = planFor(
      crossed((job) => {
        // every course of this slope is cut along the valley: the covering lies between it and the wall
        const slope = job.parts[1]!.planes.find(({ id }) => id === 'cross-west')!;
        const wall = slopeRecord(demoJob()).walls[0]!;
        slope.walls = [{ ...wall, x: inches(60), stands: 'right', from: inches(40), foot: 'corner', runsPastEave: false }];
      }),
    );
    expect(wet(made, 'cross-west')).toEqual([]);
    const told = wet(made, 'cross-west', {}, [{ kind: 'one-long-piece', wall: 'SW1' }]);
    expect(told.join('\n')).toMatch(/overrun: Gathers on, and leaves over the side of step flashing SW1-long/);
  });
});

describe('valleys', () => {
  it('run as wide as their water is deep: in a cloudburst it finds a nail that ordinary rain passes by', () => {
    // 1 1/4 in from the centre, under the edge of a side that is cut on it
    const nailedIn = (rain: number): string[] => {
      const made = planFor(
        crossed((job) => {
          job.site.rainPerHour = inches(rain);
          for (const key of VALLEYS) job.valleys[key] = { ...valleyOf('closed cut'), trim: 'on the centre' };
        }),
      );
      const { onA } = made.joints.find(({ kind }) => kind === 'valley')!;
      const [[x0, y0], [x1, y1]] = onA;
      const length = Math.hypot(x1 - x0, y1 - y0);
      const [ux, uy] = [(x1 - x0) / length, (y1 - y0) / length];
      const at: [number, number] = [x0 + ux * inches(24) - uy * inches(1.25), y0 + uy * inches(24) + ux * inches(1.25)];
      const crossing = made.pieces.filter(({ mark }) => mark.startsWith('CW-C'));
      const nailed = crossing.findLast(({ covers }) =>
        covers.some(({ facet, outline }) => facet === 'south' && isWithin(outline, at)),
      )!;
      const nail: WhatIf = { kind: 'nail', piece: nailed.mark, facet: 'south', at };
      return wet(made, 'south', {}, [nail]);
    };
    expect(nailedIn(5)).toEqual([]);
    expect(nailedIn(40).join('\n')).toMatch(/slow leak|catches it/);
  });

  it('closed: without the through shingles the sheet below gets wet', () => {
    const made = planFor(crossed());
    expect(wet(made, 'south')).toEqual([]);
    const courses = made.pieces
      .filter(({ mark }) => /^CW-C(1[0-9])$/.test(mark))
      .map(({ mark }): WhatIf => ({ kind: 'leave-out', piece: mark }));
    expect(wet(made, 'south', {}, courses).join('\n')).toMatch(/V1-S\d catches it/);
  });

  it('open: its lining left out, or its pieces lapped the wrong way round', () => {
    const made = planFor(
      crossed((job) => {
        for (const key of VALLEYS) job.valleys[key] = valleyOf('open');
      }),
    );
    expect(wet(made, 'south')).toEqual([]);
    expect(wet(made, 'south', {}, [{ kind: 'leave-out', piece: 'V1-L1' }]).join('\n')).toContain('V1-S');
    expect(made.pieces.filter(({ role }) => role === 'valleyLining')).toHaveLength(2);
  });
});

const first = (told: string[]): string[] => told.slice(0, 1);

/** What one shingle cannot span, and the like, the plan says itself: that is no default. */
const saysItself = (made: Plan): boolean =>
  made.findings.some(({ id, severity }) => severity === 'leaks' || id.endsWith('.joint'));

function expectToShed(made: Plan, host: string): void {
  expect(first(wet(made, host))).toEqual([]);
  // a head of water reaches farther up a flatter slope: the reserve is the flattest one's
  expect(first(wet(made, flattest(made), REACH))).toEqual([]);
  expect(first(wet(made, host, CREEP))).toEqual([]);
  expect(first(wetAtDryIn(made, host))).toEqual([]);
}

describe('every plan Ruvet makes by default', () => {
  it('sheds round whatever stands on the slope, finished with its reserve and at dry-in', () => {
    fc.assert(
      fc.property(anyFeatured, (job) => {
        const made = planFor(job);
        fc.pre(made.findings.every(({ severity, key }) => severity === 'worth a look' && key !== 'pipe.cover'));
        expectToShed(made, 'north');
      }),
      { ...cases(10), endOnFailure: true },
    );
  });

  it('sheds in valleys of every pitch and style, either side through, with its reserve', () => {
    fc.assert(
      fc.property(anyCrossed, (job) => {
        const made = planFor(job);
        fc.pre(!saysItself(made));
        expectToShed(made, 'south');
      }),
      { ...cases(6), endOnFailure: true },
    );
  });

  it('sheds round dormers on gables and hips, with its reserve, and at dry-in', () => {
    fc.assert(
      fc.property(anyDormered, (job) => {
        const made = planFor(job);
        fc.pre(!saysItself(made));
        const host = made.roof[0]!.id;
        expectToShed(made, host);
      }),
      { ...cases(5), endOnFailure: true },
    );
  });
});

const flattest = (made: Plan): string => made.planes.toSorted((a, b) => a.pitch - b.pitch)[0]!.id;
