import { isSheddingMetal } from '../assembly/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import { type LaidPiece, type Sheet, beside, chartAt, findLayer, highestUpTo, slantBelow, topOf, widthOf } from './sheet.ts';
import {
  LOW_LEFT,
  LOW_RIGHT,
  type Water,
  alongBottom,
  alongSide,
  creptOnSide,
  heldBelow,
  heldBeside,
  isHeld,
  isOpen,
  isWet,
  layerOf,
  leastCrept,
  newCover,
  run,
  seep,
  takeIn,
  waitToSeep,
} from './water.ts';

const FAR = Number.POSITIVE_INFINITY;

/** Flatter than this an edge is level: water does not creep past it but falls or climbs. */
const SLANTS = 0.1;

/** Water creeps sideways under cover, from where it last lay open; past a piece's side edge it drops to what is below. */
export function creep(water: Water, state: number): void {
  // as it runs, without any creep, only what two pieces leave open between them counts
  if (water.settings.creep === 0 && leastCrept(water, state) >= 0) {
    touchingBoth(water, state);
    return;
  }
  spreadWithin(water, state);
  for (const side of [-1, 1] as const) creepAside(water, state, side);
  creepPastSlant(water, state);
}

/** How far water has crept at a share of a cell's lower boundary, from left to right; FAR where only one end is known. */
export function creptBelow({ crept }: Water, state: number, share: number): number {
  const [left, right] = [crept[4 * state + LOW_LEFT]!, crept[4 * state + LOW_RIGHT]!];
  if (share < 1e-3) return left;
  if (share > 1 - 1e-3) return right;
  return left === FAR || right === FAR ? FAR : left + (right - left) * share;
}

/**
 * How far water creeps within a cell to a place in it or on its border, coming along its level from one side: from the border there, or from where the
 * slanting lower boundary stands in its way.
 */
function creptAlong(water: Water, state: number, side: 1 | -1, x: number, y: number): number {
  const { sheet } = water;
  const cell = sheet.cellOf[state]!;
  const width = widthOf(sheet, cell);
  const low = side === 1 ? sheet.lowRight[cell]! : sheet.lowLeft[cell]!;
  if (y >= low - LINE_TOLERANCE) return creptOnSide(water, state, side, y) + (side === 1 ? width - x : x);
  // the lower boundary rises that way, above this level
  const met = Math.max(0, Math.min(1, (y - sheet.lowLeft[cell]!) / (sheet.lowRight[cell]! - sheet.lowLeft[cell]!)));
  return creptBelow(water, state, met) + Math.max(0, (met * width - x) * side);
}

/** From what is known on some of a cell's borders to the others. */
function spreadWithin(water: Water, state: number): void {
  const { sheet, crept } = water;
  const cell = sheet.cellOf[state]!;
  const width = widthOf(sheet, cell);
  for (let pass = 0; pass < 2; pass++)
    for (const side of [-1, 1] as const) {
      const x = side === 1 ? width : 0;
      const [foot, head] =
        side === 1 ? [sheet.lowRight[cell]!, sheet.highRight[cell]!] : [sheet.lowLeft[cell]!, sheet.highLeft[cell]!];
      const at = 4 * state + (side === 1 ? LOW_RIGHT : LOW_LEFT);
      crept[at] = Math.min(crept[at]!, crept[at + 1]!);
      const other = side === 1 ? -1 : 1;
      // level with as high as the water comes on the other border, or is stopped by the upper boundary
      const reaches = Math.min(head, Math.max(foot, water.reached[2 * state + (other === 1 ? 1 : 0)]!));
      const [low, top] = [creptAlong(water, state, other, x, foot), creptAlong(water, state, other, x, reaches)];
      if (low < FAR && top < FAR) takeIn(water, state, side, { low: Math.min(low, top), top, reaches });
      else if (top < FAR) takeIn(water, state, side, { low: top, top, reaches });
      else if (low < FAR) takeIn(water, state, side, { low, top: low, reaches: foot });
    }
}

/** How far water creeps to a place in a state: along its level from either side, or down from above. */
export function creptTo(water: Water, state: number, x: number, y: number): number {
  const { sheet } = water;
  const cell = sheet.cellOf[state]!;
  const { lines, firstSlab } = chartAt(sheet, cell);
  const within = x - lines[sheet.slabOf[cell]! - firstSlab]!;
  return Math.min(creptAlong(water, state, -1, within, y), creptAlong(water, state, 1, within, y), water.whole[state]!);
}

