import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoLibrary } from '../../../fixtures/demo.ts';
import { cases } from '../../../fixtures/seeds.ts';
import { backSlope, tilePipe as pipe, washHouse } from '../../../fixtures/tiles.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { printWords } from '../../assembly/index.ts';
import { type FeatureOf, type Job, newFeature } from '../../document/index.ts';
import { checkDrainage, measureReserve } from '../../drainage/index.ts';
import { type Plan, checkJob, waterRequests } from '../../plan/index.ts';
import { bounds } from '../../roof/index.ts';

const CHECK = { plane: 'wash-house', stage: 'finished' } as const;
/** As wide as the front slope to its wall: 9000, columns not opened, crowns at 40 and every 300 on. */
const on9000 = (feature: FeatureOf<'pipe'>): Job =>
  backSlope((job) => {
    Object.assign(job.parts[0]!, { eaveLength: 9000 });
    job.features = [feature];
  });
const lines = ({ steps }: Plan): string =>
  steps
    .filter(({ detail }) => detail === 'P1')
    .map(({ action }) => printWords(action, 'metric'))
    .join('\n');
const figure = ({ panels }: Plan, label: string): string =>
  printWords(panels.find(({ detail }) => detail === 'P1')!.figures.find((one) => one.label === label)!.value, 'metric');
const said = (planned: Plan): string[] =>
  planned.findings.filter(({ id }) => id.includes('P1')).map(({ sentence }) => printWords(sentence, 'metric'));
const boot = ({ pieces }: Plan) => pieces.find(({ role }) => role === 'boot');

describe('the soil pipe, midway between two crowns', () => {
  const planned = planFor(on9000(pipe(4390, 1800, 110)));

  it('stands in the single-tile stretch of course 6; its base is 350 wide at least, dressed past a crown on both sides', () => {
    expect(figure(planned, 'To get past a crown')).toBe('175 mm to the left, 175 mm to the right: 350 mm wide, it is 400 mm');
    expect(said(planned)).toEqual([]);
    expect(lines(planned)).toContain('cut the tile of course 6 round the pipe, a hole 5 mm open, with a diamond bit, no hammer');
    // course 7 has its tails on 1921: 321 of the base above 1600 show
    expect(lines(planned)).toContain(
      'set base P1-B on course 6, lower edge at 1600 mm, 321 mm of it showing below course 7; dress it to the tiles, into the hollows and past a crown on both sides',
    );
    expect(boot(planned)?.product).toBe('pellwick-lead-slate-110');
  });

  it('at the deck a collar of the sheet is woven into its rows, and nothing goes through a tile', () => {
    expect(lines(planned)).toContain('of the underlayment’s sheet: the row below goes under it, the row above over its head');
    expect(planned.pieces.filter(({ role }) => role === 'collar').map(({ product }) => product)).toEqual([
      'tollen-open-sheet',
      'tollen-open-sheet',
    ]);
    expect(planned.fasteners.filter(({ piece }) => piece.startsWith('P1'))).toEqual([]);
    for (const request of waterRequests(planned)) expect(checkDrainage(planned, request).verdict).toBe('clean');
  });

  it('sheds at 25 mm of head and 50 of creep', () => {
    expect(checkDrainage(planned, CHECK).verdict).toBe('clean');
    const { reach, creep } = measureReserve(planned, CHECK);
    expect(reach!.head).toBeGreaterThanOrEqual(25);
    expect(creep?.distance ?? 50).toBeGreaterThanOrEqual(50);
  });

  it('nearer a crown it takes a wider base; one that ends in the pan is a leak, and comes out wet there', () => {
    const near = on9000(pipe(4330, 1800, 110));
    expect(boot(planFor(near))?.product).toBe('pellwick-lead-slate-110-wide');
    expect(checkDrainage(planFor(near), CHECK).verdict).toBe('clean');
    const short = planFor(on9000(pipe(4330, 1800, 110, { boot: 'pellwick-lead-slate-110' })));
    // the crown on the right is at 4540: 210 off, and 25
    expect(said(short)).toEqual([
      'Soil pipe: Lead slate for 110 mm pipe reaches 200 mm to either side, where 235 mm gets it past the crown beside it: water in the pan comes in under it.',
    ]);
    const { verdict, problems } = checkDrainage(short, CHECK);
    expect(verdict).not.toBe('clean');
    expect(problems.map(({ cause, piece }) => `${cause} at ${piece}`)).toContain('short sidelap at P1-B');
  });

  it('a base whose head stops below the tiles above lets what runs off them in over it', () => {
    // course 7 has its tails on 1921: 200 lower the base ends at 1850
    const low = {
      ...planned,
      pieces: planned.pieces.map((piece) =>
        piece.role === 'boot'
          ? {
              ...piece,
              covers: piece.covers.map((cover) => ({ ...cover, outline: cover.outline.map(([x, y]) => [x, y - 200] as const) })),
            }
          : piece,
      ),
    };
    const { verdict, problems } = checkDrainage(low, CHECK);
    expect(verdict).not.toBe('clean');
    // over its head into the hole, on to the sheet
    expect(problems.map(({ onto }) => onto)).toContain('UL3-1');
    for (const { at } of problems) expect(Math.hypot(at.x - 4390, at.y - 1800)).toBeLessThan(120);
  });

  it('a base as shingles take it, flat plastic or metal, dams the pan it lies across', () => {
    const flat = planFor(on9000(pipe(4390, 1800, 101, { boot: 'oxbourne-boot-4' })));
    expect(said(flat).join('\n')).toContain('is flat and cannot be dressed into the pan it lies across: it dams what runs there');
  });

  it('in a lap it says so with the nearest clear places, and is planned all the same', () => {
    // 1592 is course 6's tails: the lap under it begins 91.5 higher
    const lapped = planFor(on9000(pipe(4390, 1620, 110)));
    expect(said(lapped)[0]).toBe(
      'Soil pipe stands where one course laps another: its hole goes through two tiles, clear of the lap it stands at 1529 mm or 1747 mm.',
    );
    expect(lines(lapped)).toContain('cut the tile of course 5');
    expect(lines(lapped)).toContain('cut the tile of course 6');
    expect(checkDrainage(lapped, CHECK).verdict).toBe('clean');
  });

  it('wider than a tile it is said at its field, and the rest is planned', () => {
    const wide = on9000(pipe(4390, 1800, 320));
    expect(checkJob(wide, demoLibrary).map(({ path, message }) => `${path}: ${message}`)).toEqual([
      'features.0.diameter: Soil pipe, outside diameter: 320 mm is more than a tile covers, 300 mm. Flash it as a chimney.',
    ]);
    expect(planFor(wide).pieces.filter(({ role }) => role === 'course')).toHaveLength(14);
  });
});

