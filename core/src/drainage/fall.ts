import { type EdgeHold, ROLES } from '../assembly/index.ts';
import type { Point } from '../roof/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import {
  type Foot,
  HOLDS,
  type ValleyCell,
  beside,
  borderHigh,
  borderLow,
  borderX,
  cellAtPoint,
  chartAt,
  findLayer,
  highAt,
  highestOf,
  highestUpTo,
  lowAt,
  lowestOf,
  slantBelow,
  topOf,
} from './sheet.ts';
import {
  FAR,
  type Stretch,
  creptAt,
  leastAlong,
  leastOf,
  leftEnd,
  place,
  rightEnd,
  stretch,
  through,
  within,
} from './stretch.ts';
import {
  PAST,
  type Water,
  type Why,
  creepTo,
  flowOn,
  harm,
  heldBelow,
  heldBeside,
  isHeld,
  isOpen,
  isSideways,
  isWet,
  layerOf,
  lineBetween,
  newCover,
  nodeOf,
  rowsBetween,
  seep,
  turnsOver,
  wait,
} from './water.ts';

/** Steeper than this a fold is not level: water runs along it one way only. */
const LEVEL = 1e-3;

/** Water goes on down: straight down its surface, down a valley, on to the slope below a wall, along what it meets, or over the eave. */
export function fall(water: Water, state: number, from: Stretch): void {
  const { sheet } = water;
  const cell = sheet.cellOf[state]!;
  const chart = chartAt(sheet, cell);
  const { start, cells } = sheet.below;
  const [first, end] = [start[cell]!, start[cell + 1]!];
  if (chart.kind === 'wall') {
    for (let i = first; i < end; i++) fallInto(water, state, from, cells[i]!);
    if (first < end) return;
    for (const foot of sheet.landing.get(cell) ?? []) landOn(water, state, from, foot);
    if (chart.cavity) alongTray(water, state, from);
    return;
  }
  const drift = sheet.drift[cell]! as -1 | 0 | 1;
  if (drift !== 0 && driftAside(water, state, from, drift)) return;
  const valley = sheet.valleys.get(cell);
  if (valley) return runDown(water, state, from, valley);
  const atEave = chart.hasEave && lowestOf(sheet, cell) <= LINE_TOLERANCE;
  if (atEave && first === end) return leave(water, state, from);
  for (let i = first; i < end; i++) {
    const below = cells[i]!;
    if (atEave && findLayer(sheet, below, layerOf(water, state)) < 0) leave(water, state, from);
    else fallInto(water, state, from, below);
  }
  if (first < end) return;
  const slant = slantBelow(sheet, cell);
  for (const side of [-1, 1] as const) {
    if (slant * side > LEVEL || side === -drift) continue;
    const [x, y] = [borderX(sheet, cell, side), borderLow(sheet, cell, side)];
    const next = beside(sheet, cell, side)[0] ?? cellAtPoint(sheet, sheet.chartOf[cell]!, x + side * 2 * LINE_TOLERANCE, y);
    if (next >= 0)
      passInto(water, state, next, side, place(x, Math.max(y, borderLow(sheet, next, side === 1 ? -1 : 1)), leastOf(from)));
  }
}

/** Along the foot of a tray both ways, on to what lies there, but not past an end that is dammed or bedded. */
function alongTray(water: Water, state: number, from: Stretch): void {
  const { sheet } = water;
  const cell = sheet.cellOf[state]!;
  const layer = layerOf(water, state);
  for (const side of [-1, 1] as const) {
    const next = beside(sheet, cell, side)[0];
    if (next === undefined) continue;
    if (findLayer(sheet, next, layer) < 0 && layer > 0 && isHeld(water, heldBeside(water, cell, side, layer))) continue;
    passInto(water, state, next, side, place(borderX(sheet, cell, side), borderLow(sheet, cell, side), leastOf(from)));
  }
}

/** Over the lower boundary of its cell into one below it. */
function fallInto(water: Water, state: number, from: Stretch, below: number): void {
  const { sheet } = water;
  const cell = sheet.cellOf[state]!;
  const line = lineBetween(sheet, cell, below);
  const [xa, , xb] = line;
  const meets = Math.min(xb, rightEnd(from)) - Math.max(xa, leftEnd(from));
  const wide = rightEnd(from) - leftEnd(from) > LINE_TOLERANCE;
  const over = meets > (wide ? LINE_TOLERANCE : -LINE_TOLERANCE);
  // in the open it does not spread on its way
  if (!over && isOpen(water, state)) return;
  const part = through(from, ...line);
  if (!part) return;
  const least = leastAlong(part, ...line);
  if (least === FAR) return;
  if (over && least < PAST / 2) return comeDown(water, state, part, below, cell);
  // past its end it has to creep, if ever so little
  wait(water, 'creep', Math.max(least, 0), () => comeDown(water, state, part, below, cell));
}

