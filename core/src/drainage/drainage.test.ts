import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { changed, demoJob, slopePart, slopeRecord } from '../../fixtures/demo.ts';
import { anyJob } from '../../fixtures/jobs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { planFor } from '../../fixtures/planned.ts';
import { type Assembly, printWords } from '../assembly/index.ts';
import { type Plan } from '../plan/index.ts';
import { dryInMarks } from '../sequence/index.ts';
import { buttLine } from '../surface/index.ts';
import { inches, toInches } from '../units/index.ts';
import { TooFine, VERDICTS, type WhatIf, applyWhatIfs, checkDrainage, followHose, measureReserve } from './index.ts';

const finished = { plane: 'north', stage: 'finished' } as const;

/** What is laid when the dry-in is done. */
const dryIn = (made: Plan) => ({
  plane: 'north',
  stage: 'dry-in' as const,
  laid: dryInMarks(made.planes[0]!),
});

describe('the Ringing House north plane', () => {
  const demo = planFor(demoJob());

  it('sheds, finished and at dry-in', () => {
    expect(checkDrainage(demo, finished)).toMatchObject({ verdict: 'clean', problems: [] });
    expect(checkDrainage(demo, dryIn(demo))).toMatchObject({ verdict: 'clean' });
  });

  it('has the reserve worked by hand: the starter’s lap over the second butt, and the steps’ headlap along the wall', () => {
    const { reach, creep } = measureReserve(demo, finished);
    // starter 7" from -1/2" reaches 6 1/2"; the slit of course 1 lies open up to the second butt line, 5 1/8"
    expect(toInches(reach!.distance)).toBeCloseTo(1.375, 1);
    expect(reach!.problem).toMatchObject({ cause: 'short headlap', piece: 'ST' });
    // water in the gap under the boards creeps level: 2 3/8" of headlap along a 6/12 slope is 2.655" across the wall
    expect(toInches(creep!.distance)).toBeCloseTo(2.375 * Math.hypot(1, 0.5), 2);
    expect(creep!.problem.cause).toBe('short sidelap');
  });
});

/** Plans that say themselves that something is missing (a wall's front or upper end, no metal that fits) are not defaults. */
const wholePlans = anyJob.filter(
  (job) =>
    slopeRecord(job).walls.every(({ to }) => to === null) &&
    planFor(job).findings.every(({ severity }) => severity === 'worth a look' || severity === 'breaks a rule'),
);

describe('every plan Ruvet makes by default', () => {
  it('is clean, finished and at dry-in, with an inch of reach and two of creep', () => {
    fc.assert(
      fc.property(wholePlans, (job) => {
        const made = planFor(job);
        const told = checkDrainage(made, finished, { reach: inches(1) - 1 });
        expect(
          told.problems
            .slice(0, 1)
            .map(
              (problem) =>
                `${printWords(problem.sentence, 'imperial')} ${problem.path.map(({ piece, move }) => `${move} ${piece}`).join(', ')}`,
            ),
        ).toEqual([]);
        const sideways = checkDrainage(made, finished, { creep: inches(2) - 1 });
        expect(
          sideways.problems
            .slice(0, 1)
            .map(
              (problem) =>
                `${printWords(problem.sentence, 'imperial')} ${problem.path.map(({ piece, move }) => `${move} ${piece}`).join(', ')}`,
            ),
        ).toEqual([]);
        expect(
          checkDrainage(made, dryIn(made))
            .problems.slice(0, 1)
            .map(({ sentence }) => printWords(sentence, 'imperial')),
        ).toEqual([]);
      }),
      { ...cases(25), endOnFailure: true },
    );
  });
});

