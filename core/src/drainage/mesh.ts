import type { EdgeHold, Facet, Joint, Role } from '../assembly/index.ts';
import type { Point } from '../roof/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';

/** A laid piece in the order of the stack; `layer` 0 is the deck or the bare wall. */
export type LaidPiece = {
  readonly mark: string;
  readonly role: Role;
  readonly layer: number;
  readonly sealsNails: boolean;
  /** The facet it mainly covers. */
  readonly facet: string;
  /** Where it stands up out of the pans between, along the eave of that facet: water does not cross there. */
  readonly crowns?: readonly number[];
};

/** The surface of one facet. Water falls straight down it, along y, on a slope as on a wall. */
export type Chart = {
  readonly facet: string;
  readonly kind: 'roof' | 'wall';
  /** Its first cell among all, and the first one after it. */
  readonly firstCell: number;
  readonly endCell: number;
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
  /** The backup wall in a cavity. */
  readonly cavity?: true;
  /** Water on a sheet does no harm there: the sheet is the roof. */
  readonly sheetSheds?: true;
  /** Heights at which battens lie unbroken on the sheet, from the lowest up. */
  readonly dams?: readonly number[];
};

/** A cell along the line of a valley, and the shares of the line, from its lower end up, that it reaches from and to. */
export type OnLine = { readonly cell: number; readonly from: number; readonly to: number };

/** A cell on the line of a valley. Cells are given by number; −1: nowhere, over the eave. */
export type ValleyCell = OnLine & {
  /** The line on this chart, from its lower end to its upper. */
  readonly line: readonly [Point, Point];
  /** Where its water goes on down the valley. */
  readonly next: number;
  /** The cells over the line on the other slope. */
  readonly across: readonly (OnLine & { readonly line: readonly [Point, Point] })[];
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
  /** A side channel blocked or broken: what is in it drips through its own piece, and no further by itself. */
  readonly drips?: true;
  /** It ends in a batten over the sheet. */
  readonly inBatten?: true;
};

/** Where a wall that goes on below the eave meets it: the stretch of eave under its flashing's roof legs. */
export type RunsOn = { readonly chart: number; readonly from: number; readonly to: number };

/** An upright edge of a piece. */
export type SideEdge = { readonly x: number; readonly low: number; readonly high: number; readonly hold: EdgeHold };

/** Where a cell of a wall and one of the slope it stands on meet, and on which side of the slope's cell. */
export type Foot = {
  readonly wall: number;
  readonly roof: number;
  readonly at: 'left' | 'right' | 'top' | 'bottom';
  /** Beside a wall that runs up the slope: the stretch of the slope's cell along it, from the lower end up. */
  readonly line: readonly [Point, Point];
};

/** Where along the eave the foot of a wall that runs up the slope is at a height. */
export const alongFoot = ([[ax, ay], [bx, by]]: Foot['line'], y: number): number =>
  by - ay > LINE_TOLERANCE ? ax + ((bx - ax) * (y - ay)) / (by - ay) : ax;

/** A cell that meets another round the corner of two walls: on which side of each, and how much higher it is counted there. */
export type Corner = {
  readonly cell: number;
  readonly side: 1 | -1;
  readonly otherSide: 1 | -1;
  readonly up: number;
  /** The walls look at each other: metal can only be folded round it in a pan of its own. */
  readonly inside: boolean;
  /** Cells of the slope round the foot of the corner. */
  readonly foot: readonly number[];
};

/** Where a cell meets a hole that a pipe comes through: a stretch of its border. */
export type Pierced = {
  readonly xa: number;
  readonly ya: number;
  readonly xb: number;
  readonly yb: number;
  readonly isOver: boolean;
};

/** How edges are held, as numbered in `edgeHold`. */
export const HOLDS: readonly EdgeHold[] = ['open', 'letIn', 'bonded', 'sealed'];

/** Cells that meet each cell on one of its sides: those of a cell from start[cell] to start[cell + 1], in order. */
export type Meeting = { readonly start: Int32Array; readonly cells: Int32Array };

/**
 * The assembly cut into cells, each with its stack of pieces, the lowest first. A cell lies between two upright borders and two straight boundaries that
 * may slant; no edge of any piece goes through it. A state is one piece's upper face in one cell: state = stackStart[cell] + level, level 0 being
 * the deck or the bare wall. All lengths in millimetres on the facet's own chart.
 */
