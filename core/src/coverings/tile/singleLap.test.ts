import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoLibrary } from '../../../fixtures/demo.ts';
import { anyDormered, anyFeatured, anyPlaced } from '../../../fixtures/roofs.ts';
import { cases } from '../../../fixtures/seeds.ts';
import { backSlope, washHouse } from '../../../fixtures/tiles.ts';
import { type Piece, printWords } from '../../assembly/index.ts';
import { type Job, type Library, newCovering, newPart } from '../../document/index.ts';
import { checkDrainage, measureReserve } from '../../drainage/index.ts';
import { type Plan, checkJob, planJob, waterRequests } from '../../plan/index.ts';
import { dryInMarks } from '../../sequence/index.ts';
import { bounds, pitchAngle } from '../../roof/index.ts';
import { buttLine } from '../../surface/index.ts';

const plan = (job: Job, library: Library = demoLibrary): Plan => planJob(job, library);
const courses = ({ pieces }: Plan): Piece[] => pieces.filter(({ role }) => role === 'course');
const CHECK = { plane: 'wash-house', stage: 'finished' } as const;
const told = (planned: Plan, start: string): string =>
  planned.steps.map(({ action }) => printWords(action, 'metric')).find((words) => words.startsWith(start)) ?? 'not told';
const metres = (planned: Plan): number =>
  planned.steps
    .flatMap(({ uses = [] }) => uses)
    .reduce((sum, { unit, name, amount }) => (unit === 'length' && name.startsWith('Batten') ? sum + amount : sum), 0) / 1000;
const messages = (job: Job): string[] => checkJob(job, demoLibrary).map(({ message }) => message);

describe('the wash-house, flat tile in broken bond', () => {
  const planned = plan(washHouse());

  it('7 gauges of 288.6, 8 courses, 12 columns, halves in every other course', () => {
    const { lines } = planned.planes[0]!;
    expect([lines.count, lines.first]).toEqual([8, -50]);
    expect(lines.gauge).toBeCloseTo(2020 / 7, 6);
    expect(courses(planned).map(({ units }) => [units!.whole, units!.parts.map(Math.round)])).toEqual(
      Array.from({ length: 8 }, (_, i) => (i % 2 === 0 ? [12, []] : [11, [150, 150]])),
    );
    expect(metres(planned)).toBeCloseTo(8 * 3.6, 6);
  });

  it('tells the first batten, the last, and the tails as they are measured', () => {
    expect(told(planned, 'Nail 8 battens')).toContain(
      'upper edges: the first 345 mm up the slope, the next 289 mm apart, the last 35 mm below the top',
    );
    expect(told(planned, 'Lay course 5')).toBe('Lay course 5 from the right, tails on 1104 mm: 12 whole.');
  });

  it('nails two tiles from every edge and every third course, above the tails of the next', () => {
    const perCourse = courses(planned).map(({ mark }) => planned.fasteners.filter(({ piece }) => piece === mark).length);
    expect(perCourse).toEqual([12, 13, 12, 4, 4, 13, 12, 13]);
    const { lines } = planned.planes[0]!;
    for (const [i, { mark }] of courses(planned).entries())
      for (const { at } of planned.fasteners.filter(({ piece }) => piece === mark))
        expect(at[1]).toBeGreaterThan(buttLine(lines, i + 2) + 25);
  });

  it('no screw goes through a tile: the apron is held by clips, which are ordered', () => {
    expect(told(planned, 'Cottage gable: lay apron')).toContain('its lower edge held by clips');
    expect(planned.fasteners.filter(({ piece }) => piece.startsWith('HW1-A'))).toEqual([]);
    // 3600 and no corner at either end: 8 spaces of 450
    expect(planned.order.find(({ product }) => product === 'skelby-clip-lead')?.uses).toEqual([{ detail: 'HW1', count: 9 }]);
  });

  it('its headwall’s figures say how its apron is held as the line does', () => {
    const figures = planned.panels.find(({ detail }) => detail === 'HW1')!.figures;
    const value = (label: string): string => printWords(figures.find((one) => one.label === label)!.value, 'metric');
    // 2400 less the last tails, 1970, is 430: a tile is 420 long
    expect(value('Last course under the apron')).toBe('8, 420 mm tall');
    expect(value('Apron school')).toContain('held by clips');
  });

  it('sheds at 25 mm of head and 50 mm of creep', () => {
    expect(checkDrainage(planned, CHECK).verdict).toBe('clean');
    const { reach, creep } = measureReserve(planned, CHECK);
    expect(reach!.head).toBeGreaterThanOrEqual(25);
    expect(creep!.distance).toBeGreaterThanOrEqual(50);
  });
});

