import { type EdgeHold, ROLES, type Role } from '../assembly/index.ts';
import type { Point } from '../roof/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import {
  type Foot,
  HOLDS,
  type ValleyCell,
  alongFoot,
  beside,
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
} from './mesh.ts';
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
  const { mesh } = water;
  const cell = mesh.cellOf[state]!;
  const chart = chartAt(mesh, cell);
  const { start, cells } = mesh.below;
  const [first, end] = [start[cell]!, start[cell + 1]!];
  if (chart.kind === 'wall') {
    for (let i = first; i < end; i++) fallInto(water, state, from, cells[i]!);
    if (first < end) return;
    for (const foot of mesh.landing.get(cell) ?? []) landOn(water, state, from, foot);
    if (chart.cavity) alongTray(water, state, from);
    return;
  }
  if (standsAtBatten(water, state, from)) return;
  const drift = mesh.drift[cell]! as -1 | 0 | 1;
  if (drift !== 0 && driftAside(water, state, from, drift)) return;
  const valley = mesh.valleys.get(cell);
  if (valley) return runDown(water, state, from, valley);
  // one that ends in a corner there comes down on what lies below its slanting edge
  const atEave =
    chart.hasEave && Math.max(mesh.lowLeft[cell]!, mesh.lowRight[cell]!) <= LINE_TOLERANCE && !endsAtWall(water, cell);
  if (atEave && first === end) return leave(water, state, from);
  const kept = isTurnedUp(water, state);
  for (let i = first; i < end && !kept; i++) {
    const below = cells[i]!;
    if (atEave && findLayer(mesh, below, layerOf(water, state)) < 0) leave(water, state, from);
    else fallInto(water, state, from, below);
  }
  if (first < end && !kept) return;
  const slant = slantBelow(mesh, cell);
  for (const side of [-1, 1] as const) {
    if (slant * side > LEVEL || side === -drift) continue;
    const [x, y] = [borderX(mesh, cell, side), borderLow(mesh, cell, side)];
    const next = beside(mesh, cell, side)[0] ?? cellAtPoint(mesh, mesh.chartOf[cell]!, x + side * 2 * LINE_TOLERANCE, y);
    // the corner of a wall at an angle at the eave
    if (next >= 0 && chart.hasEave && highestOf(mesh, next) <= LINE_TOLERANCE && findLayer(mesh, next, layerOf(water, state)) < 0)
      leave(water, state, from);
    else if (next >= 0)
      passInto(water, state, next, side, place(x, Math.max(y, borderLow(mesh, next, side === 1 ? -1 : 1)), leastOf(from)));
  }
}

/**
 * Does water on the field's sheet come to a batten that lies unbroken on it? There it stands, at the batten's nails, which is harm of its own where the sheet
 * is to shed it. Before the tiles are on there are no battens.
 */
function standsAtBatten(water: Water, state: number, from: Stretch): boolean {
  const { mesh, finished } = water;
  const cell = mesh.cellOf[state]!;
  const { dams, sheetSheds } = chartAt(mesh, cell);
  const layer = layerOf(water, state);
  if (!finished || !dams || !BATTENED.includes(mesh.pieces[layer]!.role)) return false;
  const [low, high] = [lowestOf(mesh, cell), Math.min(highestOf(mesh, cell), Math.max(from.y0, from.y1))];
  if (!dams.some((at) => at > low - LINE_TOLERANCE && at <= high + LINE_TOLERANCE)) return false;
  if (sheetSheds) harm(water, nodeOf(water, state), 'stands', { cause: 'gap', layer });
  return true;
}

/** Sheets that battens lie on. */
const BATTENED: readonly Role[] = ['underlayment', 'iceBarrier'];

/** Does a cell end below at a wall at an angle? It comes down to the eave at its corner alone. */
const endsAtWall = ({ mesh }: Water, cell: number): boolean =>
  Math.abs(slantBelow(mesh, cell)) > LEVEL &&
  (mesh.rises.get(cell) ?? []).some(
    ({ at, line: [foot, top] }) => (at === 'left' || at === 'right') && Math.abs(top[0] - foot[0]) > LINE_TOLERANCE,
  );

/** Does water in a channel come to its side, which is turned up and leads it on along it? */
function isTurnedUp(water: Water, state: number): boolean {
  const { mesh } = water;
  const cell = mesh.cellOf[state]!;
  const layer = layerOf(water, state);
  return (
    ROLES[mesh.pieces[layer]!.role].surface === 'channel metal' &&
    isSideways(water, cell) &&
    heldBelow(water, cell, layer) === 'letIn'
  );
}

