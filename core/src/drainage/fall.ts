import { type EdgeHold, ROLES } from '../assembly/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import { creptBelow } from './creep.ts';
import { HOLDS, type OnLine, type Sheet, beside, chartAt, findLayer, highestUpTo, slantBelow, topOf } from './sheet.ts';
import {
  type Entry,
  type Cause,
  LOW_LEFT,
  LOW_RIGHT,
  type Move,
  type Water,
  alongBottom,
  alongSide,
  alongTop,
  everywhere,
  harm,
  heldBelow,
  heldBeside,
  isHeld,
  isOpen,
  isSideways,
  isWet,
  layerOf,
  leastCrept,
  middleX,
  newCover,
  nodeOf,
  run,
  seep,
  turnsOver,
  waitToSeep,
} from './water.ts';

/** Steeper than this a fold is not level: water runs along it one way only. */
const LEVEL = 1e-3;

/** Water goes on down: in its slab, down a valley, on to the slope below a wall, along what it meets, or over the eave. */
export function fall(water: Water, state: number): void {
  const { sheet } = water;
  const cell = sheet.cellOf[state]!;
  const chart = chartAt(sheet, cell);
  const below = sheet.below[cell]!;
  if (chart.kind === 'wall') {
    if (below >= 0) comeDown(water, state, below, cell);
    else for (const roof of sheet.landing.get(cell) ?? []) landOn(water, state, roof);
    return;
  }
  const drift = sheet.drift[cell]! as -1 | 0 | 1;
  if (drift !== 0) {
    const aside = beside(sheet, cell, drift);
    for (const next of aside) passInto(water, state, next, drift);
    if (aside.length > 0) return;
  }
  const valley = sheet.valleys.get(cell);
  if (valley) {
    if (valley.next >= 0) comeDown(water, state, valley.next, -1);
    for (const across of valley.across) crossValley(water, state, valley, across);
    if (valley.next < 0 && chart.hasEave) leave(water, state);
    return;
  }
  const atEave = chart.hasEave && Math.min(sheet.lowLeft[cell]!, sheet.lowRight[cell]!) <= LINE_TOLERANCE;
  if (atEave && (below < 0 || findLayer(sheet, below, layerOf(water, state)) < 0)) return leave(water, state);
  if (below >= 0) return comeDown(water, state, below, cell);
  const slant = slantBelow(sheet, cell);
  for (const side of [-1, 1] as const) {
    if (slant * side > LEVEL) continue;
    const next = beside(sheet, cell, side)[0];
    if (next !== undefined) passInto(water, state, next, side);
  }
}

/**
 * Water comes down into a cell: where it lands, and what it goes under if it lay open. `boundary`: the cell whose lower boundary it passes; −1 down
 * a valley, from one slab into the next.
 */
function comeDown(water: Water, from: number, cell: number, boundary: number): void {
  const { sheet } = water;
  const before = sheet.cellOf[from]!;
  const layer = layerOf(water, from);
  const lay = isOpen(water, from) && isWet(water, from);
  let target = highestUpTo(sheet, cell, layer);
  let why: Cause = 'none';
  let who = 0;
  const into = letInBelow(water, boundary);
  if (into > sheet.layerAt[target]!) target = findLayer(sheet, cell, into);
  while (target < topOf(sheet, cell)) {
    const above = sheet.layerAt[target + 1]!;
    if (findLayer(sheet, before, above) >= 0) break;
    const hold = holdFacing(water, boundary, before, cell, above);
    const sideways = boundary >= 0 && isSideways(water, boundary);
    // stuck down and facing sideways, water runs off along it as it comes
    if (turnsOver(water, hold) || (hold === 'bonded' && sideways)) target++;
    else if (!lay) break;
    else if (sideways) {
      // over it, and under it as far as water creeps
      const under = target;
      waitToSeep(water, under, everywhere(water, under, 0), 2 * from, { why: 'short sidelap', layer: above });
      target++;
    } else {
      why = 'reverse lap';
      who = above;
      break;
    }
  }
  if (isWet(water, from)) flowOn(water, from, target, why === 'none' ? 'falls' : 'goes under', why, who);
  else {
    // a valley's width counts where it is a valley's water, not for what falls from there
    const [left, right] = [Math.max(0, water.crept[4 * from + LOW_LEFT]!), Math.max(0, water.crept[4 * from + LOW_RIGHT]!)];
    const least = Math.min(left, right);
    const at =
      boundary >= 0
        ? { ...alongTop(water, target, left, right), whole: water.whole[from]! }
        : alongBottom(water, target, least, least);
    seep(water, target, at, 2 * from, { how: why === 'none' ? 'falls' : 'goes under', why, layer: who });
  }
  // an edge that ends where another piece begins, lapped by nothing: water goes in between
  if (boundary >= 0 && why === 'none' && layer > 0) touchingBelow(water, from, target, cell, boundary);
}