describe('the cottage’s back slope, profiled tile', () => {
  const planned = plan(backSlope());

  it('13 gauges of 328.5, 14 courses, 30 columns each opened 0.8, 126.4 m of battens', () => {
    const { lines } = planned.planes[0]!;
    expect(lines.count).toBe(14);
    expect(lines.gauge).toBeCloseTo(4270 / 13, 6);
    for (const { units, locks } of courses(planned)) {
      expect(units).toEqual({ whole: 30, parts: [] });
      expect(locks![1]! - locks![0]!).toBeCloseTo(300 + 25 / 30, 6);
    }
    expect(metres(planned)).toBeCloseTo(14 * 9.025, 6);
    expect(told(planned, 'Lay course 7')).toContain('30 whole, opened so that 10 measure 3008 mm');
  });

  it('crowns 300.8 apart, the first 40 from each tile’s left edge, in one line up the slope', () => {
    const all = courses(planned).map(({ crowns }) => crowns!);
    expect(all[0]).toHaveLength(30);
    expect(all[0]![0]).toBeCloseTo(40, 6);
    expect(all[0]![29]).toBeCloseTo(29 * (9025 / 30) + 40, 6);
    for (const crowns of all) expect(crowns).toEqual(all[0]);
    expect(courses(plan(washHouse())).every(({ crowns }) => crowns === undefined)).toBe(true);
  });

  it('an upper row of its sheet slipped under the lower one is wet at dry-in, by a reverse lap', () => {
    const [lower, upper] = ['UL1-1', 'UL2-1'].map((mark) => planned.pieces.find((piece) => piece.mark === mark)!);
    const turned = {
      ...planned,
      pieces: planned.pieces.map((piece) =>
        piece === lower ? { ...piece, lay: upper!.lay } : piece === upper ? { ...piece, lay: lower!.lay } : piece,
      ),
    };
    const { verdict, problems } = checkDrainage(turned, { ...CHECK, stage: 'dry-in', laid: dryInMarks(planned) });
    expect([verdict, problems[0]?.cause]).toEqual(['wet', 'reverse lap']);
    for (const request of waterRequests(planned)) expect(checkDrainage(planned, request).verdict).toBe('clean');
  });

  it('ridge tiles are clamped at every lap and both ends, and none is nailed', () => {
    // 9025 / 450
    expect(told(planned, 'Set 21 ridge tiles dry')).not.toBe('not told');
    expect(planned.order.find(({ product }) => product === 'skelby-ridge-clamp')?.uses).toEqual([
      { detail: 'covering', count: 22 },
    ]);
  });

  it('all tiles are nailed from 45° up', () => {
    const steep = plan(backSlope((job) => Object.assign(job.parts[0]!, { pitch: { degrees: 45 } })));
    expect(steep.fasteners.filter(({ piece }) => piece.startsWith('C'))).toHaveLength(14 * 30);
  });

  it('9060 cannot be opened so far: 29 whole and a 360 from a tile and a half, which is ordered', () => {
    const wider = plan(backSlope((job) => Object.assign(job.parts[0]!, { eaveLength: 9060 })));
    expect(courses(wider).map(({ units }) => units)).toEqual(Array.from({ length: 14 }, () => ({ whole: 29, parts: [] })));
    expect(wider.order.find(({ product }) => product === 'brindlecombe-roll-half')?.uses).toEqual([
      { detail: 'covering', count: 14 },
    ]);
    const none = plan(backSlope((job, tiles) => (Object.assign(job.parts[0]!, { eaveLength: 9060 }), (tiles.tileAndHalf = null)))); // prettier-ignore
    expect(none.findings.map(({ id }) => id.split(':')[0])).toContain('covering.leastPiece');
  });

  it('a batten line measured on the roof: what lies above is fitted to the same top batten', () => {
    const measured = plan(
      backSlope((job) => Object.assign(job.parts[0]!.planes[0]!, { measuredButts: [{ course: 6, at: 1650 }] })),
    );
    const { lines } = measured.planes[0]!;
    expect(buttLine(lines, 6)).toBeCloseTo(1650, 6);
    expect(buttLine(lines, lines.count) + 420 - 25).toBeCloseTo(4650 - 35, 6);
    expect(lines.gauge).toBeLessThanOrEqual(345);
  });
});

