import { ROLES } from '../assembly/index.ts';
import { type Stretch, climbedAt, creptAt, place } from './stretch.ts';
import type { Hole } from './mesh.ts';
import { type Water, harm, headOf, isOpen, layerOf, seep, wait } from './water.ts';

/** Water that reaches a fastener not sealed there follows it through to the next piece down: a slow leak. */
export function fasteners(water: Water, state: number, from: Stretch): void {
  for (const hole of holesThrough(water, state)) {
    const crept = creptAt(from, hole.x, hole.y);
    if (crept <= 0) follow(water, state, hole, 2 * state);
    else if (crept < Number.POSITIVE_INFINITY && !isOpen(water, state))
      wait(water, 'creep', crept, () => follow(water, state, hole, 2 * state));
  }
}

/** The covering's own nails count only where water runs over them, not where it was only reached by climbing. */
export function climbedFasteners(water: Water, state: number, by: Stretch): void {
  const head = headOf(water.mesh, water.mesh.cellOf[state]!);
  for (const hole of holesThrough(water, state)) {
    if (hole.covering) continue;
    const climbed = climbedAt(by, hole.x, hole.y, head);
    if (climbed < Number.POSITIVE_INFINITY) wait(water, 'reach', climbed, () => follow(water, state, hole, 2 * state + 1));
  }
}

const NONE: readonly Hole[] = [];

/** Fasteners through a state's piece that nothing seals there. */
function holesThrough(water: Water, state: number): readonly Hole[] {
  const { mesh } = water;
  const layer = layerOf(water, state);
  const holes = layer === 0 ? undefined : mesh.holes.get(mesh.cellOf[state]!);
  if (!holes || mesh.pieces[layer]!.sealsNails) return NONE;
  const isSheet = ROLES[mesh.pieces[layer]!.role].surface === 'sheet';
  return holes.filter((hole) =>
    hole.drips ? hole.layer === layer : hole.layer >= layer && !hole.sealed && !(hole.inBatten && isSheet),
  );
}

/** Through the stack: what is already gone wrong is not told again, but goes on down. */
export function follow(water: Water, state: number, hole: Hole, node: number): void {
  if (hole.drips)
    return seep(water, state - 1, place(hole.x, hole.y, 0), node, 'goes under', { cause: 'side channel', layer: hole.layer });
  const why = { cause: 'fastener' as const, layer: hole.layer };
  if (water.faultOf[node] === 0) harm(water, node, 'fastener', why);
  seep(water, state - 1, place(hole.x, hole.y, 0), node, 'follows a fastener', why);
}