/** The uppermost piece that is let into the wall along a boundary: what runs on the wall itself comes out on it, whatever lies between; 0: none. */
function letInBelow({ sheet }: Water, boundary: number): number {
  if (boundary < 0) return 0;
  let layer = 0;
  for (let i = sheet.edgeStart[boundary]!; i < sheet.edgeStart[boundary + 1]!; i++)
    if (sheet.edgeUpper[i] && HOLDS[sheet.edgeHold[i]!] === 'letIn') layer = Math.max(layer, sheet.edgeLayer[i]!);
  return layer;
}

/** Running water goes on into another state. */
function flowOn(water: Water, from: number, to: number, how: Move, why: Cause = 'none', layer = 0): void {
  const cameOn = layerOf(water, to) === layerOf(water, from) ? water.cameOn[from]! : undefined;
  run(water, to, 2 * from, how, why, layer, cameOn);
}

function touchingBelow(water: Water, from: number, target: number, cell: number, boundary: number): void {
  const { sheet } = water;
  const [layer, next] = [layerOf(water, from), layerOf(water, target)];
  if (next === layer || next === 0 || sheet.pieces[next]!.mark === sheet.pieces[layer]!.mark) return;
  const hold = heldBelow(water, boundary, next);
  if (hold === undefined || isHeld(water, hold) || heldBelow(water, boundary, layer) === undefined) return;
  if (findLayer(sheet, sheet.cellOf[from]!, next) >= 0 || findLayer(sheet, cell, layer) >= 0) return;
  const under = highestUpTo(sheet, cell, next - 1);
  if (isWet(water, from)) run(water, under, 2 * from, 'goes under', 'gap', layer);
}

/** How an edge that water coming down meets is held. */
function holdFacing(water: Water, boundary: number, before: number, cell: number, layer: number): EdgeHold {
  if (boundary >= 0) return heldBelow(water, boundary, layer) ?? 'open';
  const side = water.sheet.slabOf[cell]! > water.sheet.slabOf[before]! ? -1 : 1;
  return heldBeside(water, cell, side, layer);
}

/** From a wall on to the slope below: under a course that is under cover, judged by where the water comes out. */
function landOn(water: Water, from: number, roof: number): void {
  const target = highestUpTo(water.sheet, roof, layerOf(water, from));
  if (isWet(water, from)) flowOn(water, from, target, 'falls');
  else seep(water, target, everywhere(water, target, leastCrept(water, from)), 2 * from, { how: 'falls' });
}

/** Water goes on into a cell beside: over a piece that lies there above it, and under that as far as it creeps. */
function passInto(water: Water, state: number, cell: number, side: 1 | -1): void {
  const { sheet } = water;
  const target = highestUpTo(sheet, cell, layerOf(water, state));
  const top = topOf(sheet, cell);
  if (!isOpen(water, state) || target === top) {
    if (isWet(water, state)) return flowOn(water, state, target, 'falls');
    return seep(water, target, fromSide(sheet, cell, side, leastCrept(water, state)), 2 * state, { how: 'falls' });
  }
  run(water, top, 2 * state, 'falls');
  const cover = newCover(water, target, sheet.cellOf[state]!);
  if (cover > 0 && isHeld(water, heldBeside(water, cell, side === 1 ? -1 : 1, cover))) return;
  waitToSeep(water, target, fromSide(sheet, cell, side, 0), 2 * state, { why: 'short sidelap', layer: Math.max(0, cover) });
}

