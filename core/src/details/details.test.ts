import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoHouse, demoJob, demoLibrary, stripOf } from '../../fixtures/demo.ts';
import { VALLEYS, anyCrossed, anyDormered, anyFeatured, crossed, feature, slopeWith, valleyOf } from '../../fixtures/roofs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { type Piece, compareLay, printWords } from '../assembly/index.ts';
import { type Job, sourcesOf } from '../document/index.ts';
import { type Plan, checkJob, planJob } from '../plan/index.ts';
import { bounds, cricketOf, isWithin, outlineArea, slopeFactor, spaceEvenly, tableHeight, valleyWater } from '../roof/index.ts';
import { resolveRules } from '../rules/index.ts';
import { counterSteps } from '../slope/index.ts';
import { evenLines } from '../surface/lines.ts';
import { LINE_TOLERANCE, inches, onTwelve, toInches } from '../units/index.ts';
import { cricketFlat } from './chimney/index.ts';
import { fitCourses } from './headwall/index.ts';
import { firstCourseOver } from './pipe/index.ts';
import { layOutOpening, raftersCut, stripOff } from './skylight/index.ts';
import { chooseWidth, drainageBody, flashingPieces, weepCount } from './throughWall/index.ts';

const feet = (value: number): number => inches(12 * value);
const lengthOf = (from: number, to: number) => fc.double({ min: inches(from), max: inches(to), noNaN: true });
const plan = (job: Job): Plan => planJob(job, demoLibrary);
const rules = resolveRules(sourcesOf(demoHouse(), demoLibrary, stripOf(demoHouse())), {
  covering: 'shingle',
  pitch: 0.5,
  iceDams: true,
});
const figure = (made: Plan, detail: string, label: string): string =>
  printWords(made.panels.find((sheet) => sheet.detail === detail && sheet.figures.some((one) => one.label === label))!.figures.find((one) => one.label === label)!.value, 'imperial'); // prettier-ignore

describe('crickets', () => {
  it.each([
    [12, 1 / 2],
    [8, 1 / 3],
    [6, 1 / 4],
    [4, 1 / 6],
    [3, 1 / 8],
  ])('at %d/12 stand %f of the width high', (x12, share) => {
    expect(tableHeight(inches(48), x12 / 12)).toBeCloseTo(inches(48) * share, 9);
  });

  it('42 in wide at 6/12: 10 1/2 high, ridge 21, valleys 31 1/2, 246.5 in² a side', () => {
    const cricket = cricketOf(inches(42), 0.5);
    expect([cricket.height, cricket.ridge, cricket.valley].map((mm) => Math.round(toInches(mm) * 1e6) / 1e6)).toEqual([
      10.5, 21, 31.5,
    ]);
    expect(cricket.sideArea / 25.4 ** 2).toBeCloseTo(246.5, 1);
  });

  it('have a flat pattern as large as what it is bent into, at any width and pitch', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 20, max: 80, noNaN: true }),
        fc.double({ min: 0.2, max: 1.5, noNaN: true }),
        (width, pitch) => {
          const cricket = cricketOf(inches(width), pitch);
          const [upstand, flange, lap] = [inches(6), inches(6), inches(1)];
          const developed = cricket.sideArea + cricket.slant * upstand + cricket.valley * flange + cricket.ridge * lap;
          expect(Math.abs(outlineArea(cricketFlat(cricket, upstand, flange, lap).outline))).toBeCloseTo(developed, 3);
          // the same triangle by its three true sides
          const half = (cricket.valley + cricket.ridge + cricket.slant) / 2;
          const heron = Math.sqrt(half * (half - cricket.valley) * (half - cricket.ridge) * (half - cricket.slant));
          expect(heron).toBeCloseTo(cricket.sideArea, 2);
        },
      ),
    );
  });
});

