import { closesRoundPipe } from '../assembly/index.ts';
import type { Mesh } from './mesh.ts';
import { FAR, type Stretch, climbedAt, leastAlong, leftEnd, place, rightEnd } from './stretch.ts';
import { type Water, headOf, isOpen, layerOf, seep, wait } from './water.ts';

/**
 * Round a pipe only what is turned up it keeps water out: on any other piece that ends there water goes down into the hole, on to the next piece below that
 * is turned up, or else on to the bare deck's edge.
 */
export function pierce(water: Water, state: number, from: Stretch): void {
  const { mesh } = water;
  const cell = mesh.cellOf[state]!;
  const holes = mesh.pierced.get(cell);
  if (!holes || closes(mesh, layerOf(water, state))) return;
  for (const { xa, ya, xb, yb, isOver } of holes) {
    if (isOver) continue;
    const least = leastAlong(from, xa, ya, xb, yb);
    if (least === FAR || (least > 0 && isOpen(water, state))) continue;
    const x = Math.max(xa, Math.min(xb, (leftEnd(from) + rightEnd(from)) / 2));
    wait(water, 'creep', least, () => downHole(water, state, 2 * state, x, Math.min(yb, from.y1)));
  }
}

/** The same where water has climbed to a hole's lower edge. */
export function pierceClimbed(water: Water, state: number, by: Stretch): void {
  const { mesh } = water;
  const cell = mesh.cellOf[state]!;
  if (closes(mesh, layerOf(water, state))) return;
  for (const { xa, ya, xb, isOver } of mesh.pierced.get(cell) ?? []) {
    const x = Math.max(xa, Math.min(xb, (leftEnd(by) + rightEnd(by)) / 2));
    const climbed = isOver ? climbedAt(by, x, ya, headOf(mesh, cell)) : FAR;
    if (climbed < FAR) wait(water, 'reach', climbed, () => downHole(water, state, 2 * state + 1, x, ya));
  }
}

const closes = ({ pieces }: Mesh, layer: number): boolean => layer === 0 || closesRoundPipe(pieces[layer]!.role);

function downHole(water: Water, state: number, node: number, x: number, y: number): void {
  const { mesh } = water;
  const cell = mesh.cellOf[state]!;
  let target = state - 1;
  while (target > mesh.stackStart[cell]! && !closes(mesh, mesh.layerAt[target]!)) target--;
  seep(water, target, place(x, y, 0), node, 'goes under', {
    cause: 'gap',
    layer: layerOf(water, state),
  });
}