describe('what a good roofer would not do', () => {
  const demo = planFor(demoJob());
  const judge = (whatIfs: readonly WhatIf[], stage: 'finished' | 'dry-in' = 'finished') => {
    const { assembly, ignored } = applyWhatIfs(demo, whatIfs);
    expect(ignored).toEqual([]);
    const told = checkDrainage(
      assembly,
      stage === 'finished'
        ? finished
        : {
            ...dryIn(demo),
            laid: new Set([
              ...dryIn(demo).laid,
              ...assembly.pieces.filter(({ mark }) => mark.includes('felt')).map(({ mark }) => mark),
            ]),
          },
    );
    return told.problems.map(({ verdict, cause, piece, onto }) => ({ verdict, cause, piece, onto }));
  };
  const lines = demo.planes[0]!.lines;
  const low = buttLine(lines, 12) + inches(1.5);

  it.each<[string, WhatIf, 'finished' | 'dry-in', object]>([
    [
      'a step left out: the water in the gap runs on to the membrane',
      { kind: 'leave-out', piece: 'SW1-12' },
      'finished',
      { verdict: 'caught by the underlayer', onto: 'SW1-M1' },
    ],
    [
      'two steps swapped: the lower one faces uphill over the upper',
      { kind: 'swap', piece: 'SW1-12', other: 'SW1-13' },
      'finished',
      { cause: 'reverse lap', piece: 'SW1-12' },
    ],
    [
      'a step shifted up: it no longer reaches over the one below',
      { kind: 'shift', piece: 'SW1-12', across: 0, up: inches(3) },
      'finished',
      { verdict: 'caught by the underlayer', onto: 'SW1-M1' },
    ],
    [
      'a nail low on a step',
      { kind: 'nail', piece: 'SW1-12', facet: 'north', at: [inches(2), low] },
      'finished',
      { verdict: 'slow leak', cause: 'fastener', piece: 'SW1-12' },
    ],
    [
      'one long piece instead of steps',
      { kind: 'one-long-piece', wall: 'SW1' },
      'finished',
      { cause: 'overrun', piece: 'SW1-long' },
    ],
    ['no kick-out where the wall runs on', { kind: 'leave-out', piece: 'SW1-K' }, 'finished', { verdict: 'wet', cause: 'gap' }],
    ['a course left out', { kind: 'leave-out', piece: 'C09' }, 'finished', { verdict: 'caught by the underlayer' }],
    ['membrane stopped flush with the wall', { kind: 'membrane-flush', wall: 'SW1' }, 'dry-in', { verdict: 'wet', onto: 'deck' }],
    [
      'membrane laid on felt',
      { kind: 'membrane-on-felt', wall: 'SW1' },
      'dry-in',
      { verdict: 'wet', cause: 'reverse lap', piece: 'SW1-M1' },
    ],
    ['strips laid top first', { kind: 'strips-top-first' }, 'dry-in', { verdict: 'wet', cause: 'reverse lap', onto: 'deck' }],
  ])('%s', (_, whatIf, stage, expected) => {
    expect(judge([whatIf], stage)).toContainEqual(expect.objectContaining(expected));
  });

  it('a cover strip nailed over an apron: every nail of it meets water', () => {
    const made = planFor(
      changed((job) => {
        Object.assign(slopeRecord(job).walls[0]!, { x: inches(120), from: inches(61), foot: 'corner', runsPastEave: false });
      }),
    );
    const nails = (assembly: Assembly) =>
      checkDrainage(assembly, finished).problems.filter(
        ({ verdict, piece }) => verdict === 'slow leak' && piece === 'SW1F-A1-strip',
      );
    expect(nails(made)).toEqual([]);
    expect(nails(applyWhatIfs(made, [{ kind: 'nailed-cover-strip', piece: 'SW1F-A1' }]).assembly)[0]).toMatchObject({
      cause: 'fastener',
    });
  });

  it('an edge that only sealant closes is said to rely on it', () => {
    const masonry = planFor(changed((job) => void (slopeRecord(job).walls[0]!.cladding = 'masonry')));
    expect(checkDrainage(masonry, finished).verdict).toBe('clean');
    const surfaceBar = {
      ...masonry,
      pieces: masonry.pieces.map((piece) =>
        piece.role === 'counter'
          ? { ...piece, covers: piece.covers.map((cover) => ({ ...cover, holds: ['open', 'open', 'sealed', 'open'] as const })) }
          : piece,
      ),
    };
    const told = checkDrainage(surfaceBar, finished);
    expect(told.verdict).toBe('relies on sealant');
    expect(told.problems[0]).toMatchObject({ cause: 'relies on sealant', piece: expect.stringMatching(/^SW1-R/) as string });
    // a fault elsewhere does not hide it
    const nailed = applyWhatIfs(surfaceBar, [{ kind: 'nail', piece: 'SW1-12', facet: 'north', at: [inches(2), low] }]).assembly;
    const both = checkDrainage(nailed, finished);
    expect(both.verdict).toBe('slow leak');
    expect(both.problems.map(({ verdict }) => verdict)).toContain('relies on sealant');
    expect(both.problems.map(({ piece }) => piece)).toEqual(expect.arrayContaining(['SW1-12', 'SW1-R1']));
  });

  it('a hose is followed to where its water leaves, or to the leak', () => {
    const onRoof = followHose(demo, finished, { facet: 'north', x: inches(100), y: inches(100) });
    expect(onRoof).toMatchObject({ verdict: 'clean', problem: undefined });
    expect(onRoof!.path[0]).toMatchObject({ move: 'rain', piece: 'C18' });
    expect(onRoof!.path.at(-1)!.piece).toBe('C01');
    const { assembly } = applyWhatIfs(demo, [{ kind: 'one-long-piece', wall: 'SW1' }]);
    expect(followHose(assembly, finished, { facet: 'north/SW1', x: inches(120), y: inches(1) })!.problem).toMatchObject({
      cause: 'overrun',
      piece: 'SW1-long',
    });
    expect(followHose(demo, finished, { facet: 'north', x: -500, y: 0 })).toBeUndefined();
  });

  it('a nail where it belongs stays dry, and undoing a what-if leaves the plan as it was', () => {
    expect(
      judge([{ kind: 'nail', piece: 'SW1-12', facet: 'north', at: [inches(3.5), buttLine(lines, 13) + inches(1.5)] }]),
    ).toEqual([]);
    expect(judge([])).toEqual([]);
  });

  it('gathers the same water in one long piece as the flow figures say, and says where it leaves', () => {
    const told = checkDrainage(applyWhatIfs(demo, [{ kind: 'one-long-piece', wall: 'SW1' }]).assembly, finished);
    expect(printWords(told.problems[0]!.sentence, 'imperial')).toMatch(
      /^Gathers on, and leaves over the side of step flashing SW1-long, .* (SW1-M|UL)[\d-]+ catches it\.$/,
    );
    expect(told.problems[0]!.path[0]!.move).toBe('rain');
    expect(told.problems[0]!.path.some(({ move }) => move === 'leaves over the side')).toBe(true);
  });

  it('ignores what makes no sense, with a sentence', () => {
    const { assembly, ignored } = applyWhatIfs(demo, [
      { kind: 'swap', piece: 'SW1-12', other: 'SW1-12' },
      { kind: 'leave-out', piece: 'SW9-99' },
    ]);
    expect(assembly).toBe(demo);
    expect(ignored).toEqual(['SW1-12 cannot be swapped with itself.', 'There is no piece SW9-99 to leave out.']);
  });
});

