import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { courseJoints } from '../../surface/index.ts';
import { inches } from '../../units/index.ts';
import { type Bond, layJoints } from './joints.ts';

const bond = (change: Partial<Bond> = {}): Bond => ({
  course: 2,
  width: inches(39.375),
  offset: inches(19.6875),
  least: inches(8),
  below: [],
  apart: inches(4),
  off: () => [],
  holds: () => true,
  ...change,
});
const pieces = (x0: number, joints: readonly number[], x1: number): number[] => {
  const edges = [x0, ...joints, x1];
  return edges.slice(1).map((x, i) => x - edges[i]!);
};

describe('the joints of a course', () => {
  it('are the regular bond where that breaks no rule', () => {
    const x1 = inches(39.375 * 4);
    expect(layJoints(0, x1, [], bond())).toEqual(courseJoints(2, 0, x1, inches(39.375), inches(19.6875)));
  });

  it('leave no piece under 8 in and none longer than it is made, however long the stretch', () => {
    fc.assert(
      fc.property(fc.double({ min: 16, max: 600, noNaN: true }), fc.integer({ min: 1, max: 9 }), (length, course) => {
        const made = pieces(0, layJoints(0, inches(length), [], bond({ course })), inches(length));
        expect(Math.min(...made)).toBeGreaterThanOrEqual(inches(8) - 0.4);
        expect(Math.max(...made)).toBeLessThanOrEqual(inches(39.375) + 0.4);
        expect(made.reduce((sum, piece) => sum + piece, 0)).toBeCloseTo(inches(length), 3);
      }),
    );
  });

  it('keep off those below and off metal where there is a way, course upon course', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 90, max: 400, noNaN: true }),
        fc.double({ min: 20, max: 60, noNaN: true }),
        (length, metal) => {
          const off = [{ x0: inches(metal), x1: inches(metal + 14) }];
          let below: number[] = [];
          for (let course = 1; course <= 6; course++) {
            const joints = layJoints(0, inches(length), [], bond({ course, below, off: () => off }));
            for (const x of joints) {
              for (const other of below) expect(Math.abs(x - other)).toBeGreaterThanOrEqual(inches(4) - 0.4);
              expect(x > off[0]!.x0 + 0.5 && x < off[0]!.x1 - 0.5).toBe(false);
            }
            below = joints;
          }
        },
      ),
    );
  });

  it('lay a whole shingle where one must lie, and give a piece no room is found for to its neighbour', () => {
    const joints = layJoints(0, inches(200), [[inches(60), inches(99.375)]], bond());
    expect(joints).toEqual(expect.arrayContaining([inches(60), inches(99.375)]));
    expect(joints.some((x) => x > inches(60) && x < inches(99.375))).toBe(false);
    // nothing can be nailed left of 12 in: the first piece reaches beyond it
    const held = layJoints(0, inches(48), [], bond({ course: 2, offset: inches(31), holds: (_, to) => to > inches(14) }));
    expect(held[0]).toBeGreaterThan(inches(14));
  });
});