/** Along the foot of a tray both ways, on to what lies there, but not past an end that is dammed or bedded. */
function alongTray(water: Water, state: number, from: Stretch): void {
  const { mesh } = water;
  const cell = mesh.cellOf[state]!;
  const layer = layerOf(water, state);
  for (const side of [-1, 1] as const) {
    const next = beside(mesh, cell, side)[0];
    if (next === undefined) continue;
    if (findLayer(mesh, next, layer) < 0 && layer > 0 && isHeld(water, heldBeside(water, cell, side, layer))) continue;
    passInto(water, state, next, side, place(borderX(mesh, cell, side), borderLow(mesh, cell, side), leastOf(from)));
  }
}

/** Over the lower boundary of its cell into one below it. */
function fallInto(water: Water, state: number, from: Stretch, below: number): void {
  const { mesh } = water;
  const cell = mesh.cellOf[state]!;
  const line = lineBetween(mesh, cell, below);
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
  const { mesh } = water;
  const before = mesh.cellOf[from]!;
  const layer = layerOf(water, from);
  const lay = isOpen(water, from);
  let target = highestUpTo(mesh, cell, layer);
  let why: Why | undefined;
  const into = letInBelow(water, boundary);
  if (into > mesh.layerAt[target]! && !liesBetween(water, from, cell, into)) target = findLayer(mesh, cell, into);
  while (target < topOf(mesh, cell)) {
    const above = mesh.layerAt[target + 1]!;
    if (findLayer(mesh, before, above) >= 0) break;
    const hold = holdFacing(water, boundary, before, cell, above);
    const sideways = boundary >= 0 && isSideways(water, boundary);
    // stuck down and facing sideways, water runs off along it as it comes
    if ((turnsOver(water, hold) && !liesBetween(water, from, cell, above)) || (hold === 'bonded' && sideways)) target++;
    else if (!lay) break;
    // out of a pan it runs on under what crosses it from crown to crown
    else if (sideways && mesh.pieces[layer]!.crowns) break;
    else if (sideways) {
      // over it, and under it as far as water creeps
      const [xa, ya, xb, yb] = lineBetween(mesh, boundary, cell);
      const edge = within(stretch(xa, ya, 0, xb, yb, 0), leftEnd(by), rightEnd(by));
      creepTo(water, target, edge, 2 * from, { cause: 'short sidelap', layer: above });
      target++;
    } else {
      why = { cause: 'reverse lap', layer: above };
      break;
    }
  }
  why ??= endsUnderCover(water, from, target, boundary);
  // a valley's width counts where it is a valley's water, not for what falls from there over a level edge
  const falls = boundary < 0 || Math.abs(slantBelow(mesh, boundary)) <= LEVEL;
  const at = falls && leastOf(by) < 0 ? { ...by, d0: Math.max(0, by.d0), d1: Math.max(0, by.d1) } : by;
  const share = boundary < 0 ? 1 : Math.min(1, (rightEnd(by) - leftEnd(by)) / (mesh.right[before]! - mesh.left[before]!));
  if (isWet(by)) flowOn(water, target, at, 2 * from, why ? 'goes under' : 'falls', share, why);
  else seep(water, target, at, 2 * from, why ? 'goes under' : 'falls', why);
  // an edge that ends where another piece begins, lapped by nothing: water goes in between
  if (boundary >= 0 && !why && layer > 0 && isWet(by)) touchingBelow(water, from, at, target, cell, boundary);
}

/** Water of a pan comes off a cut edge that is covered, with nothing below to lead it on: what covers it there does not reach far enough. */
function endsUnderCover(water: Water, from: number, target: number, boundary: number): Why | undefined {
  const { mesh } = water;
  const layer = layerOf(water, from);
  if (boundary < 0 || !mesh.pieces[layer]!.crowns || isOpen(water, from) || !isSideways(water, boundary)) return undefined;
  const on = mesh.layerAt[target]!;
  return on === 0 || ROLES[mesh.pieces[on]!.role].surface === 'sheet'
    ? { cause: 'short sidelap', layer: mesh.layerAt[from + 1]! }
    : undefined;
}

/**
 * Is a piece let into a wall over another metal of the same wall? Then it is let into nothing there, and what runs on the lower one goes behind it. What is
 * folded round from another wall ends under the joint.
 */
function liesBetween(water: Water, state: number, cell: number, over: number): boolean {
  const { mesh } = water;
  const layer = layerOf(water, state);
  const { facet } = chartAt(mesh, cell);
  const isMetal = (one: number): boolean => {
    const piece = mesh.pieces[one]!;
    return (
      piece.facet === facet && ROLES[piece.role].surface === 'wall finish' && piece.role !== 'cladding' && piece.role !== 'frame'
    );
  };
  return isMetal(layer) && isMetal(over) && findLayer(mesh, cell, layer) >= 0;
}