/**
 * Water comes down into a cell: where it lands, and what it goes under if it lay open. `boundary`: the cell whose lower boundary it passes; −1 down
 * a valley, from one cell on its line into the next.
 */
function comeDown(water: Water, from: number, by: Stretch, cell: number, boundary: number): void {
  const { sheet } = water;
  const before = sheet.cellOf[from]!;
  const layer = layerOf(water, from);
  const lay = isOpen(water, from);
  let target = highestUpTo(sheet, cell, layer);
  let why: Why | undefined;
  const into = letInBelow(water, boundary);
  if (into > sheet.layerAt[target]! && !liesBetween(water, from, cell, into)) target = findLayer(sheet, cell, into);
  while (target < topOf(sheet, cell)) {
    const above = sheet.layerAt[target + 1]!;
    if (findLayer(sheet, before, above) >= 0) break;
    const hold = holdFacing(water, boundary, before, cell, above);
    const sideways = boundary >= 0 && isSideways(water, boundary);
    // stuck down and facing sideways, water runs off along it as it comes
    if ((turnsOver(water, hold) && !liesBetween(water, from, cell, above)) || (hold === 'bonded' && sideways)) target++;
    else if (!lay) break;
    else if (sideways) {
      // over it, and under it as far as water creeps
      const [xa, ya, xb, yb] = lineBetween(sheet, boundary, cell);
      const edge = within(stretch(xa, ya, 0, xb, yb, 0), leftEnd(by), rightEnd(by));
      creepTo(water, target, edge, 2 * from, { cause: 'short sidelap', layer: above });
      target++;
    } else {
      why = { cause: 'reverse lap', layer: above };
      break;
    }
  }
  // a valley's width counts where it is a valley's water, not for what falls from there over a level edge
  const falls = boundary < 0 || Math.abs(slantBelow(sheet, boundary)) <= LEVEL;
  const at = falls && leastOf(by) < 0 ? { ...by, d0: Math.max(0, by.d0), d1: Math.max(0, by.d1) } : by;
  const share = boundary < 0 ? 1 : Math.min(1, (rightEnd(by) - leftEnd(by)) / (sheet.right[before]! - sheet.left[before]!));
  if (isWet(by)) flowOn(water, target, at, 2 * from, why ? 'goes under' : 'falls', share, why);
  else seep(water, target, at, 2 * from, why ? 'goes under' : 'falls', why);
  // an edge that ends where another piece begins, lapped by nothing: water goes in between
  if (boundary >= 0 && !why && layer > 0 && isWet(by)) touchingBelow(water, from, at, target, cell, boundary);
}

/**
 * Is a piece let into a wall over another metal of the same wall? Then it is let into nothing there, and what runs on the lower one goes behind it. What is
 * folded round from another wall ends under the joint.
 */
function liesBetween(water: Water, state: number, cell: number, over: number): boolean {
  const { sheet } = water;
  const layer = layerOf(water, state);
  const { facet } = chartAt(sheet, cell);
  const isMetal = (one: number): boolean => {
    const piece = sheet.pieces[one]!;
    return (
      piece.facet === facet && ROLES[piece.role].surface === 'wall finish' && piece.role !== 'cladding' && piece.role !== 'frame'
    );
  };
  return isMetal(layer) && isMetal(over) && findLayer(sheet, cell, layer) >= 0;
}

/** The uppermost piece that is let into the wall along a boundary: what runs on the wall itself comes out on it, whatever lies between; 0: none. */
function letInBelow({ sheet }: Water, boundary: number): number {
  if (boundary < 0) return 0;
  let layer = 0;
  for (let i = sheet.edgeStart[boundary]!; i < sheet.edgeStart[boundary + 1]!; i++)
    if (sheet.edgeUpper[i] && HOLDS[sheet.edgeHold[i]!] === 'letIn') layer = Math.max(layer, sheet.edgeLayer[i]!);
  return layer;
}

function touchingBelow(water: Water, from: number, by: Stretch, target: number, cell: number, boundary: number): void {
  const { sheet } = water;
  const [layer, next] = [layerOf(water, from), layerOf(water, target)];
  if (next === layer || next === 0 || sheet.pieces[next]!.mark === sheet.pieces[layer]!.mark) return;
  const hold = heldBelow(water, boundary, next);
  if (hold === undefined || isHeld(water, hold) || heldBelow(water, boundary, layer) === undefined) return;
  if (findLayer(sheet, sheet.cellOf[from]!, next) >= 0 || findLayer(sheet, cell, layer) >= 0) return;
  seep(water, highestUpTo(sheet, cell, next - 1), by, 2 * from, 'goes under', { cause: 'gap', layer });
}