export type Mesh = {
  readonly charts: readonly Chart[];
  readonly pieces: readonly LaidPiece[];
  readonly cellCount: number;
  readonly stateCount: number;
  readonly chartOf: Int32Array;
  readonly left: Float64Array;
  readonly right: Float64Array;
  /** Lower and upper boundary of a cell at its left and right border. */
  readonly lowLeft: Float64Array;
  readonly lowRight: Float64Array;
  readonly highLeft: Float64Array;
  readonly highRight: Float64Array;
  /** Cells under it and over it, from left to right, and on its left and right, from the lowest up. */
  readonly below: Meeting;
  readonly above: Meeting;
  readonly leftOf: Meeting;
  readonly rightOf: Meeting;
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
  /** Upright edges by layer · charts + chart. */
  readonly sideEdges: ReadonlyMap<number, readonly SideEdge[]>;
  readonly holes: ReadonlyMap<number, readonly Hole[]>;
  readonly valleys: ReadonlyMap<number, ValleyCell>;
  /** How wide of its lower boundary, along the course, the water of a cricket's valley runs over a cell. */
  readonly spreads: ReadonlyMap<number, number>;
  /** By a wall's lowest cell, and by a slope's cell beside a wall. */
  readonly landing: ReadonlyMap<number, readonly Foot[]>;
  readonly rises: ReadonlyMap<number, readonly Foot[]>;
  readonly corners: ReadonlyMap<number, readonly Corner[]>;
  /** Cells whose upper boundary is a joint that a cap goes over, and cells beside a rake, with the side it is on. */
  readonly capped: ReadonlySet<number>;
  readonly atRake: ReadonlyMap<number, 1 | -1>;
  readonly pierced: ReadonlyMap<number, readonly Pierced[]>;
  readonly runsOn: readonly RunsOn[];
};

/** Height of a cell's lower boundary at a place between its borders. */
export const lowAt = ({ left, right, lowLeft, lowRight }: Mesh, cell: number, x: number): number =>
  lowLeft[cell]! + (lowRight[cell]! - lowLeft[cell]!) * shareOf(left[cell]!, right[cell]!, x);

/** Height of its upper boundary. */
export const highAt = ({ left, right, highLeft, highRight }: Mesh, cell: number, x: number): number =>
  highLeft[cell]! + (highRight[cell]! - highLeft[cell]!) * shareOf(left[cell]!, right[cell]!, x);

const shareOf = (from: number, to: number, x: number): number => (x <= from ? 0 : x >= to ? 1 : (x - from) / (to - from));

export const lowestOf = ({ lowLeft, lowRight }: Mesh, cell: number): number => Math.min(lowLeft[cell]!, lowRight[cell]!);
export const highestOf = ({ highLeft, highRight }: Mesh, cell: number): number => Math.max(highLeft[cell]!, highRight[cell]!);

/** Lower and upper end of a cell's left (−1) or right (1) border. */
export const borderLow = (mesh: Mesh, cell: number, side: 1 | -1): number =>
  side === 1 ? mesh.lowRight[cell]! : mesh.lowLeft[cell]!;
export const borderHigh = (mesh: Mesh, cell: number, side: 1 | -1): number =>
  side === 1 ? mesh.highRight[cell]! : mesh.highLeft[cell]!;
export const borderX = (mesh: Mesh, cell: number, side: 1 | -1): number => (side === 1 ? mesh.right[cell]! : mesh.left[cell]!);

/** How steeply a cell's lower boundary rises to the right: 0 is level, beyond ±1 it faces more sideways than up or down. */
export const slantBelow = ({ left, right, lowLeft, lowRight }: Mesh, cell: number): number =>
  (lowRight[cell]! - lowLeft[cell]!) / (right[cell]! - left[cell]!);

/** Cells that meet a cell over its left (−1) or right (1) border, from the lowest up. */
export const beside = (mesh: Mesh, cell: number, side: 1 | -1): Int32Array =>
  meetingAt(side === 1 ? mesh.rightOf : mesh.leftOf, cell);
export const meetingAt = ({ start, cells }: Meeting, cell: number): Int32Array => cells.subarray(start[cell]!, start[cell + 1]!);
export const meetsAny = ({ start }: Meeting, cell: number): boolean => start[cell + 1]! > start[cell]!;

/** The state of the top of a cell's stack. */
export const topOf = (mesh: Mesh, cell: number): number => mesh.stackStart[cell + 1]! - 1;

/** The state of a layer in a cell, or −1. */
export function findLayer(mesh: Mesh, cell: number, layer: number): number {
  const first = mesh.stackStart[cell]!;
  for (let state = mesh.stackStart[cell + 1]! - 1; state >= first; state--) if (mesh.layerAt[state] === layer) return state;
  return -1;
}

/** The highest piece at or below a layer in a cell. */
export function highestUpTo(mesh: Mesh, cell: number, layer: number): number {
  const first = mesh.stackStart[cell]!;
  for (let state = mesh.stackStart[cell + 1]! - 1; state > first; state--) if (mesh.layerAt[state]! <= layer) return state;
  return first;
}

export const chartAt = (mesh: Mesh, cell: number): Chart => mesh.charts[mesh.chartOf[cell]!]!;

/** Is a point in a cell, or this near to it? */
export const isIn = (mesh: Mesh, cell: number, x: number, y: number, near = LINE_TOLERANCE): boolean =>
  x >= mesh.left[cell]! - near &&
  x <= mesh.right[cell]! + near &&
  y >= lowAt(mesh, cell, x) - near &&
  y <= highAt(mesh, cell, x) + near;

/** The cell at a point of a chart, or −1 where there is no surface. */
export function cellAtPoint(mesh: Mesh, chart: number, x: number, y: number): number {
  const { firstCell, endCell } = mesh.charts[chart]!;
  for (let cell = firstCell; cell < endCell; cell++) if (isIn(mesh, cell, x, y)) return cell;
  return -1;
}

/** What a chart is made for: a slope, or a wall and the joint by which it meets the slope `host`. */
export type Made = { readonly facet: Facet; readonly joint?: Joint; readonly host: number };
