import { type EdgeHold, ROLES } from '../assembly/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import { Queue } from './queue.ts';
import {
  HOLDS,
  type Mesh,
  borderHigh,
  borderLow,
  borderX,
  chartAt,
  findLayer,
  highAt,
  highestOf,
  lowAt,
  meetingAt,
  slantBelow,
  topOf,
} from './mesh.ts';
import { FAR, type Stretch, climbedAt, creptAt, leastOf, leftEnd, rightEnd, stretch } from './stretch.ts';

export const CAUSES = [
  'none',
  'gap',
  'reverse lap',
  'short headlap',
  'short sidelap',
  'side channel',
  'fastener',
  'overrun',
] as const;
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
  /** Where the water starts from; rain on every open cell when absent. */
  readonly source?: { readonly state: number; readonly x: number; readonly y: number };
};

/**
 * How bad it is: the deck or wall wetted; water that leaves behind the eave metal, down a wall that goes on past the eave, or over a rake's bare edge;
 * through a fastener; standing at the nails of a batten; or on an underlayer. Worst first.
 */
export const HARMS = ['bare', 'eave', 'runs on', 'rake', 'fastener', 'stands', 'under'] as const;
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
};

/** What goes wrong with a move, and at which piece. */
export type Why = { readonly cause: Cause; readonly layer: number };

/** What waits until water may get so far: `key` is the share of the distance granted that it takes. */
type Waiting = { readonly key: number; readonly go: () => void };

/** The stretches by which water came to a state, how many of them it has gone on from, and the least it has crept or climbed on any. */
type Came = { readonly stretches: Stretch[]; done: number; least: number };

/** Where water is. A node is 2 · state where water runs or creeps, 2 · state + 1 where it was only reached by climbing. */
export type Water = {
  readonly mesh: Mesh;
  readonly settings: FlowSettings;
  /** Leaks are water on any sheet or on the bare deck or wall; before the covering is on, only on the bare deck, or on the bare wall behind something. */
  readonly finished: boolean;
  /** 1: it runs all over there; 2: and has gone on from there. */
  readonly ran: Uint8Array;
  readonly crept: Map<number, Came>;
  readonly climbed: Map<number, Came>;
  /** How high up on a piece of flat metal water came on to it, by state. */
  readonly cameOn: Map<number, number>;
  /** By node: where it came from and how, the place on its way, and the fault on its way (0: none). */
  readonly parent: Int32Array;
  readonly move: Uint8Array;
  readonly atX: Float32Array;
  readonly atY: Float32Array;
  readonly faultOf: Int32Array;
  readonly faults: Fault[];
  readonly todo: number[];
  readonly queued: Uint8Array;
  /** How high up a film was followed, by state. */
  readonly filmed: Map<number, number>;
  readonly waiting: Queue<Waiting>;
  /** What runs on from one state into another, and which share of the first one's water. */
  readonly flows: { readonly from: number[]; readonly to: number[]; readonly share: number[] };
  /** Water has left drained: over the eave on what sheds it. */
  drained: boolean;
  granted: number;
  leaked: boolean;
  /** States gone through, counting again those come to by a shorter way. */
  visited: number;
};

export function startWater(mesh: Mesh, settings: FlowSettings, finished: boolean): Water {
  const { stateCount } = mesh;
  return {
    mesh,
    settings,
    finished,
    ran: new Uint8Array(stateCount),
    crept: new Map(),
    climbed: new Map(),
    cameOn: new Map(),
    parent: new Int32Array(2 * stateCount).fill(-1),
    move: new Uint8Array(2 * stateCount),
    atX: new Float32Array(2 * stateCount),
    atY: new Float32Array(2 * stateCount),
    faultOf: new Int32Array(2 * stateCount),
    faults: [{ cause: 'none', layer: 0, origin: -1, harm: undefined, node: -1 }],
    todo: [],
    queued: new Uint8Array(stateCount),
    filmed: new Map(),
    waiting: new Queue(),
    flows: { from: [], to: [], share: [] },
    drained: false,
    granted: 0,
    leaked: false,
    visited: 0,
  };
}

