import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoHouse } from '../../fixtures/demo.ts';
import { anyCrossed, anyDormered, anyFeatured, crossed, manyOf } from '../../fixtures/roofs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { planFor } from '../../fixtures/planned.ts';
import { byLay } from '../assembly/index.ts';
import type { Plan } from '../plan/index.ts';
import { bounds, distanceToStretch, isWithin, outlineArea } from '../roof/index.ts';
import { checkDrainage, measureReserve } from './check.ts';
import { cutMesh } from './cut.ts';
import { type Mesh, beside, cellAtPoint, highAt, lowAt, meetingAt } from './mesh.ts';
import { rowsBetween } from './water.ts';

const house = planFor(demoHouse());
const hostOf = (made: Plan): string => made.roof[0]!.id;
const anyRoof = fc.oneof(anyFeatured, anyCrossed, anyDormered);

const stackOf = (mesh: Mesh, cell: number): string[] =>
  [...mesh.layerAt.subarray(mesh.stackStart[cell]! + 1, mesh.stackStart[cell + 1]!)].map((layer) => mesh.pieces[layer]!.mark);

const areaOf = (mesh: Mesh, cell: number): number => {
  const [left, right] = [mesh.left[cell]!, mesh.right[cell]!];
  const height = (x: number): number => highAt(mesh, cell, x) - lowAt(mesh, cell, x);
  return ((right - left) * (height(left) + height(right))) / 2;
};

describe('cells', () => {
  it('hold at every place the pieces that lie there, in the order of the stack', () => {
    fc.assert(
      fc.property(
        anyRoof,
        fc.array(fc.tuple(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true })), {
          minLength: 200,
          maxLength: 200,
        }),
        (job, places) => {
          // prettier-ignore
          const made = planFor(job);
          const mesh = cutMesh(made, hostOf(made));
          mesh.charts.forEach(({ facet: id, kind }, chart) => {
            if (kind === 'wall') return;
            const facet = made.facets.find((one) => one.id === id)!;
            const { x0, x1, y0, y1 } = bounds(facet.outline);
            const laid = made.pieces
            .flatMap((piece) => piece.covers.filter((cover) => cover.facet === id).map((cover) => ({ piece, cover })))
            .sort((a, b) => byLay({ ...a.piece, lay: a.cover.lay ?? a.piece.lay }, { ...b.piece, lay: b.cover.lay ?? b.piece.lay })); // prettier-ignore
            for (const [u, v] of places) {
              const [x, y] = [x0 + (x1 - x0) * u, y0 + (y1 - y0) * v];
              const near = [...laid.map(({ cover }) => cover.outline), facet.outline].some((outline) =>
                outline.some((a, i) => distanceToStretch([x, y], a, outline[(i + 1) % outline.length]!) < 2),
              );
              const inSlit = laid.some(({ piece }) => piece.joints?.some((joint) => Math.abs(joint - x) < 2));
              if (near || inSlit) continue;
              const cell = cellAtPoint(mesh, chart, x, y);
              const blocked = [...(facet.taken ?? []), ...(facet.pierced ?? [])].some((outline) => isWithin(outline, [x, y]));
              expect(cell >= 0).toBe(isWithin(facet.outline, [x, y]) && !blocked);
              if (cell < 0) continue;
              const expected = laid.filter(({ cover }) => isWithin(cover.outline, [x, y])).map(({ piece }) => piece.mark);
              expect(stackOf(mesh, cell)).toEqual([...new Set(expected)]);
            }
          });
        },
      ),
      { ...cases(8), endOnFailure: true },
    );
  });

  it('cover each slope once: their areas make up its own, less what stands on it', () => {
    fc.assert(
      fc.property(anyRoof, (job) => {
        const made = planFor(job);
        const mesh = cutMesh(made, hostOf(made));
        mesh.charts.forEach(({ facet: id, kind, firstCell, endCell }) => {
          if (kind === 'wall') return;
          let sum = 0;
          for (let cell = firstCell; cell < endCell; cell++) {
            // over an eave the surface goes on as far down as what hangs there
            if (Math.max(mesh.highLeft[cell]!, mesh.highRight[cell]!) > 0.5) sum += areaOf(mesh, cell);
          }
          const facet = made.facets.find((one) => one.id === id)!;
          const own = Math.abs(outlineArea(facet.outline));
          const off = [...(facet.taken ?? []), ...(facet.pierced ?? [])].reduce(
            (all, one) => all + Math.abs(outlineArea(one)),
            0,
          );
          expect(sum / own).toBeLessThan(1 + 1e-3);
          expect(sum / own).toBeGreaterThan((own - off) / own - 1e-3);
        });
      }),
      { ...cases(8), endOnFailure: true },
    );
  });

  it('lie the right way up, also where many edges meet in a point: the head of a dormer’s two valleys', () => {
    const jobs = [
      ...fc.sample(anyDormered, { seed: 7, numRuns: 20 }).slice(7, 8),
      ...fc.sample(anyDormered, { seed: 3, numRuns: 4 }),
    ];
    for (const made of jobs.map(planFor)) {
      const mesh = cutMesh(made, hostOf(made));
      const upsideDown: number[] = [];
      for (let cell = 0; cell < mesh.cellCount; cell++)
        if (mesh.highLeft[cell]! < mesh.lowLeft[cell]! - 1 || mesh.highRight[cell]! < mesh.lowRight[cell]! - 1)
          upsideDown.push(cell);
      expect(upsideDown).toEqual([]);
    }
  });

  it('know each other: whatever meets a cell is met by it, along more than a line', () => {
    for (const plane of ['south', 'porch']) {
      const mesh = cutMesh(house, plane);
      const wrong: string[] = [];
      for (let cell = 0; cell < mesh.cellCount; cell++) {
        if (!(mesh.right[cell]! > mesh.left[cell]!)) wrong.push(`${cell} has no width`);
        for (const above of meetingAt(mesh.above, cell)) {
          if (!meetingAt(mesh.below, above).includes(cell)) wrong.push(`${above} does not know it is over ${cell}`);
          if (!(Math.min(mesh.right[cell]!, mesh.right[above]!) > Math.max(mesh.left[cell]!, mesh.left[above]!)))
            wrong.push(`${above} is not over ${cell}`);
        }
        for (const side of [-1, 1] as const)
          for (const next of beside(mesh, cell, side)) {
            if (!beside(mesh, next, side === 1 ? -1 : 1).includes(cell)) wrong.push(`${next} does not know it is beside ${cell}`);
            const [low, high] = rowsBetween(mesh, cell, next, side);
            if (!(high > low)) wrong.push(`${next} is not beside ${cell}`);
          }
      }
      expect(wrong).toEqual([]);
    }
  });

  it('hold every fastener whose piece lies there', () => {
    const made = house;
    const mesh = cutMesh(made, 'south');
    const facets = new Set(mesh.charts.map(({ facet }) => facet));
    const wanted = made.fasteners.filter(({ facet }) => facets.has(facet)).length;
    const found = [...mesh.holes.values()].flat().length;
    expect(found).toBe(wanted);
    for (const [cell, holes] of mesh.holes)
      for (const { layer } of holes) expect(stackOf(mesh, cell)).toContain(mesh.pieces[layer]!.mark);
  });

  it('along a valley follow one another from its foot to its head, each knowing those across', () => {
    const mesh = cutMesh(house, 'south');
    for (const valley of mesh.valleys.values()) {
      expect(valley.to).toBeGreaterThan(valley.from);
      const next = mesh.valleys.get(valley.next);
      if (next) expect(next.to).toBeCloseTo(valley.from, 4);
      for (const { cell, from, to } of valley.across) {
        expect(mesh.chartOf[cell]).not.toBe(mesh.chartOf[valley.cell]);
        expect(Math.min(to, valley.to) - Math.max(from, valley.from)).toBeGreaterThan(0);
      }
    }
  });
});

