import { describe, expect, it } from 'vitest';
import { changed, demoHouse, demoLibrary, slopeRecord, stripOf } from '../../fixtures/demo.ts';
import { VALLEYS, crossed, dormered, slopeWith, valleyOf } from '../../fixtures/roofs.ts';
import { CREWS, type Joint, compareLay, printWords } from '../assembly/index.ts';
import { type Job, type Wall, newJob, newPart, spreadSkylights } from '../document/index.ts';
import { checkDrainage } from '../drainage/index.ts';
import { type Plan, checkJob, planJob } from '../plan/index.ts';
import { bounds, outlineArea, ribbedWater, valleyWater } from '../roof/index.ts';
import { crewOf, filterRunSheet } from '../sequence/index.ts';
import { inches, onTwelve, toInches } from '../units/index.ts';

const plan = (job: Job): Plan => planJob(job, demoLibrary);
const sheds = (made: Plan, plane: string): string => checkDrainage(made, { plane, stage: 'finished' }).verdict;
const figure = (made: Plan, family: string, label: string): string =>
  printWords(made.panels.find((sheet) => sheet.family === family)!.figures.find((one) => one.label === label)!.value, 'imperial');
const steps = (made: Plan, wall: string): number =>
  made.pieces.filter(({ role, mark }) => role === 'step' && mark.startsWith(`${wall}-`)).length;

describe('trays through a cavity wall on the slope', () => {
  const tower = plan(
    changed((job) => {
      const [wall] = slopeRecord(job).walls;
      Object.assign(wall!, { cladding: 'masonry', counter: 'trays', from: 0, to: null });
    }),
  );
  const trays = tower.pieces.filter(({ role }) => role === 'throughWall');

  it('are one a step: 184 in level at 5 1/3 in are 35, with 7 weeps, of a sheet wide enough for veneer, cavity and rise', () => {
    expect(trays).toHaveLength(35);
    expect(figure(tower, 'through-wall', 'Trays, one a step')).toBe('35, 5 5/16" level apart');
    expect(figure(tower, 'through-wall', 'Width needed')).toContain('12 5/8"');
    expect(figure(tower, 'through-wall', 'Sheet')).toContain('16 in');
    expect(figure(tower, 'through-wall', 'Weeps')).toBe('7');
    expect(tower.order.find(({ product }) => product.includes('weep'))!.needed).toBe(7);
  });

  it('each lie over the one below, stopped uphill, the lowest at both ends', () => {
    trays.forEach(({ mark, covers, flat }, i) => {
      const { x0, x1 } = bounds(covers[0]!.outline);
      const below = i > 0 ? bounds(trays[i - 1]!.covers[0]!.outline) : undefined;
      if (below) expect(toInches(below.x1 - x0), mark).toBeCloseTo(3, 6);
      expect(covers[0]!.holds[1]).toBe('bonded');
      expect(covers[0]!.holds[3]).toBe(i === 0 ? 'bonded' : 'open');
      // turned up 2 in at each stopped end
      expect(toInches(bounds(flat!.outline).x1 - (x1 - x0)), mark).toBeCloseTo(i === 0 ? 4 : 2, 6);
    });
    expect(sheds(tower, 'north')).toBe('clean');
  });
});

describe('the inside corner of a headwall', () => {
  const house = plan(demoHouse());
  const pan = house.pieces.find(({ role }) => role === 'cornerPan')!;

  it('has a pan under the apron and over the last step, as large flat as bent', () => {
    const at = (mark: string): number => house.pieces.findIndex((piece) => piece.mark === mark);
    expect(pan.mark).toBe('HW1-IR');
    expect(at(pan.mark)).toBeGreaterThan(at('SW2-18'));
    expect(at(pan.mark)).toBeLessThan(at('HW1-A1'));
    const covered = pan.covers.reduce((sum, { outline }) => sum + Math.abs(outlineArea(outline)), 0);
    expect(Math.abs(outlineArea(pan.flat!.outline)) / covered).toBeCloseTo(1, 3);
  });
});

