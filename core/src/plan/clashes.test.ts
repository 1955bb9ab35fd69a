import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoLibrary } from '../../fixtures/demo.ts';
import { slopeWith } from '../../fixtures/roofs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { planFor } from '../../fixtures/planned.ts';
import { type Feature, newFeature } from '../document/index.ts';
import { bounds, intersectOutlines } from '../roof/index.ts';
import { inches } from '../units/index.ts';
import { type Plan, checkJob } from './index.ts';

const place = (across: number, up: number) => ({
  across: { from: 'left' as const, distance: inches(across) },
  up: { kind: 'slope' as const, length: inches(up) },
});
/** A slope with a pipe at each place named. */
const pipes = (places: readonly (readonly [number, number])[]) =>
  slopeWith(
    [],
    (features, job) => {
      const plane = { id: 'north', eaveLength: inches(300), slope: { length: inches(200) } };
      for (const [across, up] of places)
        features.push({ ...newFeature('pipe', { ...job, features }, plane), ...place(across, up) } as Feature);
    },
    { eave: 300, up: 200 },
  );
const clashes = ({ findings }: Plan): string[] => findings.map(({ id }) => id).filter((id) => /\.(over|into)\./.test(id));

describe('things whose flashings leave no room for each other', () => {
  it('two pipes 40 in apart say nothing, 9 in apart their bases overlap, and both are named', () => {
    expect(clashes(planFor(pipes([[80, 80], [120, 80]])))).toEqual([]); // prettier-ignore
    const near = planFor(pipes([[80, 80], [89, 80]])); // prettier-ignore
    expect(clashes(near)).toEqual(['P1.over.P2']);
    expect(near.findings.find(({ id }) => id === 'P1.over.P2')!.piece).toBe('P1-B');
  });

  it('every pair whose bases overlap is said and no other, however they stand', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 30, max: 270 }), fc.integer({ min: 30, max: 160 })), { minLength: 2, maxLength: 7 }),
        (places) => {
          const job = pipes(places);
          fc.pre(checkJob(job, demoLibrary).length === 0);
          const plan = planFor(job);
          const bases = plan.pieces.filter(({ role }) => role === 'boot').toSorted((a, b) => (a.mark < b.mark ? -1 : 1));
          const wanted = bases.flatMap((one, i) =>
            bases.slice(i + 1).flatMap((other) => {
              const over = intersectOutlines(one.covers[0]!.outline, other.covers[0]!.outline).map(bounds);
              const isSeen = over.some(({ x0, x1, y0, y1 }) => Math.min(x1 - x0, y1 - y0) > inches(1 / 4));
              return isSeen ? [`${one.detail} ${other.detail}`] : [];
            }),
          );
          // so near that the base of one runs into the other pipe itself, that is said instead
          const said = clashes(plan).map((id) =>
            id
              .split(/\.(?:over|into)\./)
              .toSorted()
              .join(' '),
          );
          expect(said.toSorted()).toEqual(wanted.toSorted());
        },
      ),
      cases(20),
    );
  });
});
