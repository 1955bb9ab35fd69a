import { describe, expect, it } from 'vitest';
import { type TileChange, backSlope, frontSlope } from '../../../fixtures/tiles.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { printWords } from '../../assembly/index.ts';
import type { CoveringOf } from '../../document/index.ts';
import { type CheckResult, checkDrainage } from '../../drainage/index.ts';
import { type Plan, waterRequests } from '../../plan/index.ts';
import { withoutGaps } from './battens.ts';

const back = (change: TileChange): Plan => planFor(backSlope(change));
/** The steps that set the battens, in the order of laying: their words, and the run of timber they take, metres. */
function battens({ steps }: Plan): { said: string; metres: number } {
  const own = steps.filter(({ uses = [] }) => uses.some(({ product }) => product === 'fenwick-batten'));
  const metres = own
    .flatMap(({ uses = [] }) => uses)
    .reduce((sum, { product, amount }) => sum + (product === 'fenwick-batten' ? amount / 1000 : 0), 0);
  return { said: own.map(({ action }) => printWords(action, 'metric')).join('\n'), metres };
}

describe('battens by the school chosen', () => {
  it('straight on rafters: 14 of 9.025, 126.4 m', () => {
    const { said, metres } = battens(back(() => undefined));
    expect(said).toContain('joints staggered over the rafters');
    expect(metres).toBeCloseTo(126.35, 2);
  });

  it('with drip gaps: 7 gaps of 12.7 in each row of 9025, 8936.1 of wood', () => {
    expect(withoutGaps(9025)).toBeCloseTo(8936.1, 1);
    // one length has no gap, a hair more has one
    expect([withoutGaps(1219.2), withoutGaps(1240)]).toEqual([1219.2, 1240 - 12.7]);
    const { said, metres } = battens(back((_, tiles) => void Object.assign(tiles, { bearing: 'deck', battenLay: 'drip gaps' })));
    expect(said).toContain('in lengths of 1219 mm, 13 mm gaps, staggered');
    expect(metres).toBeCloseTo(14 * 8.9361, 2);
  });

  it('on counter-battens: one up each rafter, 0 to 9000 every 450: 21 of 4.65 beside the 14', () => {
    const counter: TileChange = (_, tiles) => void Object.assign(tiles, { bearing: 'deck', battenLay: 'counter-battens' });
    const { said, metres } = battens(back(counter));
    expect(said).toMatch(
      /^Nail 21 counter-battens .*, one up each rafter from the eave to the top \(measured 450 mm apart\)\.\nNail 14 battens, .* staggered on counter-battens\./,
    );
    expect(metres).toBeCloseTo(126.35 + 21 * 4.65, 2);
    // nobody measured them: 0 to 8940.8 every 406.4
    const { said: reckoned } = battens(
      back((job, tiles) => {
        counter(job, tiles);
        job.parts[0]!.planes[0]!.rafters = null;
      }),
    );
    expect(reckoned).toContain(
      'Nail 23 counter-battens through the sheet, one up each rafter from the eave to the top (not measured, reckoned 406 mm apart)',
    );
  });

  it('on a deck there is a deck to look over and to stick to; on rafters there is none', () => {
    const words = ({ steps }: Plan): string => steps.map(({ action }) => printWords(action, 'metric')).join('\n');
    expect(words(back((_, tiles) => void (tiles.bearing = 'deck')))).toContain('Look the deck over');
    expect(words(back(() => undefined))).toContain('There is no deck');
  });
});

/** The front slope with a cover flashing alone, through which its pans run on to the sheet. */
function letIn(tiles: Partial<CoveringOf<'singleLap'>>, coast: boolean): { planned: Plan; judged: CheckResult } {
  const planned = planFor(
    frontSlope((wall, job) => {
      wall.slant.drain = 'cover alone';
      job.features = [];
      Object.assign(job.coverings[0]!, tiles);
      if (coast) job.packs.push({ id: 'storm-coast-tile', version: 1 });
    }),
  );
  return { planned, judged: checkDrainage(planned, { plane: 'front', stage: 'finished' }) };
}
const sentences = ({ problems }: CheckResult): string[] => problems.map(({ sentence }) => printWords(sentence, 'metric'));
const dams = ({ findings }: Plan) => findings.find(({ id }) => id === 'covering.dams');

describe('what the battens do to water on the sheet', () => {
  it('where the sheet is the roof it stands behind battens that lie unbroken on a deck, at their nails', () => {
    const { planned, judged } = letIn({ bearing: 'deck' }, true);
    expect(judged.verdict).toBe('slow leak');
    expect(sentences(judged)[0]).toMatch(/it stands on UL\d-1 behind a batten, at its nails: a slow leak/);
    expect(dams(planned)).toMatchObject({ severity: 'leaks' });
  });

  it.each([
    { bearing: 'deck', battenLay: 'drip gaps' },
    { bearing: 'deck', battenLay: 'counter-battens' },
    // between rafters the sheet sags under them
    { bearing: 'rafters', battenLay: 'straight' },
  ] as const)('it runs out by $battenLay over a $bearing', (tiles) => {
    const { planned, judged } = letIn(tiles, true);
    expect(judged.problems).toEqual([]);
    expect(dams(planned)).toBeUndefined();
  });

  it('where the tiles are the roof what the sheet catches stays behind them, else it drains', () => {
    const stays = /It stays there: no way leads it out/;
    const { planned, judged } = letIn({ bearing: 'deck' }, false);
    expect(sentences(judged).some((sentence) => stays.test(sentence))).toBe(true);
    expect(dams(planned)).toMatchObject({ severity: 'worth a look' });
    const { judged: led } = letIn({ bearing: 'deck', battenLay: 'counter-battens' }, false);
    expect(sentences(led).filter((sentence) => stays.test(sentence))).toEqual([]);
  });

  it('a slope as it is planned sheds at every stage, whatever its battens are on', () => {
    for (const bearing of ['deck', 'rafters'] as const)
      for (const battenLay of ['straight', 'drip gaps', 'counter-battens'] as const) {
        const made = back((_, tiles) => void Object.assign(tiles, { bearing, battenLay }));
        expect(waterRequests(made).flatMap((request) => checkDrainage(made, request).problems)).toEqual([]);
      }
  });
});

describe('a sheet that lets no moisture through', () => {
  const isTold = (change: TileChange): boolean =>
    back((job, tiles) => {
      tiles.underlayers.underlayment = 'tollen-synthetic';
      change(job, tiles);
    }).findings.some(({ id }) => id === 'underlayment.closed');

  it('wants air over rafters; a deck, a vapour-open sheet and a vented roof do not', () => {
    expect(isTold(() => undefined)).toBe(true);
    expect(isTold((job) => void (job.ventilation = null))).toBe(true);
    expect(isTold((_, tiles) => void (tiles.bearing = 'deck'))).toBe(false);
    expect(isTold((_, tiles) => void (tiles.underlayers.underlayment = 'tollen-open-sheet'))).toBe(false);
    expect(isTold((job) => void (job.ventilation = { exhaust: 'ridge vent', floor: 4e7, intake: 1e5, others: false }))).toBe(
      false,
    );
  });
});