it('the wash-house’s vent pipe on flat tile: 282 at least, in course 5', () => {
  const planned = planFor(washHouse());
  expect(figure(planned, 'To get past the pipe')).toBe('141 mm to the left, 141 mm to the right: 282 mm wide, it is 400 mm');
  expect(lines(planned)).toContain('cut the tile of course 5 round the pipe');
  expect(lines(planned)).toContain('dress it to the tiles, flat on both sides');
  expect(said(planned)).toEqual([]);
  expect(checkDrainage(planned, CHECK).verdict).toBe('clean');
});

it('wherever a pipe stands, its base reaches past a crown on both sides and it sheds, or the plan says what is short', () => {
  fc.assert(
    fc.property(
      fc.constantFrom('brindlecombe-roll', 'brindlecombe-plain-face', 'hollin-two-roll'),
      fc.integer({ min: 900, max: 8100 }),
      fc.integer({ min: 700, max: 3600 }),
      fc.constantFrom(82, 110),
      (tile, x, y, diameter) => {
        const job = backSlope((draft, tiles) => {
          Object.assign(tiles, { tile, tileAndHalf: `${tile}-half` });
          draft.features = [pipe(x, y, diameter)];
        });
        const planned = planFor(job);
        const { x0, x1 } = bounds(boot(planned)!.covers[0]!.outline);
        const crowns = planned.pieces.find(({ role }) => role === 'course')!.crowns ?? [];
        const past = (side: 1 | -1): boolean =>
          crowns.length === 0
            ? (x1 - x0) / 2 >= diameter / 2 + 100 - 1e-6
            : crowns.some((at) => (at - x) * side >= diameter / 2 + 6 - 1e-6 && (at - x) * side <= (x1 - x0) / 2 - 25 + 1e-6);
        const isShort = planned.findings.some(({ id }) => id.endsWith('P1.beside'));
        expect(isShort).toBe(!past(1) || !past(-1));
        if (!isShort)
          expect(checkDrainage(planned, CHECK).problems.map(({ cause, piece }) => `${cause} at ${piece}`)).toEqual([]);
      },
    ),
    cases(15),
  );
});