function creepAside(water: Water, state: number, side: 1 | -1): void {
  const { sheet } = water;
  const cell = sheet.cellOf[state]!;
  const foot = side === 1 ? sheet.lowRight[cell]! : sheet.lowLeft[cell]!;
  const reached = water.reached[2 * state + (side === 1 ? 1 : 0)]!;
  for (const next of beside(sheet, cell, side)) {
    const [low, high] =
      side === 1 ? [sheet.lowLeft[next]!, sheet.highLeft[next]!] : [sheet.lowRight[next]!, sheet.highRight[next]!];
    const from = Math.max(low, foot);
    const reaches = Math.max(from, Math.min(high, reached));
    creepInto(water, state, next, side, creptOnSide(water, state, side, from), creptOnSide(water, state, side, reaches), reaches);
  }
  if (chartAt(sheet, cell).kind === 'wall' && isAtEnd(water, cell, side))
    for (const next of sheet.corners.get(cell) ?? []) {
      const least = water.crept[4 * state + (side === 1 ? LOW_RIGHT : LOW_LEFT)]!;
      const way = isAtEnd(water, next, -1) && sheet.leftOf[next]! < 0 ? 1 : -1;
      creepInto(water, state, next, way, least, least, way === 1 ? sheet.highLeft[next]! : sheet.highRight[next]!);
    }
}

/** Is a cell in the first (−1) or last (1) slab of its chart? */
function isAtEnd({ sheet }: Water, cell: number, side: 1 | -1): boolean {
  const { firstSlab, lines } = chartAt(sheet, cell);
  return sheet.slabOf[cell] === (side === 1 ? firstSlab + lines.length - 2 : firstSlab);
}

/** Into a cell beside, having crept so far at the lower and upper end of where they meet; `side`: the way the water goes there. */
function creepInto(water: Water, state: number, next: number, side: 1 | -1, low: number, top: number, reaches: number): void {
  const { sheet } = water;
  const cell = sheet.cellOf[state]!;
  const layer = layerOf(water, state);
  const back = side === 1 ? -1 : 1;
  const inside = findLayer(sheet, next, layer);
  const target = inside >= 0 ? inside : highestUpTo(sheet, next, layer);
  if (inside < 0 && layer > 0) {
    if (chartAt(sheet, cell) !== chartAt(sheet, next) && isClosedRound(sheet.pieces[layer]!)) return;
    touchingBeside(water, state, next);
    if (isHeld(water, heldBeside(water, cell, side, layer))) return;
  }
  if (low === FAR) return;
  if (target === topOf(sheet, next)) {
    // in the open only a valley's width goes on
    if (inside >= 0 && low < 0) waitToSeep(water, inside, alongSide(back, { low, top, reaches }), 2 * state);
    return;
  }
  const cover = newCover(water, target, cell);
  if (cover > 0 && isHeld(water, heldBeside(water, next, back, cover))) return;
  const fault = inside >= 0 ? {} : { why: 'short sidelap' as const, layer };
  waitToSeep(water, target, alongSide(back, { low, top, reaches }), 2 * state, fault);
}

function touchingBoth(water: Water, state: number): void {
  if (!isOpen(water, state) || !isWet(water, state)) return;
  const { sheet } = water;
  const cell = sheet.cellOf[state]!;
  const layer = layerOf(water, state);
  if (layer === 0) return;
  touchingOn(water, state, cell, layer, 1);
  touchingOn(water, state, cell, layer, -1);
  if (chartAt(sheet, cell).kind === 'wall' && !isClosedRound(sheet.pieces[layer]!))
    for (const next of sheet.corners.get(cell) ?? []) if (findLayer(sheet, next, layer) < 0) touchingBeside(water, state, next);
}