describe('the reserve', () => {
  it.each<[string, Plan, string]>([
    ['a main slope and its cross gable', planFor(crossed()), 'south'],
    ['the house’s north', house, 'north'],
    ['two chimneys', planFor(manyOf('chimney', 2)), 'north'],
    ['three pipes', planFor(manyOf('pipe', 3)), 'north'],
  ])('found in one search is what trying distance by distance finds: %s', (_, made, plane) => {
    const request = { plane, stage: 'finished' } as const;
    const { reach, creep } = measureReserve(made, request);
    for (const [kind, reserve] of [
      ['reach', reach],
      ['creep', creep],
    ] as const) {
      const at = (distance: number) => checkDrainage(made, request, { [kind]: distance });
      expect(at(reserve!.distance - 1).verdict).toBe('clean');
      const told = at(reserve!.distance + 1);
      expect(told.verdict).not.toBe('clean');
      expect(told.problems.map(({ cause, piece }) => `${cause} ${piece}`)).toContain(`${reserve!.problem.cause} ${reserve!.problem.piece}`); // prettier-ignore
    }
  });

  it('never makes anything drier to let water get farther', () => {
    fc.assert(
      fc.property(
        anyRoof,
        fc.double({ min: 0, max: 150, noNaN: true }),
        fc.double({ min: 0, max: 150, noNaN: true }),
        (job, one, other) => {
          // prettier-ignore
          const made = planFor(job);
          const count = (creep: number): number =>
            checkDrainage(made, { plane: hostOf(made), stage: 'finished' }, { creep }).problems.length > 0 ? 1 : 0;
          expect(count(Math.max(one, other))).toBeGreaterThanOrEqual(count(Math.min(one, other)));
        },
      ),
      { ...cases(4), endOnFailure: true },
    );
  });
});