/** The uppermost piece that is let into the wall along a boundary: what runs on the wall itself comes out on it, whatever lies between; 0: none. */
function letInBelow({ mesh }: Water, boundary: number): number {
  if (boundary < 0) return 0;
  let layer = 0;
  for (let i = mesh.edgeStart[boundary]!; i < mesh.edgeStart[boundary + 1]!; i++)
    if (mesh.edgeUpper[i] && HOLDS[mesh.edgeHold[i]!] === 'letIn') layer = Math.max(layer, mesh.edgeLayer[i]!);
  return layer;
}

function touchingBelow(water: Water, from: number, by: Stretch, target: number, cell: number, boundary: number): void {
  const { mesh } = water;
  const [layer, next] = [layerOf(water, from), layerOf(water, target)];
  if (next === layer || next === 0 || mesh.pieces[next]!.mark === mesh.pieces[layer]!.mark) return;
  const hold = heldBelow(water, boundary, next);
  if (hold === undefined || isHeld(water, hold) || heldBelow(water, boundary, layer) === undefined) return;
  if (findLayer(mesh, mesh.cellOf[from]!, next) >= 0 || findLayer(mesh, cell, layer) >= 0) return;
  seep(water, highestUpTo(mesh, cell, next - 1), by, 2 * from, 'goes under', { cause: 'gap', layer });
}

/** How an edge that water coming down meets is held. */
function holdFacing(water: Water, boundary: number, before: number, cell: number, layer: number): EdgeHold {
  if (boundary >= 0) return heldBelow(water, boundary, layer) ?? 'open';
  return heldBeside(water, cell, water.mesh.left[cell]! >= water.mesh.left[before]! ? -1 : 1, layer);
}

/** From a wall on to the slope below: under a course that is under cover, judged by where the water comes out. */
function landOn(water: Water, state: number, from: Stretch, { wall, roof, at, line }: Foot): void {
  const { mesh } = water;
  const { raking } = chartAt(mesh, wall);
  let by: Stretch | undefined;
  if (at === 'left' || at === 'right') {
    const k = Math.hypot(1, raking!);
    const low = Math.max(mesh.left[wall]! * k, line[0][1]);
    const high = Math.min(mesh.right[wall]! * k, line[1][1]);
    const crept = (y: number): number => creptAt(from, y / k, lowAt(mesh, wall, y / k));
    const top = crept(high);
    const x = (y: number): number => alongFoot(line, y);
    // in the open it only falls from where it is
    if (isOpen(water, state)) {
      const [foot, head] = [Math.max(low, leftEnd(from) * k), Math.min(high, rightEnd(from) * k)];
      if (head < foot) return;
      by = stretch(x(foot), foot, 0, x(head), head, 0);
    } else by = stretch(x(low), low, Math.min(crept(low), top), x(high), high, top);
  } else {
    const xa = Math.max(mesh.left[wall]!, mesh.left[roof]!);
    const xb = Math.min(mesh.right[wall]!, mesh.right[roof]!);
    const part = through(from, xa, lowAt(mesh, wall, xa), xb, lowAt(mesh, wall, xb));
    if (!part || (isOpen(water, state) && (rightEnd(from) < xa || leftEnd(from) > xb))) return;
    const y = (x: number): number => (at === 'top' ? highAt(mesh, roof, x) : lowAt(mesh, roof, x));
    by = stretch(part.x0, y(part.x0), part.d0, part.x1, y(part.x1), part.d1);
  }
  if (leastOf(by) === FAR) return;
  const on = by.d1 === FAR ? { ...by, x1: by.x0, y1: by.y0, d1: by.d0 } : by;
  const target = highestUpTo(mesh, roof, layerOf(water, state));
  if (leastOf(on) <= 0) flowOn(water, target, on, 2 * state, 'falls', 1);
  else wait(water, 'creep', leastOf(on), () => seep(water, target, on, 2 * state, 'falls'));
}

/** Where the surface sheds sideways first; false where nothing lies that way. */
function driftAside(water: Water, state: number, from: Stretch, drift: 1 | -1): boolean {
  const { mesh } = water;
  const cell = mesh.cellOf[state]!;
  const aside = beside(mesh, cell, drift);
  const [x, d] = [borderX(mesh, cell, drift), leastOf(from)];
  let passed = false;
  for (const next of aside) {
    const [low, high] = rowsBetween(mesh, cell, next, drift);
    if (from.y1 < low - LINE_TOLERANCE) continue;
    passInto(water, state, next, drift, stretch(x, low, d, x, Math.max(low, Math.min(high, from.y1)), d));
    passed = true;
  }
  return passed;
}

