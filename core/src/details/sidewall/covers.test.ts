import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cases } from '../../../fixtures/seeds.ts';
import { backSlope, withWall } from '../../../fixtures/tiles.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { type Piece, printWords } from '../../assembly/index.ts';
import type { Job, Wall } from '../../document/index.ts';
import { checkDrainage, measureReserve } from '../../drainage/index.ts';
import { type Plan, waterRequests } from '../../plan/index.ts';
import { bounds } from '../../roof/index.ts';

const CHECK = { plane: 'wash-house', stage: 'finished' } as const;

/** The cottage’s back slope against a brick wall at one end. */
const beside = (stands: 'left' | 'right', change: Partial<Wall> = {}, more: (job: Job) => void = () => undefined): Plan =>
  planFor(
    backSlope((job) => {
      more(job);
      withWall(job, stands, change);
    }),
  );
const flat = (job: Job): void =>
  void Object.assign(job.coverings[0]!, { tile: 'brindlecombe-plain-face', tileAndHalf: 'brindlecombe-plain-face-half' });
const covers = ({ pieces }: Plan): Piece[] => pieces.filter(({ role }) => role === 'coverFlashing');
const legs = (planned: Plan): number[] =>
  covers(planned).map(({ covers: [onTiles] }) => {
    const { x0, x1 } = bounds(onTiles!.outline);
    return x1 - x0;
  });
const lines = ({ steps }: Plan): string[] =>
  steps.filter(({ detail }) => detail === 'SW1').map(({ action }) => printWords(action, 'metric'));

describe('a wall square to the tiles', () => {
  const planned = beside('right');

  it('its cover flashing ends past the crown that is 260.8 off, in lengths of 1.5 m lapped 100, stepped in every joint', () => {
    // the last column begins at 29 × 300.83, its crown 40 from there
    for (const leg of legs(planned)) expect(leg).toBeCloseTo(9025 - (29 * (9025 / 30) + 40) + 25, 5);
    // 4700 from the tails: 1500, 2900, 4300, 4700
    expect(covers(planned).map(({ covers: [on] }) => bounds(on!.outline).y1)).toEqual(
      [1450, 2850, 4250, 4650].map((y) => expect.closeTo(y, 6)),
    );
    const all = lines(planned).join('\n');
    expect(all).toContain(
      'SW1-01 to SW1-04 over the tiles from the eave up, 286 mm on them, past a crown and dressed into the hollow, 4 lengths lapped 100 mm, upper over lower; its upstand goes behind counterflashing',
    );
    // 75 mm joints at 30°: 129.9 level; 4650 at 30° rises 2325, which is 31 joints
    expect(all).toContain('the lowest 125 mm above the roof at its uphill end, then every joint, 130 mm level apart');
    expect(all).toContain('hang 31 pieces 230 mm long');
  });

  it('no nail of it goes through a tile; its clips are in the line and on the order', () => {
    expect(planned.fasteners.filter(({ piece }) => piece.startsWith('SW1-0'))).toEqual([]);
    // 4650 in spaces of 500
    expect(planned.order.find(({ product }) => product === 'skelby-clip-lead')?.uses).toEqual([{ detail: 'SW1', count: 11 }]);
    // 4 lengths of it and 31 pieces over it
    expect(planned.order.find(({ product }) => product === 'pellwick-lead-4')?.uses).toEqual([{ detail: 'SW1', count: 35 }]);
  });

  it('as cut it is bent once, along the roof: its leg, and up the wall so that the counterflashing laps it by its water line', () => {
    for (const { flat: pattern } of covers(planned)) {
      expect(pattern!.bends).toHaveLength(1);
      // 65 under the counterflashing, which hangs 5 clear of tiles 20 thick
      expect(bounds(pattern!.outline).y1 - pattern!.bends[0]!.from[1]).toBeCloseTo(65 + 5 + 20, 6);
    }
    const clad = covers(beside('right', { cladding: 'render', counter: 'reglet' }))[0]!.flat!;
    expect(bounds(clad.outline).y1 - clad.bends[0]!.from[1]).toBeCloseTo(75, 6);
  });

  it('at the other end, 40 from a crown, the least leg will do; on flat tiles everywhere', () => {
    expect(legs(beside('left'))).toEqual([1, 2, 3, 4].map(() => expect.closeTo(150, 6)));
    expect(legs(beside('right', {}, flat))).toEqual([1, 2, 3, 4].map(() => expect.closeTo(150, 6)));
  });

  it('sheds at 25 mm of head and 50 of creep', () => {
    for (const one of [planned, beside('left'), beside('right', {}, flat)]) {
      expect(checkDrainage(one, CHECK).problems).toEqual([]);
      const { reach, creep } = measureReserve(one, CHECK);
      expect(reach!.head).toBeGreaterThanOrEqual(25);
      expect(creep?.distance ?? 50).toBeGreaterThanOrEqual(50);
    }
  });

  it('short of the crown the pan it ends in drains under it to the tiles’ cut edges', () => {
    const shortened = (one: Plan, leg: number): Plan => ({
      ...one,
      pieces: one.pieces.map((piece) =>
        piece.role === 'coverFlashing'
          ? {
              ...piece,
              covers: piece.covers.map((cover, i) =>
                i > 0 ? cover : { ...cover, outline: cover.outline.map(([x, y]) => [Math.max(x, 9025 - leg), y] as const) },
              ),
            }
          : piece,
      ),
    });
    const wet = checkDrainage(shortened(planned, 240), CHECK);
    expect(wet.verdict).toBe('wet');
    expect(wet.problems.map(({ cause, piece }) => [cause, piece.slice(0, 4)])).toContainEqual(['short sidelap', 'SW1-']);
    // past it, if by little, nothing comes over
    expect(checkDrainage(shortened(planned, 262), CHECK).verdict).toBe('clean');
    expect(checkDrainage(shortened(beside('right', {}, flat), 120), CHECK).verdict).toBe('clean');
  });

  it('under render and boards it goes straight up behind them; over a saw-cut reglet its counterflashing hangs', () => {
    for (const cladding of ['render', 'boards'] as const) {
      const clad = beside('right', { cladding, counter: 'reglet' });
      expect(lines(clad).find((line) => line.includes('dress cover flashing'))).toMatch(
        /its upstand goes behind .*(render|boards)/,
      );
      expect(checkDrainage(clad, CHECK).problems).toEqual([]);
    }
    const reglet = beside('right', { counter: 'reglet' });
    expect(reglet.pieces.some(({ role, detail }) => role === 'counter' && detail === 'SW1')).toBe(true);
    expect(checkDrainage(reglet, CHECK).problems).toEqual([]);
  });

  it('where the wall goes on past the eave its kick-out lies on the tiles, under the cover flashing, unnailed', () => {
    const runsOn = beside('right', { runsPastEave: true, foot: 'kick-out' });
    expect(runsOn.pieces.find(({ role }) => role === 'kickOut')?.liesOn).toContain('C01');
    expect(runsOn.fasteners.filter(({ piece }) => piece === 'SW1-K')).toEqual([]);
    expect(lines(runsOn).join('\n')).toContain('set kick-out SW1-K on the first course');
    expect(checkDrainage(runsOn, CHECK).problems).toEqual([]);
    const without = checkDrainage(beside('right', { runsPastEave: true }), CHECK);
    expect(without.verdict).toBe('wet');
  });
});

