import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { changed, demoHouse, demoLibrary, slopePart, slopeRecord } from '../../fixtures/demo.ts';
import { anyJob } from '../../fixtures/jobs.ts';

import { VALLEYS, anyCrossed, anyDormered, anyFeatured, anyPlaced, crossed, dormered, feature, slopeWith, valleyOf } from '../../fixtures/roofs.ts'; // prettier-ignore
import { cases } from '../../fixtures/seeds.ts';
import { planFor } from '../../fixtures/planned.ts';
import { type Finding, type Words, compareLay, printWords, usesWords } from '../assembly/index.ts';
import { type Feature, type Job, newJob, newPart } from '../document/index.ts';
import { type Plan, checkJob, planJob, tallyOf } from './index.ts';
import { distanceToStretch } from '../roof/index.ts';
import { inches, onTwelve, toInches } from '../units/index.ts';

const said = (made: Plan): Map<string, Finding> => new Map(made.findings.map((finding) => [finding.id, finding]));
const sentence = (made: Plan, id: string): string => {
  const found = said(made).get(id);
  return found
    ? `${found.severity}: ${printWords(found.sentence, 'imperial')}`
    : `no ${id} among ${[...said(made).keys()].join()}`;
};
const at = (across: number, up: number) => ({
  across: { from: 'left' as const, distance: inches(across) },
  up: { kind: 'slope' as const, length: inches(up) },
});
const set = (one: Feature, measures: object): void => void Object.assign(one, measures);

/** Everything a plan prints. */
function wordsOf(made: Plan): string {
  const words: Words[] = [
    ...made.findings.flatMap(({ sentence: own, fix }) => [own, fix]),
    ...made.steps.flatMap(({ action, fasteners = [], uses = [] }) => [action, fasteners, usesWords(uses)]),
    ...made.panels.flatMap(({ figures, tables = [] }) => [
      ...figures.map(({ value }) => value),
      ...tables.flatMap(({ rows }) => rows.flat()),
    ]),
  ];
  return words.flatMap((one) => [printWords(one, 'imperial'), printWords(one, 'metric')]).join('\n');
}

const anyRoof = fc.oneof(anyPlaced, anyJob, anyFeatured, anyCrossed, anyDormered);

describe('for every roof', () => {
  it('no printed word holds a figure that is infinite, missing or no number', () => {
    fc.assert(
      fc.property(anyRoof, (job) => {
        const made = planFor(job);
        expect(wordsOf(made)).not.toMatch(/Infinity|NaN|undefined|null/);
        expect(JSON.stringify({ ...made, roof: [] })).not.toMatch(/:null/);
      }),
      { ...cases(25), endOnFailure: true },
    );
  });

  it('everything is laid, and told, after what it lies on; every mark named anywhere is a piece’s', () => {
    fc.assert(
      fc.property(anyRoof, (job) => {
        const made = planFor(job);
        const byMark = new Map(made.pieces.map((piece) => [piece.mark, piece]));
        const line = new Map<string, number>();
        made.runSheet
          .flatMap(({ lines }) => lines)
          .forEach(({ pieces }, i) => pieces.forEach((mark) => line.set(mark, Math.min(i, line.get(mark) ?? i))));
        const wrong: string[] = [];
        for (const { mark, liesOn, lay } of made.pieces)
          for (const below of liesOn) {
            if (!byMark.has(below) || compareLay(byMark.get(below)!.lay, lay) >= 0) wrong.push(`${mark} laid before ${below}`);
            if ((line.get(below) ?? -1) > (line.get(mark) ?? Number.POSITIVE_INFINITY))
              wrong.push(`${mark} told before ${below}`);
          }
        const named = [
          ...made.steps.flatMap(({ pieces }) => pieces),
          ...made.findings.flatMap(({ piece }) => piece ?? []),
          ...made.zones.flatMap(({ piece }) => piece ?? []),
          ...made.fasteners.map(({ piece }) => piece),
        ];
        wrong.push(...named.filter((mark) => !byMark.has(mark)));
        expect(wrong).toEqual([]);
        expect(new Set(made.findings.map(({ id }) => id)).size).toBe(made.findings.length);
      }),
      { ...cases(40), endOnFailure: true },
    );
  });
});