export const isOpen = ({ mesh }: Water, state: number): boolean => state === topOf(mesh, mesh.cellOf[state]!);
export const layerOf = ({ mesh }: Water, state: number): number => mesh.layerAt[state]!;
export const hasRun = ({ ran, crept }: Water, state: number): boolean => ran[state]! > 0 || crept.has(state);
/** The node water leaves a state by: where it runs if it does, else where it was reached. */
export const nodeOf = (water: Water, state: number): number => (hasRun(water, state) ? 2 * state : 2 * state + 1);
/** Water of a stretch that has not crept. */
export const isWet = (from: Stretch): boolean => leastOf(from) <= 0;

/** Water comes to a node for the first time: from where, how, at what place, and the fault on its way. */
function arrive(water: Water, node: number, from: number, how: Move, at: Stretch, why?: Why): void {
  water.parent[node] = from;
  water.move[node] = MOVES.indexOf(how);
  const { mesh } = water;
  const cell = mesh.cellOf[node >> 1]!;
  const x = Math.max(mesh.left[cell]!, Math.min(mesh.right[cell]!, (at.x0 + at.x1) / 2));
  water.atX[node] = x;
  water.atY[node] = Math.max(lowAt(mesh, cell, x), Math.min(highAt(mesh, cell, x), (at.y0 + at.y1) / 2));
  const before = from < 0 ? 0 : water.faultOf[from]!;
  // only the first fault on a way counts: what comes of it is its consequence
  water.faultOf[node] = before || !why ? before : faultFor(water, node, why);
}

/** Faults of one piece and cause that lie within this of each other are one. */
export const ONE_PLACE = 12 * 25.4;

/** The fault a node begins, or one that lies beside it. */
function faultFor(water: Water, node: number, { cause, layer }: Why): number {
  const { mesh, faults, atX, atY } = water;
  const chart = mesh.chartOf[mesh.cellOf[node >> 1]!];
  for (let i = faults.length - 1; i > 0; i--) {
    const fault = faults[i]!;
    if (fault.cause !== cause || fault.layer !== layer) continue;
    if (mesh.chartOf[mesh.cellOf[fault.origin >> 1]!] !== chart) continue;
    if (Math.abs(atX[node]! - atX[fault.origin]!) > ONE_PLACE || Math.abs(atY[node]! - atY[fault.origin]!) > ONE_PLACE) continue;
    if (atY[node]! > atY[fault.origin]!) fault.origin = node;
    return i;
  }
  faults.push({ cause, layer, origin: node, harm: undefined, node });
  return faults.length - 1;
}

/** Water does harm at a node: the fault on its way is told by the worst it does, or one begins here. */
export function harm(water: Water, node: number, what: Harm, why: Why): void {
  const number = water.faultOf[node]! || (water.faultOf[node] = faultFor(water, node, why));
  const fault = water.faults[number]!;
  water.leaked = true;
  // what comes through a fastener's hole is little, whatever it ends on
  if (fault.cause === 'fastener') what = 'fastener';
  const worse = fault.harm === undefined ? -1 : HARMS.indexOf(what) - HARMS.indexOf(fault.harm);
  // of harms as bad the highest is told, so that the way to it goes by where it first went wrong
  const { chartOf, cellOf } = water.mesh;
  const higher = chartOf[cellOf[node >> 1]!] === chartOf[cellOf[fault.node >> 1]!] && water.atY[node]! > water.atY[fault.node]!;
  if (worse > 0 || (worse === 0 && !higher)) return;
  fault.harm = what;
  fault.node = node;
}

function push(water: Water, state: number): void {
  if (water.queued[state]) return;
  water.queued[state] = 1;
  water.todo.push(state);
}

/** A whole cell, from its upper boundary down. */
export const wholeOf = ({ left, right, highLeft, highRight }: Mesh, cell: number): Stretch =>
  stretch(left[cell]!, highLeft[cell]!, 0, right[cell]!, highRight[cell]!, 0);

/** Rain wets all of a state. */
export function rain(water: Water, state: number): void {
  const { mesh } = water;
  const cell = mesh.cellOf[state]!;
  water.ran[state] = 1;
  const x = (mesh.left[cell]! + mesh.right[cell]!) / 2;
  water.atX[2 * state] = x;
  water.atY[2 * state] = (lowAt(mesh, cell, x) + highAt(mesh, cell, x)) / 2;
  push(water, state);
}