/** Water goes on into a cell beside: over a piece that lies there above it, and under that as far as it creeps. */
function passInto(water: Water, state: number, cell: number, side: 1 | -1, by: Stretch): void {
  const { mesh } = water;
  const target = highestUpTo(mesh, cell, layerOf(water, state));
  const top = topOf(mesh, cell);
  // along a level fold half of it goes each way
  const share = mesh.drift[mesh.cellOf[state]!] === 0 && Math.abs(slantBelow(mesh, mesh.cellOf[state]!)) <= LEVEL ? 0.5 : 1;
  if (!isOpen(water, state) || target === top) return flowOn(water, target, by, 2 * state, 'falls', share);
  flowOn(water, top, by, 2 * state, 'falls', share);
  const cover = newCover(water, target, mesh.cellOf[state]!);
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
  const { mesh } = water;
  for (const across of valley.across) crossValley(water, state, from, valley, across);
  if (valley.next < 0) {
    if (chartAt(mesh, valley.cell).hasEave) leave(water, state, from);
    return;
  }
  const d = Math.max(0, leastOf(from));
  const next = mesh.valleys.get(valley.next);
  const by = next ? onValley(next.line, next.from, next.to, d, d) : place(...pointAt(valley.line, valley.from), d);
  comeDown(water, state, by, valley.next, -1);
}

/** Over a valley's line on to the other slope: over what lies there above, and under it as far as the water is wide or creeps. */
function crossValley(water: Water, state: number, from: Stretch, own: ValleyCell, other: ValleyCell['across'][number]): void {
  const { mesh } = water;
  const spread = mesh.valleys.get(other.cell)?.spread ?? 0;
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
  const target = highestUpTo(mesh, other.cell, layerOf(water, state));
  const top = topOf(mesh, other.cell);
  if (!isOpen(water, state) || target === top) {
    const by = onValley(other.line, low, high, dLow, dHigh);
    if (leastOf(by) <= 0) return seep(water, target, by, 2 * state, 'falls');
    return wait(water, 'creep', leastOf(by), () => seep(water, target, by, 2 * state, 'falls'));
  }
  seep(water, top, onValley(other.line, low, high, 0, 0), 2 * state, 'falls');
  if (spread === 0) return;
  const cover = mesh.layerAt[target + 1]!;
  // a self-adhered sheet is stuck down all along
  if (isHeld(water, heldBelow(water, other.cell, cover) ?? (mesh.pieces[cover]!.sealsNails ? 'bonded' : 'open'))) return;
  creepTo(water, target, onValley(other.line, low, high, -spread, -spread), 2 * state);
}

/** Water leaves the chart at the eave: on the covering, the eave metal, or a sheet that laps over that metal, it is drained. */
function leave(water: Water, state: number, from: Stretch): void {
  const { mesh } = water;
  const cell = mesh.cellOf[state]!;
  const layer = layerOf(water, state);
  const surfaceAt = (at: number) => ROLES[mesh.pieces[mesh.layerAt[at]!]!.role].surface;
  const overMetal = (): boolean => {
    if (highestOf(mesh, cell) <= LINE_TOLERANCE) return true; // folded down over the deck edge
    for (let at = state - 1; at > mesh.stackStart[cell]!; at--) if (surfaceAt(at) === 'eave metal') return true;
    return false;
  };
  // what dripped past the deck's edge has harmed nothing on its way
  if (layer === 0 && chartAt(mesh, cell).sheetSheds) return;
  const drained = layer > 0 && (surfaceAt(state) !== 'sheet' || overMetal());
  if (drained && isWet(from)) water.drained = true;
  const why: Why = { cause: 'gap', layer };
  if (!drained && isWet(from)) harm(water, nodeOf(water, state), 'eave', why);
  else if (!drained) wait(water, 'creep', leastOf(from), () => harm(water, nodeOf(water, state), 'eave', why));
  if (!water.finished || !isWet(from)) return;
  for (const { chart, from: left, to: right } of mesh.runsOn) {
    if (chart !== mesh.chartOf[cell]) continue;
    if (Math.min(right, rightEnd(from), mesh.right[cell]!) - Math.max(left, leftEnd(from), mesh.left[cell]!) <= LINE_TOLERANCE)
      continue;
    let kicked = false;
    for (let at = mesh.stackStart[cell]! + 1; at <= topOf(mesh, cell); at++)
      kicked ||= mesh.pieces[mesh.layerAt[at]!]!.role === 'kickOut';
    if (!kicked) harm(water, 2 * state, 'runs on', why);
  }
}