describe('another maker’s tile, its channel on the right, hardly to be opened', () => {
  const twoRoll = (degrees: number): Plan =>
    plan(
      backSlope((job, tiles) => {
        Object.assign(tiles, { tile: 'hollin-two-roll', tileAndHalf: 'hollin-two-roll-half' });
        Object.assign(job.parts[0]!, { pitch: { degrees } });
        job.packs = [...job.packs, { id: 'hollin-tiles', version: 1 }];
      }),
    );

  it('is laid from the left, 25 whole and a 400 from a tile and a half at the right, two crowns a tile', () => {
    // batten at 430 - 50 - 30 = 350; 4265 left: 13 gauges of 328.1 under the 355 of 75 headlap
    const planned = twoRoll(35);
    const { lines } = planned.planes[0]!;
    expect([lines.count, lines.gauge]).toEqual([14, expect.closeTo(4265 / 13, 6)]);
    const [first] = courses(planned);
    expect(first!.units).toEqual({ whole: 25, parts: [] });
    expect(first!.locks!.at(-1)).toBeCloseTo(25 * 345, 6);
    expect(first!.crowns!.slice(0, 3)).toEqual([60, 232.5, 405].map((x) => expect.closeTo(x, 6)));
    expect(told(planned, 'Lay course 1')).toContain('from the left');
  });

  it('its maker has the outermost tile along every edge clipped as well: all 26 of two courses, 2 of each of the 12 between', () => {
    const planned = twoRoll(35);
    expect(planned.order.find(({ product }) => product === 'skelby-tile-clip')!.needed).toBe(2 * 26 + 12 * 2);
    const said = planned.steps
      .filter(({ detail }) => detail === 'covering')
      .map(({ fasteners = [] }) => printWords(fasteners, 'metric'));
    expect(said.filter((words) => words.includes('; 2 clips on the batten: the outermost tile along every edge'))).toHaveLength(
      12,
    );
  });

  it('under 30° its headlap is 100: at 25° still 13 gauges; its third course is nailed at the ends only, every second whole', () => {
    const planned = twoRoll(25);
    expect(planned.planes[0]!.lines.count).toBe(14);
    const nails = courses(planned).map(({ mark }) => planned.fasteners.filter(({ piece }) => piece === mark).length);
    // three courses at the eave and at the ridge, every second between; else three tiles at each end
    expect(nails).toEqual([26, 26, 26, 26, 6, 26, 6, 26, 6, 26, 6, 26, 26, 26]);
  });
});