describe('counterflashing stepped in the joints', () => {
  const steps = (pitch: number, run: number, joint = inches(8 / 3), baseLeg = inches(4)) =>
    counterSteps({ pitch, joint, baseLeg, run, rules });

  it('at 6/12 with 2 2/3 in joints: 4.97 up, 5 1/3 apart, tall end 9.14, 29 pieces of 8 1/3 on 150 in', () => {
    const made = steps(0.5, inches(150));
    expect(made).toMatchObject({ joints: 1, pieces: 29 });
    expect(toInches(made.lowest)).toBeCloseTo(4.97, 2);
    expect(toInches(made.spacing)).toBeCloseTo(16 / 3, 9);
    expect(toInches(made.tallEnd)).toBeCloseTo(9.14, 2);
    expect(toInches(made.length)).toBeCloseTo(25 / 3, 9);
  });

  it('at 12/12 takes two joints a step, tall end 14.49; a 26 in deep chimney takes 5 a side; 75 mm joints at 35° stand 107 mm apart', () => {
    const made = steps(1, inches(60));
    expect(made.joints).toBe(2);
    expect([toInches(made.lowest), toInches(made.spacing), toInches(made.tallEnd)].map((v) => Math.round(v * 100) / 100)).toEqual(
      [6.16, 5.33, 14.49],
    );
    expect(steps(0.5, inches(26)).pieces).toBe(5);
    expect(steps(Math.tan((35 * Math.PI) / 180), 3000, 75).spacing).toBeCloseTo(107.1, 1);
  });

  it('on every pitch and bond: steps of 4 in or more with no joint to spare, the run covered, laps over the piece below, the base below its joint', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.2, max: 2, noNaN: true }),
        lengthOf(2, 4),
        lengthOf(3, 8),
        lengthOf(8, 400),
        (pitch, joint, baseLeg, run) => {
          const made = counterSteps({ pitch, joint, baseLeg, run, rules });
          const least = inches(4) - LINE_TOLERANCE;
          expect(made.spacing).toBeGreaterThanOrEqual(least - 1e-6);
          if (made.joints > 1) expect(made.spacing - joint / pitch).toBeLessThan(least + 1e-6);
          expect(made.pieces * made.spacing).toBeGreaterThanOrEqual(run - LINE_TOLERANCE - 1e-6);
          expect((made.pieces - 1) * made.spacing).toBeLessThan(Math.max(run, made.spacing) + 1e-6);
          expect(made.length - made.spacing).toBeCloseTo(made.lap, 6);
          // a base leg square to the slope stands higher plumb; half an inch over it
          expect(made.lowest).toBeCloseTo(baseLeg * Math.hypot(1, pitch) + inches(0.5), 6);
          expect(made.tallEnd - made.lowest).toBeCloseTo(made.length * pitch, 6);
        },
      ),
      cases(200),
    );
  });

  it('behind a cricket 10 1/2 in high takes 4 a half', () => {
    expect(steps(0.5, inches(21)).pieces).toBe(4);
  });
});

describe('through-wall flashing', () => {
  it('22 ft in 5 ft lengths: 5 pieces and 9 weeps; 12 ft: 3 and 6', () => {
    expect([flashingPieces(feet(22), feet(5), inches(6)), weepCount(feet(22), inches(33))]).toEqual([5, 9]);
    expect([flashingPieces(feet(12), feet(5), inches(6)), weepCount(feet(12), inches(33))]).toEqual([3, 6]);
  });

  it('22 ft of drainage body in 3 ft pieces with 1 1/2 outlets a foot: 8 pieces, 33 outlets', () => {
    expect(drainageBody(feet(22), feet(3), 1.5)).toEqual({ pieces: 8, outlets: 33 });
  });

  it('takes the next width the catalog has, or says none is wide enough', () => {
    expect(toInches(chooseWidth(demoLibrary.catalog, inches(3.625 + 1 + 8))!.width)).toBe(16);
    expect(chooseWidth(demoLibrary.catalog, inches(40))).toBeUndefined();
    const made = plan(
      slopeWith(['headwall'], (all) =>
        Object.assign(feature(all, 'headwall'), {
          cladding: 'masonry',
          counter: 'through-wall',
          throughWall: { veneer: inches(12), cavity: inches(8), rise: inches(24), pieceLength: feet(5), pointing: 'sound' },
        }),
      ),
    );
    expect(made.findings.map(({ id }) => id)).toContain('HW1.width');
  });
});