describe('what has no room is said', () => {
  it.each<[string, Parameters<typeof slopeWith>[0], (all: Feature[]) => void, string, RegExp]>([
    ['a cricket across a skylight', ['chimney', 'skylight'], ([chimney, skylight]) => {
      set(chimney!, { width: inches(42), depth: inches(26), ...at(40, 60) });
      set(skylight!, { width: inches(22.5), ...at(50, 100) });
    }, 'CH1.into.SK1', /^leaks: Chimney 1: its cricket CH1-CK runs into Skylight 1, .* of it: there it cannot lie\.$/],
    ['skylights 6 in apart', ['skylight', 'skylight'], (all) => all.forEach((one, i) => set(one, { width: inches(22.5), ...at(40 + i * 28.5, 60) })), 'SK1.over.SK2', /^breaks a rule: Skylight 1 and Skylight 2 stand so near that their flashings overlap/],
    ['pipes 10 in apart', ['pipe', 'pipe'], (all) => all.forEach((one, i) => set(one, at(60 + i * 10, 60))), 'P1.over.P2', /overlap: boot P1-B and boot P2-B by 2" × 13"\.$/],
    ['pipes 7 in apart, the one’s flange over the other’s hole', ['pipe', 'pipe'], (all) => all.forEach((one, i) => set(one, at(60 + i * 7, 60))), 'P1.into.P2', /^leaks: Pipe 1: its boot P1-B runs into Pipe 2/],
    ['a cricket past the ridge', ['chimney'], ([one]) => set(one!, { width: inches(60), depth: inches(20), ...at(40, 130) }), 'CH1.past', /^breaks a rule: Chimney 1: its cricket CH1-CK runs .* past the top of the slope/],
    ['a head flashing over the ridge', ['skylight'], ([one]) => set(one!, { width: inches(22.5), height: inches(30), ...at(60, 136) }), 'SK1.past', /its head flashing SK1-HD runs .* past the top of the slope/],
    ['a flange over the ridge', ['pipe'], ([one]) => set(one!, at(60, 166)), 'P1.past', /its boot P1-B runs .* past the top of the slope/],
    ['a chimney’s front at the eave', ['chimney'], ([one]) => set(one!, at(60, 1)), 'CH1.past', /its apron CH1F-A1 runs .* past the eave/],
    ['an apron’s leg below the rule', ['chimney'], ([one]) => set(one!, { apronLeg: inches(2.5) }), 'CH1.apronLeg', /^breaks a rule: Chimney 1: an apron with 2 1\/2" on the roof is under the least, 4"; the least is planned\.$/],
    ['the same along a headwall', ['headwall'], ([one]) => set(one!, { apronLeg: inches(2) }), 'HW1.apronLeg', /an apron with 2" on the roof is under the least, 4"/],
    ['a hot flue whose clearance nobody asked', ['pipe'], ([one]) => set(one!, { hot: true, material: 'metal', diameter: inches(8) }), 'P1.clearance', /^breaks a rule: Pipe 1 gets hot, and its clearance/],
  ])('%s', (_, kinds, change, id, wanted) => {
    expect(sentence(planFor(slopeWith(kinds, change)), id)).toMatch(wanted);
  }); // prettier-ignore

  it('a chimney 3 in from a wall with steps', () => {
    const made = planFor(
      changed((job) => {
        job.features = slopeWith(['chimney'], ([one]) => set(one!, { width: inches(24), ...at(3, 60) })).features;
      }),
    );
    expect(sentence(made, 'SW1.into.CH1')).toMatch(/^leaks: .*step flashing .* runs into Chimney 1/);
  });

  it('a last course that shows under an inch below the ridge; no step under a course that an apron takes the place of', () => {
    const sliver = planFor(
      changed((job) => void (slopePart(job).slope = { kind: 'slope', length: inches(5.625 * 20 - 0.5 + 0.4) })),
    );
    expect(sentence(sliver, 'covering.ridge')).toBe(
      'worth a look: North plane: the last course shows only 3/8" below the ridge.',
    );
    // 3 in of wall above the butt of course 19, which the apron's leg takes up: no step there, the one below goes up under the apron
    const house = demoHouse();
    for (const part of house.parts)
      if (part.kind === 'slope') part.slope = { kind: 'slope', length: inches(5.625 * 18 - 0.5 + 3) };
    // nor where only 7/16 in is left: the step below reaches the wall by itself
    for (const made of [planFor(house), planFor(demoHouse())]) {
      const steps = made.pieces.filter(({ mark }) => /^SW2-\d/.test(mark));
      expect(steps.at(-1)!.mark).toBe('SW2-18');
      const porch = made.planes.find(({ id }) => id === 'porch')!.lines;
      const top = Math.max(
        ...steps
          .at(-1)!
          .covers.filter(({ facet }) => !facet.includes('/'))
          .flatMap(({ outline }) => outline.map(([, y]) => y)),
      );
      expect(toInches(top - (porch.first + 18 * porch.gauge))).toBeGreaterThanOrEqual(
        Math.min(2, toInches(porch.end - (porch.first + 18 * porch.gauge))) - 1e-6,
      );
      expect(made.findings.map(({ id }) => id)).not.toContain('SW2.lastStep');
      expect(tallyOf(made)).toMatchObject({ leaks: 0, breaks: 0 });
    }
  });

  it('and a slope with room for everything says none of it', () => {
    const made = planFor(
      slopeWith(
        ['chimney', 'skylight', 'pipe'],
        ([chimney, skylight, pipe]) => {
          set(chimney!, { width: inches(24), depth: inches(20), ...at(60, 60) });
          set(skylight!, { width: inches(22.5), ...at(150, 60) });
          set(pipe!, at(240, 84));
        },
        { eave: 320, up: 220 },
      ),
    );
    expect(made.findings.filter(({ severity }) => severity !== 'worth a look').map(({ id }) => id)).toEqual([]);
  });
});