describe('what cannot be laid', () => {
  it('says the field, and plans the rest', () => {
    expect(messages(backSlope((job) => Object.assign(job.parts[0]!, { pitch: { degrees: 16 } })))[0]).toMatch(
      /pitch: 16° is under the least for Brindlecombe Roll.*17\.5°/,
    );
    expect(messages(backSlope((_, tiles) => (tiles.gauge = 360)))[0]).toMatch(
      /^Gauge: 360 mm is more than the 345 mm that leaves .* a headlap of 75 mm\.$/,
    );
    expect(messages(backSlope((_, tiles) => (tiles.gauge = 200)))[0]).toMatch(
      /^Gauge: .* under the least of .*, 250 mm\. Change the overhang/,
    );
    expect(messages(backSlope((job) => Object.assign(job.parts[0]!, { eaveLength: 580 })))[0]).toMatch(
      /^Eave length: 580 mm is less than two tiles, 600 mm\.$/,
    );
    expect(messages(backSlope((_, tiles) => (tiles.tileAndHalf = 'brindlecombe-plain-face-half')))[0]).toMatch(
      /^Tile and a half: .* is not .* half as wide again/,
    );
    expect(messages(backSlope((_, tiles) => (tiles.ridge = 'brindlecombe-ridge')))[0]).toMatch(/^Ridge: /);
    const forced = plan(backSlope((_, tiles) => (tiles.gauge = 360)));
    expect(forced.findings.find(({ key }) => key === 'tile.headlap')?.severity).toBe('breaks a rule');
    expect(measureReserve(forced, CHECK).reach!.distance).toBeCloseTo(60, 3);
  });

  it('a profiled tile that its maker would have in broken bond is said at its field', () => {
    const broken: Library = {
      ...demoLibrary,
      catalog: {
        ...demoLibrary.catalog,
        items: demoLibrary.catalog.items.map((item) => (item.kind === 'tile' ? { ...item, bond: 'broken' as const } : item)),
      },
    };
    expect(checkJob(backSlope(), broken).map(({ message }) => message)).toEqual([
      expect.stringMatching(/^Tile: Brindlecombe Roll.* cannot be laid in broken bond\.$/),
    ]);
    expect(checkJob(washHouse(), broken)).toEqual([]);
  });

  it('under 22.5° the headlap is 100: a course more', () => {
    const low = plan(backSlope((job) => Object.assign(job.parts[0]!, { pitch: { degrees: 20 } })));
    expect(low.planes[0]!.lines.count).toBe(15);
    expect(low.planes[0]!.lines.gauge).toBeCloseTo(305, 6);
  });

  it('with whatever stands on it, any roof of it sheds', () => {
    fc.assert(
      fc.property(fc.oneof(anyFeatured, anyPlaced, anyDormered) as fc.Arbitrary<Job>, (roof) => {
        const job = structuredClone(roof);
        const { id, underlayers } = job.coverings[0]!;
        job.coverings = [
          { ...newCovering('singleLap', demoLibrary.catalog, [])!, id, underlayers, metal: 'lead' } as Job['coverings'][number],
        ];
        job.packs = [
          { id: 'metric-lead-and-tile', version: 2 },
          { id: 'brindlecombe-tiles', version: 1 },
        ];
        for (const { planes } of job.parts) for (const plane of planes) plane.exposure = null;
        // of imperial sizes a pipe may have no base here that gets past its crowns
        job.features = job.features.filter(({ kind }) => kind !== 'pipe' && kind !== 'standoffs');
        const planned = plan(job);
        expect(planned.planes.length).toBeGreaterThan(0);
        // a chimney or skylight may stand where there is no room for its metal, which the plan says
        if (planned.findings.some(({ id, severity }) => severity !== 'worth a look' && /(CH|SK)\d/.test(id))) return;
        for (const { id: plane } of planned.planes)
          expect(
            checkDrainage(planned, { plane, stage: 'finished' }).problems.map(({ cause, piece }) => `${cause} at ${piece}`),
          ).toEqual([]);
      }),
      cases(8),
    );
  });
});

describe('ridge tiles', () => {
  it('lie dry under a clamp a lap, or bedded: mortar by the bag in their place', () => {
    const ridge = (set: 'dry' | 'bedded'): Plan => plan(backSlope((_, tiles) => Object.assign(tiles, { ridgeSet: set })));
    const [dry, bedded] = [ridge('dry'), ridge('bedded')];
    const count = Number(/Set (\d+) ridge tiles dry/.exec(told(dry, 'Set 2'))![1]);
    expect(told(bedded, 'Bed ')).toContain(`Bed ${count} ridge tiles on mortar`);
    const needs = (planned: Plan, product: string): number => planned.order.find((line) => line.product === product)?.needed ?? 0;
    expect(needs(dry, 'fenwick-mortar')).toBe(0);
    // two beds of 450 and a solid lap of 100 to each of 21, one more at the end, round of 50: 21 × 1 m × 1963 mm², and 13 litres a bag
    const { amount } = bedded.steps.flatMap(({ uses = [] }) => uses).find(({ product }) => product === 'fenwick-mortar')!;
    expect(amount).toBeCloseTo(2 * count * 450 + (count + 1) * 100, 6);
    expect(needs(bedded, 'fenwick-mortar')).toBe(Math.ceil((amount * Math.PI * 25 ** 2) / 1000 / 13_000));
    expect(bedded.order.some(({ name }) => name.includes('clamp'))).toBe(false);
    expect(checkDrainage(bedded, CHECK).problems).toEqual([]);
  });
});