describe('a grid of legs on tile', () => {
  const grid = (change: Partial<FeatureOf<'standoffs'>> = {}): Plan =>
    planFor(
      backSlope((job) => {
        Object.assign(job.parts[0]!, { eaveLength: 9000 });
        const plane = { id: 'wash-house', eaveLength: 9000, slope: { kind: 'slope', length: 4650 } } as const;
        const made = newFeature('standoffs', job, plane) as FeatureOf<'standoffs'>;
        // crowns at 40 and every 300 on: the first leg on one, four tiles to the next
        const set = { rows: 2, columns: 3, spacingAcross: 1200, spacingUp: 985.5, diameter: 40 };
        job.features = [
          { ...made, ...set, across: { from: 'left', distance: 1240 }, up: { kind: 'slope', length: 1800 }, ...change },
        ];
      }),
    );
  const judged = (planned: Plan): string[] => waterRequests(planned).map((request) => checkDrainage(planned, request).verdict);

  it('through the crowns each takes a base past the next crown on both sides, and it sheds', () => {
    const planned = grid();
    const bases = planned.pieces.filter(({ role }) => role === 'boot');
    expect(bases.map(({ product }) => product)).toEqual(Array.from({ length: 6 }, () => 'pellwick-standoff-lead-wide'));
    expect(planned.findings.filter(({ id }) => id.startsWith('ST1'))).toEqual([]);
    expect(judged(planned)).toEqual(['clean', 'clean']);
    const [table] = planned.panels.find(({ detail }) => detail === 'ST1')!.tables!;
    expect(table!.columns.at(-1)).toBe('Crown');
    expect(table!.rows.map((row) => printWords(row.at(-1)!, 'metric'))).toEqual(Array.from({ length: 6 }, () => 'on a crown'));
  });

  it('beside them that is told once for the whole grid; it sheds all the same', () => {
    const planned = grid({ across: { from: 'left', distance: 1390 } });
    const said = planned.findings.filter(({ id }) => id === 'ST1.crowns').map(({ sentence }) => printWords(sentence, 'metric'));
    expect(said).toEqual([expect.stringContaining('6 of its 6 legs come through beside a crown, ST1-1.1 150 mm off')]);
    expect(planned.pieces.find(({ role }) => role === 'boot')!.product).toBe('pellwick-standoff-lead');
    expect(judged(planned)).toEqual(['clean', 'clean']);
  });
});

describe('a base that is too narrow as it is made', () => {
  // 2 3/8 in: 130.2 to either side on flat tile, a base 10 × 12 in with its collar 5 1/4 in from its edge has 127
  const vent = (change: Partial<FeatureOf<'pipe'>> = {}): Plan =>
    planFor(
      washHouse((job, tiles) => {
        tiles.metal = 'aluminium';
        Object.assign(job.parts[0]!.planes[0]!, { top: 'ridge' });
        job.features = [pipe(1800, 1310, 60.325, change)];
      }),
    );

  it('is turned a quarter where its collar is soft: 171 and 133 beside the pipe, 305 wide; it sheds so', () => {
    const planned = vent();
    expect(boot(planned)?.product).toBe('oxbourne-boot-2');
    const { x0, x1, y0, y1 } = bounds(boot(planned)!.covers[0]!.outline);
    expect([1800 - x0, x1 - 1800, y1 - y0].map((length) => Math.round(length * 10) / 10)).toEqual([171.5, 133.3, 254]);
    expect(lines(planned)).toContain('set base P1-B, turned a quarter with its head to the left, on course');
    expect(figure(planned, 'Base')).toContain('305 mm × 254 mm, turned a quarter, its head to the left');
    expect(said(planned)).toEqual([]);
    // the metric practice has no edge metal in aluminium: over the rakes it leaves bare
    const away = ({ problems }: ReturnType<typeof checkDrainage>) =>
      problems.filter(({ sentence }) => !printWords(sentence, 'metric').includes('rake'));
    expect(away(checkDrainage(planned, CHECK))).toEqual([]);
    const without = { ...planned, pieces: planned.pieces.filter(({ role }) => role !== 'boot') };
    expect(away(checkDrainage(without, CHECK)).length).toBeGreaterThan(0);
  });

  it('one of metal, whose collar stands one way, is not: it falls short and that is told', () => {
    expect(said(vent({ boot: 'pellwick-boot-2-lead' }))).toEqual([
      expect.stringContaining('reaches 127 mm to either side, where 130 mm'),
    ]);
  });
});
