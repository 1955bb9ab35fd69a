import type { EdgeHold } from '../assembly/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import { Queue } from './queue.ts';
import { HOLDS, type Sheet, chartAt, findLayer, slantBelow, topOf } from './sheet.ts';

export const CAUSES = ['none', 'gap', 'reverse lap', 'short headlap', 'short sidelap', 'fastener', 'overrun'] as const;
export type Cause = (typeof CAUSES)[number];

export const MOVES = [
  'rain',
  'falls',
  'goes under',
  'creeps',
  'climbs',
  'spills behind',
  'follows a fastener',
  'leaves over the side',
] as const;
export type Move = (typeof MOVES)[number];

export type FlowSettings = {
  /** How far water climbs under a lap along the roof's slope, millimetres. */
  readonly reach: number;
  /** How far it creeps sideways under cover, millimetres. */
  readonly creep: number;
  /** Edges that rely on sealant stand open. */
  readonly sealedOpen: boolean;
  /** Stop at the least reach or creep that leaks: enough to know the reserve. */
  readonly stopAtLeak?: boolean;
  /** Cells the water starts from; rain on every open cell when absent. */
  readonly sources?: readonly number[];
};

/** How bad it is: wetted surface below, gone behind an edge, through a fastener, or on an underlayer. Worst first. */
export const HARMS = ['bare', 'exit', 'fastener', 'under'] as const;
export type Harm = (typeof HARMS)[number];

/** What first goes wrong on water's way, and the worst that comes of it. */
export type Fault = {
  readonly cause: Cause;
  /** The piece at fault: that which lets the water past, or which it gets on to. */
  readonly layer: number;
  /** Where it first goes wrong, highest up the roof. */
  origin: number;
  /** The worst that comes of it, and where; undefined as long as it does no harm. */
  harm: Harm | undefined;
  node: number;
  /** Share of the distance granted at which it does. */
  readonly granted: number;
};

/** What waits until water may get so far: `key` is the share of the distance granted that it takes. */
export type Waiting = { readonly key: number; readonly go: () => void };

/**
 * Where water is. A node is 2 · state where water runs or creeps, 2 · state + 1 where it was only reached by climbing. Distances are Infinity where
 * water has not come.
 */
export type Water = {
  readonly sheet: Sheet;
  readonly settings: FlowSettings;
  /** Leaks are water on any sheet or on the bare deck or wall; before the covering is on, only on the bare deck, or on the bare wall behind something. */
  readonly finished: boolean;
  /** 1: it runs there at its full width. */
  readonly ran: Uint8Array;
  /**
   * How far it has crept since it last lay open, at most 0 where it runs, below 0 within a valley's water: four a state, at the lower end of its left
   * border and as high on it as the water reaches (`reached`), and the same on its right; `whole` where it came over the whole width at once.
   */
  readonly crept: Float64Array;
  readonly reached: Float64Array;
  readonly whole: Float64Array;
  /** How far it has climbed, as along the main slope, at a cell's lower left and lower right corner. */
  readonly climbLeft: Float64Array;
  readonly climbRight: Float64Array;
  /** How high up on this piece it came on to it. */
  readonly cameOn: Float64Array;
  /** By node: where it came from, how, and the fault on its way (0: none). */
  readonly parent: Int32Array;
  readonly move: Uint8Array;
  readonly faultOf: Int32Array;
  readonly faults: Fault[];
  readonly todo: number[];
  readonly queued: Uint8Array;
  readonly filmed: Uint8Array;
  readonly waiting: Queue<Waiting>;
  granted: number;
  /** States gone through, counting again those come to by a shorter way. */
  visited: number;
};

