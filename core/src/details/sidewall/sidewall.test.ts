import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { changed, demoLibrary, slopePart, slopeRecord, stripOf } from '../../../fixtures/demo.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { type Piece, compareLay, printWords } from '../../assembly/index.ts';
import type { Job, Wall } from '../../document/index.ts';
import { checkDrainage } from '../../drainage/index.ts';
import { type Plan, planJob } from '../../plan/index.ts';
import { bounds, wallToSlope } from '../../roof/index.ts';
import { channelDepth, wallFlow } from '../../slope/index.ts';
import { evenLines } from '../../surface/lines.ts';
import { inches, toInches } from '../../units/index.ts';

const sheds = (made: Plan, plane: string): string => checkDrainage(made, { plane, stage: 'finished' }).verdict;
const figure = (made: Plan, family: string, label: string): string =>
  printWords(made.panels.find((sheet) => sheet.family === family)!.figures.find((one) => one.label === label)!.value, 'imperial');
const steps = (made: Plan, wall: string): number =>
  made.pieces.filter(({ role, mark }) => role === 'step' && mark.startsWith(`${wall}-`)).length;
const plan = (change: (job: Job) => void): Plan => planFor(changed(change));
const wallOf = (job: Job) => slopeRecord(job).walls[0]!;
const ofRole = (made: Plan, role: Piece['role']): Piece[] => made.pieces.filter((piece) => piece.role === role);
const upTheWall = (piece: Piece): [number, number] => {
  const us = piece.covers
    .filter(({ facet }) => facet.includes('/'))
    .flatMap(({ outline }) => outline.map((point) => wallToSlope(point, 0.5).u));
  return [Math.min(...us), Math.max(...us)];
};

describe('water along a wall', () => {
  const input = {
    lines: evenLines(-inches(0.5), inches(5.625), inches(13.25), inches(200)),
    pitch: 0.5,
    from: 0,
    to: inches(200),
    wallHeight: inches(96),
    roofLeg: inches(4),
    rainPerHour: inches(5),
    drivenRainShare: 0.5,
  };

  it('is rain × level run × (leg + height × share), from the line upwards', () => {
    const level = inches(200) / Math.hypot(1, 0.5);
    expect(wallFlow(input)[0]!.collected).toBeCloseTo(((inches(5) / 60) * level * (inches(4) + inches(48))) / 1e6, 6);
  });

  it('what the steps hand back adds up to what one long piece would carry', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 200, noNaN: true }), (share, rain) => {
        const flow = wallFlow({ ...input, drivenRainShare: share, rainPerHour: rain });
        expect(flow.reduce((sum, { perStep }) => sum + perStep, 0)).toBeCloseTo(flow[0]!.collected, 6);
        for (const { perStep } of flow) expect(perStep).toBeGreaterThanOrEqual(-1e-9);
      }),
    );
  });

  it('runs deeper with more water and shallower on a steeper slope; none is no depth', () => {
    expect(channelDepth(0, 100, 0.46)).toBe(0);
    // 25 L/min on a 4 in leg at 6/12, worked by Manning with the depth as hydraulic radius: 3.3 mm
    expect(channelDepth(25, inches(4), Math.atan(0.5))).toBeCloseTo(3.3, 1);
    expect(channelDepth(50, inches(4), Math.atan(0.5))).toBeGreaterThan(channelDepth(25, inches(4), Math.atan(0.5)));
    expect(channelDepth(25, inches(4), Math.atan(1))).toBeLessThan(channelDepth(25, inches(4), Math.atan(0.5)));
  });
});

describe('the foot', () => {
  it('takes the 4" kick-out, and a taller one where twice the water’s depth asks it', () => {
    expect(
      ofRole(
        plan(() => undefined),
        'kickOut',
      )[0]!.product,
    ).toBe('pellwick-kickout-al');
    const storm = plan((job) => {
      Object.assign(job.site, { rainPerHour: inches(40), drivenRainShare: 1 });
      Object.assign(wallOf(job), { height: inches(72) });
      slopePart(job).slope = { kind: 'level', length: inches(4000) };
    });
    expect(ofRole(storm, 'kickOut')[0]!.product).toBe('pellwick-kickout-tall-al');
  });

  it('is held by two nails on the roof, and the first step stands 2 in above its bend, told so', () => {
    const made = plan(() => undefined);
    const nails = made.fasteners.filter(({ piece }) => piece === 'SW1-K');
    expect(nails.map(({ facet, at }) => [facet, Math.round(at[0] / 25.4 * 2) / 2])).toEqual([['north', 4.5], ['north', 3.5]]); // prettier-ignore
    const line = made.steps.find(({ pieces }) => pieces.includes('SW1-01'))!;
    expect(printWords(line.action, 'imperial')).toContain('over the kick-out, lower edge 2" above the bend');
    // without a kick-out it lies on the butt line
    const without = plan((job) => Object.assign(wallOf(job), { runsPastEave: false, foot: 'corner' }));
    const first = without.pieces.find(({ mark }) => mark === 'SW1-01')!;
    expect(bounds(first.covers[0]!.outline).y0).toBeCloseTo(inches(-0.5), 6);
  });

  it('says so when no kick-out in that metal is high enough', () => {
    const library = {
      ...demoLibrary,
      catalog: { ...demoLibrary.catalog, items: demoLibrary.catalog.items.filter(({ kind }) => kind !== 'kickOut') },
    };
    const finding = planJob(
      changed(() => undefined),
      library,
    ).findings.find(({ id }) => id === 'SW1.kick-out');
    expect(printWords(finding!.sentence, 'imperial')).toContain('no aluminium kick-out 4" high');
  });
});

