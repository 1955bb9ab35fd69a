import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoLibrary } from '../../../fixtures/demo.ts';
import { cases } from '../../../fixtures/seeds.ts';
import { backSlope, withChimney } from '../../../fixtures/tiles.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { type Piece, printWords } from '../../assembly/index.ts';
import type { FeatureOf, Job } from '../../document/index.ts';
import { checkDrainage, measureReserve } from '../../drainage/index.ts';
import { type Plan, checkJob, waterRequests } from '../../plan/index.ts';
import { bounds } from '../../roof/index.ts';
import { buttLine } from '../../surface/index.ts';

const CHECK = { plane: 'wash-house', stage: 'finished' } as const;
type Chimney = FeatureOf<'chimney'>;

/** A brick chimney on the cottage’s back slope; by itself the one of its measure sheet. */
const job = (size: Parameters<typeof withChimney>[1] = {}, tile = 'brindlecombe-roll', change: Partial<Chimney> = {}): Job =>
  backSlope((draft, tiles) => {
    Object.assign(tiles, { tile, tileAndHalf: `${tile}-half` });
    withChimney(draft, size, change);
  });
const figure = ({ panels }: Plan, label: string): string =>
  printWords(panels.find(({ detail, family }) => detail === 'CH1' && family === 'chimney')!.figures.find((one) => one.label === label)!.value, 'metric'); // prettier-ignore
const lines = ({ steps }: Plan): string =>
  steps.filter(({ detail }) => detail === 'CH1').map(({ action }) => printWords(action, 'metric')).join('\n'); // prettier-ignore
const ofRole = ({ pieces }: Plan, role: Piece['role']): Piece[] =>
  pieces.filter((piece) => piece.role === role && piece.detail === 'CH1');
const onSlope = ({ covers }: Piece): { x0: number; x1: number; y0: number; y1: number } => bounds(covers[0]!.outline);

