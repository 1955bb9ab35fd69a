import { type Role, ROLES, isSheddingMetal } from '../assembly/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import {
  type Corner,
  type Mesh,
  borderHigh,
  borderLow,
  borderX,
  chartAt,
  findLayer,
  highestUpTo,
  lowAt,
  slantBelow,
  topOf,
} from './mesh.ts';
import { type Stretch, along, leastOf, leftEnd, onBorder, rightEnd, stretch } from './stretch.ts';
import {
  type Water,
  creepTo,
  heldBelow,
  heldBeside,
  isHeld,
  isOpen,
  isSideways,
  isWet,
  layerOf,
  lineBetween,
  newCover,
  rowsBetween,
  seep,
} from './water.ts';

/** Flatter than this an edge is level: water does not creep past it but falls or climbs. */
const SLANTS = 0.1;

const SIDES = [-1, 1] as const;

/** Water creeps sideways under cover, from where it last lay open; past a piece's side edge it drops to what is below. */
export function creep(water: Water, state: number, from: Stretch): void {
  const creeps = water.settings.creep > 0 || leastOf(from) < 0;
  const open = isOpen(water, state);
  // as it runs, without any creep, only what two pieces leave open between them counts
  const layer = layerOf(water, state);
  const { mesh } = water;
  const { crowns } = mesh.pieces[layer]!;
  if (!creeps && !crowns && (!open || layer === 0)) return;
  const cell = mesh.cellOf[state]!;
  for (const side of SIDES) {
    const x = borderX(mesh, cell, side);
    const reaches =
      !open || leastOf(from) < 0 || (side === 1 ? rightEnd(from) >= x - LINE_TOLERANCE : leftEnd(from) <= x + LINE_TOLERANCE);
    if (!reaches) continue;
    const { start, cells } = side === 1 ? mesh.rightOf : mesh.leftOf;
    for (let i = start[cell]!; i < start[cell + 1]!; i++) {
      const next = cells[i]!;
      if (crowns && inPan(water, state, next, side, from, crowns)) continue;
      if (!creeps) {
        touchingBeside(water, state, next, side, from);
        continue;
      }
      // from the open into the open only a valley's width goes on
      if (open && leastOf(from) >= 0 && findLayer(mesh, next, layer) === topOf(mesh, next)) continue;
      const by = onBorder(from, x, ...rowsBetween(mesh, cell, next, side));
      if (by) creepInto(water, state, next, side, side === 1 ? -1 : 1, by);
    }
    if (chartAt(mesh, cell).kind === 'wall') roundCorners(water, state, side, from, creeps);
  }
  if (creeps) creepPastSlant(water, state, from);
}

/**
 * Between the crowns of a profiled piece: water in a pan wets all of it, under what covers it too, and spills over an edge it comes to there; over a crown
 * nothing creeps. False where it goes on as on any flat piece.
 */
function inPan(water: Water, state: number, next: number, side: 1 | -1, from: Stretch, crowns: readonly number[]): boolean {
  const { mesh } = water;
  const cell = mesh.cellOf[state]!;
  const layer = layerOf(water, state);
  const inside = findLayer(mesh, next, layer);
  const x = borderX(mesh, cell, side);
  if (inside >= 0 && crowns.some((crown) => Math.abs(crown - x) <= LINE_TOLERANCE)) return true;
  if (!isWet(from) || (inside < 0 && isOpen(water, state))) return false;
  const by = onBorder(from, x, ...rowsBetween(mesh, cell, next, side));
  if (!by) return true;
  if (inside >= 0) {
    // under what is stuck down along that side it does not get
    const cover = isOpen(water, state) && inside < topOf(mesh, next) ? mesh.layerAt[inside + 1]! : -1;
    if (cover >= 0 && isHeld(water, heldBeside(water, next, side === 1 ? -1 : 1, cover))) return true;
    seep(water, inside, stretch(x, by.y1, 0, borderX(mesh, next, side), by.y1, 0), 2 * state, 'creeps');
    return true;
  }
  if (!isHeld(water, heldBeside(water, cell, side, layer)))
    seep(water, highestUpTo(mesh, next, layer), by, 2 * state, 'goes under', {
      cause: 'short sidelap',
      layer: mesh.layerAt[state + 1]!,
    });
  return true;
}