describe('a wall that begins up the slope', () => {
  const beginning = (x: number, ...more: Partial<Wall>[]): Plan =>
    plan(
      changed((job) => {
        const { walls } = slopeRecord(job);
        const [wall] = walls;
        Object.assign(wall!, { x: inches(x), from: inches(61), foot: 'corner', runsPastEave: false, counter: 'reglet' });
        walls.push(...more.map((one) => ({ ...wall!, ...one })));
      }),
    );
  const aprons = ({ pieces }: Plan) => pieces.filter(({ role }) => role === 'apron');
  const whole = (made: Plan): void => {
    expect(made.findings.filter(({ severity }) => severity !== 'worth a look')).toEqual([]);
    expect(sheds(made, 'north')).toBe('clean');
    expect(checkDrainage(made, { plane: 'north', stage: 'finished' }, { creep: inches(2) - 1 }).verdict).toBe('clean');
    expect(checkDrainage(made, { plane: 'north', stage: 'dry-in' }).verdict).toBe('clean');
  };

  it('has an apron along its front, from the slope’s end to an ear past its corner', () => {
    const made = beginning(120);
    // 120 in and an ear of 5 in (the house’s standard): one length of 10 ft, and a piece of 12 in, no shorter, whose lap grows to 8 in
    expect(aprons(made).map(({ cutLength }) => Math.round(cutLength!))).toEqual([inches(120), inches(12)].map(Math.round));
    // y(11) is 55 3/4 in: courses 11 to 37 have a step, the first of them a corner piece over the ear
    expect(steps(made, 'SW1')).toBe(27);
    expect(made.pieces.find(({ mark }) => mark === 'SW1-01')!.liesOn).toEqual(['C11', 'SW1F-A1']);
    expect(figure(made, 'sidewall', 'Along its front')).toBe(`10'-0" of apron, 5" past its corner`);
    expect(made.panels.some(({ family }) => family === 'dormer')).toBe(false);
    whole(made);
  });

  it('shares its front with the wall that closes it, with an ear past either corner', () => {
    const made = beginning(120, { id: 'SW2', name: 'other side', stands: 'right', x: inches(40) });
    expect(aprons(made).map(({ mark, cutLength }) => [mark, toInches(cutLength!)])).toEqual([['SW2F-A1', 80 + 5 + 5]]);
    expect([steps(made, 'SW1'), steps(made, 'SW2')]).toEqual([27, 27]);
    whole(made);
  });

  it('its membrane in several strips is laid, and listed, upper over lower, also where the strips are short', () => {
    const made = plan(
      changed((job) => {
        stripOf(job).underlayers.longestStrip = inches(40);
        const [wall] = slopeRecord(job).walls;
        Object.assign(wall!, { from: inches(20), foot: 'corner', runsPastEave: false, counter: 'reglet' });
      }),
    );
    const strips = made.pieces.filter(({ role, mark }) => role === 'wallMembrane' && /^SW1-M/.test(mark));
    expect(strips.length).toBeGreaterThan(5);
    strips.slice(1).forEach((strip, i) => {
      expect(strip.liesOn, strip.mark).toContain(strips[i]!.mark);
      expect(compareLay(strips[i]!.lay, strip.lay), strip.mark).toBeLessThan(0);
    });
  });

  it('at the slope’s very end has only the corner: its front is beside the roof', () => {
    const made = beginning(0);
    expect(aprons(made)).toEqual([]);
    expect(made.pieces.filter(({ role }) => role === 'apronEnd').map(({ mark }) => mark)).toEqual(['SW1-A']);
    whole(made);
  });
});

describe('the run sheet by crew', () => {
  const house = plan(demoHouse());
  const lines = (crew?: (typeof CREWS)[number]) =>
    filterRunSheet(house.runSheet, crew ? { crew } : {}).flatMap((group) => group.lines);

  it('gives every line to one crew: masons what is let into masonry, carpenters the openings, cladders the walls', () => {
    expect(CREWS.flatMap((crew) => lines(crew)).length).toBe(lines().length);
    expect([...new Set(lines('masons').map(({ detail }) => detail))].sort()).toEqual(['CH1', 'HW1']);
    expect(lines('carpenters').map(({ detail }) => detail)).toEqual(['SK1', 'SK2']);
    expect(
      lines('cladders')
        .map(({ detail }) => detail)
        .sort(),
    ).toEqual(['SW1', 'SW2']);
    expect(lines('roofers').every((line) => crewOf(line) === 'roofers' && !line.action.join('').includes('veneer'))).toBe(true);
  });

  it('keeps the numbers of the whole sheet, by detail too', () => {
    const chimney = filterRunSheet(house.runSheet, { detail: 'CH1', crew: 'masons' }).flatMap((group) => group.lines);
    expect(chimney.length).toBe(4);
    for (const { line } of chimney) expect(lines().some((one) => one.line === line)).toBe(true);
  });
});

describe('skylights alike between references', () => {
  const job = slopeWith(['skylight']);
  const [unit] = job.features;

  it('stand with equal gaps; the first moves, the others are added like it', () => {
    const features = spreadSkylights(job, 'SK1', inches(10), inches(150), 3);
    if (typeof features === 'string') throw new Error(features);
    // 140 in less 3 × 30 1/2: gaps of 12 1/8
    const edges = features.map((one) => (one.kind === 'skylight' ? toInches(one.across.distance).toFixed(3) : ''));
    expect(edges).toEqual(['22.125', '64.750', '107.375']);
    expect(features.map(({ id }) => id)).toEqual(['SK1', 'SK2', 'SK3']);
    expect(checkJob({ ...job, features }, demoLibrary)).toEqual([]);
  });

  it('are refused by name where they do not fit, or where there is no such unit', () => {
    expect(spreadSkylights(job, 'SK1', 0, inches(60), 2)).toBe(
      `${unit!.name}, between the references: 2 units 2'-6 1/2" wide do not fit in 5'-0".`,
    );
    expect(spreadSkylights(job, 'SK9', 0, inches(60), 2)).toContain('SK9');
  });
});