/** Into a cell along its whole border, going to one side. */
const fromSide = (sheet: Sheet, cell: number, side: 1 | -1, distance: number): Entry =>
  alongSide(side === 1 ? -1 : 1, {
    low: distance,
    top: distance,
    reaches: side === 1 ? sheet.highLeft[cell]! : sheet.highRight[cell]!,
  });

/** Over a valley's line on to the other slope: over what lies there above, and under it as far as the water is wide or creeps. */
function crossValley(water: Water, state: number, own: OnLine, other: OnLine): void {
  const { sheet } = water;
  const spread = sheet.valleys.get(other.cell)?.spread ?? 0;
  // at its very head a valley has no water to go anywhere but down
  if (spread === 0 && !isWet(water, state)) return;
  const target = highestUpTo(sheet, other.cell, layerOf(water, state));
  const top = topOf(sheet, other.cell);
  if (!isOpen(water, state) || target === top) {
    const reaches = own.to >= other.to - 1e-3;
    const [low, high] = [creptAtShare(water, state, own, other.from), reaches ? creptAtShare(water, state, own, other.to) : FAR];
    const at = risesRight(sheet, other.cell) ? alongBottom(water, target, low, high) : alongBottom(water, target, high, low);
    if (isWet(water, state)) flowOn(water, state, target, 'falls');
    return seep(water, target, at, 2 * state, { how: 'falls' });
  }
  run(water, top, 2 * state, 'falls');
  if (spread === 0) return;
  const cover = sheet.layerAt[target + 1]!;
  // a self-adhered sheet is stuck down all along
  if (isHeld(water, heldBelow(water, other.cell, cover) ?? (sheet.pieces[cover]!.sealsNails ? 'bonded' : 'open'))) return;
  waitToSeep(water, target, alongBottom(water, target, -spread, -spread), 2 * state);
}

const FAR = Number.POSITIVE_INFINITY;
const risesRight = (sheet: Sheet, cell: number): boolean => sheet.lowRight[cell]! > sheet.lowLeft[cell]!;

/** How far water has crept at a share of a valley's line, along a cell's lower boundary on it. */
function creptAtShare(water: Water, state: number, { cell, from, to }: OnLine, share: number): number {
  const { sheet } = water;
  const up = Math.max(0, Math.min(1, (share - from) / (to - from)));
  return creptBelow(water, state, risesRight(sheet, cell) ? up : 1 - up);
}

/** Water leaves the chart at the eave: on the covering, the eave metal, or a sheet that laps over that metal, it is drained. */
function leave(water: Water, state: number): void {
  const { sheet } = water;
  const cell = sheet.cellOf[state]!;
  const layer = layerOf(water, state);
  const surfaceAt = (at: number) => ROLES[sheet.pieces[sheet.layerAt[at]!]!.role].surface;
  const overMetal = (): boolean => {
    if (Math.max(sheet.highLeft[cell]!, sheet.highRight[cell]!) <= LINE_TOLERANCE) return true; // folded down over the deck edge
    for (let at = state - 1; at > sheet.stackStart[cell]!; at--) if (surfaceAt(at) === 'eave metal') return true;
    return false;
  };
  const drained = layer > 0 && (surfaceAt(state) !== 'sheet' || overMetal());
  if (!drained) harm(water, nodeOf(water, state), 'exit', 'gap', layer);
  if (!water.finished || leastCrept(water, state) > 0) return;
  const x = middleX(sheet, cell);
  for (const { chart, from, to } of sheet.runsOn) {
    if (chart !== sheet.chartOfSlab[sheet.slabOf[cell]!] || x < from || x > to) continue;
    let kicked = false;
    for (let at = sheet.stackStart[cell]! + 1; at <= topOf(sheet, cell); at++)
      kicked ||= sheet.pieces[sheet.layerAt[at]!]!.role === 'kickOut';
    if (!kicked) harm(water, 2 * state, 'exit', 'gap', layer);
  }
}