describe('a hip roof in tile', () => {
  it('sheds under its ridge tiles at every stage, no tile under half a one, whatever its size and pitch', () => {
    const hips = fc.record({
      deep: fc.integer({ min: 5000, max: 9000 }),
      long: fc.integer({ min: 0, max: 4000 }),
      degrees: fc.integer({ min: 23, max: 45 }),
    });
    fc.assert(
      fc.property(hips, ({ deep, long, degrees }) => {
        const job = backSlope((draft) => {
          const hip = newPart('hip', [], draft.coverings[0]!.id)!;
          draft.parts = [
            Object.assign(hip, { pitch: { degrees }, eaveLength: deep + long, width: deep }) as Job['parts'][number],
          ];
        });
        const planned = plan(job);
        expect(planned.pieces.filter(({ role }) => role === 'ridgeCap').length).toBeGreaterThan(0);
        expect(planned.pieces.flatMap(({ role, units }) => (role === 'course' ? units!.parts : [])).filter((width) => width < 148)).toEqual([]); // prettier-ignore
        expect(waterRequests(planned).flatMap((request) => checkDrainage(planned, request).problems)).toEqual([]);
      }),
      cases(6),
    );
  });
});

describe('for every slope', () => {
  const slopes = fc.record({
    eaveLength: fc.double({ min: 1200, max: 14_000, noNaN: true }),
    slope: fc.double({ min: 900, max: 9000, noNaN: true }),
    degrees: fc.integer({ min: 18, max: 55 }),
    tile: fc.constantFrom('brindlecombe-roll', 'brindlecombe-plain-face'),
    overhang: fc.integer({ min: 40, max: 60 }),
  });
  type One = { eaveLength: number; slope: number; degrees: number; tile: string; overhang: number };
  const dressed = ({ eaveLength, slope, degrees, tile, overhang }: One): Job =>
    backSlope((job, tiles) => {
      Object.assign(tiles, { tile, tileAndHalf: `${tile}-half`, overhang });
      Object.assign(job.parts[0]!, { pitch: { degrees }, eaveLength, slope: { kind: 'slope', length: slope } });
    });

  it('the gauge leaves the headlap, the top batten is where it is wanted, no tile is under half a one, and it sheds', () => {
    fc.assert(
      fc.property(slopes, (one) => {
        const planned = plan(dressed(one));
        const { lines } = planned.planes[0]!;
        const headlap = pitchAngle(planned.planes[0]!.pitch) < (22.5 * Math.PI) / 180 - 1e-6 ? 100 : 75;
        expect(lines.gauge).toBeLessThanOrEqual(420 - headlap + 0.5);
        if (lines.count > 1) expect(buttLine(lines, lines.count) + 395).toBeCloseTo(one.slope - 35, 5);
        for (const { covers, locks } of courses(planned)) {
          const { x0, x1 } = bounds(covers[0]!.outline);
          const edges = [x0, ...locks!, x1];
          for (let i = 1; i < edges.length; i++) {
            expect(edges[i]! - edges[i - 1]!).toBeGreaterThanOrEqual(150 - 1.5);
            expect(edges[i]! - edges[i - 1]!).toBeLessThanOrEqual(450 + 1.5);
          }
        }
        expect(checkDrainage(planned, CHECK).problems).toEqual([]);
      }),
      cases(20),
    );
  });

  it('with its side channel on the other hand it is laid from the other end, its mirror image', () => {
    const other: Library = {
      ...demoLibrary,
      catalog: {
        ...demoLibrary.catalog,
        items: demoLibrary.catalog.items.map((item) => (item.kind === 'tile' ? { ...item, channel: 'right' as const } : item)),
      },
    };
    fc.assert(
      fc.property(slopes, (one) => {
        const [a, b] = [demoLibrary, other].map((library) => courses(plan(dressed(one), library)));
        a!.forEach(({ locks }, i) => {
          const mirrored = b![i]!.locks!.map((x) => one.eaveLength - x).toSorted((p, q) => p - q);
          expect(mirrored).toHaveLength(locks!.length);
          mirrored.forEach((x, k) => expect(x).toBeCloseTo(locks![k]!, 5));
        });
      }),
      cases(15),
    );
  });
});
