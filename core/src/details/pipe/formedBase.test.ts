import { describe, expect, it } from 'vitest';
import { demoFile, demoLibrary } from '../../../fixtures/demo.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { printWords } from '../../assembly/index.ts';
import type { FeatureOf, Job } from '../../document/index.ts';
import { checkDrainage } from '../../drainage/index.ts';
import { type Plan, checkJob, tallyOf, waterRequests } from '../../plan/index.ts';
import { bounds } from '../../roof/index.ts';

/** The conduit of the front slope: 25 outside, 6040 along, 2750 up, on a crown. */
const conduit = (change: Partial<FeatureOf<'pipe'>> = {}): Job => {
  const job = demoFile('keepers-cottage-front');
  job.features = job.features.filter(({ id }) => id === 'P2').map((one) => ({ ...one, ...change }) as typeof one);
  return job;
};
const plan = (change?: Partial<FeatureOf<'pipe'>>): Plan => planFor(conduit(change));
const up = (length: number): Partial<FeatureOf<'pipe'>> => ({ up: { kind: 'slope', length } });
const told = ({ steps }: Plan): string =>
  steps.filter(({ detail }) => detail === 'P2').map(({ action }) => printWords(action, 'metric')).join('\n'); // prettier-ignore
const found = ({ findings }: Plan): string[] => findings.map(({ id }) => id).filter((id) => id.startsWith('P2'));
const verdicts = (planned: Plan): string[] => waterRequests(planned).map((request) => checkDrainage(planned, request).verdict);

describe('a conduit through one base formed to the tile', () => {
  const planned = plan();

  it('stands on the tile of course 9, drilled tight on its crown, its base between the tails of 9 and 10', () => {
    const base = planned.pieces.find(({ mark }) => mark === 'P2-B')!;
    const { x0, x1, y0, y1 } = bounds(base.covers[0]!.outline);
    expect([x0, x1, y0, y1]).toEqual([5975, 6105, 2685, 2815]);
    expect(base.course).toBe(9);
    expect(told(planned)).toContain('drill the tile of course 9 round the pipe, a hole 2 mm open, with a diamond bit, no hammer');
    expect(told(planned)).toContain('put sealant on the tile, then set formed base P2-B on course 9, centre 2750 mm');
    expect(planned.order.find(({ product }) => product === 'pellwick-formed-base-25')!.needed).toBe(1);
    // nothing of it at the sheet
    expect(planned.pieces.filter(({ detail, role }) => detail === 'P2' && role === 'collar')).toEqual([]);
  });

  it('relies on the sealant of its rim, and says so; in two levels it sheds without', () => {
    expect(found(planned)).toEqual(['P2.formed']);
    expect(verdicts(planned)).toEqual(['relies on sealant', 'clean']);
    // among the findings: its own, and where the water comes over its head and past its side
    expect(tallyOf(planned)).toEqual({ leaks: 0, breaks: 0, seals: 3, looks: expect.any(Number) as number });
    const two = plan({ bases: 'two levels' });
    expect(found(two)).not.toContain('P2.formed');
    // no lead slate is as small as that: nothing is made up
    expect(two.findings.find(({ id }) => id === 'P2.boot')).toMatchObject({ severity: 'leaks' });
  });

  it('a rim that is not stuck lets in what runs in the pan', () => {
    const loose = {
      ...planned,
      pieces: planned.pieces.map((piece) =>
        piece.mark === 'P2-B'
          ? { ...piece, covers: piece.covers.map((cover) => ({ ...cover, holds: ['open' as const] })) }
          : piece,
      ),
    };
    const { verdict, problems } = checkDrainage(loose, { plane: 'front', stage: 'finished' });
    expect(verdict).toBe('caught by the underlayer');
    expect(new Set(problems.map(({ piece }) => piece))).toEqual(new Set(['P2-B']));
  });

  it('in a lap the nearest clear centres are told, half the plumb pipe along the slope (14.4) from the ends of the lap; off the crown, and past a tail, that is told too', () => {
    const lap = plan(up(2600)).findings.find(({ id }) => id === 'P2.lap')!;
    expect(printWords(lap.sentence, 'metric')).toContain('clear of the lap it stands at 2563 mm or 2684 mm');
    expect(found(plan({ across: { from: 'left', distance: 6190 } }))).toContain('P2.crown');
    // its rim ends 15 above the tail of course 10
    expect(found(plan(up(2856)))).toContain('P2.oneTile');
  });

  it('a hot flue has none of it', () => {
    const job = conduit({ hot: true, material: 'metal' });
    expect(checkJob(job, demoLibrary).map(({ path }) => path)).toEqual(['features.0.bases']);
  });
});