/** How an edge that water coming down meets is held. */
function holdFacing(water: Water, boundary: number, before: number, cell: number, layer: number): EdgeHold {
  if (boundary >= 0) return heldBelow(water, boundary, layer) ?? 'open';
  return heldBeside(water, cell, water.sheet.left[cell]! >= water.sheet.left[before]! ? -1 : 1, layer);
}

/** From a wall on to the slope below: under a course that is under cover, judged by where the water comes out. */
function landOn(water: Water, state: number, from: Stretch, { wall, roof, at }: Foot): void {
  const { sheet } = water;
  const { raking } = chartAt(sheet, wall);
  let by: Stretch | undefined;
  if (at === 'left' || at === 'right') {
    const k = Math.hypot(1, raking!);
    const side = at === 'right' ? 1 : -1;
    const low = Math.max(sheet.left[wall]! * k, borderLow(sheet, roof, side));
    const high = Math.min(sheet.right[wall]! * k, borderHigh(sheet, roof, side));
    const crept = (y: number): number => creptAt(from, y / k, lowAt(sheet, wall, y / k));
    const top = crept(high);
    const x = borderX(sheet, roof, side);
    // in the open it only falls from where it is
    if (isOpen(water, state)) {
      const [foot, head] = [Math.max(low, leftEnd(from) * k), Math.min(high, rightEnd(from) * k)];
      if (head < foot) return;
      by = stretch(x, foot, 0, x, head, 0);
    } else by = stretch(x, low, Math.min(crept(low), top), x, high, top);
  } else {
    const xa = Math.max(sheet.left[wall]!, sheet.left[roof]!);
    const xb = Math.min(sheet.right[wall]!, sheet.right[roof]!);
    const part = through(from, xa, lowAt(sheet, wall, xa), xb, lowAt(sheet, wall, xb));
    if (!part || (isOpen(water, state) && (rightEnd(from) < xa || leftEnd(from) > xb))) return;
    const y = (x: number): number => (at === 'top' ? highAt(sheet, roof, x) : lowAt(sheet, roof, x));
    by = stretch(part.x0, y(part.x0), part.d0, part.x1, y(part.x1), part.d1);
  }
  if (leastOf(by) === FAR) return;
  const on = by.d1 === FAR ? { ...by, x1: by.x0, y1: by.y0, d1: by.d0 } : by;
  const target = highestUpTo(sheet, roof, layerOf(water, state));
  if (leastOf(on) <= 0) flowOn(water, target, on, 2 * state, 'falls', 1);
  else wait(water, 'creep', leastOf(on), () => seep(water, target, on, 2 * state, 'falls'));
}

/** Where the surface sheds sideways first; false where nothing lies that way. */
function driftAside(water: Water, state: number, from: Stretch, drift: 1 | -1): boolean {
  const { sheet } = water;
  const cell = sheet.cellOf[state]!;
  const aside = beside(sheet, cell, drift);
  const [x, d] = [borderX(sheet, cell, drift), leastOf(from)];
  let passed = false;
  for (const next of aside) {
    const [low, high] = rowsBetween(sheet, cell, next, drift);
    if (from.y1 < low - LINE_TOLERANCE) continue;
    passInto(water, state, next, drift, stretch(x, low, d, x, Math.max(low, Math.min(high, from.y1)), d));
    passed = true;
  }
  return passed;
}

/** Water goes on into a cell beside: over a piece that lies there above it, and under that as far as it creeps. */
function passInto(water: Water, state: number, cell: number, side: 1 | -1, by: Stretch): void {
  const { sheet } = water;
  const target = highestUpTo(sheet, cell, layerOf(water, state));
  const top = topOf(sheet, cell);
  // along a level fold half of it goes each way
  const share = sheet.drift[sheet.cellOf[state]!] === 0 && Math.abs(slantBelow(sheet, sheet.cellOf[state]!)) <= LEVEL ? 0.5 : 1;
  if (!isOpen(water, state) || target === top) return flowOn(water, target, by, 2 * state, 'falls', share);
  flowOn(water, top, by, 2 * state, 'falls', share);
  const cover = newCover(water, target, sheet.cellOf[state]!);
  if (cover > 0 && isHeld(water, heldBeside(water, cell, side === 1 ? -1 : 1, cover))) return;
  creepTo(water, target, { ...by, d0: 0, d1: 0 }, 2 * state, { cause: 'short sidelap', layer: Math.max(0, cover) });
}

