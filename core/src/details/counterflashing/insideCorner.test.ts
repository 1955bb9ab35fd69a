import { describe, expect, it } from 'vitest';
import { changed, slopePart, slopeRecord } from '../../../fixtures/demo.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { type Job, type Wall, newFeature } from '../../document/index.ts';
import { checkDrainage } from '../../drainage/index.ts';
import { type Plan } from '../../plan/index.ts';
import { bounds } from '../../roof/index.ts';
import { inches, onTwelve, toInches } from '../../units/index.ts';

/** A masonry side wall that meets a masonry headwall in an inside corner, at the left or right end. */
function corner(stands: Wall['stands'], counter: Wall['counter'], pitch: number): Plan {
  const job: Job = changed((draft) => {
    const part = slopePart(draft);
    Object.assign(part, { eaveLength: inches(160), slope: { kind: 'slope', length: inches(150) }, pitch: onTwelve(pitch) });
    const record = slopeRecord(draft);
    const wall = { ...record.walls[0]!, stands, x: stands === 'left' ? 0 : inches(160), cladding: 'masonry' as const, counter };
    const [left, right] = stands === 'left' ? (['continues', 'rake'] as const) : (['rake', 'continues'] as const);
    Object.assign(record, { left, right, top: 'wall', walls: [wall] });
    const plane = { id: record.id, eaveLength: inches(160), slope: { length: inches(150) } };
    draft.features.push({ ...newFeature('headwall', draft, plane), cladding: 'masonry' } as Job['features'][number]);
  });
  return planFor(job);
}

const verdict = (plan: Plan): string => checkDrainage(plan, { plane: 'north', stage: 'finished' }).verdict;

describe.each(['left', 'right'] as const)('an inside corner of masonry at the %s end', (stands) => {
  it.each([
    ['reglet', 6],
    ['stepped', 6],
    ['stepped', 10],
  ] as const)('counterflashing in a %s at %i/12 goes on round the corner, and the corner sheds', (counter, pitch) => {
    const plan = corner(stands, counter, pitch);
    const last = plan.pieces.filter(({ role, detail }) => role === 'counter' && detail === 'SW1').at(-1)!;
    const round = last.covers.find(({ facet }) => facet === 'north/HW1')!;
    const { x0, x1 } = bounds(round.outline);
    expect(toInches(x1 - x0)).toBeCloseTo(3, 6);
    expect(toInches(stands === 'left' ? x0 : x1)).toBeCloseTo(stands === 'left' ? 0 : 160, 6);
    expect(verdict(plan)).toBe('clean');
  });

  it('cut off at the corner it lets water in between the two', () => {
    const plan = corner(stands, 'stepped', 6);
    const butted = plan.pieces.map((piece) =>
      piece.role === 'counter' ? { ...piece, covers: piece.covers.filter((_, i) => i === 0) } : piece,
    );
    expect(verdict({ ...plan, pieces: butted })).toBe('wet');
  });
});