describe('pipes', () => {
  const lines = evenLines(-inches(0.5), inches(5.625), inches(13.25), inches(200));

  it('a flange from 79 in has course 16 first over it; from 82 1/2 in 16 goes under and 17 is first', () => {
    expect(firstCourseOver(lines, inches(79), inches(2))).toBe(16);
    expect(firstCourseOver(lines, inches(82.5), inches(2))).toBe(17);
  });

  it('none that fits, too near a wall, and a base chosen too small are said', () => {
    const told = (change: Parameters<typeof slopeWith>[1]): string[] =>
      plan(slopeWith(['pipe'], change)).findings.map(({ id }) => id);
    expect(told((all) => Object.assign(feature(all, 'pipe'), { diameter: inches(12) }))).toContain('P1.boot');
    expect(told((all) => Object.assign(feature(all, 'pipe'), { boot: 'oxbourne-boot-2' }))).toContain('P1.size');
    expect(told((all) => Object.assign(feature(all, 'pipe'), { across: { from: 'left', distance: inches(3) } }))).toContain(
      'P1.edge',
    );
  });
});

describe('valleys', () => {
  it.each([
    [25, 10.1, 32],
    [100, 17, 54],
    [400, 28.5, 90],
  ])('%d L/min in a 6/12 valley run %f mm deep and spread %d mm a side', (flow, depth, spread) => {
    const water = valleyWater(flow, { zA: 3, zB: 3, sine: 1 / 3 });
    expect(water.depth).toBeCloseTo(depth, 1);
    expect(Math.round(water.spreadA)).toBe(spread);
  });

  it('a style the covering forbids, and a side turned round, are said', () => {
    const woven = plan(crossed((job) => void (job.valleys['south+cross-west'] = valleyOf('woven'))));
    expect(woven.findings.map(({ id }) => id)).toContain('V1.woven');
    const turned = plan(crossed((job) => void (job.valleys['south+cross-west'] = valleyOf('closed cut', 'south'))));
    expect(turned.findings.find(({ id }) => id === 'V1.through')!.severity).toBe('worth a look');
    expect(turned.valleys[0]!.through).toBe('south');
  });
});

describe('skylights', () => {
  it('cut, ceiling and block follow from the rough opening; rafters cut, and the nudge that cuts fewer', () => {
    const opening = layOutOpening(inches(40), inches(30), inches(46), { spacing: inches(16), first: 0 });
    expect([opening.ceilingWidth, opening.ceilingHeight, opening.blockWidth].map((mm) => Math.round(toInches(mm)))).toEqual([
      36, 52, 15,
    ]);
    expect(opening.cutRafters.map((mm) => Math.round(toInches(mm)))).toEqual([32, 48]);
    expect(opening.nudge!.cut).toBe(1);
    expect(raftersCut({ spacing: inches(24), first: inches(12) }, inches(13), inches(35))).toEqual([]);
    expect(raftersCut({ spacing: inches(19.2), first: 0 }, inches(10), inches(40))).toHaveLength(2);
  });

  it('stand with equal gaps between two references, or do not fit', () => {
    const edges = spaceEvenly(0, inches(200), 3, inches(30));
    const gaps = [edges[0]!, edges[1]! - edges[0]! - inches(30), inches(200) - edges[2]! - inches(30)];
    for (const gap of gaps) expect(gap).toBeCloseTo(inches(27.5), 6);
    expect(spaceEvenly(0, inches(80), 3, inches(30))).toEqual([]);
  });

  it('a replacement strips 2 ft each side and 1 1/2 ft above and below, or to the next whole shingle', () => {
    const unit = { width: inches(30), height: inches(46) };
    const shingle = { width: inches(39.375), exposure: inches(5.625) };
    const renewing = stripOff('renewing', unit, shingle);
    expect([toInches(renewing.width), toInches(renewing.height)]).toEqual([78, 82]);
    expect(renewing.shingles).toBe(Math.ceil(((78 * 82 - 30 * 46) / (39.375 * 5.625)) * 1.1));
    expect(toInches(stripOff('re-using', unit, shingle).width)).toBeCloseTo(108.75, 9);
  });
});

