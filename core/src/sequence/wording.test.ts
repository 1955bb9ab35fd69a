import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoFile, demoHouse, demoJob, demoLibrary } from '../../fixtures/demo.ts';
import { anyCrossed, anyDormered, anyFeatured } from '../../fixtures/roofs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { backSlope, tilePipe, withChimney, withSkylight, withWall } from '../../fixtures/tiles.ts';
import { planFor } from '../../fixtures/planned.ts';
import { printWords } from '../assembly/index.ts';
import { type Job, possibleRepairs } from '../document/index.ts';
import { type Plan, keptPlans, planJob } from '../plan/index.ts';
import { type UnitSystem, pounds } from '../units/index.ts';
import { type RunLine, holdWords } from './index.ts';

/** What a crew is told to do: every line begins with one of these, after the name of what it is done to. */
const VERBS =
  /^(Band|Bed|Bend|Board|Break|Brush|Cap|Clear|Close|Count|Cover|Cross|Cut|Dress|Drill|Dry-fit|End|Fill|Fix|Frame|Go|Grind|Hand|Hang|Have|Hose|Lay|Leave|Lift|Look|Nail|Note|Number|Open|Photograph|Press|Push|Put|Rake|Refix|Saw|Set|Slide|Snap|Sort|Start|Stop|Stick|Strip|Take|Tape|Tell|Tighten|Turn|Unroll|Walk|Weave|Wedge|Work|Write)\b/i;
/** Two layers of old shingles, 500 ft² of them a day. */
const STRIPPED = { kind: 're-roof', old: 'shingles', layers: 2, perDay: 500 * 304.8 ** 2, load: pounds(4000) } as const;
const tiledWithAll = backSlope((job) => {
  withWall(job, 'right');
  withChimney(job);
  withSkylight(job, 5500, 1500);
  job.features.push(tilePipe(1500, 1800, 110));
});
/** A line fits a phone without scrolling. */
const LONGEST = 240;