/** Water comes to a state by a stretch; where it comes out in the open it lies open anew. */
export function seep(water: Water, state: number, by: Stretch, from: number, how: Move, why?: Why): void {
  const at = isOpen(water, state) && (by.d0 > 0 || by.d1 > 0) ? { ...by, d0: Math.min(0, by.d0), d1: Math.min(0, by.d1) } : by;
  if (!bringsNearer(water, state, at)) return;
  let came = water.crept.get(state);
  if (!hasRun(water, state)) arrive(water, 2 * state, from, how, at, why);
  if (!came) {
    came = { stretches: [], done: 0, least: FAR };
    water.crept.set(state, came);
  }
  came.stretches.push(at);
  came.least = Math.min(came.least, leastOf(at));
  push(water, state);
}

/** Running water goes on: `share` of what is in the cell it comes from. */
export function flowOn(water: Water, state: number, by: Stretch, from: number, how: Move, share: number, why?: Why): void {
  const { flows } = water;
  flows.from.push(from >> 1);
  flows.to.push(state);
  flows.share.push(share);
  seep(water, state, by, from, how, why);
}

/** A way shorter by less is not gone again. */
const NEARER = 0.02;

/** Does a stretch bring water nearer to some place of a state than it has come? */
function bringsNearer(water: Water, state: number, by: Stretch): boolean {
  if (water.ran[state]! > 0 && leastOf(by) >= 0) return false;
  const came = water.crept.get(state);
  if (!came || came.least > leastOf(by) + NEARER) return true;
  const { mesh } = water;
  const cell = mesh.cellOf[state]!;
  const top = highestOf(mesh, cell);
  const [y0, y1] = [Math.min(by.y0, top), Math.min(by.y1, top)];
  const open = isOpen(water, state);
  for (let i = came.stretches.length - 1; i >= 0; i--) {
    const known = came.stretches[i]!;
    // in the open it does not creep: only what lies within it is known
    if (open && (leftEnd(known) > leftEnd(by) + NEARER || rightEnd(known) < rightEnd(by) - NEARER)) continue;
    if (creptAt(known, by.x0, y0) <= by.d0 + NEARER && creptAt(known, by.x1, y1) <= by.d1 + NEARER) return false;
  }
  return true;
}

/** Water has climbed to a state. */
export function climbTo(water: Water, state: number, by: Stretch, from: number, why?: Why): void {
  if (isOpen(water, state)) return;
  let came = water.climbed.get(state);
  if (!came) {
    came = { stretches: [], done: 0, least: FAR };
    water.climbed.set(state, came);
    arrive(water, 2 * state + 1, from, 'climbs', by, why);
  } else if (hasClimbed(water, state, came, by)) return;
  came.stretches.push(by);
  push(water, state);
}

function hasClimbed({ mesh }: Water, state: number, { stretches }: Came, by: Stretch): boolean {
  const cell = mesh.cellOf[state]!;
  const head = headOf(mesh, cell);
  return stretches.some((known) => {
    const at = (x: number): boolean => {
      const y = lowAt(mesh, cell, x);
      return climbedAt(known, x, y, head) <= climbedAt(by, x, y, head) + NEARER;
    };
    return at(leftEnd(by)) && at(rightEnd(by));
  });
}

/** What a millimetre up a cell's surface takes of the distance granted, which is counted along the slope that is judged. */
export const headOf = (mesh: Mesh, cell: number): number => chartAt(mesh, cell).sine / mesh.charts[0]!.sine;

/** A film reaches a state without running there: it is told where it came from. */
export function wetByFilm(water: Water, state: number, from: number, at: Stretch): void {
  if (!hasRun(water, state) && water.parent[2 * state]! < 0) arrive(water, 2 * state, 2 * from, 'creeps', at);
}

/** Lets water go on once it may creep or climb so far; never where it may not. */
export function wait(water: Water, kind: 'creep' | 'reach', distance: number, go: () => void): void {
  if (distance <= 0) return go();
  const most = water.settings[kind];
  if (distance <= most - LINE_TOLERANCE) water.waiting.add({ key: distance / most, go });
}