it('fits the porch’s courses: 5 1/2 in gives 18, the last 8.19 in tall', () => {
  const lines = evenLines(-inches(0.5), inches(5.625), inches(13.25), inches(96) * slopeFactor(4 / 12));
  const fit = fitCourses(lines, lines.end, inches(4), inches(8))!;
  expect([toInches(fit.exposure), fit.courses]).toEqual([5.5, 18]);
  expect(toInches(fit.lastTall)).toBeCloseTo(8.19, 2);
});

describe('the measure sheet of the Ringing House', () => {
  const house = plan(demoHouse());
  const steps = (wall: string): number =>
    house.pieces.filter(({ role, mark }) => role === 'step' && mark.startsWith(`${wall}-`)).length;

  it('agrees with what was expected by hand', () => {
    const courses = Object.fromEntries(house.planes.map(({ id, lines }) => [id, lines.count]));
    expect(courses).toMatchObject({ north: 37, south: 37, porch: 18 });
    expect([steps('SW1'), steps('CH1L'), steps('CH1R'), steps('SK1L'), steps('SK2R')]).toEqual([37, 6, 6, 9, 9]);
    expect(figure(house, 'CH1', 'Cricket height')).toContain('10 1/2"');
    expect(figure(house, 'CH1', 'Cricket ridge, level')).toBe('21"');
    expect(figure(house, 'CH1', 'Cricket valleys')).toBe('31 1/2"');
    expect(figure(house, 'CH1', 'Last course under the apron')).toBe('17, 6 1/2" tall');
    expect(figure(house, 'CH1', 'Counterflashing behind the cricket')).toBe('4 a half and a ridge piece');
    expect(house.pieces.filter(({ mark }) => /^CH1L-R/.test(mark))).toHaveLength(5);
    expect(house.pieces.filter(({ mark }) => /^CH1B-[LRT]/.test(mark))).toHaveLength(9);
    expect(figure(house, 'HW1', 'Courses to the wall as laid')).toBe('19, the last 7/16" tall');
    expect(figure(house, 'HW1', 'Fitted')).toBe('exposure 5 1/2": 18 courses, the last 8 3/16" tall');
    expect(figure(house, 'HW1', 'Lengths')).toContain('3 of 5\'-0"');
    expect(figure(house, 'HW1', 'Weeps')).toBe('6');
    expect(
      house.valleys.map(({ through, areaA, areaB }) => [
        through,
        (areaA / feet(1) ** 2).toFixed(1),
        (areaB / feet(1) ** 2).toFixed(1),
      ]),
    ).toEqual([
      ['cross-west', '109.6', '64.2'],
      ['cross-east', '109.6', '64.2'],
    ]);
    expect(house.findings.map(({ severity }) => severity)).toEqual(house.findings.map(() => 'worth a look'));
  });

  it('lines both valleys with 2 pieces of 10 ft stock, open 8 1/8 in at the eave', () => {
    const job = demoHouse();
    for (const key of VALLEYS) job.valleys[key] = valleyOf('open');
    const made = plan(job);
    for (const { id, line, openLow } of made.valleys) {
      expect(made.pieces.filter(({ role, detail }) => role === 'valleyLining' && detail === id)).toHaveLength(2);
      expect(toInches(line.trueLength)).toBeCloseTo(204, 0);
      expect(toInches(2 * openLow)).toBeCloseTo(8.125, 3);
    }
  });

  it('tells the whole roof in one sheet: dry-in, then slope by slope, through sides before cut ones, then the finish', () => {
    const order = house.runSheet.map(({ id }) => id);
    expect([order[0], order.at(-1)]).toEqual(['dry-in', 'finish']);
    expect(order.indexOf('cross-west.course-1')).toBeLessThan(order.indexOf('south.course-1'));
    const lines = house.runSheet.flatMap(({ lines: own }) => own);
    expect(lines.map(({ whole }) => whole)).toEqual(lines.map((_, i) => i + 1));
    expect(new Set(lines.map(({ id }) => id)).size).toBe(lines.length);
    const laid = lines.flatMap(({ pieces }) => pieces);
    for (const { mark, product } of house.pieces) if (product) expect(laid, mark).toContain(mark);
  });
});

