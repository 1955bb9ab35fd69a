import { chartAt, highAt, lowAt } from './mesh.ts';
import type { Water } from './water.ts';

/**
 * How much rain passes at states: plan area, square millimetres, of the cells whose water runs there. Cells of one column fall into the next; what comes
 * down a valley or along a fold comes with it.
 */
export function amountsOf(water: Water): (state: number) => number {
  const { flows, mesh } = water;
  const into = new Map<number, number[]>();
  flows.to.forEach((to, i) => {
    const list = into.get(to);
    if (list) list.push(i);
    else into.set(to, [i]);
  });
  const known = new Map<number, number>();
  const amount = (state: number): number => {
    const before = known.get(state);
    if (before !== undefined) return before;
    // water that runs in a ring is not counted twice
    known.set(state, 0);
    let sum = 0;
    if (water.ran[state]! > 0) {
      const cell = mesh.cellOf[state]!;
      const { left, right } = mesh;
      const [a, b] = [left[cell]!, right[cell]!];
      const height = (highAt(mesh, cell, a) - lowAt(mesh, cell, a) + highAt(mesh, cell, b) - lowAt(mesh, cell, b)) / 2;
      sum += height * (b - a) * chartAt(mesh, cell).planShare;
    }
    const seen = new Set<number>();
    for (const i of into.get(state) ?? []) {
      // the same cell's water comes over again when more of it is found wet
      if (seen.has(flows.from[i]!)) continue;
      seen.add(flows.from[i]!);
      sum += amount(flows.from[i]!) * flows.share[i]!;
    }
    known.set(state, sum);
    return sum;
  };
  return amount;
}
