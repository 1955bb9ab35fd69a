import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoLibrary } from '../../../fixtures/demo.ts';
import { cases } from '../../../fixtures/seeds.ts';
import { backSlope, washHouse, withWall } from '../../../fixtures/tiles.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { type Piece, printWords } from '../../assembly/index.ts';
import type { Job, Wall } from '../../document/index.ts';
import { checkDrainage, measureReserve } from '../../drainage/index.ts';
import { type Plan, checkJob, waterRequests } from '../../plan/index.ts';
import { bounds, isWithin } from '../../roof/index.ts';

const CHECK = { plane: 'wash-house', stage: 'finished' } as const;
const PAN: Partial<Wall> = { besideTiles: 'pan flashing' };
const against = (stands: Wall['stands'], change: Partial<Wall> = {}, flat = false): Job =>
  (flat ? washHouse : backSlope)((job) => withWall(job, stands, { ...PAN, ...change }));
const pans = ({ pieces }: Plan): Piece[] => pieces.filter(({ mark }) => /^SW1-\d/.test(mark));
const problems = (planned: Plan): string[] =>
  waterRequests(planned).flatMap((request) =>
    checkDrainage(planned, request).problems.map(({ cause, piece }) => `${request.stage}: ${cause} at ${piece}`),
  );
const told = ({ steps }: Plan): string =>
  steps.filter(({ detail }) => detail === 'SW1').map(({ action, fasteners }) => printWords([...action, ' ', ...(fasteners ?? [])], 'metric')).join('\n'); // prettier-ignore

describe('a hemmed pan under the tiles beside a wall', () => {
  const planned = planFor(against('right'));

  it('lies 150 wide under the tiles from past the eave to the top, in lengths of 1500 lapped 100, hemmed and up the wall', () => {
    // 4700 from 50 past the eave: the same length four times, 1250 of 4 with 3 laps of 100
    expect(pans(planned)).toHaveLength(4);
    const { x0, x1, y0 } = bounds(pans(planned)[0]!.covers[0]!.outline);
    expect([x0, x1, y0]).toEqual([8875, 9025, -50]);
    expect(bounds(pans(planned).at(-1)!.covers[0]!.outline).y1).toBe(4650);
    // hem 25.4, floor 150, up the wall under a counterflashing
    expect(pans(planned)[0]!.flat!.bends.map(({ from }) => Math.round(from[1]))).toEqual([25, 175]);
    expect(told(planned)).toContain('150 mm wide, hem 25 mm turned back');
  });

  it('comes before the tiles, after the battens are ended short of it; nothing goes through it', () => {
    const at = (mark: string): number => planned.pieces.findIndex((piece) => piece.mark === mark);
    expect(at('SW1-04')).toBeLessThan(at('C01'));
    expect(told(planned)).toMatch(
      /^Shed wall: turn up .*\nShed wall: end the battens 150 mm from its face.*\nShed wall: lay pan flashing/,
    );
    const ground = pans(planned).map(({ covers }) => covers[0]!.outline);
    expect(
      planned.fasteners.filter(({ piece, at: spot }) => /^C\d/.test(piece) && ground.some((outline) => isWithin(outline, spot))),
    ).toEqual([]);
  });

  it('sheds at every stage, with 25 of head and 50 of creep in hand; a kick-out lies under it', () => {
    expect(problems(planned)).toEqual([]);
    const { reach, creep } = measureReserve(planned, CHECK);
    expect(reach?.head ?? 25).toBeGreaterThanOrEqual(25);
    expect(creep?.distance ?? 50).toBeGreaterThanOrEqual(50);
    const kicked = planFor(against('left', { cladding: 'boards', counter: 'reglet', foot: 'kick-out', runsPastEave: true }));
    expect(problems(kicked)).toEqual([]);
    expect(told(kicked)).toContain('set kick-out SW1-K on the sheet, under the pan');
    expect(kicked.fasteners.filter(({ piece }) => piece === 'SW1-K')).toEqual([]);
  });

  it('without its hem, left out, or nailed through it lets water on to the sheet', () => {
    const caught = (change: (piece: Piece) => Piece[], creep = 0): string[] =>
      checkDrainage(
        { ...planned, pieces: planned.pieces.flatMap((piece) => (pans(planned).includes(piece) ? change(piece) : [piece])) },
        CHECK,
        { creep },
      ).problems.flatMap(({ cause, piece, at }) => (at.onWall ? [] : [`${cause} at ${piece}`]));
    const pastPan = expect.stringMatching(/^short sidelap at SW1-0/) as string;
    const open = (piece: Piece): Piece[] => [{ ...piece, covers: piece.covers.map((cover) => ({ ...cover, holds: ['open'] })) }];
    expect(caught((piece) => [piece], 160)).not.toContainEqual(pastPan);
    expect(caught(open, 160)).toContainEqual(pastPan);
    expect(caught(() => [])).toContain('gap at UL5-1');
    const nail = {
      piece: 'SW1-02',
      facet: 'wash-house',
      at: [9022, 1800] as const,
      product: 'nail',
      keptDry: 'covered' as const,
    };
    const nailed = checkDrainage({ ...planned, fasteners: [...planned.fasteners, nail] }, CHECK);
    expect(nailed.problems.map(({ cause }) => cause)).toContain('fastener');
  });

  it('sheds whatever the slope, its end, its cladding and its tile', () => {
    fc.assert(
      fc.property(
        fc.record({
          stands: fc.constantFrom('left' as const, 'right' as const),
          cladding: fc.constantFrom('boards' as const, 'masonry' as const),
          eave: fc.integer({ min: 2500, max: 9500 }),
          degrees: fc.integer({ min: 23, max: 50 }),
          flat: fc.boolean(),
        }),
        ({ stands, cladding, eave, degrees, flat }) => {
          const job = against(stands, { cladding, counter: cladding === 'masonry' ? 'stepped' : 'reglet' }, flat);
          const [part] = job.parts;
          Object.assign(part!, { eaveLength: eave, pitch: { degrees } });
          job.features = job.features.filter(({ kind }) => kind === 'headwall');
          part!.planes[0]!.walls[0]!.x = stands === 'left' ? 0 : eave;
          expect(checkJob(job, demoLibrary)).toEqual([]);
          expect(problems(planFor(job))).toEqual([]);
        },
      ),
      cases(8),
    );
  });

  it('is refused by its field where it would begin up the slope', () => {
    const job = against('right', { from: 1500 });
    expect(checkJob(job, demoLibrary)).toEqual([
      { path: 'parts.0.planes.0.walls.0.besideTiles', message: expect.stringContaining('a pan empties over the eave') as string },
    ]);
    // the rest is planned, with a cover flashing there
    expect(planFor(job).pieces.some(({ role }) => role === 'coverFlashing')).toBe(true);
  });
});