function roundCorners(water: Water, state: number, side: 1 | -1, from: Stretch, creeps: boolean): void {
  const { mesh } = water;
  const cell = mesh.cellOf[state]!;
  for (const corner of mesh.corners.get(cell) ?? []) {
    const { cell: next, side: own, otherSide, up } = corner;
    if (own !== side || isClosedRound(mesh, layerOf(water, state), corner)) continue;
    if (!creeps) {
      touchingBeside(water, state, next, side, from, corner.inside);
      continue;
    }
    const low = Math.max(borderLow(mesh, cell, side), borderLow(mesh, next, otherSide) - up);
    const high = Math.min(borderHigh(mesh, cell, side), borderHigh(mesh, next, otherSide) - up);
    const by = onBorder(from, borderX(mesh, cell, side), low, high);
    const x = borderX(mesh, next, otherSide);
    if (by) creepInto(water, state, next, side, otherSide, { ...by, x0: x, x1: x, y0: by.y0 + up, y1: by.y1 + up });
  }
}

/** Into a cell beside, by a stretch of the border between them; `side` and `otherSide`: on which side of each it lies. */
function creepInto(water: Water, state: number, next: number, side: 1 | -1, otherSide: 1 | -1, by: Stretch): void {
  const { mesh } = water;
  const cell = mesh.cellOf[state]!;
  const layer = layerOf(water, state);
  const inside = findLayer(mesh, next, layer);
  const target = inside >= 0 ? inside : highestUpTo(mesh, next, layer);
  if (inside < 0 && layer > 0) {
    touchingBeside(water, state, next, side, by);
    if (isHeld(water, heldBeside(water, cell, side, layer)) || isHeldAtCorner(water, cell, side, layer, by)) return;
  }
  if (target === topOf(mesh, next)) {
    // in the open only a valley's width goes on
    if (inside >= 0 && leastOf(by) < 0) seep(water, inside, by, 2 * state, 'creeps');
    return;
  }
  const cover = newCover(water, target, cell);
  if (cover > 0 && isHeld(water, heldBeside(water, next, otherSide, cover))) return;
  creepTo(water, target, by, 2 * state, inside >= 0 ? undefined : { cause: 'short sidelap', layer });
}

/** A held edge so steep that where it crosses a border it is told less exactly than a line: there too it is held. */
function isHeldAtCorner(water: Water, cell: number, side: 1 | -1, layer: number, by: Stretch): boolean {
  if (!isSideways(water, cell) || !isHeld(water, heldBelow(water, cell, layer) ?? 'open')) return false;
  return by.y1 - borderLow(water.mesh, cell, side) <= 2 * LINE_TOLERANCE * Math.abs(slantBelow(water.mesh, cell));
}

/** Two pieces that lie open side by side and only touch: water goes in between, on to what lies under both; in an inside corner each wall has its own. */
function touchingBeside(water: Water, state: number, next: number, side: 1 | -1, from: Stretch, inside = false): void {
  if (!isOpen(water, state) || !isWet(from)) return;
  const { mesh } = water;
  const cell = mesh.cellOf[state]!;
  const layer = layerOf(water, state);
  if (layer === 0 || findLayer(mesh, next, layer) >= 0) return;
  const other = mesh.layerAt[topOf(mesh, next)]!;
  if (other === 0 || goesOn(mesh, other, cell) || goesOn(mesh, layer, next)) return;
  const under = highestUpTo(mesh, cell, Math.min(layer, other) - 1);
  if (!inside && findLayer(mesh, next, mesh.layerAt[under]!) < 0) return;
  const rows =
    mesh.chartOf[cell] === mesh.chartOf[next]
      ? rowsBetween(mesh, cell, next, side)
      : ([borderLow(mesh, cell, side), borderHigh(mesh, cell, side)] as const);
  const by = onBorder(from, borderX(mesh, cell, side), ...rows);
  if (by && isWet(by)) seep(water, under, by, 2 * state, 'goes under', { cause: 'gap', layer });
}

