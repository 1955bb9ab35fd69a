import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoLibrary } from '../../../../fixtures/demo.ts';
import { cases } from '../../../../fixtures/seeds.ts';
import { frontSlope } from '../../../../fixtures/tiles.ts';
import { planFor } from '../../../../fixtures/planned.ts';
import { type Piece, printWords } from '../../../assembly/index.ts';
import { planesOf } from '../../../document/index.ts';
import { checkDrainage, measureReserve } from '../../../drainage/index.ts';
import { type Plan, checkJob, waterRequests } from '../../../plan/index.ts';
import { bounds, isWithin } from '../../../roof/index.ts';

type Change = Parameters<typeof frontSlope>[0];

const plan = (change?: Change): Plan => planFor(frontSlope(change));
const finished = { plane: 'front', stage: 'finished' } as const;
const problems = (planned: Plan): string[] =>
  waterRequests(planned).flatMap((request) =>
    checkDrainage(planned, request).problems.map(({ cause, piece }) => `${request.stage}: ${cause} at ${piece}`),
  );
const channels = ({ pieces }: Plan): Piece[] => pieces.filter(({ role }) => role === 'channel');
const told = ({ steps }: Plan): string =>
  steps.filter(({ detail }) => detail === 'SW1').map(({ action }) => printWords(action, 'metric')).join(' '); // prettier-ignore
const figures = ({ panels }: Plan): string[] =>
  panels.find(({ detail }) => detail === 'SW1')!.figures.map(({ label, value }) => `${label}: ${printWords(value, 'metric')}`);

describe('the front slope against the peat shed’s wall, 4° off the line of the tiles', () => {
  const planned = plan();

  it('ends at the wall: an eave of 8675, a top of 9000', () => {
    const [front] = planesOf(frontSlope()).planes;
    expect(front!.edges.map(({ kind }) => kind)).toEqual(['eave', 'wall', 'top', 'rake']);
    expect(front!.outline).toEqual([[0, 0], [8675, 0], [9000, 4650], [0, 4650]].map((corner) => corner.map((x) => expect.closeTo(x, 6)))); // prettier-ignore
  });

  it('has 14 courses of 328.5, a cut tile in each: 271.5, 294.5, six from a tile and a half, then 155 to 270', () => {
    const courses = planned.pieces.filter(({ role }) => role === 'course');
    expect(courses).toHaveLength(14);
    const parts = courses.map(({ units }) => units!.parts.map((width) => Math.round(width * 10) / 10));
    expect(parts.map(([width]) => width)).toEqual([271.5, 294.5, ...Array.from({ length: 6 }), 155.2, 178.1, 201.1, 224, 247, 269.9]); // prettier-ignore
    // 17.4 to 132.2 beside a whole one
    const wide = planned.steps.flatMap(
      ({ action }) => /1 from a tile and a half, (\d+) mm/.exec(printWords(action, 'metric'))?.[1] ?? [],
    );
    expect(wide).toEqual(['317', '340', '363', '386', '409', '432']);
    expect(planned.order.find(({ product }) => product === 'brindlecombe-roll-half')!.needed).toBe(6);
  });

  it('takes 123.9 m of battens before they are cut back', () => {
    const battens = planned.steps.flatMap(({ uses = [] }) => uses).find(({ product }) => product === 'fenwick-batten')!;
    expect(battens.amount / 1000).toBeCloseTo(123.9, 1);
  });

  it('drifts 23 a course; its channel is 4361 long in 2 lengths, 6.2 L/min run in it 1.5 deep', () => {
    expect(figures(planned)).toEqual(
      expect.arrayContaining([
        'Off the line of the tiles: 4°, 23 mm a course, the roof narrows downward: its pans run into the wall',
        'Moulded channel: 75 mm wide, 50 mm deep, 4361 mm long: 2 lengths, laps 150 mm',
        'Channel ends: 300 mm up the slope, on a foot of soft metal over the tiles',
        'Water at its foot: 6.23 L/min, 1.5 mm deep, 49 mm of its side to spare',
      ]),
    );
    const lengths = channels(planned).map(({ cutLength }) => cutLength!);
    expect(lengths).toHaveLength(2);
    expect(Math.max(...lengths)).toBeLessThanOrEqual(3000);
    expect(lengths.reduce((sum, length) => sum + length, 0) - 150).toBeCloseTo(4361, 0);
  });

  it('is told in the order it is done: battens cut over a support timber, foot, channel from the foot up, tiles, cover', () => {
    const said = told(planned);
    const marks = ['fix a support timber from inside', 'dress foot SW1-CF', 'dry-fit and cut channel SW1-CH1 to SW1-CH2', 'dress cover flashing SW1-01']; // prettier-ignore
    const at = marks.map((mark) => said.indexOf(mark));
    expect(at).not.toContain(-1);
    expect(at).toEqual([...at].sort((a, b) => a - b));
    const [foot, channel, second] = ['SW1-CF', 'SW1-CH1', 'C02'].map((mark) => planned.pieces.findIndex((piece) => piece.mark === mark)); // prettier-ignore
    expect([foot, channel, second]).toEqual([foot, channel, second].sort((a, b) => a! - b!));
  });

  it('sheds at every stage, with 25 of head and 50 of creep in hand', () => {
    expect(problems(planned)).toEqual([]);
    const { reach, creep } = measureReserve(planned, finished);
    expect(reach!.head).toBeGreaterThanOrEqual(25);
    expect(creep?.distance ?? 50).toBeGreaterThanOrEqual(50);
  });

  it('no tile is nailed through it, and none is under half', () => {
    const [ground] = channels(planned).map(({ covers }) => covers[0]!.outline);
    expect(planned.fasteners.filter(({ piece, at }) => piece.startsWith('C') && isWithin(ground!, at))).toEqual([]);
    expect(planned.pieces.flatMap(({ role, units }) => (role === 'course' ? units!.parts : [])).every((width) => width >= 150)).toBe(true); // prettier-ignore
  });
});

