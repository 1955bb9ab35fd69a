import type { EdgeHold, Role } from '../assembly/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';

/** A laid piece in the order of the stack; `layer` 0 is the deck or the bare wall. */
export type LaidPiece = { readonly mark: string; readonly role: Role; readonly layer: number; readonly sealsNails: boolean };

/**
 * The surface of one facet, cut into slabs: upright strips between lines at every corner and every crossing of edges. Water falls straight down
 * a slab, on a slope as on a wall. Within a slab no two edges cross, so its cells lie over one another, bounded by edges that may slant.
 */
export type Chart = {
  readonly facet: string;
  readonly kind: 'roof' | 'wall';
  /** Borders of the slabs, one more than slabs. */
  readonly lines: Float64Array;
  /** Number of the chart's first slab among all. */
  readonly firstSlab: number;
  /** Sine of the surface's angle: a head h reaches h / sine along it. */
  readonly sine: number;
  /** Share of the surface's area that rain sees from above. */
  readonly planShare: number;
  /** Does water leave it over an eave? */
  readonly hasEave: boolean;
  /** Butt lines of its courses, from the lowest up. */
  readonly butts: Float64Array;
  /** A wall that runs up a slope: the slope's pitch. A face across one: how far up the slope it stands. */
  readonly raking?: number;
  readonly stands?: number;
};

/** A cell along the line of a valley, and the shares of the line, from its lower end up, that it reaches from and to. */
export type OnLine = { readonly cell: number; readonly from: number; readonly to: number };

/** A cell on the line of a valley. Cells are given by number; −1: nowhere, over the eave. */
export type ValleyCell = OnLine & {
  /** Where its water goes on down the valley. */
  readonly next: number;
  /** The cells over the line on the other slope. */
  readonly across: readonly OnLine[];
  /** How far along the course the valley's water runs wide of the line here. */
  readonly spread: number;
};

/** A fastener where it goes through the stack. */
export type Hole = {
  readonly layer: number;
  readonly x: number;
  readonly y: number;
  readonly sealed: boolean;
  readonly covering: boolean;
};

/** Where a wall that goes on below the eave meets it: the stretch of eave under its flashing's roof legs. */
export type RunsOn = { readonly chart: number; readonly from: number; readonly to: number };

/** An upright edge of a piece on a line between two slabs. */
export type SideEdge = { readonly line: number; readonly low: number; readonly high: number; readonly hold: EdgeHold };

/** How edges are held, as numbered in `edgeHold`. */
export const HOLDS: readonly EdgeHold[] = ['open', 'letIn', 'bonded', 'sealed'];

/**
 * The assembly cut into cells, each with its stack of pieces, the lowest first. A state is one piece's upper face in one cell:
 * state = stackStart[cell] + level, level 0 being the deck or the bare wall. All lengths in millimetres on the facet's own chart.
 */
export type Sheet = {
  readonly charts: readonly Chart[];
  readonly pieces: readonly LaidPiece[];
  readonly cellCount: number;
  readonly stateCount: number;
  readonly slabCount: number;
  /** First cell of a slab, from the bottom up; one entry more than slabs. */
  readonly slabStart: Int32Array;
  readonly chartOfSlab: Int32Array;
  readonly slabOf: Int32Array;
  /** Lower and upper boundary of a cell at the slab's left and right line. */
  readonly lowLeft: Float64Array;
  readonly lowRight: Float64Array;
  readonly highLeft: Float64Array;
  readonly highRight: Float64Array;
  /** The cell below and above in the slab, or −1 where something stands or the surface ends. */
  readonly below: Int32Array;
  readonly above: Int32Array;
  /** The lowest cell of the slab to the left and to the right that meets it along their line, or −1. */
  readonly leftOf: Int32Array;
  readonly rightOf: Int32Array;
  /** 1 where another roof hangs over it and no rain falls. */
  readonly sheltered: Uint8Array;
  /** −1 or 1 where the surface sheds sideways before it falls (the sides of a cricket). */
  readonly drift: Int8Array;
  readonly stackStart: Int32Array;
  readonly layerAt: Int32Array;
  readonly cellOf: Int32Array;
  /** Edges of pieces along a cell's lower boundary, from edgeStart[cell] on: whose, how held, and whether the piece ends there going up. */
  readonly edgeStart: Int32Array;
  readonly edgeLayer: Int32Array;
  readonly edgeHold: Uint8Array;
  readonly edgeUpper: Uint8Array;
  readonly sideEdges: ReadonlyMap<number, readonly SideEdge[]>;
  readonly holes: ReadonlyMap<number, readonly Hole[]>;
  readonly valleys: ReadonlyMap<number, ValleyCell>;
  /** Cells of the roof that a wall's lowest cells let water down on to, and the other way round. */
  readonly landing: ReadonlyMap<number, readonly number[]>;
  readonly rises: ReadonlyMap<number, readonly number[]>;
  /** Cells that meet round the corner of two walls. */
  readonly corners: ReadonlyMap<number, readonly number[]>;
  readonly runsOn: readonly RunsOn[];
};