/**
 * Round a corner a frame is closed by its maker and a cladding is one. Where one piece's roof leg laps the other's, the upstands of metal are seamed by
 * the metal's own rule (trade practice); in an inside corner that takes a pan or a soldered piece (trade practice), while sheets are folded there, the ear of
 * each under the next (trade practice). Round an outside corner a sheet has to reach.
 */
function isClosedRound(mesh: Mesh, layer: number, { cell, inside, foot }: Corner): boolean {
  const other = mesh.layerAt[topOf(mesh, cell)]!;
  const roleOf = (one: number): Role => mesh.pieces[one]!.role;
  const isWhole = (one: number): boolean => one > 0 && (roleOf(one) === 'frame' || roleOf(one) === 'cladding');
  if (isWhole(layer) || isWhole(other)) return true;
  if (layer === 0) return false;
  const joins = (one: number): boolean =>
    ROLES[roleOf(layer)].surface === 'sheet'
      ? inside && ROLES[roleOf(one)].surface === 'sheet'
      : !inside && isSheddingMetal(roleOf(layer)) && isSheddingMetal(roleOf(one));
  for (let state = mesh.stackStart[cell]! + 1; state <= topOf(mesh, cell); state++) {
    const there = mesh.layerAt[state]!;
    if (there !== layer && joins(there))
      return foot.some((round) => findLayer(mesh, round, layer) >= 0 && findLayer(mesh, round, there) >= 0);
  }
  return false;
}

/** Does a piece go on into a cell: itself, as a part of it elsewhere in the stack, or as the wall's own face round a corner? */
function goesOn(mesh: Mesh, layer: number, cell: number): boolean {
  const { mark, role } = mesh.pieces[layer]!;
  for (let state = topOf(mesh, cell); state > mesh.stackStart[cell]!; state--) {
    const piece = mesh.pieces[mesh.layerAt[state]!]!;
    if (piece.mark === mark || (piece.role === role && (role === 'cladding' || role === 'frame'))) return true;
  }
  return false;
}

/** Past a slanting edge over it, into the cells above. */
function creepPastSlant(water: Water, state: number, from: Stretch): void {
  const { mesh } = water;
  const cell = mesh.cellOf[state]!;
  const layer = layerOf(water, state);
  const { start, cells } = mesh.above;
  for (let i = start[cell]!; i < start[cell + 1]!; i++) {
    const above = cells[i]!;
    if (Math.abs(slantBelow(mesh, above)) < SLANTS) continue;
    const inside = findLayer(mesh, above, layer);
    const target = inside >= 0 ? inside : highestUpTo(mesh, above, layer);
    if (inside < 0 && layer > 0 && isHeld(water, heldBelow(water, above, layer) ?? 'open')) continue;
    const inTheOpen = target === topOf(mesh, above);
    if (inTheOpen && (inside < 0 || leastOf(from) >= 0)) continue;
    const cover = inTheOpen ? -1 : newCover(water, target, cell);
    if (cover > 0 && isHeld(water, heldBelow(water, above, cover) ?? 'open')) continue;
    const why = inside >= 0 ? undefined : ({ cause: 'short sidelap', layer } as const);
    for (const by of along(from, ...lineBetween(mesh, above, cell)))
      if (!inTheOpen || leastOf(by) < 0) creepTo(water, target, by, 2 * state, why);
  }
}

/** In a valley the water runs as wide as it is deep: so far from its line it is not yet creeping. */
export function spreadOut(water: Water, state: number, from: Stretch): void {
  const { mesh } = water;
  const cell = mesh.cellOf[state]!;
  const wide = mesh.valleys.get(cell)?.spread ?? mesh.spreads.get(cell) ?? 0;
  if (wide <= 0 || leastOf(from) !== 0 || !isOpen(water, state)) return;
  const [left, right] = [mesh.left[cell]!, mesh.right[cell]!];
  const spread = -wide;
  const by = stretch(left, lowAt(mesh, cell, left), spread, right, lowAt(mesh, cell, right), spread);
  seep(water, state, by, water.parent[2 * state]!, 'falls');
}