/** What creeps is past the edge by more than nothing. */
export const PAST = 1e-3;

/** Lets water creep on once it may so far, if that brings it nearer than it has come. */
export function creepTo(water: Water, state: number, along: Stretch, from: number, why?: Why): void {
  const past = (d: number): number => (d >= 0 && d < PAST ? PAST : d);
  const by = { ...along, d0: past(along.d0), d1: past(along.d1) };
  const least = leastOf(by);
  if (least > 0 && (least > water.settings.creep || !bringsNearer(water, state, by))) return;
  wait(water, 'creep', least, () => seep(water, state, by, from, 'creeps', why));
}

/** Does an edge keep water from passing under it sideways or uphill? */
export const isHeld = ({ settings }: Water, hold: EdgeHold): boolean =>
  hold === 'bonded' || hold === 'letIn' || (hold === 'sealed' && !settings.sealedOpen);

/** An edge that faces uphill turns water over itself only where it is let in or sealed; a bond alone is not trusted there. */
export const turnsOver = ({ settings }: Water, hold: EdgeHold): boolean =>
  hold === 'letIn' || (hold === 'sealed' && !settings.sealedOpen);

/** The piece right above a state that does not also lie above it in the cell the water comes from; −1 where there is none. */
export function newCover({ mesh }: Water, state: number, from: number): number {
  const above = state + 1;
  if (above > topOf(mesh, mesh.cellOf[state]!)) return -1;
  const layer = mesh.layerAt[above]!;
  return findLayer(mesh, from, layer) >= 0 ? -1 : layer;
}

/** How a layer's edge is held along a cell's lower boundary; undefined where it has none there. */
export function heldBelow({ mesh }: Water, cell: number, layer: number): EdgeHold | undefined {
  for (let i = mesh.edgeStart[cell]!; i < mesh.edgeStart[cell + 1]!; i++)
    if (mesh.edgeLayer[i] === layer) return HOLDS[mesh.edgeHold[i]!];
  return undefined;
}

/** How a layer's upright edge is held along one border of a cell. */
export function heldBeside({ mesh }: Water, cell: number, side: 1 | -1, layer: number): EdgeHold {
  const x = borderX(mesh, cell, side);
  const [low, high] = [borderLow(mesh, cell, side), borderHigh(mesh, cell, side)];
  for (const edge of mesh.sideEdges.get(layer * mesh.charts.length + mesh.chartOf[cell]!) ?? [])
    if (Math.abs(edge.x - x) <= LINE_TOLERANCE && Math.min(edge.high, high) - Math.max(edge.low, low) > LINE_TOLERANCE)
      return edge.hold;
  return 'open';
}

/** Does a cell's lower boundary face more sideways than up or down? */
export const isSideways = ({ mesh }: Water, cell: number): boolean => Math.abs(slantBelow(mesh, cell)) > 1;

/** Is a piece flat metal, on which water gathers? */
export const isFlatMetal = ({ mesh }: Water, layer: number): boolean =>
  layer > 0 && ROLES[mesh.pieces[layer]!.role].surface === 'flat metal';

/** Where a cell meets one over or under it, along the lower boundary of the upper one: from left to right. */
export function lineBetween(mesh: Mesh, upper: number, other: number): readonly [number, number, number, number] {
  const xa = Math.max(mesh.left[upper]!, mesh.left[other]!);
  const xb = Math.min(mesh.right[upper]!, mesh.right[other]!);
  return [xa, lowAt(mesh, upper, xa), xb, lowAt(mesh, upper, xb)];
}

/** The rows in which a cell meets one beside it. */
export function rowsBetween(mesh: Mesh, cell: number, other: number, side: 1 | -1): readonly [number, number] {
  const back = side === 1 ? -1 : 1;
  return [
    Math.max(borderLow(mesh, cell, side), borderLow(mesh, other, back)),
    Math.min(borderHigh(mesh, cell, side), borderHigh(mesh, other, back)),
  ];
}

export const cellsBelow = ({ below }: Mesh, cell: number): Int32Array => meetingAt(below, cell);
