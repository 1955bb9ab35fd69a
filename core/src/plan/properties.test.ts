import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyCrossed, anyDormered, anyFeatured, slopeWith } from '../../fixtures/roofs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { planFor } from '../../fixtures/planned.ts';
import { type Piece, compareLay } from '../assembly/index.ts';
import { bounds, isWithin, outlineArea } from '../roof/index.ts';
import { inches } from '../units/index.ts';
import { type Plan } from './index.ts';

const developed = (piece: Piece): number => {
  const covered = piece.covers.reduce((sum, { outline }) => sum + outlineArea(outline), 0);
  const { x0, x1 } = bounds(piece.covers[0]!.outline);
  return covered + (LET_IN[piece.role] ?? 0) * (piece.cutLength ?? x1 - x0);
};

/** A flat pattern is as large as what the piece covers, and what of it is let into a joint. */
const LET_IN: Partial<Record<Piece['role'], number>> = { counter: inches(1) };

/** Round a nail's shank, millimetres. */
const CORNERS = [[1, 1], [-1, 1], [1, -1], [-1, -1]] as const; // prettier-ignore

/** Where everything that belongs to a feature lies and what it is, its slope moved down by `down` and its courses by `courses`. */
function told(made: Plan, id: string, down: number, courses: number): { what: string; measures: number[] }[] {
  return made.pieces
    .filter(({ detail }) => detail === id)
    .map(({ mark, product, course, covers, flat, cutLength }) => {
      const { x0, x1, y0, y1 } = bounds(covers[0]!.outline);
      // a wall's own chart moves with the slope: only how large its part is can be compared
      const places = covers[0]!.facet === 'north' ? [x0, x1, y0 - down, y1 - down, cutLength ?? 0] : [];
      const area = flat ? [Math.abs(outlineArea(flat.outline)) / inches(1)] : [];
      return {
        what: `${mark} ${product} ${course === undefined ? '' : course - courses}`,
        measures: [...places, ...area],
      };
    })
    .sort((a, b) => (a.what < b.what ? -1 : 1));
}

describe('moved up by one course', () => {
  it('everything about a pipe, chimney or skylight moves up by one course, and nothing else changes', () => {
    const exposure = inches(5.625);
    fc.assert(
      fc.property(
        fc.constantFrom('pipe' as const, 'chimney' as const, 'skylight' as const),
        fc.double({ min: 40, max: 85, noNaN: true }),
        fc.double({ min: 14, max: 44, noNaN: true }),
        (kind, up, width) => {
          const at = (extra: number): Plan =>
            planFor(
              slopeWith([kind], ([one]) => {
                if (one!.kind === 'headwall') return;
                one!.up = { kind: 'slope', length: inches(up) + extra };
                if (one!.kind === 'chimney') one!.width = inches(width);
              }),
            );
          const [before, after] = [at(0), at(exposure)];
          const id = before.panels[0]!.detail;
          const own = told(before, id, 0, 0);
          expect(own.length).toBeGreaterThan(1);
          expect(told(after, id, exposure, 1)).toEqual(
            own.map(({ what, measures }) => ({ what, measures: measures.map((value): unknown => expect.closeTo(value, 1)) })),
          );
        },
      ),
      cases(12),
    );
  });
});

describe('for every slope and what stands on it', () => {
  it('everything is laid after what it lies on, flat patterns are as large as the pieces, and no shingle nail goes through metal', () => {
    fc.assert(
      fc.property(fc.oneof(anyFeatured, anyCrossed, anyDormered), (job) => {
        const made = planFor(job);
        const byMark = new Map(made.pieces.map((piece) => [piece.mark, piece]));
        for (const piece of made.pieces) {
          for (const mark of piece.liesOn)
            expect(compareLay(byMark.get(mark)!.lay, piece.lay), `${piece.mark} on ${mark}`).toBeLessThan(0);
          if (piece.flat && ['apron', 'counter', 'pan', 'sill', 'head'].includes(piece.role) && !piece.mark.startsWith('CH1B'))
            expect(Math.abs(outlineArea(piece.flat.outline)) / developed(piece), piece.mark).toBeCloseTo(1, 2);
        }
        const nails = made.fasteners.filter(({ piece, inHeadlap }) => byMark.get(piece)!.role === 'course' && !inHeadlap);
        const within = made.zones
          .filter(({ piece }) => piece === undefined)
          .flatMap(({ facet, outline, detail }) =>
            nails
              .filter(
                (nail) =>
                  nail.facet === facet && CORNERS.every(([dx, dy]) => isWithin(outline, [nail.at[0] + dx, nail.at[1] + dy])),
              )
              .map(({ piece }) => `${piece} in the zone of ${detail}`),
          );
        expect(within).toEqual([]);
        expect(JSON.stringify({ ...made, roof: [] })).not.toMatch(/:null|NaN/);
      }),
      cases(12),
    );
  });
});
