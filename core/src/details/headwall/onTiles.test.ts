import { describe, expect, it } from 'vitest';
import { washHouse } from '../../../fixtures/tiles.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { printWords } from '../../assembly/index.ts';
import type { FeatureOf } from '../../document/index.ts';
import { checkDrainage } from '../../drainage/index.ts';
import { type Plan, waterRequests } from '../../plan/index.ts';

/** The wash-house against the gable, its headwall’s metal left out; `coast`: where the sheet is the roof. */
const bare = (coast: boolean, change: Partial<FeatureOf<'headwall'>> = {}): Plan =>
  planFor(
    washHouse((job) => {
      const wall = job.features.find((one): one is FeatureOf<'headwall'> => one.kind === 'headwall')!;
      Object.assign(wall, { apron: 'left out', ...change });
      job.features = [wall];
      if (coast) job.packs.push({ id: 'storm-coast-tile', version: 1 });
    }),
  );
const problems = (planned: Plan): string[] =>
  waterRequests(planned).flatMap((request) =>
    checkDrainage(planned, request).problems.map(({ cause, onto }) => `${request.stage}: ${cause} on to ${onto}`),
  );

describe('a headwall on tile whose metal is left out', () => {
  it('lets its water run under the tiles: clean where the sheet is built as the roof, caught by it and a leak elsewhere', () => {
    expect(problems(bare(true))).toEqual([]);
    expect(bare(true).findings.some(({ id }) => id.startsWith('HW1'))).toBe(false);
    expect(problems(bare(false))).toContain('finished: gap on to HW1-M1');
    expect(bare(false).findings.find(({ id }) => id === 'HW1.noApron')).toMatchObject({ severity: 'leaks' });
  });

  it('has its 8 courses as before, no apron, and the top one, 11 tiles and two halves, is held by clips: nothing lies over its nails', () => {
    const planned = bare(true);
    expect(planned.pieces.filter(({ role }) => role === 'apron')).toEqual([]);
    expect(planned.pieces.filter(({ role }) => role === 'course')).toHaveLength(8);
    expect(planned.fasteners.filter(({ piece }) => piece === 'C08')).toEqual([]);
    expect(planned.order.find(({ product }) => product === 'skelby-tile-clip')!.needed).toBe(13);
    const figures = planned.panels.find(({ detail }) => detail === 'HW1')!.figures;
    expect(figures.map(({ label }) => label)).not.toContain('Apron on the roof');
    expect(printWords(figures.find(({ label }) => label === 'Apron school')!.value, 'metric')).toContain(
      'under the tiles on the sheet',
    );
  });

  it('is closed by boards over the sheet turned up it, or in masonry by its counterflashing', () => {
    const said = ({ steps }: Plan): string =>
      steps.filter(({ detail }) => detail === 'HW1').map(({ action }) => printWords(action, 'metric')).join(' '); // prettier-ignore
    expect(said(bare(true, { cladding: 'boards', counter: 'reglet' }))).toContain('lapped over the sheet turned up the wall');
    expect(problems(bare(true, { cladding: 'boards', counter: 'reglet' }))).toEqual([]);
    expect(said(bare(true))).toContain('hang HW1-R1 to HW1-R3');
  });
});