/** What is wrong with a line, as one who reads it on the ladder would say. */
function faults(line: RunLine, counted: number, system: UnitSystem): string[] {
  const action = printWords(line.action, system);
  const fasteners = line.fasteners && printWords(line.fasteners, system);
  const all = [action, fasteners ?? '', line.caution ?? '', line.holdPoint ?? '', line.wait ?? ''];
  const said = (text: string): string => `${text}: ${action}`;
  return [
    ...all.filter((text) => text.length > LONGEST).map((text) => said(`${text.length} letters`)),
    ...all
      .filter((text) => /\b1 (pieces|lengths|strips|rows|weeps|trays|nails|screws)\b|Infinity|NaN|undefined/.test(text))
      .map(said),
    // a name ends with a colon, and may have one in it
    ...(action.split(': ').some((part) => VERBS.test(part)) ? [] : [said('no verb')]),
    ...(/^[^.]*\.$/.test(action.slice(-40)) || action.endsWith('.') ? [] : [said('no full stop')]),
    ...(counted > 0 && !fasteners ? [said('fasteners untold')] : []),
    ...(fasteners !== undefined && !/^\d+ /.test(fasteners) ? [said(`no count: ${fasteners}`)] : []),
    ...(fasteners !== undefined && counted > 0 && !/\b(above|along|at|in|into|high on|inboard|near|on|to) /.test(fasteners)
      ? [said(`no place: ${fasteners}`)]
      : []),
    // it is told as it stands, whichever units are asked for
    ...(/\d ?(ft|in|lb|mm|m|kg)\b|\d["']/.test(line.caution ?? '') ? [said(`a measure in a caution: ${line.caution}`)] : []),
    ...(line.holdPoint !== undefined && !/^[a-z0-9]/.test(line.holdPoint) ? [said(`no order: ${line.holdPoint}`)] : []),
  ];
}

const wrong = (made: Plan): string[] => {
  const through = new Map<string, number>();
  for (const { piece } of made.fasteners) through.set(piece, (through.get(piece) ?? 0) + 1);
  return made.runSheet
    .flatMap(({ lines }) => lines)
    .flatMap((line) => {
      const counted = line.pieces.reduce((sum, piece) => sum + (through.get(piece) ?? 0), 0);
      return (['imperial', 'metric'] as const).flatMap((system) => faults(line, counted, system));
    });
};

describe('a line of the run sheet', () => {
  it.each([
    ['the whole house', demoHouse()],
    ['its north plane', demoJob()],
    ['the slate porch', demoFile('keepers-cottage-porch')],
    ['the tiled wash-house', demoFile('keepers-cottage-wash-house')],
    ['the tiled back slope', demoFile('keepers-cottage-back')],
    ['the tiled front slope', demoFile('keepers-cottage-front')],
    ['a tiled slope with a wall, a chimney, a skylight and a pipe', tiledWithAll],
    [
      'tiles on counter-battens, trays through the wall beside them',
      backSlope((job, tiles) => {
        tiles.battenLay = 'counter-battens';
        withWall(job, 'right', { counter: 'trays' });
      }),
    ],
    [
      'tiles on battens with drip gaps, a pan beside the wall',
      backSlope((job, tiles) => {
        tiles.battenLay = 'drip gaps';
        withWall(job, 'right', { besideTiles: 'pan flashing' });
      }),
    ],
    ['the shake roof', demoFile('peat-shed-shakes')],
    ['the house stripped first', { ...demoHouse(), work: STRIPPED }],
  ])('says one thing to do, with its count and place, on a phone’s width: %s', (_, job) => {
    expect(wrong(planFor(job))).toEqual([]);
  });

  it('does so in every repair of the house, new or laid again', () => {
    const house = demoHouse();
    const kept = keptPlans();
    for (const { what, of } of possibleRepairs(house, ['V1', 'V2']))
      for (const reuse of [true, false]) {
        const job: Job = { ...house, work: { kind: 'repair', what, of, reuse } };
        expect(wrong(planJob(job, demoLibrary, kept))).toEqual([]);
      }
  });

  it('does so in every repair of a tiled slope, a cracked tile and a blocked channel among them', () => {
    const job = demoFile('keepers-cottage-front');
    const fault = job.features.find((one) => one.kind === 'tileFault')!;
    job.features.push({ ...fault, id: 'TF2', name: 'Cracked tile', fault: 'tile cracked', crossedBy: null });
    const kept = keptPlans();
    for (const { what, of } of possibleRepairs(job, []))
      for (const reuse of [true, false])
        expect(wrong(planJob({ ...job, work: { kind: 'repair', what, of, reuse } }, demoLibrary, kept))).toEqual([]);
  });

  it.each([
    ['slates', demoFile('keepers-cottage-porch'), /shingle|\btiles?\b|\bsteps?\b|and bends\b/i],
    ['shakes', demoFile('peat-shed-shakes'), /shingle|\btiles?\b|slate|and bends\b/i],
    ['flat tile', demoFile('keepers-cottage-wash-house'), /shingle|slate|\bsteps?\b|and bends\b/i],
    ['profiled tile', tiledWithAll, /shingle|\bsteps?\b|and bends\b/i],
  ])('speaks in every repair of the covering that is there, whoever speaks on it: %s', (_, job, others) => {
    const possible = possibleRepairs(job, []);
    expect(possible.filter(({ label }) => others.test(label))).toEqual([]);
    const works = possible.map(({ what, of }): Job['work'] => ({ kind: 'repair', what, of, reuse: true }));
    expect(works.length).toBeGreaterThan(1);
    const kept = keptPlans();
    for (const work of works)
      for (const packs of [job.packs, []]) {
        const made = planJob({ ...job, work, packs }, demoLibrary, kept);
        expect(wrong(made)).toEqual([]);
        const said = made.runSheet
          .flatMap(({ lines }) => lines)
          .flatMap(({ action, caution = '', holdPoint = '' }) => [printWords(action, 'metric'), caution, holdPoint]);
        expect(said.filter((text) => others.test(text))).toEqual([]);
      }
  });

  it('does so on any roof', () => {
    fc.assert(
      fc.property(fc.oneof(anyFeatured, anyCrossed, anyDormered), (job) => {
        expect(wrong(planFor(job))).toEqual([]);
      }),
      cases(25),
    );
  });

  it('tells a hold point as the order it is', () => {
    expect(holdWords('deck sound, clean and dry')).toBe('Stop. Do not cover until seen: deck sound, clean and dry.');
  });

  it('lays every piece that is ours, and drives every fastener, in some line', () => {
    fc.assert(
      fc.property(fc.oneof(anyFeatured, anyCrossed, anyDormered), (job) => {
        const made = planFor(job);
        const laid = new Set(made.runSheet.flatMap(({ lines }) => lines.flatMap(({ pieces }) => pieces)));
        expect(
          made.pieces.filter(({ mark, product }) => product !== undefined && !laid.has(mark)).map(({ mark }) => mark),
        ).toEqual([]);
        expect([...new Set(made.fasteners.map(({ piece }) => piece))].filter((piece) => !laid.has(piece))).toEqual([]);
      }),
      cases(15),
    );
  });
});