describe('the ways to get it wrong', () => {
  it('a cover flashing alone: the pans run in under its free edge, and that is told before', () => {
    const alone = plan((wall) => void (wall.slant.drain = 'cover alone'));
    expect(checkDrainage(alone, finished).problems.map(({ cause, piece }) => `${cause} at ${piece}`)).toEqual(
      expect.arrayContaining([expect.stringMatching(/^short sidelap at SW1-0/)]),
    );
    expect(alone.findings.find(({ id }) => id === 'SW1.drain')).toMatchObject({ severity: 'leaks' });
  });

  it('where the sheet is the roof, it sheds what the cover flashing lets in; two layers, offset by half', () => {
    const coast = plan((wall, job) => {
      wall.slant.drain = 'cover alone';
      job.packs.push({ id: 'storm-coast-tile', version: 1 });
    });
    expect(problems(coast)).toEqual([]);
    const rows = coast.pieces.filter(({ role }) => role === 'underlayment').map(({ covers }) => bounds(covers[0]!.outline));
    expect(rows.slice(0, 4).map(({ y0, y1 }) => [y0, y1])).toEqual([[0, 500], [0, 1000], [500, 1500], [1000, 2000]]); // prettier-ignore
    // a row left out is a leak there too
    const torn = {
      ...coast,
      pieces: coast.pieces.filter(({ mark }) => mark !== 'UL2-1' && mark !== 'UL3-1' && mark !== 'SW1-M1'),
    };
    expect(checkDrainage(torn, finished).verdict).toBe('wet');
  });

  it('where the roof narrows upward the cover flashing does alone, and the channel says so', () => {
    const turn: Change = (wall) => {
      wall.x = 9000;
      wall.slant.topX = 8675;
    };
    const alone = plan((wall, job) => {
      turn(wall, job);
      wall.slant.drain = 'cover alone';
    });
    expect(problems(alone)).toEqual([]);
    expect(alone.findings.some(({ id }) => id.startsWith('SW1.drain'))).toBe(false);
    expect(plan(turn).findings.find(({ id }) => id === 'SW1.away')).toMatchObject({ severity: 'worth a look' });
  });

  it('a channel that leads away from its wall keeps its water in by its side board', () => {
    const kept = (hold?: 'open'): Plan => {
      const planned = plan((wall) => {
        Object.assign(wall, { stands: 'left', x: 218 });
        Object.assign(wall.slant, { topX: 341, channelFrom: 0 });
      });
      if (!hold) return planned;
      const pieces = planned.pieces.map((piece) =>
        piece.role === 'channel' ? { ...piece, covers: piece.covers.map((cover) => ({ ...cover, holds: [hold] })) } : piece,
      );
      return { ...planned, pieces };
    };
    expect(checkDrainage(kept(), finished).problems).toEqual([]);
    expect(checkDrainage(kept('open'), finished).verdict).toBe('caught by the underlayer');
  });

  it('the channel left out, blocked, or nailed through', () => {
    const planned = plan();
    const without = { ...planned, pieces: planned.pieces.filter(({ role }) => role !== 'channel') };
    expect(checkDrainage(without, finished).verdict).toBe('caught by the underlayer');
    // leaves fill it at half its height: over its side board, under the tiles
    const blocked = {
      ...planned,
      pieces: planned.pieces.map((piece) =>
        piece.mark === 'SW1-CH1' ? { ...piece, covers: piece.covers.map((cover) => dammed(cover)) } : piece,
      ),
    };
    expect(checkDrainage(blocked, finished).verdict).toBe('caught by the underlayer');
    const { x0, x1 } = bounds(channels(planned)[1]!.covers[0]!.outline.filter(([, y]) => y > 4000));
    const nail = {
      piece: 'C13',
      facet: 'front',
      at: [(x0 + x1) / 2 - 20, 4100] as const,
      product: 'nail',
      keptDry: 'covered' as const,
    };
    const nailed = checkDrainage({ ...planned, fasteners: [...planned.fasteners, nail] }, finished);
    expect(nailed.problems.map(({ cause }) => cause)).toContain('fastener');
  });
});