describe('a ribbed valley', () => {
  const unequal = (lining: 'plain' | 'ribbed'): Plan =>
    plan(
      crossed((job) => {
        job.parts[1]!.pitch = onTwelve(9);
        for (const key of VALLEYS) job.valleys[key] = valleyOf('open', null, lining);
      }),
    );

  it('is advised where pitches differ by 3/12, and the advice goes when it is chosen', () => {
    expect(unequal('plain').findings.map(({ id }) => id)).toContain('V1.rib');
    const ribbed = unequal('ribbed');
    expect(ribbed.findings.map(({ id }) => id)).not.toContain('V1.rib');
    const [lining] = ribbed.pieces.filter(({ role }) => role === 'valleyLining');
    // 24 in of lining and an inch of rib twice
    expect(toInches(bounds(lining!.flat!.outline).x1)).toBeCloseTo(26, 6);
    expect(lining!.flat!.bends.map(({ direction }) => direction)).toEqual(['up', 'down', 'up']);
    expect(ribbed.order.find(({ product }) => product === lining!.product)!.name).toContain('ribbed');
    expect(sheds(ribbed, 'south')).toBe('clean');
  });

  it('keeps each side’s water to itself', () => {
    // 50 L/min a side at 6/12, worked by Manning in half a V with the rib as its wall: 18.2 mm deep, 57 mm wide
    const section = { zA: 3, zB: 3, sine: 1 / 3 };
    const water = ribbedWater(50, 50, section);
    expect(water.depth).toBeCloseTo(18.2, 1);
    expect(Math.round(water.spreadA)).toBe(57);
    expect(ribbedWater(100, 0, section).spreadB).toBe(0);
    expect(ribbedWater(100, 0, section).spreadA).toBeGreaterThan(valleyWater(100, section).spreadA);
  });
});