/** A flat pattern is as large as what the piece covers, and what of it is let into a joint. */
const LET_IN: Partial<Record<Piece['role'], number>> = { counter: inches(1) };
const developed = (piece: Piece): number => {
  const covered = piece.covers.reduce((sum, { outline }) => sum + outlineArea(outline), 0);
  const { x0, x1 } = bounds(piece.covers[0]!.outline);
  return covered + (LET_IN[piece.role] ?? 0) * (piece.cutLength ?? x1 - x0);
};

/** Where everything that belongs to a feature lies and what it is, its slope moved down by `down` and its courses by `courses`. */
function told(made: Plan, id: string, down: number, courses: number): { what: string; measures: number[] }[] {
  return made.pieces
    .filter(({ detail }) => detail === id)
    .map(({ mark, product, course, covers, flat, cutLength }) => {
      const { x0, x1, y0, y1 } = bounds(covers[0]!.outline);
      // a wall's own chart moves with the slope: only how large its part is can be compared
      const places = covers[0]!.facet === 'north' ? [x0, x1, y0 - down, y1 - down, cutLength ?? 0] : [];
      const area = flat ? [Math.abs(outlineArea(flat.outline)) / inches(1)] : [];
      return {
        what: `${mark} ${product} ${course === undefined ? '' : course - courses}`,
        measures: [...places, ...area],
      };
    })
    .sort((a, b) => (a.what < b.what ? -1 : 1));
}

describe('moved up by one course', () => {
  it('everything about a pipe, chimney or skylight moves up by one course, and nothing else changes', () => {
    const exposure = inches(5.625);
    fc.assert(
      fc.property(
        fc.constantFrom('pipe' as const, 'chimney' as const, 'skylight' as const),
        fc.double({ min: 40, max: 85, noNaN: true }),
        fc.double({ min: 14, max: 44, noNaN: true }),
        (kind, up, width) => {
          const at = (extra: number): Plan =>
            plan(
              slopeWith([kind], ([one]) => {
                if (one!.kind === 'headwall') return;
                one!.up = { kind: 'slope', length: inches(up) + extra };
                if (one!.kind === 'chimney') one!.width = inches(width);
              }),
            );
          const [before, after] = [at(0), at(exposure)];
          const id = before.panels[0]!.detail;
          const own = told(before, id, 0, 0);
          expect(own.length).toBeGreaterThan(1);
          expect(told(after, id, exposure, 1)).toEqual(
            own.map(({ what, measures }) => ({ what, measures: measures.map((value): unknown => expect.closeTo(value, 1)) })),
          );
        },
      ),
      cases(12),
    );
  });
});

describe('for every slope and what stands on it', () => {
  it('everything is laid after what it lies on, flat patterns are as large as the pieces, and no shingle nail goes through metal', () => {
    fc.assert(
      fc.property(fc.oneof(anyFeatured, anyCrossed, anyDormered), (job) => {
        const made = plan(job);
        const byMark = new Map(made.pieces.map((piece) => [piece.mark, piece]));
        for (const piece of made.pieces) {
          for (const mark of piece.liesOn)
            expect(compareLay(byMark.get(mark)!.lay, piece.lay), `${piece.mark} on ${mark}`).toBeLessThan(0);
          if (piece.flat && ['apron', 'counter', 'pan', 'sill', 'head'].includes(piece.role) && !piece.mark.startsWith('CH1B'))
            expect(Math.abs(outlineArea(piece.flat.outline)) / developed(piece), piece.mark).toBeCloseTo(1, 2);
        }
        const nails = made.fasteners.filter(({ piece, inHeadlap }) => byMark.get(piece)!.role === 'course' && !inHeadlap);
        for (const zone of made.zones.filter(({ piece }) => piece === undefined))
          for (const nail of nails)
            if (nail.facet === zone.facet) {
              const [x, y] = nail.at;
              const inside = ([[1, 1], [-1, 1], [1, -1], [-1, -1]] as const).every(([dx, dy]) => isWithin(zone.outline, [x + dx, y + dy])); // prettier-ignore
              expect(inside, `${nail.piece} in the zone of ${zone.detail}`).toBe(false);
            }
        expect(JSON.stringify({ ...made, roof: [] })).not.toMatch(/:null|NaN/);
      }),
      cases(12),
    );
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
