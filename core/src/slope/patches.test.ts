import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Block } from './model.ts';
import { type Patch, patchesRound, spansOf, subtract } from './patches.ts';

const band: Patch = { x0: 0, x1: 1000, y0: 100, y1: 300 };
const area = ({ x0, x1, y0, y1 }: Patch): number => (x1 - x0) * (y1 - y0);
const holds = (patch: Patch, x: number, y: number): boolean => x > patch.x0 && x < patch.x1 && y > patch.y0 && y < patch.y1;

const blocks = fc.array(
  fc
    .tuple(
      fc.integer({ min: 0, max: 900 }),
      fc.integer({ min: 5, max: 300 }),
      fc.integer({ min: 0, max: 300 }),
      fc.integer({ min: 5, max: 300 }),
    )
    .map(([x0, width, from, height]): Block => ({ x0, x1: x0 + width, from, to: from + height })),
  { maxLength: 4 },
);

describe('a course cut round what stands on the slope', () => {
  it('leaves the whole band where nothing stands', () => {
    expect(patchesRound(band, [], 10)).toEqual([band]);
  });

  it('stops short of a wall at the end by the gap', () => {
    expect(patchesRound(band, [{ x0: 0, x1: 0, from: Number.NEGATIVE_INFINITY, to: 900 }], 10)).toEqual([{ ...band, x0: 10 }]);
  });

  it('goes under what starts within its height, and over what ends within it', () => {
    const patches = patchesRound(band, [{ x0: 400, x1: 600, from: 200, to: 900 }], 0);
    expect(patches).toContainEqual({ x0: 400, x1: 600, y0: 100, y1: 200 });
    expect(patchesRound(band, [{ x0: 400, x1: 600, from: 0, to: 250 }], 0)).toContainEqual({
      x0: 400,
      x1: 600,
      y0: 250,
      y1: 300,
    });
  });

  it('covers every point of the band that no block takes up, once', () => {
    fc.assert(
      fc.property(
        blocks,
        fc.double({ min: 1, max: 999, noNaN: true }),
        fc.double({ min: 101, max: 299, noNaN: true }),
        (standing, x, y) => {
          const patches = patchesRound(band, standing, 0);
          const near =
            standing.flatMap(({ x0, x1 }) => [x0, x1]).some((edge) => Math.abs(edge - x) < 1) ||
            standing.flatMap(({ from, to }) => [from, to]).some((edge) => Math.abs(edge - y) < 1);
          if (near) return;
          const taken = standing.some((block) => x > block.x0 && x < block.x1 && y > block.from && y < block.to);
          expect(patches.filter((patch) => holds(patch, x, y))).toHaveLength(taken ? 0 : 1);
        },
      ),
    );
  });

  it('never covers more than the band, and its spans are merged and in order', () => {
    fc.assert(
      fc.property(blocks, fc.integer({ min: 0, max: 20 }), (standing, gap) => {
        const patches = patchesRound(band, standing, gap);
        expect(patches.reduce((sum, patch) => sum + area(patch), 0)).toBeLessThanOrEqual(area(band) + 1e-6);
        const spans = spansOf(patches);
        for (let i = 1; i < spans.length; i++) expect(spans[i]![0]).toBeGreaterThan(spans[i - 1]![1]);
      }),
    );
  });
});

it('takes intervals out of an interval', () => {
  expect(subtract(0, 10, [[2, 3], [5, 20]])).toEqual([[0, 2], [3, 5]]); // prettier-ignore
  expect(subtract(0, 10, [[-5, 50]])).toEqual([]);
});