export function startWater(sheet: Sheet, settings: FlowSettings, finished: boolean): Water {
  const { stateCount } = sheet;
  const far = (): Float64Array => new Float64Array(stateCount).fill(Number.POSITIVE_INFINITY);
  return {
    sheet,
    settings,
    finished,
    ran: new Uint8Array(stateCount),
    whole: far(),
    crept: new Float64Array(4 * stateCount).fill(Number.POSITIVE_INFINITY),
    reached: new Float64Array(2 * stateCount).fill(Number.NEGATIVE_INFINITY),
    climbLeft: settings.reach > 0 ? far() : new Float64Array(0),
    climbRight: settings.reach > 0 ? far() : new Float64Array(0),
    cameOn: new Float64Array(stateCount).fill(Number.NEGATIVE_INFINITY),
    parent: new Int32Array(2 * stateCount).fill(-1),
    move: new Uint8Array(2 * stateCount),
    faultOf: new Int32Array(2 * stateCount),
    faults: [{ cause: 'none', layer: 0, origin: -1, harm: undefined, node: -1, granted: 0 }],
    todo: [],
    queued: new Uint8Array(stateCount),
    filmed: new Uint8Array(stateCount),
    waiting: new Queue(),
    granted: 0,
    visited: 0,
  };
}

export const isOpen = ({ sheet }: Water, state: number): boolean => state === topOf(sheet, sheet.cellOf[state]!);
export const layerOf = ({ sheet }: Water, state: number): number => sheet.layerAt[state]!;
/** Water runs there at its full width, without having crept. */
export const isWet = ({ ran }: Water, state: number): boolean => ran[state] === 1;

/** Corners of a cell, as `crept` has them for each state. */
export const LOW_LEFT = 0;
export const HIGH_LEFT = 1;
export const LOW_RIGHT = 2;
export const HIGH_RIGHT = 3;

/** The least that water has crept to be anywhere in a state: it falls freely, so at a lower corner. */
export const leastCrept = ({ crept }: Water, state: number): number =>
  Math.min(crept[4 * state]!, crept[4 * state + HIGH_LEFT]!, crept[4 * state + LOW_RIGHT]!, crept[4 * state + HIGH_RIGHT]!);
export const hasRun = (water: Water, state: number): boolean => leastCrept(water, state) < Number.POSITIVE_INFINITY;
/** The node water leaves a state by: where it runs if it does, else where it was reached. */
export const nodeOf = (water: Water, state: number): number => (hasRun(water, state) ? 2 * state : 2 * state + 1);

/** Water comes to a node for the first time: from where, how, and the fault on its way. */
function arrive(water: Water, node: number, from: number, how: Move, why: Cause, layer: number): void {
  water.parent[node] = from;
  water.move[node] = MOVES.indexOf(how);
  const before = from < 0 ? 0 : water.faultOf[from]!;
  // only the first fault on a way counts: what comes of it is its consequence
  water.faultOf[node] = before || why === 'none' ? before : faultFor(water, node, why, layer);
}

/** Faults of one piece and cause that lie within this of each other are one. */
const ONE_PLACE = 12 * 25.4;

/** The fault a node begins, or one that lies beside it. */
function faultFor(water: Water, node: number, cause: Cause, layer: number): number {
  const { sheet, faults } = water;
  const cell = sheet.cellOf[node >> 1]!;
  for (let i = faults.length - 1; i > 0; i--) {
    const fault = faults[i]!;
    if (fault.cause !== cause || fault.layer !== layer) continue;
    const other = sheet.cellOf[fault.origin >> 1]!;
    if (chartAt(sheet, other) !== chartAt(sheet, cell)) continue;
    if (
      Math.abs(middleX(sheet, cell) - middleX(sheet, other)) > ONE_PLACE ||
      Math.abs(middleY(sheet, cell) - middleY(sheet, other)) > ONE_PLACE
    )
      continue;
    if (middleY(sheet, cell) > middleY(sheet, other)) fault.origin = node;
    return i;
  }
  faults.push({ cause, layer, origin: node, harm: undefined, node, granted: water.granted });
  return faults.length - 1;
}