describe('a valley goes as far as its line', () => {
  it('a pipe beside or above a valley is told how far it is from the line itself, and far ones nothing', () => {
    const piped = (across: number, up: number): Plan =>
      planFor(
        crossed((job) => {
          job.features = slopeWith(['pipe'], ([one]) => set(one!, at(across, up))).features.map((one) => ({
            ...one,
            plane: 'south',
          })) as Job['features'];
        }),
      );
    // valleys run from 78 and 222 in along the eave up to 150 in, 80.5 in up the slope
    expect(sentence(piped(40, 40), 'P1.near.the centre of V1')).toMatch(/^no /);
    expect(sentence(piped(150, 115), 'P1.near.the centre of V1')).toMatch(/^no /);
    const near = piped(120, 70);
    const valley = near.joints.find(({ kind }) => kind === 'valley')!;
    const [, boot] = [near, near.pieces.find(({ role }) => role === 'boot')!];
    const least = Math.min(...boot.covers[0]!.outline.map((corner) => distanceToStretch(corner, ...valley.onA)));
    expect(sentence(near, 'P1.near.the centre of V1')).toContain(`within ${Math.floor(toInches(least))}`);
  });

  it('two slopes that meet in a level gutter are a leak, not a closed cut', () => {
    const job = newJob(demoLibrary, 'Butterfly', 'imperial')!;
    job.parts = [newPart('slope', [], 'shingles')!, newPart('slope', [newPart('slope', [], 'shingles')!], 'shingles')!];
    job.parts.forEach((part, i) => {
      if (part.kind !== 'slope') return;
      Object.assign(part.planes[0]!, { name: i === 0 ? 'North half' : 'South half' });
      Object.assign(part, { place: { east: i === 0 ? 0 : inches(240), north: 0, facing: i === 0 ? 180 : 0, height: 0 } });
    });
    expect(checkJob(job, demoLibrary)).toEqual([]);
    const made = planFor(job);
    expect(made.roof[0]!.edges.map(({ kind }) => kind)).toContain('valley');
    expect(made.valleys).toEqual([]);
    const [gutter] = made.findings;
    expect(`${gutter!.severity}: ${printWords(gutter!.sentence, 'imperial')}`).toBe(
      'leaks: North half and South half meet in a level gutter: it needs a tapered saddle or a lined gutter, not a valley; none is planned there.',
    );
    expect(wordsOf(made)).not.toMatch(/Infinity|NaN/);
  });

  it('takes the rules of both its slopes: a maker’s wider crossing on the steeper one holds', () => {
    const pack = {
      ...demoLibrary.packs.find(({ id }) => id === 'larkmoor-house')!,
      version: 9,
      rules: [
        {
          key: 'valley.cross' as const,
          sense: 'atLeast' as const,
          value: 14,
          unit: 'in' as const,
          section: 'Valleys',
          when: { pitchAtLeast: 8 },
        },
      ],
    };
    const job = crossed((draft) => {
      draft.parts[1]!.pitch = onTwelve(9);
      draft.packs.push({ id: pack.id, version: 9 });
    });
    const library = { ...demoLibrary, packs: [...demoLibrary.packs, pack] };
    const sheet = planJob(job, library).panels.find(({ detail }) => detail === 'V1')!;
    const crossing = sheet.figures.find(({ label }) => label === 'Crossing shingles past the centre')!;
    expect(printWords(crossing.value, 'imperial')).toBe('14"');
    for (const key of VALLEYS) job.valleys[key] = valleyOf('open');
    expect(() => planJob(job, library)).not.toThrow();
  });
});

