import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoJob, demoLibrary } from '../../../fixtures/demo.ts';
import { cases } from '../../../fixtures/seeds.ts';
import { backSlope, withSkylight } from '../../../fixtures/tiles.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { printWords } from '../../assembly/index.ts';
import { newFeature } from '../../document/index.ts';
import { checkDrainage, measureReserve } from '../../drainage/index.ts';
import { type Plan, waterRequests } from '../../plan/index.ts';
import { bounds } from '../../roof/index.ts';
import { inches } from '../../units/index.ts';

const CHECK = { plane: 'wash-house', stage: 'finished' } as const;
const plan = (x: number, y: number, tile = 'brindlecombe-roll', change: Parameters<typeof withSkylight>[3] = {}): Plan =>
  planFor(
    backSlope((job, tiles) => {
      Object.assign(tiles, { tile, tileAndHalf: `${tile}-half` });
      withSkylight(job, x, y, change);
    }),
  );
const lines = ({ steps }: Plan): string =>
  steps
    .filter(({ detail }) => detail === 'SK1')
    .map(({ action, fasteners = [] }) => `${printWords(action, 'metric')} ${printWords(fasteners, 'metric')}`)
    .join('\n');
const boxOf = ({ pieces }: Plan, mark: string) => bounds(pieces.find((piece) => piece.mark === mark)!.covers[0]!.outline);

describe('a skylight on profiled tile, with its kit', () => {
  const planned = plan(3000, 1500);

  it('sill, sides and head end past a crown; the sill 150 down the tiles', () => {
    // columns of 300.83: crowns at 2747.5 left of the frame and 3950.8 right of it
    const pitch = 9025 / 30;
    const [left, right] = [3000 - (9 * pitch + 40) + 25, 13 * pitch + 40 - 3780 + 25];
    expect(boxOf(planned, 'SK1F-A1')).toMatchObject({ x0: expect.closeTo(3000 - left, 4), x1: expect.closeTo(3780 + right, 4), y0: 1350 }); // prettier-ignore
    expect(boxOf(planned, 'SK1L-01').x0).toBeCloseTo(3000 - left, 4);
    expect(boxOf(planned, 'SK1R-01').x1).toBeCloseTo(3780 + right, 4);
    expect(boxOf(planned, 'SK1-HD')).toMatchObject({ x0: expect.closeTo(3000 - left, 4), x1: expect.closeTo(3780 + left, 4) });
  });

  it('takes the kit made for tile, not one for shingles; what the kit brings is not cut', () => {
    expect(planned.order.find(({ product }) => product === 'oxbourne-kit-tile-780-1180')?.uses).toEqual([{ detail: 'SK1', count: 1 }]); // prettier-ignore
    expect(planned.pieces.filter(({ detail, flat }) => detail === 'SK1' && flat)).toEqual([]);
    const shingleKit = plan(3000, 1500, 'brindlecombe-roll', { width: 774.7, height: 1181.1 });
    expect(shingleKit.findings.map(({ id }) => id)).toContainEqual(expect.stringMatching(/SK1\.kit$/));
  });

  it('is added as one the catalog has a kit for, and stays an ordinary one where it has none', () => {
    const job = backSlope();
    const slope = { id: job.parts[0]!.planes[0]!.id, eaveLength: 9025, slope: { length: 4650 } };
    const added = newFeature('skylight', job, slope, demoLibrary.catalog);
    expect(added).toMatchObject({
      width: 550,
      height: 780,
      up: { length: expect.closeTo(inches(70), 6) as number },
      across: { distance: (9025 - 550) / 2 },
    });
    job.features = [added];
    expect(planFor(job).findings.filter(({ id }) => id.endsWith('.kit'))).toEqual([]);
    const items = demoLibrary.catalog.items.filter(({ kind }) => kind !== 'skylightKit');
    expect(newFeature('skylight', job, slope, { ...demoLibrary.catalog, items })).toMatchObject({
      width: expect.closeTo(inches(30.5), 6) as number,
    });
    // shingles have their own
    const house = demoJob();
    expect(newFeature('skylight', house, { ...slope, id: 'north' }, demoLibrary.catalog)).toMatchObject({ width: expect.closeTo(inches(30.5), 6) as number, height: expect.closeTo(inches(46.5), 6) as number }); // prettier-ignore
  });

  it('its lines speak of tiles and battens, and nothing is nailed through a tile', () => {
    expect(lines(planned)).toContain('150 mm on the tiles, and dress it to them past a crown on both sides');
    expect(lines(planned)).toContain('lay head flashing SK1-HD over the cover flashings at the head');
    expect(lines(planned)).toContain('0 nails: course 10 lies over its upper edge');
    expect(lines(planned)).toContain('tape the frame to the rafters and headers');
    expect(lines(planned)).not.toMatch(/shingle|deck|step/);
    expect(planned.fasteners.filter(({ piece }) => piece.startsWith('SK1'))).toEqual([]);
  });

  it('sheds at 25 mm of head and 50 of creep, and dried in', () => {
    for (const one of [
      planned,
      plan(5000, 2000, 'brindlecombe-plain-face'),
      plan(5000, 900, 'hollin-two-roll', { flashing: 'site-bent', width: 600, height: 900 }),
    ]) // prettier-ignore
    {
      for (const request of waterRequests(one)) expect(checkDrainage(one, request).problems).toEqual([]);
      const { reach, creep } = measureReserve(one, CHECK);
      expect(reach!.head).toBeGreaterThanOrEqual(25);
      expect(creep?.distance ?? 50).toBeGreaterThanOrEqual(50);
    }
  });

  it('without a side it is wet', () => {
    const without = { ...planned, pieces: planned.pieces.filter(({ mark }) => mark !== 'SK1R-01') };
    expect(checkDrainage(without, CHECK).verdict).not.toBe('clean');
  });
});

it('a skylight anywhere on tiles sheds', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 900, max: 7000 }),
      fc.integer({ min: 500, max: 2600 }),
      fc.constantFrom('brindlecombe-roll', 'hollin-two-roll', 'brindlecombe-plain-face'),
      fc.boolean(),
      (x, y, tile, isKit) => {
        const planned = plan(x, y, tile, isKit ? {} : { flashing: 'site-bent', width: 550, height: 900 });
        expect(checkDrainage(planned, CHECK).problems.map(({ cause, piece }) => `${cause} at ${piece}`)).toEqual([]);
      },
    ),
    cases(12),
  );
});
