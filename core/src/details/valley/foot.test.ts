import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoLibrary } from '../../../fixtures/demo.ts';
import { cases } from '../../../fixtures/seeds.ts';
import { backSlope, outshot } from '../../../fixtures/tiles.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { printWords } from '../../assembly/index.ts';
import { type Job, type PartOf, newPart } from '../../document/index.ts';
import { checkDrainage, measureReserve } from '../../drainage/index.ts';
import { type Plan, checkJob, waterRequests } from '../../plan/index.ts';
import { bounds } from '../../roof/index.ts';

const problems = (planned: Plan): string[] =>
  waterRequests(planned).flatMap((request) =>
    checkDrainage(planned, request).problems.map(({ cause, piece }) => `${request.stage}: ${cause} at ${piece}`),
  );
/** What a roof has in hand: head, and creep; as much as is wanted where nothing gets wet. */
const inHand = (planned: Plan): [head: number, creep: number] => {
  const { reach, creep } = measureReserve(planned, { plane: planned.planes[0]!.id, stage: 'finished' });
  return [reach?.head ?? 25, creep?.distance ?? 50];
};
/** A roof that can stand, with nothing set aside, sheds at every stage, and has 25 of head and 50 of creep in hand. */
const sheds = (job: Job): void => {
  fc.pre(checkJob(job, demoLibrary).every((issue) => issue.planned === true));
  const planned = planFor(job);
  expect(problems(planned)).toEqual([]);
  const [head, creep] = inHand(planned);
  expect(head).toBeGreaterThanOrEqual(25);
  expect(creep).toBeGreaterThanOrEqual(50);
};
const TILES = ['brindlecombe-roll', 'brindlecombe-plain-face', 'hollin-two-roll'] as const;

type Dormer = Pick<PartOf<'dormer'>, 'centre' | 'width' | 'height' | 'cladding'> & { from: number; degrees: number };
/** The cottage’s back slope, longer and steeper, with a dormer on it. */
const withDormer = ({ from, degrees, ...dormer }: Dormer, tile: (typeof TILES)[number] = TILES[0]): Job =>
  backSlope((job, tiles) => {
    Object.assign(tiles, { tile, tileAndHalf: `${tile}-half` });
    Object.assign(job.parts[0]!, { slope: { kind: 'slope', length: 6000 }, pitch: { degrees: 35 } });
    const part = newPart('dormer', job.parts, tiles.id) as PartOf<'dormer'>;
    job.parts.push({ ...part, ...dormer, host: 'wash-house', from: { kind: 'slope', length: from }, pitch: { degrees } });
  });
const ONE: Dormer = { centre: 4500, width: 1500, from: 1200, height: 900, cladding: 'boards', degrees: 30 };

describe('a dormer on tile', () => {
  const planned = planFor(withDormer(ONE));
  const { lines } = planned.planes[0]!;

  it('has cover flashings past a crown up its cheeks, and under each valley’s foot soft metal past that crown', () => {
    // faces at 3750 and 5250, crowns 300.83 apart from 40.8: the next one 71 to the left of 3750, 205.8 to the right of 5250
    const reach = (mark: string): number[] => {
      const { x0, x1 } = bounds(planned.pieces.find((piece) => piece.mark === mark)!.covers[0]!.outline);
      return [x0, x1].map(Math.round);
    };
    expect(reach('D1L-01')).toEqual([3600, 3750]);
    expect(reach('D1R-01')[0]).toBe(5250);
    expect(reach('D1R-01')[1]).toBeGreaterThan(5250 + 150);
    expect(reach('V2-F')[1]).toBe(reach('D1R-01')[1]);
    const crowns = planned.pieces.find(({ mark }) => mark === 'WH-C05')!.crowns!;
    expect(crowns.some((crown) => crown > 5250 + 25 && crown <= reach('D1R-01')[1]! - 25 + 0.5)).toBe(true);
  });

  it('its foot lies over the course the valley empties on to, its head under the next, its lining over it', () => {
    const at = (mark: string): number => planned.pieces.findIndex((piece) => piece.mark === mark);
    const figures = planned.panels.find(({ detail }) => detail === 'D1')!.figures;
    const on = Number(
      /^course (\d+);/.exec(printWords(figures.find(({ label }) => label === 'V1 empties on to')!.value, 'metric'))![1],
    );
    const order = [`WH-C${String(on).padStart(2, '0')}`, 'V1-F', 'V1-L1', `WH-C${String(on + 1).padStart(2, '0')}`].map(at);
    expect(order).toEqual([...order].sort((a, b) => a - b));
    expect(order).not.toContain(-1);
    const { y1 } = bounds(planned.pieces[at('V1-F')]!.covers[0]!.outline);
    expect(y1).toBeCloseTo(lines.first + on * lines.gauge + 100, 3);
  });

  it('sheds at every stage, with 25 of head and 50 of creep; without its foot the pan the lining crosses runs under it', () => {
    expect(problems(planned)).toEqual([]);
    const [head, creep] = inHand(planned);
    expect(head).toBeGreaterThanOrEqual(25);
    expect(creep).toBeGreaterThanOrEqual(50);
    const wide = planFor(withDormer({ ...ONE, centre: 2714, width: 2661, from: 607, height: 602, degrees: 45 }));
    expect(problems(wide)).toEqual([]);
    const without = { ...wide, pieces: wide.pieces.filter(({ role }) => role !== 'valleyFoot') };
    expect(checkDrainage(without, { plane: 'wash-house', stage: 'finished' }).verdict).toBe('caught by the underlayer');
  });

  it('its slopes are dried in to the top, though their rows of sheet end a hair below it', () => {
    // 1850.3 up: rows of 1000 lapped 150 reach 1850
    const dormer = planFor(
      withDormer({ ...ONE, centre: 5830, width: 2662, from: 1163, height: 963, degrees: 44, cladding: 'render' }, TILES[2]),
    );
    const { lines: own } = dormer.planes.find(({ id: plane }) => plane.endsWith('left'))!;
    expect(own.end).toBeCloseTo(1850.31, 2);
    const rows = dormer.pieces.filter(({ mark }) => mark.startsWith('DL-UL'));
    expect(Math.max(...rows.map(({ covers }) => bounds(covers[0]!.outline).y1))).toBeCloseTo(own.end, 2);
    expect(problems(dormer)).toEqual([]);
  });

  it('tells its cover flashings, not steps', () => {
    const figures = planned.panels
      .find(({ detail }) => detail === 'D1')!
      .figures.map(({ label, value }) => `${label}: ${printWords(value, 'metric')}`);
    expect(figures).toContain('Cover flashing, left: 150 mm on the tiles');
    expect(figures.join()).not.toMatch(/Step|Soaker/);
  });

  it('sheds wherever it stands, whatever its size, cladding and tile', () => {
    fc.assert(
      fc.property(
        fc.record({
          width: fc.integer({ min: 900, max: 3000 }),
          from: fc.integer({ min: 600, max: 1800 }),
          centre: fc.integer({ min: 2000, max: 7000 }),
          height: fc.integer({ min: 600, max: 1500 }),
          degrees: fc.integer({ min: 25, max: 45 }),
          cladding: fc.constantFrom('boards' as const, 'masonry' as const, 'render' as const),
        }),
        fc.constantFrom(...TILES),
        (dormer, tile) => {
          sheds(withDormer(dormer, tile));
        },
      ),
      cases(6),
    );
  });
});