describe('the ice barrier', () => {
  const lines = (made: Plan): string[] =>
    made.steps.map(({ action }) => printWords(action, 'imperial')).filter((line) => line.startsWith('Lay ice barrier'));

  it('from 8/12 says what the level measure is along the slope, and what governs', () => {
    const made = planFor(
      changed((job) => void Object.assign(slopePart(job), { pitch: onTwelve(12), overhang: 0, wallThickness: 0 })),
    );
    // 24 in level are 33.9 in along the slope; at this pitch the least along the slope governs
    expect(lines(made)[0]).toContain('Needed: 36" along the slope, 24" level.');
  });

  it('says as many rows as are laid where the slope is short of what it needs, and nothing where none is laid', () => {
    const short = planFor(changed((job) => void (slopePart(job).slope = { kind: 'slope', length: inches(48) })));
    expect(short.planes[0]!.barrier!.rows).toHaveLength(lines(short).length);
    const none = planFor(changed((job) => void Object.assign(job.site, { iceDams: false })));
    expect(none.findings.filter(({ piece }) => piece?.startsWith('IB'))).toEqual([]);
  });

  it('has no strip that runs on under a cross gable, and no row on eave metal where there is no eave', () => {
    const made = planFor(demoHouse());
    const south = made.pieces.filter(({ mark }) => mark.startsWith('S-IB1'));
    // the cross gable takes 22'-8" of the south eave out; left of it two strips of at most 15 ft, right of it one
    expect(south).toHaveLength(3);
    for (const { mark, covers, cutLength } of south) {
      const xs = covers.flatMap(({ outline }) => outline.map(([x]) => x));
      expect(Math.max(...xs) - Math.min(...xs), mark).toBeCloseTo(cutLength!, 0);
    }
    const cross = made.steps.filter(({ plane, pieces }) => plane === 'cross-west' && pieces.some((mark) => mark.includes('IB1')));
    expect(cross.map(({ action }) => printWords(action, 'imperial'))[0]).toContain('its lower end in the valley');
  });
});