/** Cells of a slab's neighbour that meet a cell along the line between them, by number. */
export function beside(sheet: Sheet, cell: number, side: 1 | -1): number[] {
  const found: number[] = [];
  const first = side === 1 ? sheet.rightOf[cell]! : sheet.leftOf[cell]!;
  if (first < 0) return found;
  const { lowLeft, lowRight, highLeft, highRight, slabOf, slabStart } = sheet;
  const high = side === 1 ? highRight[cell]! : highLeft[cell]!;
  const low = side === 1 ? lowRight[cell]! : lowLeft[cell]!;
  const end = slabStart[slabOf[first]! + 1]!;
  for (let at = first; at < end; at++) {
    const otherLow = side === 1 ? lowLeft[at]! : lowRight[at]!;
    if (otherLow >= high - LINE_TOLERANCE) break;
    if (Math.min(high, side === 1 ? highLeft[at]! : highRight[at]!) - Math.max(low, otherLow) > LINE_TOLERANCE) found.push(at);
  }
  return found;
}

/** The state of the top of a cell's stack. */
export const topOf = (sheet: Sheet, cell: number): number => sheet.stackStart[cell + 1]! - 1;

/** The state of a layer in a cell, or −1. */
export function findLayer(sheet: Sheet, cell: number, layer: number): number {
  const first = sheet.stackStart[cell]!;
  for (let state = sheet.stackStart[cell + 1]! - 1; state >= first; state--) if (sheet.layerAt[state] === layer) return state;
  return -1;
}

/** The highest piece at or below a layer in a cell. */
export function highestUpTo(sheet: Sheet, cell: number, layer: number): number {
  const first = sheet.stackStart[cell]!;
  for (let state = sheet.stackStart[cell + 1]! - 1; state > first; state--) if (sheet.layerAt[state]! <= layer) return state;
  return first;
}

export const chartAt = (sheet: Sheet, cell: number): Chart => sheet.charts[sheet.chartOfSlab[sheet.slabOf[cell]!]!]!;

export function widthOf(sheet: Sheet, cell: number): number {
  const chart = chartAt(sheet, cell);
  const slab = sheet.slabOf[cell]! - chart.firstSlab;
  return chart.lines[slab + 1]! - chart.lines[slab]!;
}

/** How steeply a cell's lower boundary rises to the right: 0 is level, beyond ±1 it faces more sideways than up or down. */
export const slantBelow = (sheet: Sheet, cell: number): number =>
  (sheet.lowRight[cell]! - sheet.lowLeft[cell]!) / widthOf(sheet, cell);

/** The cell at a point of a chart, or −1 where there is no surface. */
export function cellAtPoint(sheet: Sheet, index: number, x: number, y: number): number {
  const chart = sheet.charts[index]!;
  const slab = lineBelow(chart.lines, x);
  if (slab < 0 || slab >= chart.lines.length - 1) return -1;
  const [left, right] = [chart.lines[slab]!, chart.lines[slab + 1]!];
  const share = Math.max(0, Math.min(1, (x - left) / (right - left)));
  const number = chart.firstSlab + slab;
  for (let cell = sheet.slabStart[number + 1]! - 1; cell >= sheet.slabStart[number]!; cell--) {
    const low = sheet.lowLeft[cell]! + (sheet.lowRight[cell]! - sheet.lowLeft[cell]!) * share;
    if (y < low - LINE_TOLERANCE) continue;
    const high = sheet.highLeft[cell]! + (sheet.highRight[cell]! - sheet.highLeft[cell]!) * share;
    return y <= high + LINE_TOLERANCE ? cell : -1;
  }
  return -1;
}

/** Number of the last line at or left of a value; −1 left of the first, the last line's number right of it. */
export function lineBelow(lines: Float64Array, value: number): number {
  let low = 0;
  let high = lines.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (lines[middle]! <= value + LINE_TOLERANCE) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

/** Number of the line nearest to a value. */
export function lineNear(lines: Float64Array, value: number): number {
  const at = Math.max(0, Math.min(lines.length - 1, lineBelow(lines, value)));
  return at + 1 < lines.length && lines[at + 1]! - value < value - lines[at]! ? at + 1 : at;
}