describe('the wall side', () => {
  it('turns the membrane up at least 6", seals the steps’ tops, and keeps the cladding clear', () => {
    const made = plan(() => undefined);
    for (const membrane of ofRole(made, 'wallMembrane')) expect(toInches(upTheWall(membrane)[1])).toBeGreaterThanOrEqual(6);
    const [low, high] = upTheWall(ofRole(made, 'topSeal')[0]!);
    expect([toInches(low), toInches(high)].map((value) => Math.round(value * 100) / 100)).toEqual([2, 6]);
    expect(toInches(upTheWall(ofRole(made, 'cladding')[0]!)[0])).toBeGreaterThanOrEqual(1);
  });

  it('puts the reglet above the steps’ legs and the membrane behind them', () => {
    const made = plan((job) => void (wallOf(job).cladding = 'masonry'));
    const reglet = upTheWall(ofRole(made, 'counter')[0]!)[1];
    for (const piece of [...ofRole(made, 'step'), ...ofRole(made, 'wallMembrane')])
      expect(upTheWall(piece)[1]).toBeLessThan(reglet);
  });

  it('two nails where a rule wants two, an inch apart at one height, in every step', () => {
    const made = planFor(
      changed((job) =>
        job.deviations.push({ key: 'stepFlashing.nails', sense: 'atLeast', value: 2, unit: 'count', reason: 'windy site' }),
      ),
    );
    const steps = made.pieces.filter(({ role }) => role === 'step');
    expect(steps.length).toBeGreaterThan(30);
    for (const { mark } of steps) {
      const own = made.fasteners.filter(({ piece }) => piece === mark);
      expect(own, mark).toHaveLength(2);
      const [a, b] = own.map(({ at }) => at) as [readonly [number, number], readonly [number, number]];
      expect(Math.hypot(a[0] - b[0], a[1] - b[1]), mark).toBeCloseTo(inches(1), 3);
    }
    const line = made.steps.find(({ pieces }) => pieces.includes('SW1-05'))!;
    expect(printWords(line.fasteners!, 'imperial')).toMatch(/^2 nails/);
  });

  it('nails to the deck or to the wall, never both, and the last step where something covers the nail', () => {
    for (const side of ['deck', 'wall'] as const) {
      const made = plan((job) => void (wallOf(job).nailSide = side));
      const nails = made.fasteners.filter(({ piece }) => /^SW1-\d/.test(piece));
      const onWall = nails.map(({ facet }) => facet.includes('/'));
      expect(onWall.slice(0, -1).every((wall) => wall === (side === 'wall'))).toBe(true);
      expect(onWall.at(-1)).toBe(true);
    }
  });

  it('mirrors on the other side of the slope', () => {
    const left = plan(() => undefined);
    const right = plan((job) => Object.assign(wallOf(job), { stands: 'right', x: slopePart(job).eaveLength }));
    const width = inches(528);
    const mirrored = ofRole(right, 'step').map(({ covers }) =>
      covers[0]!.outline.map(([x, y]) => [width - x, y]).map(([x, y]) => [Math.round(x! * 1e6) / 1e6, y]),
    );
    const own = ofRole(left, 'step').map(({ covers }) => covers[0]!.outline.map(([x, y]) => [x, y]));
    mirrored.forEach((outline, i) => expect(new Set(outline.map(String))).toEqual(new Set(own[i]!.map(String))));
  });
});

describe('a wall that begins up the slope', () => {
  const beginning = (x: number, ...more: Partial<Wall>[]): Plan =>
    plan((job) => {
      const { walls } = slopeRecord(job);
      const [wall] = walls;
      Object.assign(wall!, { x: inches(x), from: inches(61), foot: 'corner', runsPastEave: false, counter: 'reglet' });
      walls.push(...more.map((one) => ({ ...wall!, ...one })));
    });
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
    const made = plan((job) => {
      stripOf(job).underlayers.longestStrip = inches(40);
      const [wall] = slopeRecord(job).walls;
      Object.assign(wall!, { from: inches(20), foot: 'corner', runsPastEave: false, counter: 'reglet' });
    });
    const strips = made.pieces.filter(({ role, mark }) => role === 'wallMembrane' && mark.startsWith('SW1-M'));
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