/** A smaller roof, so that many can be looked at. */
const small = planFor(
  changed((job) => {
    Object.assign(slopePart(job), { eaveLength: inches(120), slope: { kind: 'slope', length: inches(100) } });
  }),
);
const anyStep = fc.integer({ min: 1, max: 17 }).map((n) => `SW1-${String(n).padStart(2, '0')}`);
const anyWhatIf: fc.Arbitrary<WhatIf> = fc.oneof(
  fc.record({ kind: fc.constant('leave-out' as const), piece: anyStep }),
  fc.record({
    kind: fc.constant('shift' as const),
    piece: anyStep,
    across: fc.double({ min: -40, max: 40, noNaN: true }),
    up: fc.double({ min: -90, max: 90, noNaN: true }),
  }),
  fc.record({
    kind: fc.constant('nail' as const),
    piece: anyStep,
    facet: fc.constant('north'),
    at: fc.tuple(fc.double({ min: 1, max: 100, noNaN: true }), fc.double({ min: 1, max: 2500, noNaN: true })),
  }),
);
const brief = (made: Assembly, settings = {}, request = {}) => {
  const told = checkDrainage(made, { ...finished, ...request }, settings);
  return {
    verdict: told.verdict,
    problems: told.problems.map(({ verdict, cause, piece }) => `${verdict} ${cause} ${piece}`).sort(),
  };
};