export function middleX(sheet: Sheet, cell: number): number {
  const chart = chartAt(sheet, cell);
  const slab = sheet.slabOf[cell]! - chart.firstSlab;
  return (chart.lines[slab]! + chart.lines[slab + 1]!) / 2;
}

export const middleY = (sheet: Sheet, cell: number): number =>
  (sheet.lowLeft[cell]! + sheet.lowRight[cell]! + sheet.highLeft[cell]! + sheet.highRight[cell]!) / 4;

/** Water does harm at a node: the fault on its way is told by the worst it does, or one begins here. */
export function harm(water: Water, node: number, what: Harm, why: Cause, layer: number): void {
  const number = water.faultOf[node]! || (water.faultOf[node] = faultFor(water, node, why, layer));
  const fault = water.faults[number]!;
  if (fault.harm !== undefined && HARMS.indexOf(fault.harm) <= HARMS.indexOf(what)) return;
  fault.harm = what;
  fault.node = node;
}

function push(water: Water, state: number): void {
  if (water.queued[state]) return;
  water.queued[state] = 1;
  water.todo.push(state);
}

/** Water runs at a state, full width. */
export function run(water: Water, state: number, from: number, how: Move, why: Cause = 'none', layer = 0, cameOn?: number): void {
  if (!hasRun(water, state)) arrive(water, 2 * state, from, how, why, layer);
  const height =
    cameOn ?? Math.max(water.sheet.highLeft[water.sheet.cellOf[state]!]!, water.sheet.highRight[water.sheet.cellOf[state]!]!);
  const higher = height > water.cameOn[state]!;
  if (water.ran[state] && !higher) return;
  if (higher) water.cameOn[state] = height;
  water.ran[state] = 1;
  if (leastCrept(water, state) < FAR) {
    const { left, right } = everywhere(water, state, 0);
    takeIn(water, state, -1, left!);
    takeIn(water, state, 1, right!);
  } else {
    water.crept.fill(0, 4 * state, 4 * state + 4);
    water.reached[2 * state] = water.sheet.highLeft[water.sheet.cellOf[state]!]!;
    water.reached[2 * state + 1] = water.sheet.highRight[water.sheet.cellOf[state]!]!;
  }
  water.whole[state] = Math.min(water.whole[state]!, 0);
  push(water, state);
}

/** A film reaches a state without running there: it is told where it came from. */
export function wetByFilm(water: Water, state: number, from: number): void {
  if (!hasRun(water, state) && water.parent[2 * state]! < 0) arrive(water, 2 * state, 2 * from, 'creeps', 'none', 0);
}

/**
 * How far water has crept along one border of a cell: at its lower end, and at the height up to which it comes, in between by the straight line.
 * Water falls freely, so higher up it is never less.
 */
export type Along = { readonly low: number; readonly top: number; readonly reaches: number };
/** `whole`: how far at the most where it comes over the whole width of a cell at once. */
export type Entry = { readonly left?: Along; readonly right?: Along; readonly whole?: number };
const FAR = Number.POSITIVE_INFINITY;

/** The same on both borders, from bottom to top. */
export const everywhere = (water: Water, state: number, distance: number): Entry => ({
  ...alongTop(water, state, distance, distance),
  whole: distance,
});
/** Down from the upper boundary; FAR where it does not come. */
export function alongTop({ sheet }: Water, state: number, left: number, right: number): Entry {
  const cell = sheet.cellOf[state]!;
  return {
    ...(left < FAR ? { left: { low: left, top: left, reaches: sheet.highLeft[cell]! } } : {}),
    ...(right < FAR ? { right: { low: right, top: right, reaches: sheet.highRight[cell]! } } : {}),
  };
}
/** On the lower boundary only. */
export function alongBottom({ sheet }: Water, state: number, left: number, right: number): Entry {
  const cell = sheet.cellOf[state]!;
  return {
    ...(left < FAR ? { left: { low: left, top: left, reaches: sheet.lowLeft[cell]! } } : {}),
    ...(right < FAR ? { right: { low: right, top: right, reaches: sheet.lowRight[cell]! } } : {}),
  };
}
export const alongSide = (side: 1 | -1, along: Along): Entry => (side === 1 ? { right: along } : { left: along });

