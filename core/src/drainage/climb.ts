import { LINE_TOLERANCE, inches } from '../units/index.ts';
import { type Foot, alongFoot, chartAt, findLayer, highAt, highestUpTo, lowAt, topOf } from './mesh.ts';
import { FAR, type Stretch, climbedAt, leftEnd, rightEnd, stretch, within } from './stretch.ts';
import {
  type Water,
  climbTo,
  headOf,
  heldBelow,
  isHeld,
  isOpen,
  isSideways,
  layerOf,
  lineBetween,
  newCover,
  seep,
  wait,
} from './water.ts';

/**
 * Wind or backed-up water climbs under a lap, straight up from the last open place; past the piece's upper edge it spills behind it. It has climbed to
 * the state by a stretch, or lies open there by one.
 */
export function climb(water: Water, state: number, by: Stretch | undefined, open?: Stretch): void {
  const { mesh } = water;
  const cell = mesh.cellOf[state]!;
  if (open && !isOpen(water, state)) return;
  const head = headOf(mesh, cell);
  const layer = layerOf(water, state);
  const node = open ? 2 * state : 2 * state + 1;
  /** How far up it has climbed at a place on the cell's border or upper boundary; 0 all over what lies open. */
  const at = (x: number, y: number): number =>
    by ? climbedAt(by, x, y, head) : x >= leftEnd(open!) - LINE_TOLERANCE && x <= rightEnd(open!) + LINE_TOLERANCE ? 0 : FAR;
  const [from, to] = [leftEnd(by ?? open!), rightEnd(by ?? open!)];
  const { start, cells } = mesh.above;
  for (let i = start[cell]!; i < start[cell + 1]!; i++) {
    const above = cells[i]!;
    // where it lies open farther up it begins anew
    if (findLayer(mesh, above, layer) === topOf(mesh, above)) continue;
    const [xa, ya, xb, yb] = lineBetween(mesh, above, cell);
    if (Math.min(xb, to) - Math.max(xa, from) <= (to - from > LINE_TOLERANCE ? LINE_TOLERANCE : -LINE_TOLERANCE)) continue;
    const line = within(stretch(xa, ya, 0, xb, yb, 0), from, to);
    const risen = { ...line, d0: at(line.x0, line.y0), d1: at(line.x1, line.y1) };
    climbInto(water, state, above, above, risen, node);
  }
  for (const foot of mesh.rises.get(cell) ?? []) {
    const { wall } = foot;
    const risen = upWall(water, foot, at);
    if (risen) climbInto(water, state, wall, -1, risen, node);
  }
}

/** Along the foot of a wall, as far as the water has climbed beside it. */
function upWall(
  { mesh }: Water,
  { wall, roof, at: where, line }: Foot,
  at: (x: number, y: number) => number,
): Stretch | undefined {
  let [xa, xb] = [mesh.left[wall]!, mesh.right[wall]!];
  let [da, db] = [FAR, FAR];
  if (where === 'left' || where === 'right') {
    const k = Math.hypot(1, chartAt(mesh, wall).raking!);
    xa = Math.max(xa, line[0][1] / k);
    xb = Math.min(xb, line[1][1] / k);
    [da, db] = [at(alongFoot(line, xa * k), xa * k), at(alongFoot(line, xb * k), xb * k)];
  } else {
    xa = Math.max(xa, mesh.left[roof]!);
    xb = Math.min(xb, mesh.right[roof]!);
    const y = (x: number): number => (where === 'top' ? highAt(mesh, roof, x) : lowAt(mesh, roof, x));
    [da, db] = [at(xa, y(xa)), at(xb, y(xb))];
  }
  if (da === FAR || db === FAR) return undefined;
  return stretch(xa, lowAt(mesh, wall, xa), da, xb, lowAt(mesh, wall, xb), db);
}

/** Up into a cell, over the lower boundary of `boundary`; −1: from a slope on to the wall beside it. */
function climbInto(water: Water, state: number, next: number, boundary: number, by: Stretch, from: number): void {
  const { mesh } = water;
  const cell = mesh.cellOf[state]!;
  const layer = layerOf(water, state);
  const least = Math.min(by.d0, by.d1);
  const up = (first: number, why?: { cause: 'short headlap'; layer: number }): void => {
    let target = first;
    while (target !== topOf(mesh, next)) {
      const cover = newCover(water, target, cell);
      if (cover <= 0 || !isHeld(water, (boundary >= 0 ? heldBelow(water, boundary, cover) : undefined) ?? 'open')) break;
      target++;
    }
    if (target === topOf(mesh, next)) return;
    wait(water, 'reach', least, () => climbTo(water, target, by, from, why));
  };
  const inside = findLayer(mesh, next, layer);
  if (inside >= 0) return up(inside);
  if (layer === 0 || boundary < 0) return;
  if (isHeld(water, heldBelow(water, boundary, layer) ?? 'open')) return;
  // past an edge that faces sideways water creeps, it does not climb
  if (isSideways(water, boundary)) return;
  const why = { cause: 'short headlap' as const, layer };
  for (const part of inParts(by))
    wait(water, 'reach', Math.min(part.d0, part.d1), () =>
      seep(water, highestUpTo(mesh, cell, layer - 1), { ...part, d0: 0, d1: 0 }, from, 'spills behind', why),
    );
  up(highestUpTo(mesh, next, layer), why);
}

/** What spills over an edge that rises does so where it is lowest first: all along so much of it at once. */
const SPILLS_AT_ONCE = inches(1 / 8);

/** A stretch in parts, from end to end of each of which water has climbed by hardly more. */
function inParts(by: Stretch): Stretch[] {
  const { x0, y0, d0, x1, y1, d1 } = by;
  const rise = Math.abs(d1 - d0);
  if (!(rise > SPILLS_AT_ONCE) || rise === FAR) return [by];
  const count = Math.ceil(rise / SPILLS_AT_ONCE);
  const at = (i: number): [x: number, y: number, d: number] => [
    x0 + ((x1 - x0) * i) / count,
    y0 + ((y1 - y0) * i) / count,
    d0 + ((d1 - d0) * i) / count,
  ];
  return Array.from({ length: count }, (_, i) => stretch(...at(i), ...at(i + 1)));
}