describe('the chimney on the back slope', () => {
  const planned = planFor(job());

  it('its sides are 692.8 up the slope, five steps of 129.9 level on each', () => {
    expect(figure(planned, 'Across the slope × up it')).toBe('450 mm × 693 mm');
    expect(figure(planned, 'Counterflashing steps a side')).toBe('5, level spacing 130 mm');
    expect(ofRole(planned, 'counter').filter(({ mark }) => mark.startsWith('CH1L-R'))).toHaveLength(5);
  });

  it('apron, cover flashings and back gutter all end past a crown, each side its own', () => {
    // columns 300.83 wide: crowns at 3048.3 on the left, 3951 on the right
    const pitch = 9025 / 30;
    const [left, right] = [3300 - (10 * pitch + 40) + 25, 13 * pitch + 40 - 3750 + 25];
    const [apron] = ofRole(planned, 'apron');
    expect(onSlope(apron!)).toMatchObject({ x0: expect.closeTo(3300 - left, 4), x1: expect.closeTo(3750 + Math.max(150, right), 4), y0: 2550 }); // prettier-ignore
    const [l, r] = ofRole(planned, 'coverFlashing').map(onSlope);
    expect([3300 - l!.x0, r!.x1 - 3750]).toEqual([expect.closeTo(left, 4), expect.closeTo(right, 4)]);
    const { x0, x1 } = onSlope(ofRole(planned, 'pan')[0]!);
    expect([3300 - x0, x1 - 3750]).toEqual([expect.closeTo(left, 4), expect.closeTo(left, 4)]);
    expect(figure(planned, 'Cover flashing on the tiles')).toBe('277 mm at its left, 226 mm at its right');
  });

  it('is laid apron, sides over its ears, gutter over the sides and under the tiles behind', () => {
    const order = planned.steps.flatMap(({ pieces }) => pieces);
    const at = (mark: string): number => order.indexOf(mark);
    // course 9 crosses the front, course 11 the back; the gutter goes under course 12
    const laidAt = ['C09', 'CH1F-A1', 'CH1L-01', 'CH1-P', 'C12'].map(at);
    expect(Math.min(...laidAt)).toBeGreaterThanOrEqual(0);
    expect(laidAt).toEqual([...laidAt].sort((a, b) => a - b));
    // a cover flashing begins a lap below the corner, on the apron's ear
    expect(onSlope(ofRole(planned, 'coverFlashing')[0]!).y0).toBe(2600);
    const gutter = onSlope(ofRole(planned, 'pan')[0]!);
    expect(gutter.y1).toBeGreaterThanOrEqual(buttLine(planned.planes[0]!.lines, 12) + 63.5 - 1e-6);
    expect(lines(planned)).toContain('past the sides over the cover flashings and course 11');
    expect(lines(planned)).not.toMatch(/stick|last steps/);
  });

  it('nothing of it is nailed through a tile, and no tile beside it wants its nail', () => {
    expect(planned.fasteners.filter(({ piece }) => piece.startsWith('CH1'))).toEqual([]);
    expect(planned.findings.filter(({ severity }) => severity !== 'worth a look')).toEqual([]);
  });

  it('sheds at 25 mm of head and 50 of creep, and dried in', () => {
    for (const tile of ['brindlecombe-roll', 'brindlecombe-plain-face']) {
      const one = planFor(job({}, tile));
      for (const request of waterRequests(one)) expect(checkDrainage(one, request).problems).toEqual([]);
      const { reach, creep } = measureReserve(one, CHECK);
      expect(reach!.head).toBeGreaterThanOrEqual(25);
      expect(creep?.distance ?? 50).toBeGreaterThanOrEqual(50);
    }
  });

  it('a gutter short of the crown, a side left out: wet for that reason', () => {
    const without = { ...planned, pieces: planned.pieces.filter(({ mark }) => mark !== 'CH1L-01') };
    expect(checkDrainage(without, CHECK).verdict).toBe('wet');
    const narrow = {
      ...planned,
      pieces: planned.pieces.map((piece) =>
        piece.role !== 'pan'
          ? piece
          : {
              ...piece,
              covers: piece.covers.map((cover) => ({
                ...cover,
                outline:
                  cover.facet === 'wash-house' ? cover.outline.map(([x, y]) => [Math.max(x, 3290), y] as const) : cover.outline,
              })),
            },
      ),
    };
    expect(checkDrainage(narrow, CHECK).verdict).not.toBe('clean');
  });

  it('a cricket asked for is said at its field; a back gutter is planned', () => {
    const asked = job({}, 'brindlecombe-roll', { back: 'cricket' });
    expect(checkJob(asked, demoLibrary).map(({ path, message }) => `${path}: ${message}`)).toEqual([
      'features.0.back: Chimney, back: behind it on tiles a back gutter is planned, not a cricket.',
    ]);
    expect(ofRole(planFor(asked), 'pan')).toHaveLength(1);
    expect(checkDrainage(planFor(asked), CHECK).verdict).toBe('clean');
  });
});

it('a chimney anywhere on tiles sheds', () => {
  fc.assert(
    fc.property(
      fc.record({
        x: fc.integer({ min: 900, max: 6000 }),
        y: fc.integer({ min: 400, max: 2900 }),
        width: fc.integer({ min: 400, max: 1500 }),
        depth: fc.integer({ min: 350, max: 900 }),
      }),
      fc.constantFrom('brindlecombe-roll', 'hollin-two-roll', 'brindlecombe-plain-face'),
      fc.boolean(),
      (size, tile, masonry) => {
        const planned = planFor(job(size, tile, masonry ? {} : { masonry: false, counter: 'reglet' }));
        expect(checkDrainage(planned, CHECK).problems.map(({ cause, piece }) => `${cause} at ${piece}`)).toEqual([]);
      },
    ),
    cases(15),
  );
});