describe('roofs put together', () => {
  const bare = (...kinds: Parameters<typeof newPart>[0][]): Job => {
    const job = newJob(demoLibrary, 'Shed', 'imperial')!;
    job.parts = [];
    for (const kind of kinds) job.parts.push(newPart(kind, job.parts, 'shingles')!);
    return job;
  };

  it('a hip: four slopes of as many courses, hips and ridge capped once, nothing leaks', () => {
    const hip = plan(bare('hip'));
    expect(hip.planes.map(({ lines }) => lines.count)).toEqual([30, 30, 30, 30]);
    // 15 ft of ridge and four hips of 18 ft 9 in, by the exposure of the caps
    const caps = hip.pieces.flatMap(({ role, units }) => (role === 'ridgeCap' && units ? [units.whole] : []));
    const length = inches(180) + 4 * Math.hypot(Math.hypot(150, 150), 75) * inches(1);
    const exposure = demoLibrary.catalog.items.find((item) => item.kind === 'ridgeCap')!;
    if (exposure.kind !== 'ridgeCap') throw new Error('a ridge cap');
    const counted = caps.reduce((sum, whole) => sum + whole, 0);
    expect(counted).toBeGreaterThanOrEqual(Math.ceil(length / exposure.exposure));
    expect(counted).toBeLessThan(length / exposure.exposure + caps.length);
    for (const { id } of hip.planes) expect(sheds(hip, id)).toBe('clean');
  });

  it('a cross gable whose eaves stand higher has side walls up to its valleys, with a kick-out where it stands out', () => {
    const job = bare('gable', 'crossGable');
    const cross = job.parts[1]!;
    if (cross.kind !== 'crossGable') throw new Error('a cross gable');
    Object.assign(cross, { rise: inches(24), projection: inches(36) });
    const made = plan(job);
    // 24 in of rise at 6/12 are 53 11/16 in of slope: courses 1 to 10
    expect([steps(made, 'CG1L'), steps(made, 'CG1R')]).toEqual([10, 10]);
    expect(made.pieces.filter(({ role }) => role === 'kickOut')).toHaveLength(2);
    expect(made.findings.filter(({ severity }) => severity !== 'worth a look')).toEqual([]);
    expect(sheds(made, made.roof[0]!.id)).toBe('clean');
    cross.projection = 0;
    expect(plan(job).pieces.filter(({ role }) => role === 'kickOut')).toHaveLength(0);
  });

  it('a cross gable as high as the roof it runs into: both stay whole slopes, their ridges meet, nothing leaks', () => {
    const made = plan(
      crossed((job) => {
        const [main, cross] = job.parts;
        if (cross!.kind === 'crossGable') Object.assign(cross!, { halfWidth: inches(120), pitch: main!.pitch });
      }),
    );
    expect(made.roof.map(({ joined }) => joined.parts)).toEqual([1, 1, 1, 1]);
    expect(made.findings).toEqual([]);
    // 10 ft level at 6/12 is 134 3/16 in of slope: 24 courses at 5 5/8 in on every slope
    expect(made.planes.map(({ lines }) => lines.count)).toEqual([24, 24, 24, 24]);
    // over 10 ft each way at 6/12 a valley rises 5 ft: the root of 120 squared twice and 60 squared is 15 ft
    for (const { line } of made.valleys) expect(toInches(line.trueLength)).toBeCloseTo(180, 0);
    // the highest course of the main slope lies in two stretches, one beside either valley
    const highest = made.pieces.find(({ mark }) => mark === 'S-C24')!;
    expect(highest.covers.filter(({ facet }) => facet === 'south')).toHaveLength(2);
    expect(sheds(made, 'south')).toBe('clean');
  });

  it('the two valleys of one gable run the same way by their water together; decided otherwise, it is said', () => {
    const job = dormered('hip', (dormer) => void (dormer.centre = inches(150)));
    const made = plan(job);
    const through = made.valleys.map((valley) => valley.through);
    const host = made.roof[0]!.id;
    expect(new Set(through.map((plane) => plane === host)).size).toBe(1);
    expect(made.findings.some(({ id }) => id.endsWith('.opposite'))).toBe(false);
    const [first] = made.valleys;
    const other = first!.through === host ? first!.b : host;
    job.valleys[first!.key] = valleyOf('closed cut', other);
    expect(plan(job).findings.find(({ id }) => id === 'V1.V2.opposite')!.severity).toBe('worth a look');
  });

  it('a dormer: front, two sidewalls, two valleys, told on a sheet of its own', () => {
    const made = plan(dormered());
    expect([steps(made, 'D1L'), steps(made, 'D1R')]).toEqual([13, 13]);
    expect(figure(made, 'dormer', 'V1 empties on to')).toContain('course 21');
    expect(made.valleys.map(({ through }) => through)).toEqual(['dormer-left', 'dormer-right']);
    expect(made.planes[0]!.walls).toEqual([]);
  });

  it('a dormer that runs on to another slope is refused where it stands', () => {
    const [issue] = checkJob(
      dormered('hip', (dormer) => void Object.assign(dormer, { centre: inches(110) })),
      demoLibrary,
    );
    expect(issue!.path).toBe('parts.1.centre');
    expect(issue!.message).toMatch(/^Dormer, its middle: there it runs (on to|off)/);
  });

  it('slopes that meet at any eave angle share a valley of the same length seen from both, and shed', () => {
    for (const facing of [75, 112.5, 135]) {
      const job = bare('slope', 'slope');
      const turn = (facing * Math.PI) / 180;
      const right = [-Math.cos(turn), Math.sin(turn)] as const;
      const [south, turned] = job.parts;
      if (south?.kind !== 'slope' || turned?.kind !== 'slope') throw new Error('two slopes');
      // eaves that meet at the corner mark, each carried on under the other slope
      Object.assign(south, { eaveLength: inches(440), place: { east: inches(-200), north: 0, facing: 180, height: 0 } });
      Object.assign(turned, {
        eaveLength: inches(440),
        place: { east: -right[0] * inches(240), north: -right[1] * inches(240), facing, height: 0 },
      });
      const made = plan(job);
      const [valley] = made.joints.filter(({ kind }) => kind === 'valley');
      const along = ([[ax, ay], [bx, by]]: Joint['onA']): number => Math.hypot(bx - ax, by - ay);
      expect(along(valley!.onA)).toBeCloseTo(along(valley!.onB), 1);
      expect(made.valleys).toHaveLength(1);
      expect(sheds(made, made.roof[0]!.id)).toBe('clean');
    }
  });

  it('woven: courses of both slopes take turns as they come by height', () => {
    const made = plan(
      crossed((job) => {
        job.parts[1]!.pitch = onTwelve(4);
        for (const key of VALLEYS) job.valleys[key] = valleyOf('woven');
      }),
    );
    const heights = made.pieces
      .filter(({ role, mark }) => role === 'course' && /^(S|CW)-/.test(mark))
      .map(({ mark, course }) => (-0.5 + (course! - 1) * 5.625) * Math.sin(Math.atan(mark.startsWith('S') ? 0.5 : 1 / 3)));
    expect(heights).toEqual(heights.toSorted((a, b) => a - b));
    expect(sheds(made, 'south')).toBe('clean');
  });
});