function touchingOn(water: Water, state: number, cell: number, layer: number, side: 1 | -1): void {
  const { sheet } = water;
  const first = side === 1 ? sheet.rightOf[cell]! : sheet.leftOf[cell]!;
  if (first < 0) return;
  const high = side === 1 ? sheet.highRight[cell]! : sheet.highLeft[cell]!;
  const low = side === 1 ? sheet.lowRight[cell]! : sheet.lowLeft[cell]!;
  const end = sheet.slabStart[sheet.slabOf[first]! + 1]!;
  for (let next = first; next < end; next++) {
    const otherLow = side === 1 ? sheet.lowLeft[next]! : sheet.lowRight[next]!;
    if (otherLow >= high - LINE_TOLERANCE) return;
    const otherHigh = side === 1 ? sheet.highLeft[next]! : sheet.highRight[next]!;
    if (Math.min(high, otherHigh) - Math.max(low, otherLow) <= LINE_TOLERANCE) continue;
    if (findLayer(sheet, next, layer) < 0) touchingBeside(water, state, next);
  }
}

/** Two pieces that lie open side by side and only touch: water goes in between. */
function touchingBeside(water: Water, state: number, next: number): void {
  if (!isOpen(water, state) || !isWet(water, state)) return;
  const { sheet } = water;
  const cell = sheet.cellOf[state]!;
  const layer = layerOf(water, state);
  const other = sheet.layerAt[topOf(sheet, next)]!;
  if (other === 0 || goesOn(sheet, other, cell) || goesOn(sheet, layer, next)) return;
  const under = highestUpTo(sheet, cell, Math.min(layer, other) - 1);
  if (findLayer(sheet, next, sheet.layerAt[under]!) < 0) return;
  run(water, under, 2 * state, 'goes under', 'gap', layer);
}

/** Round a corner the upstands of metal are seamed by the metal's own rule (handbook 4, Kick-out), a frame's by its maker; a cladding is one. */
const isClosedRound = ({ role }: LaidPiece): boolean => isSheddingMetal(role) || role === 'frame' || role === 'cladding';

/** Does a piece go on into a cell: itself, as a part of it elsewhere in the stack, or as the wall's own face round a corner? */
function goesOn(sheet: Sheet, layer: number, cell: number): boolean {
  const { mark, role } = sheet.pieces[layer]!;
  for (let state = topOf(sheet, cell); state > sheet.stackStart[cell]!; state--) {
    const piece = sheet.pieces[sheet.layerAt[state]!]!;
    if (piece.mark === mark || (piece.role === role && (role === 'cladding' || role === 'frame'))) return true;
  }
  return false;
}

/** Past a slanting edge in the slab itself, into the cell above it. */
function creepPastSlant(water: Water, state: number): void {
  const { sheet, crept, reached } = water;
  const cell = sheet.cellOf[state]!;
  const above = sheet.above[cell]!;
  if (above < 0 || Math.abs(slantBelow(sheet, above)) < SLANTS) return;
  const layer = layerOf(water, state);
  const onTop = (side: 0 | 1, high: number): number =>
    reached[2 * state + side]! >= high - LINE_TOLERANCE ? crept[4 * state + 2 * side + 1]! : FAR;
  const [left, right] = [onTop(0, sheet.highLeft[cell]!), onTop(1, sheet.highRight[cell]!)];
  const distance = Math.min(left, right);
  if (distance === FAR) return;
  const inside = findLayer(sheet, above, layer);
  const target = inside >= 0 ? inside : highestUpTo(sheet, above, layer);
  if (inside < 0 && layer > 0 && isHeld(water, heldBelow(water, above, layer) ?? 'open')) return;
  if (target === topOf(sheet, above)) {
    if (inside >= 0 && distance < 0)
      waitToSeep(water, inside, alongBottom(water, inside >= 0 ? inside : target, left, right), 2 * state);
    return;
  }
  const cover = newCover(water, target, cell);
  if (cover > 0 && isHeld(water, heldBelow(water, above, cover) ?? 'open')) return;
  const fault = inside >= 0 ? {} : { why: 'short sidelap' as const, layer };
  waitToSeep(water, target, alongBottom(water, inside >= 0 ? inside : target, left, right), 2 * state, fault);
}

/** In a valley the water runs as wide as it is deep: so far from its line it is not yet creeping. */
export function spreadOut(water: Water, state: number): void {
  const { sheet } = water;
  const spread = sheet.valleys.get(sheet.cellOf[state]!)?.spread ?? 0;
  if (spread > 0 && isOpen(water, state) && isWet(water, state))
    seep(water, state, alongBottom(water, state, -spread, -spread), water.parent[2 * state]!);
}