/** A channel whose water stops at 2000 up the slope. */
const dammed = (cover: Piece['covers'][number]): Piece['covers'][number] => ({
  ...cover,
  outline: cover.outline.map(([x, y]) => [x, Math.max(y, 2000)] as const),
});

describe('its schools', () => {
  it.each([
    ['set back', 'cut only the ends that run on past it'],
    ['at the wall', 'fix a support timber from inside the loft first'],
    ['no access', 'fix their free ends to the channel’s side board'],
  ] as const)('a rafter %s: %s', (rafter, words) => {
    expect(told(plan((wall) => void (wall.slant.rafter = rafter)))).toContain(words);
  });

  it('folded lead comes in shorter lengths; with mortar it is said what that does; into the gutter it has no foot', () => {
    const lead = plan((wall) => void Object.assign(wall.slant, { drain: 'lead channel', mortar: true, channelFrom: 0 }));
    // 4711 along it from past the eave, in 1.5 m lengths lapped 150
    expect(channels(lead)).toHaveLength(4);
    expect(lead.pieces.some(({ role }) => role === 'channelFoot')).toBe(false);
    expect(lead.findings.map(({ id }) => id)).toContain('SW1.mortar');
    expect(problems(lead)).toEqual([]);
  });
});

describe('any wall at an angle', () => {
  const anyWall = fc
    .record({
      stands: fc.constantFrom('left' as const, 'right' as const),
      foot: fc.integer({ min: 0, max: 900 }),
      top: fc.integer({ min: 0, max: 900 }),
      drain: fc.constantFrom('moulded channel' as const, 'lead channel' as const),
      channelFrom: fc.constantFrom(0, 150, 300, 600),
    })
    // off by less it is square
    .filter(({ foot, top }) => Math.abs(foot - top) > 25);
  type Drawn = typeof anyWall extends fc.Arbitrary<infer One> ? One : never;
  const set = (wall: Parameters<NonNullable<Change>>[0], draw: Drawn): void => {
    const at = (inset: number): number => (draw.stands === 'right' ? 9000 - inset : inset);
    wall.stands = draw.stands;
    wall.x = at(draw.foot);
    Object.assign(wall.slant, { topX: at(draw.top), drain: draw.drain, channelFrom: draw.channelFrom });
  };

  it('sheds through a channel, with its tiles half a one and more', () => {
    fc.assert(
      fc.property(anyWall, (draw) => {
        const job = frontSlope((wall) => set(wall, draw));
        expect(checkJob(job, demoLibrary)).toEqual([]);
        const planned = planFor(job);
        expect(problems(planned)).toEqual([]);
        const { reach, creep } = measureReserve(planned, finished);
        expect(reach?.head ?? 25).toBeGreaterThanOrEqual(25);
        expect(creep?.distance ?? 50).toBeGreaterThanOrEqual(50);
        for (const { units } of planned.pieces.filter(({ role }) => role === 'course'))
          expect(units!.parts.filter((width) => width < 148)).toEqual([]);
      }),
      cases(8),
    );
  });
});

describe('what cannot be planned at an angle', () => {
  it.each([
    ['over 30°', (wall) => void (wall.slant.topX = 5900), 'slant.topX', /31° off the line of the tiles, more than the 30°/],
    [
      'past the slope’s end',
      (wall) => void (wall.slant.topX = 9400),
      'slant.topX',
      /9400 mm is past the end of the slope, 9000 mm/,
    ],
    ['from up the slope', (wall) => void (wall.from = 900), 'slant', /from the eave to the top/],
  ] as [string, NonNullable<Change>, string, RegExp][])(
    '%s is told at its place and the rest is planned',
    (_, change, field, words) => {
      const job = frontSlope(change);
      expect(checkJob(job, demoLibrary)).toEqual([
        { path: `parts.0.planes.0.walls.0.${field}`, message: expect.stringMatching(words) as string },
      ]);
      expect(planFor(job).pieces.filter(({ role }) => role === 'course').length).toBe(14);
    },
  );
});