describe('a cross gable', () => {
  it('whose rakes end at its valleys’ feet has their linings slid under the rake metal, and says so', () => {
    const flush = planFor(outshot(TILES[0], (made) => void Object.assign(made.parts[1]!, { projection: 0 })));
    const lowest = ({ mark }: { mark: string }): boolean => /-RM[LR]-1$/.test(mark);
    expect(inHand(flush).map((has, i) => has >= [25, 50][i]!)).toEqual([true, true]);
    const under = {
      ...flush,
      pieces: flush.pieces.map((piece) =>
        lowest(piece) ? { ...piece, covers: piece.covers.map((cover) => ({ ...cover, lay: piece.lay })) } : piece,
      ),
    };
    expect(inHand(under)[1]).toBeLessThan(1);
    const told = flush.steps.map(({ action }) => printWords(action, 'metric')).filter((line) => /lining/.test(line));
    expect(
      told.filter((line) => /leave it loose at the valley’s foot until the lining is slid under it/.test(line)),
    ).toHaveLength(2);
    expect(told.filter((line) => /slide its edge at the foot under the rake metal/.test(line))).toHaveLength(2);
  });

  it('whose valleys run flat has the tiles that hang over the eave cut clear of them to the tails', () => {
    const flat = outshot(TILES[0], (made) => {
      Object.assign(made.parts[0]!, { pitch: { degrees: 38.6 }, slope: { kind: 'level', length: 3454 } });
      Object.assign(made.parts[1]!, { pitch: { degrees: 22.8 }, centre: 2800, halfWidth: 1506, projection: 600 });
    });
    sheds(flat);
    const first = planFor(flat).pieces.find(({ mark }) => mark === 'S-C01')!;
    for (const { outline } of first.covers)
      for (const [x, y] of outline) if (x > 4306 && y < -26) expect(x).toBeGreaterThan(4470);
  });

  it('sheds beside its walls and in its valleys, its eaves as high as the slope’s or above them', () => {
    fc.assert(
      fc.property(
        fc.record({
          rise: fc.oneof(fc.constant(0), fc.double({ min: 0.5, max: 60, noNaN: true }), fc.integer({ min: 50, max: 900 })),
          halfWidth: fc.integer({ min: 900, max: 1900 }),
          centre: fc.integer({ min: 2500, max: 6500 }),
          projection: fc.oneof(fc.constant(0), fc.integer({ min: 0, max: 1500 })),
        }),
        fc.integer({ min: 25, max: 40 }),
        fc.constantFrom(...TILES),
        (gable, degrees, tile) => {
          sheds(outshot(tile, (made) => void Object.assign(made.parts[1]!, gable, { pitch: { degrees } })));
        },
      ),
      cases(5),
    );
  });
});
