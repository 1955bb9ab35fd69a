import { type Role, ROLES, isSheddingMetal } from '../assembly/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import {
  type Corner,
  type Sheet,
  borderHigh,
  borderLow,
  borderX,
  chartAt,
  findLayer,
  highestUpTo,
  lowAt,
  slantBelow,
  topOf,
} from './sheet.ts';
import { type Stretch, along, leastOf, leftEnd, onBorder, rightEnd, stretch } from './stretch.ts';
import {
  type Water,
  creepTo,
  heldBelow,
  heldBeside,
  isHeld,
  isOpen,
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
  if (!creeps && (!open || layer === 0)) return;
  const { sheet } = water;
  const cell = sheet.cellOf[state]!;
  for (const side of SIDES) {
    const x = borderX(sheet, cell, side);
    const reaches =
      !open || leastOf(from) < 0 || (side === 1 ? rightEnd(from) >= x - LINE_TOLERANCE : leftEnd(from) <= x + LINE_TOLERANCE);
    if (!reaches) continue;
    const { start, cells } = side === 1 ? sheet.rightOf : sheet.leftOf;
    for (let i = start[cell]!; i < start[cell + 1]!; i++) {
      const next = cells[i]!;
      if (!creeps) {
        touchingBeside(water, state, next, side, from);
        continue;
      }
      // from the open into the open only a valley's width goes on
      if (open && leastOf(from) >= 0 && findLayer(sheet, next, layer) === topOf(sheet, next)) continue;
      const by = onBorder(from, x, ...rowsBetween(sheet, cell, next, side));
      if (by) creepInto(water, state, next, side, side === 1 ? -1 : 1, by);
    }
    if (chartAt(sheet, cell).kind === 'wall') roundCorners(water, state, side, from, creeps);
  }
  if (creeps) creepPastSlant(water, state, from);
}

function roundCorners(water: Water, state: number, side: 1 | -1, from: Stretch, creeps: boolean): void {
  const { sheet } = water;
  const cell = sheet.cellOf[state]!;
  for (const corner of sheet.corners.get(cell) ?? []) {
    const { cell: next, side: own, otherSide, up } = corner;
    if (own !== side || isClosedRound(sheet, layerOf(water, state), corner)) continue;
    if (!creeps) {
      touchingBeside(water, state, next, side, from, corner.inside);
      continue;
    }
    const low = Math.max(borderLow(sheet, cell, side), borderLow(sheet, next, otherSide) - up);
    const high = Math.min(borderHigh(sheet, cell, side), borderHigh(sheet, next, otherSide) - up);
    const by = onBorder(from, borderX(sheet, cell, side), low, high);
    const x = borderX(sheet, next, otherSide);
    if (by) creepInto(water, state, next, side, otherSide, { ...by, x0: x, x1: x, y0: by.y0 + up, y1: by.y1 + up });
  }
}

/** Into a cell beside, by a stretch of the border between them; `side` and `otherSide`: on which side of each it lies. */
function creepInto(water: Water, state: number, next: number, side: 1 | -1, otherSide: 1 | -1, by: Stretch): void {
  const { sheet } = water;
  const cell = sheet.cellOf[state]!;
  const layer = layerOf(water, state);
  const inside = findLayer(sheet, next, layer);
  const target = inside >= 0 ? inside : highestUpTo(sheet, next, layer);
  if (inside < 0 && layer > 0) {
    touchingBeside(water, state, next, side, by);
    if (isHeld(water, heldBeside(water, cell, side, layer))) return;
  }
  if (target === topOf(sheet, next)) {
    // in the open only a valley's width goes on
    if (inside >= 0 && leastOf(by) < 0) seep(water, inside, by, 2 * state, 'creeps');
    return;
  }
  const cover = newCover(water, target, cell);
  if (cover > 0 && isHeld(water, heldBeside(water, next, otherSide, cover))) return;
  creepTo(water, target, by, 2 * state, inside >= 0 ? undefined : { cause: 'short sidelap', layer });
}

/** Two pieces that lie open side by side and only touch: water goes in between, on to what lies under both; in an inside corner each wall has its own. */
function touchingBeside(water: Water, state: number, next: number, side: 1 | -1, from: Stretch, inside = false): void {
  if (!isOpen(water, state) || !isWet(from)) return;
  const { sheet } = water;
  const cell = sheet.cellOf[state]!;
  const layer = layerOf(water, state);
  if (layer === 0 || findLayer(sheet, next, layer) >= 0) return;
  const other = sheet.layerAt[topOf(sheet, next)]!;
  if (other === 0 || goesOn(sheet, other, cell) || goesOn(sheet, layer, next)) return;
  const under = highestUpTo(sheet, cell, Math.min(layer, other) - 1);
  if (!inside && findLayer(sheet, next, sheet.layerAt[under]!) < 0) return;
  const rows =
    sheet.chartOf[cell] === sheet.chartOf[next]
      ? rowsBetween(sheet, cell, next, side)
      : ([borderLow(sheet, cell, side), borderHigh(sheet, cell, side)] as const);
  const by = onBorder(from, borderX(sheet, cell, side), ...rows);
  if (by && isWet(by)) seep(water, under, by, 2 * state, 'goes under', { cause: 'gap', layer });
}