describe('whatever the roof', () => {
  it('halving the cell size changes no verdict', () => {
    fc.assert(
      fc.property(
        fc.array(anyWhatIf, { maxLength: 2 }),
        fc.double({ min: 0, max: 60, noNaN: true }),
        fc.double({ min: 0, max: 60, noNaN: true }),
        (whatIfs, creep, reach) => {
          const { assembly } = applyWhatIfs(small, whatIfs);
          const coarse = brief(assembly, { creep, reach });
          expect(brief(assembly, { creep, reach }, { cellSize: inches(4) })).toEqual(coarse);
          expect(brief(assembly, { creep, reach }, { cellSize: inches(2) })).toEqual(coarse);
        },
      ),
      { ...cases(16), endOnFailure: true },
    );
  });

  it('no result depends on the order pieces, facets and fasteners come in', () => {
    fc.assert(
      fc.property(fc.array(anyWhatIf, { maxLength: 2 }), fc.integer(), (whatIfs, seed) => {
        const { assembly } = applyWhatIfs(small, whatIfs);
        const shuffled = {
          ...assembly,
          pieces: mix(assembly.pieces, seed),
          facets: mix(assembly.facets, seed),
          fasteners: mix(assembly.fasteners, seed),
        };
        expect(JSON.stringify(checkDrainage(shuffled, finished))).toBe(JSON.stringify(checkDrainage(assembly, finished)));
      }),
      { ...cases(20), endOnFailure: true },
    );
  });

  it('a nail more never makes anything drier', () => {
    fc.assert(
      fc.property(
        anyWhatIf,
        anyWhatIf.filter(({ kind }) => kind === 'nail'),
        (whatIf, nail) => {
          const rank = (whatIfs: WhatIf[]): number =>
            VERDICTS.indexOf(checkDrainage(applyWhatIfs(small, whatIfs).assembly, finished).verdict);
          expect(rank([whatIf, nail])).toBeGreaterThanOrEqual(rank([whatIf]));
        },
      ),
      { ...cases(25), endOnFailure: true },
    );
  });

  it('a longer lap never lowers the reserve', () => {
    const reserveWith = (stepFlashing: string) => {
      const { reach, creep } = measureReserve(
        planFor(
          changed((job) => {
            Object.assign(slopePart(job), { eaveLength: inches(60), slope: { kind: 'slope', length: inches(60) } });
            slopeRecord(job).walls[0]!.stepFlashing = stepFlashing;
          }),
        ),
        finished,
      );
      return [reach?.distance ?? Number.POSITIVE_INFINITY, creep?.distance ?? Number.POSITIVE_INFINITY] as const;
    };
    const laps = ['pellwick-step-8-5x5-al', 'pellwick-step-10-5x5-al'].map(reserveWith);
    expect(laps[1]![0]).toBeGreaterThanOrEqual(laps[0]![0]);
    expect(laps[1]![1]).toBeGreaterThanOrEqual(laps[0]![1]);
  });
});

/** A seeded shuffle. */
function mix<T>(items: readonly T[], seed: number): T[] {
  return items
    .map((item, i) => [Math.imul((seed ^ i) + 1, 2654435761) >>> 0, item] as const)
    .sort((a, b) => a[0] - b[0])
    .map(([, item]) => item);
}

it('refuses a cell size that needs more memory than is allowed, with the finest allowed', () => {
  expect(() => checkDrainage(small, { ...finished, cellSize: 0.01 })).toThrow(TooFine);
  expect(() => checkDrainage(small, { ...finished, cellSize: 0 })).toThrow(TooFine);
});