/** Water is at a state, under cover unless it comes out in the open, having crept so far since it lay open. */
export function seep(
  water: Water,
  state: number,
  entry: Entry,
  from: number,
  { how = 'creeps', why = 'none', layer = 0 }: { how?: Move; why?: Cause; layer?: number } = {},
): void {
  if (isOpen(water, state)) run(water, state, from, how, why, layer);
  if (!isNearer(water, state, entry)) return;
  if (!hasRun(water, state)) arrive(water, 2 * state, from, how, why, layer);
  if (entry.left) takeIn(water, state, -1, entry.left);
  if (entry.right) takeIn(water, state, 1, entry.right);
  if (entry.whole !== undefined) water.whole[state] = Math.min(water.whole[state]!, entry.whole);
  push(water, state);
}

const borderLow = ({ sheet }: Water, state: number, side: 1 | -1): number =>
  side === 1 ? sheet.lowRight[sheet.cellOf[state]!]! : sheet.lowLeft[sheet.cellOf[state]!]!;

/** Share of a border's height. */
const LITTLE = 0.1;

/** What is known along a border with what comes new: nowhere much more than either. */
export function takeIn(water: Water, state: number, side: 1 | -1, { low, top, reaches }: Along): void {
  const { crept, reached } = water;
  const at = 4 * state + (side === 1 ? LOW_RIGHT : LOW_LEFT);
  const reach = 2 * state + (side === 1 ? 1 : 0);
  const [ownLow, ownTop, ownReach] = [crept[at]!, crept[at + 1]!, reached[reach]!];
  crept[at] = Math.min(ownLow, low);
  if (ownLow === FAR) {
    crept[at + 1] = top;
    reached[reach] = reaches;
    return;
  }
  const foot = borderLow(water, state, side);
  const higher = reaches > ownReach;
  const [most, mostTop] = higher ? [reaches, top] : [ownReach, ownTop];
  const [less, lessTop] = higher ? [ownReach, ownTop] : [reaches, top];
  const share = (less - foot) / (most - foot);
  const least = crept[at];
  reached[reach] = most;
  // what comes only a little way up says little of how it is at the top
  crept[at + 1] = share > LITTLE ? Math.min(mostTop, least + Math.max(0, lessTop - least) / share) : mostTop;
}

/** How far water has crept at a height on a cell's left (−1) or right (1) border; FAR where it does not come. */
export function creptOnSide(water: Water, state: number, side: 1 | -1, y: number): number {
  const at = 4 * state + (side === 1 ? LOW_RIGHT : LOW_LEFT);
  const low = borderLow(water, state, side);
  const reached = water.reached[2 * state + (side === 1 ? 1 : 0)]!;
  if (y < low - LINE_TOLERANCE || y > reached + LINE_TOLERANCE) return FAR;
  const [from, to] = [water.crept[at]!, water.crept[at + 1]!];
  return reached - low > LINE_TOLERANCE ? from + (to - from) * Math.max(0, Math.min(1, (y - low) / (reached - low))) : from;
}

/** A way shorter by less is not gone again. */
const NEARER = 0.02;

/** Water has climbed to a state, so far at its lower corners. */
export function climbTo(
  water: Water,
  state: number,
  left: number,
  right: number,
  from: number,
  { how = 'climbs', why = 'none', layer = 0 }: { how?: Move; why?: Cause; layer?: number } = {},
): void {
  if (isOpen(water, state)) return;
  if (water.climbLeft[state]! <= left && water.climbRight[state]! <= right) return;
  if (water.climbLeft[state] === Number.POSITIVE_INFINITY) arrive(water, 2 * state + 1, from, how, why, layer);
  water.climbLeft[state] = Math.min(left, water.climbLeft[state]!);
  water.climbRight[state] = Math.min(right, water.climbRight[state]!);
  push(water, state);
}