const pointAt = ([low, high]: readonly [Point, Point], share: number): Point => [
  low[0] + (high[0] - low[0]) * share,
  low[1] + (high[1] - low[1]) * share,
];

/** A stretch of a valley's line between two shares of it. */
export function onValley(line: readonly [Point, Point], from: number, to: number, dFrom: number, dTo: number): Stretch {
  return stretch(...pointAt(line, from), dFrom, ...pointAt(line, to), dTo);
}

/** Down the line of a valley, and over it. */
function runDown(water: Water, state: number, from: Stretch, valley: ValleyCell): void {
  const { sheet } = water;
  for (const across of valley.across) crossValley(water, state, from, valley, across);
  if (valley.next < 0) {
    if (chartAt(sheet, valley.cell).hasEave) leave(water, state, from);
    return;
  }
  const d = Math.max(0, leastOf(from));
  const next = sheet.valleys.get(valley.next);
  const by = next ? onValley(next.line, next.from, next.to, d, d) : place(...pointAt(valley.line, valley.from), d);
  comeDown(water, state, by, valley.next, -1);
}

/** Over a valley's line on to the other slope: over what lies there above, and under it as far as the water is wide or creeps. */
function crossValley(water: Water, state: number, from: Stretch, own: ValleyCell, other: ValleyCell['across'][number]): void {
  const { sheet } = water;
  const spread = sheet.valleys.get(other.cell)?.spread ?? 0;
  // at its very head a valley has no water to go anywhere but down
  if (spread === 0 && !isWet(from)) return;
  const low = Math.max(own.from, other.from);
  let high = Math.min(own.to, other.to);
  const [[, foot], [, head]] = own.line;
  high = Math.min(high, (from.y1 - foot) / (head - foot));
  if (high <= low) return;
  const dHigh = creptAt(from, ...pointAt(own.line, high));
  const dLow = Math.min(dHigh, creptAt(from, ...pointAt(own.line, low)));
  if (dHigh === FAR) return;
  const target = highestUpTo(sheet, other.cell, layerOf(water, state));
  const top = topOf(sheet, other.cell);
  if (!isOpen(water, state) || target === top) {
    const by = onValley(other.line, low, high, dLow, dHigh);
    if (leastOf(by) <= 0) return seep(water, target, by, 2 * state, 'falls');
    return wait(water, 'creep', leastOf(by), () => seep(water, target, by, 2 * state, 'falls'));
  }
  seep(water, top, onValley(other.line, low, high, 0, 0), 2 * state, 'falls');
  if (spread === 0) return;
  const cover = sheet.layerAt[target + 1]!;
  // a self-adhered sheet is stuck down all along
  if (isHeld(water, heldBelow(water, other.cell, cover) ?? (sheet.pieces[cover]!.sealsNails ? 'bonded' : 'open'))) return;
  creepTo(water, target, onValley(other.line, low, high, -spread, -spread), 2 * state);
}

/** Water leaves the chart at the eave: on the covering, the eave metal, or a sheet that laps over that metal, it is drained. */
function leave(water: Water, state: number, from: Stretch): void {
  const { sheet } = water;
  const cell = sheet.cellOf[state]!;
  const layer = layerOf(water, state);
  const surfaceAt = (at: number) => ROLES[sheet.pieces[sheet.layerAt[at]!]!.role].surface;
  const overMetal = (): boolean => {
    if (highestOf(sheet, cell) <= LINE_TOLERANCE) return true; // folded down over the deck edge
    for (let at = state - 1; at > sheet.stackStart[cell]!; at--) if (surfaceAt(at) === 'eave metal') return true;
    return false;
  };
  const drained = layer > 0 && (surfaceAt(state) !== 'sheet' || overMetal());
  if (drained && isWet(from)) water.drained = true;
  const why: Why = { cause: 'gap', layer };
  if (!drained && isWet(from)) harm(water, nodeOf(water, state), 'eave', why);
  else if (!drained) wait(water, 'creep', leastOf(from), () => harm(water, nodeOf(water, state), 'eave', why));
  if (!water.finished || !isWet(from)) return;
  for (const { chart, from: left, to: right } of sheet.runsOn) {
    if (chart !== sheet.chartOf[cell]) continue;
    if (Math.min(right, rightEnd(from), sheet.right[cell]!) - Math.max(left, leftEnd(from), sheet.left[cell]!) <= LINE_TOLERANCE)
      continue;
    let kicked = false;
    for (let at = sheet.stackStart[cell]! + 1; at <= topOf(sheet, cell); at++)
      kicked ||= sheet.pieces[sheet.layerAt[at]!]!.role === 'kickOut';
    if (!kicked) harm(water, 2 * state, 'runs on', why);
  }
}