it('beside a wall at either end of any slope the cover reaches past a crown, and sheds', () => {
  fc.assert(
    fc.property(
      fc.constantFrom('left', 'right'),
      fc.constantFrom('brindlecombe-roll', 'hollin-two-roll', 'brindlecombe-plain-face'),
      fc.double({ min: 1200, max: 6000, noNaN: true }),
      fc.double({ min: 1500, max: 5000, noNaN: true }),
      fc.integer({ min: 25, max: 50 }),
      fc.constantFrom('masonry', 'boards'),
      (stands, tile, eaveLength, slope, degrees, cladding) => {
        const planned = beside(stands, { cladding, counter: cladding === 'masonry' ? 'stepped' : 'reglet' }, (job) => {
          Object.assign(job.coverings[0]!, { tile, tileAndHalf: `${tile}-half` });
          Object.assign(job.parts[0]!, { eaveLength, pitch: { degrees }, slope: { kind: 'slope', length: slope } });
        });
        const crowns = planned.pieces.find(({ role }) => role === 'course')!.crowns ?? [];
        const wall = stands === 'left' ? 0 : eaveLength;
        for (const leg of legs(planned)) {
          expect(leg).toBeGreaterThanOrEqual(150 - 1e-6);
          if (crowns.length > 0) expect(crowns.some((x) => leg - Math.abs(x - wall) >= 25 - 1e-6)).toBe(true);
        }
        expect(checkDrainage(planned, CHECK).problems.map(({ cause, piece }) => `${cause} at ${piece}`)).toEqual([]);
      },
    ),
    cases(10),
  );
});

it('a wall that begins up the slope brings its front: apron and cover flashings past a crown, and it sheds', () => {
  fc.assert(
    fc.property(
      fc.constantFrom('left', 'right'),
      fc.constantFrom('brindlecombe-roll', 'hollin-two-roll', 'brindlecombe-plain-face'),
      fc.integer({ min: 700, max: 3200 }),
      fc.integer({ min: 1500, max: 7000 }),
      fc.constantFrom('masonry', 'boards'),
      (stands, tile, from, x, cladding) => {
        const counter = cladding === 'masonry' ? 'stepped' : 'reglet';
        const planned = beside(stands, { from, x, cladding, counter, apronLeg: 150 }, (job) => {
          Object.assign(job.coverings[0]!, { tile, tileAndHalf: `${tile}-half` });
        });
        expect(planned.pieces.some(({ role }) => role === 'apron')).toBe(true);
        for (const request of waterRequests(planned))
          expect(checkDrainage(planned, request).problems.map(({ cause, piece }) => `${cause} at ${piece}`)).toEqual([]);
      },
    ),
    cases(10),
  );
});