describe('a dormer’s eaves hang over its walls', () => {
  const eaves = (overhang: number): Plan =>
    planFor(dormered('gable', (dormer) => void Object.assign(dormer, { overhang: inches(overhang) })));
  const left = (made: Plan) => made.roof.find(({ id }) => id === 'dormer-left')!;

  it('12 in level past the walls makes its slopes 12 in × the slope factor longer, its walls no wider, and it sheds', () => {
    const [flush, hung] = [eaves(0), eaves(12)];
    expect(toInches(left(hung).slope.length - left(flush).slope.length)).toBeCloseTo(12 * Math.hypot(1, 0.5), 3);
    const face = (made: Plan) => made.facets.find(({ id }) => id.endsWith('/D1F'))!.outline;
    expect(face(hung)).toEqual(face(flush));
    // the eave comes down 6 in, so the slope meets it 6 in × k / m lower and the walls' steps end there
    const end = (made: Plan): number =>
      Math.max(
        ...made.pieces
          .filter(({ mark }) => mark.startsWith('D1L-'))
          .flatMap(({ covers }) => covers[0]!.outline.map(([, y]) => y)),
      );
    expect(toInches(end(flush) - end(hung))).toBeGreaterThan(6);
    expect(hung.findings.filter(({ severity }) => severity === 'leaks')).toEqual([]);
  });

  it('hanging so far that they come down on to the slope, they are refused by name', () => {
    const [issue] = checkJob(
      dormered('gable', (dormer) => void Object.assign(dormer, { overhang: inches(60) })),
      demoLibrary,
    );
    expect(issue!.path).toBe('parts.1.overhang');
    expect(issue!.message).toMatch(
      /^Dormer, eave overhang: 5'-0" \(1524 mm\) past its walls its eaves come down on to Main gable, front/,
    );
  });
});

it('a back pan goes 6 in up the chimney by trade practice alone', () => {
  const job = slopeWith(['chimney']);
  job.packs = job.packs.filter(({ id }) => id !== 'larkmoor-house');
  const made = planFor(job);
  expect(made.planes[0]!.requirements.find(({ key }) => key === 'pan.upstand')!.least).toBe(inches(6));
  const figures = made.panels.find(({ detail }) => detail === 'CH1')!.figures;
  expect(printWords(figures.find(({ label }) => label === 'Back pan')!.value, 'imperial')).toContain('6" up the chimney');
});

it('weeps are held against the water that gets through the face, not all that strikes it', () => {
  const inflow = (pointing: 'sound' | 'open joints'): string => {
    const job = demoHouse();
    const wall = feature(job.features, 'headwall');
    wall.throughWall.pointing = pointing;
    const figures = planFor(job).panels.find(({ family }) => family === 'through-wall')!.figures;
    return printWords(figures.find(({ label }) => label === 'Water into the cavity above')!.value, 'metric');
  };
  // 9.4 L/min strike the porch's wall: a tenth gets through sound joints, three tenths through open ones
  expect(inflow('sound')).toMatch(/^0\.94 L\/min: 10 % of the rain/);
  expect(inflow('open joints')).toMatch(/^2\.83 L\/min: 30 %/);
  expect(said(planFor(demoHouse())).has('HW1.drain')).toBe(false);
});

it('stepped counterflashing says what its lowest joint has to clear; a base says what it is made of', () => {
  const made = planFor(demoHouse());
  const figure = (detail: string, label: string): string =>
    printWords(
      made.panels.find((sheet) => sheet.detail === detail)!.figures.find((one) => one.label === label)!.value,
      'imperial',
    );
  expect(figure('CH1', 'Lowest joint above the roof line')).toBe(
    '7 3/16", plumb; it must clear the membrane behind the steps, 6" up the wall',
  );
  expect([figure('P1', 'Made of'), figure('P2', 'Made of')]).toEqual(['plastic', 'aluminium']);
});

it('a slope’s record and a plan of it stay apart: walls told on the slope are planned as told', () => {
  const made = planFor(changed((job) => void (slopeRecord(job).walls = [])));
  expect(made.planes[0]!.walls).toEqual([]);
  expect(made.pieces.some(({ role }) => role === 'step')).toBe(false);
});