/**
 * Round a corner a frame is closed by its maker and a cladding is one. Where one piece's roof leg laps the other's, the upstands of metal are seamed by
 * the metal's own rule (trade practice); in an inside corner that takes a pan or a soldered piece (handbook 4), while sheets are folded there, the ear of
 * each under the next (handbook 3). Round an outside corner a sheet has to reach.
 */
function isClosedRound(sheet: Sheet, layer: number, { cell, inside, foot }: Corner): boolean {
  const other = sheet.layerAt[topOf(sheet, cell)]!;
  const roleOf = (one: number): Role => sheet.pieces[one]!.role;
  const isWhole = (one: number): boolean => one > 0 && (roleOf(one) === 'frame' || roleOf(one) === 'cladding');
  if (isWhole(layer) || isWhole(other)) return true;
  if (layer === 0) return false;
  const joins = (one: number): boolean =>
    ROLES[roleOf(layer)].surface === 'sheet'
      ? inside && ROLES[roleOf(one)].surface === 'sheet'
      : !inside && isSheddingMetal(roleOf(layer)) && isSheddingMetal(roleOf(one));
  for (let state = sheet.stackStart[cell]! + 1; state <= topOf(sheet, cell); state++) {
    const there = sheet.layerAt[state]!;
    if (there !== layer && joins(there))
      return foot.some((round) => findLayer(sheet, round, layer) >= 0 && findLayer(sheet, round, there) >= 0);
  }
  return false;
}

/** Does a piece go on into a cell: itself, as a part of it elsewhere in the stack, or as the wall's own face round a corner? */
function goesOn(sheet: Sheet, layer: number, cell: number): boolean {
  const { mark, role } = sheet.pieces[layer]!;
  for (let state = topOf(sheet, cell); state > sheet.stackStart[cell]!; state--) {
    const piece = sheet.pieces[sheet.layerAt[state]!]!;
    if (piece.mark === mark || (piece.role === role && (role === 'cladding' || role === 'frame'))) return true;
  }
  return false;
}

/** Past a slanting edge over it, into the cells above. */
function creepPastSlant(water: Water, state: number, from: Stretch): void {
  const { sheet } = water;
  const cell = sheet.cellOf[state]!;
  const layer = layerOf(water, state);
  const { start, cells } = sheet.above;
  for (let i = start[cell]!; i < start[cell + 1]!; i++) {
    const above = cells[i]!;
    if (Math.abs(slantBelow(sheet, above)) < SLANTS) continue;
    const inside = findLayer(sheet, above, layer);
    const target = inside >= 0 ? inside : highestUpTo(sheet, above, layer);
    if (inside < 0 && layer > 0 && isHeld(water, heldBelow(water, above, layer) ?? 'open')) continue;
    const inTheOpen = target === topOf(sheet, above);
    if (inTheOpen && (inside < 0 || leastOf(from) >= 0)) continue;
    const cover = inTheOpen ? -1 : newCover(water, target, cell);
    if (cover > 0 && isHeld(water, heldBelow(water, above, cover) ?? 'open')) continue;
    const why = inside >= 0 ? undefined : ({ cause: 'short sidelap', layer } as const);
    for (const by of along(from, ...lineBetween(sheet, above, cell)))
      if (!inTheOpen || leastOf(by) < 0) creepTo(water, target, by, 2 * state, why);
  }
}

/** In a valley the water runs as wide as it is deep: so far from its line it is not yet creeping. */
export function spreadOut(water: Water, state: number, from: Stretch): void {
  const { sheet } = water;
  const cell = sheet.cellOf[state]!;
  const wide = sheet.valleys.get(cell)?.spread ?? sheet.spreads.get(cell) ?? 0;
  if (wide <= 0 || leastOf(from) !== 0 || !isOpen(water, state)) return;
  const [left, right] = [sheet.left[cell]!, sheet.right[cell]!];
  const spread = -wide;
  const by = stretch(left, lowAt(sheet, cell, left), spread, right, lowAt(sheet, cell, right), spread);
  seep(water, state, by, water.parent[2 * state]!, 'falls');
}