/** Lets water go on once it may creep or climb so far; never where it may not. */
export function wait(water: Water, kind: 'creep' | 'reach', distance: number, go: () => void): void {
  const most = water.settings[kind];
  if (distance > most - LINE_TOLERANCE && distance >= 0) return;
  water.waiting.add({ key: distance <= 0 ? distance : distance / most, go });
}

/** Lets water seep on once it may creep so far, if that brings it nearer than it has come. */
export function waitToSeep(
  water: Water,
  state: number,
  entry: Entry,
  from: number,
  fault: { why?: Cause; layer?: number } = {},
): void {
  if (!isNearer(water, state, entry)) return;
  wait(water, 'creep', leastOfEntry(entry), () => seep(water, state, entry, from, fault));
}

function isNearer(water: Water, state: number, { left, right, whole }: Entry): boolean {
  const on = (side: 1 | -1, along: Along | undefined): boolean =>
    along !== undefined &&
    (along.low < water.crept[4 * state + (side === 1 ? LOW_RIGHT : LOW_LEFT)]! - NEARER ||
      along.top < creptOnSide(water, state, side, along.reaches) - NEARER);
  return on(-1, left) || on(1, right) || (whole !== undefined && whole < water.whole[state]! - NEARER);
}

/** The least that water has crept on any border it comes in by. */
const leastOfEntry = ({ left, right }: Entry): number => Math.min(left?.low ?? FAR, right?.low ?? FAR);

/** Does an edge keep water from passing under it sideways or uphill? */
export const isHeld = ({ settings }: Water, hold: EdgeHold): boolean =>
  hold === 'bonded' || hold === 'letIn' || (hold === 'sealed' && !settings.sealedOpen);

/** An edge that faces uphill turns water over itself only where it is let in or sealed; a bond alone is not trusted there. */
export const turnsOver = ({ settings }: Water, hold: EdgeHold): boolean =>
  hold === 'letIn' || (hold === 'sealed' && !settings.sealedOpen);

/** The piece right above a state that does not also lie above it in the cell the water comes from; −1 where there is none. */
export function newCover({ sheet }: Water, state: number, from: number): number {
  const above = state + 1;
  if (above > topOf(sheet, sheet.cellOf[state]!)) return -1;
  const layer = sheet.layerAt[above]!;
  return findLayer(sheet, from, layer) >= 0 ? -1 : layer;
}

/** How a layer's edge is held along a cell's lower boundary; undefined where it has none there. */
export function heldBelow({ sheet }: Water, cell: number, layer: number): EdgeHold | undefined {
  for (let i = sheet.edgeStart[cell]!; i < sheet.edgeStart[cell + 1]!; i++)
    if (sheet.edgeLayer[i] === layer) return HOLDS[sheet.edgeHold[i]!];
  return undefined;
}

/** How a layer's upright edge is held along one border of a cell. */
export function heldBeside({ sheet }: Water, cell: number, side: 1 | -1, layer: number): EdgeHold {
  const index = sheet.chartOfSlab[sheet.slabOf[cell]!]!;
  const line = sheet.slabOf[cell]! - sheet.charts[index]!.firstSlab + (side === 1 ? 1 : 0);
  const [low, high] =
    side === 1 ? [sheet.lowRight[cell]!, sheet.highRight[cell]!] : [sheet.lowLeft[cell]!, sheet.highLeft[cell]!];
  for (const edge of sheet.sideEdges.get(layer * sheet.charts.length + index) ?? [])
    if (edge.line === line && Math.min(edge.high, high) - Math.max(edge.low, low) > LINE_TOLERANCE) return edge.hold;
  return 'open';
}

/** Does a cell's lower boundary face more sideways than up or down? */
export const isSideways = ({ sheet }: Water, cell: number): boolean => Math.abs(slantBelow(sheet, cell)) > 1;
