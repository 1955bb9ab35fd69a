import type { EdgeHold } from '../assembly/index.ts';
import type { Outline } from '../roof/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import { HOLDS, type SideEdge, lineNear } from './sheet.ts';

/** What an outline on a chart stands for, where it is not a layer (1 and up). A mark only cuts cells and changes nothing else. */
export const SURFACE = -1;
export const STANDING = -2;
export const SHELTERED = -3;
export const DRIFT_LEFT = -4;
export const DRIFT_RIGHT = -5;
export const MARK = 0;

/** An outline on a chart: a layer's, or one of the above. `slits`: where the piece is open from butt to top, middles along x. */
export type Shape = {
  readonly layer: number;
  readonly outline: Outline;
  readonly holds: readonly EdgeHold[];
  readonly slits: readonly number[];
};

/** Width of the open slit between two shingles of a course: 1/16 in. */
export const SLIT = 25.4 / 16;

/** Pieces cut to the same slanting line lie within this of it and of one another, square to it. */
const CUT_TO = 0.6;

/** A line that only cuts, from left to right. */
export type MarkLine = { readonly x0: number; readonly y0: number; readonly x1: number; readonly y1: number };

type Edge = {
  /** Numbers of the lines it runs from and to, and its ends. */
  readonly from: number;
  readonly to: number;
  readonly xa: number;
  readonly ya: number;
  readonly xb: number;
  readonly yb: number;
  readonly layer: number;
  /** 1: the outline begins above it; −1: it ends there; 0: a mark. */
  readonly enters: -1 | 0 | 1;
  readonly hold: number;
  readonly slit: Uint8Array | undefined;
  readonly slanted: boolean;
};

/** Cells of all charts as they are cut, before they become a sheet's typed arrays. */
export class Cells {
  readonly slabStart: number[] = [0];
  readonly chartOfSlab: number[] = [];
  readonly slabOf: number[] = [];
  readonly lowLeft: number[] = [];
  readonly lowRight: number[] = [];
  readonly highLeft: number[] = [];
  readonly highRight: number[] = [];
  readonly below: number[] = [];
  readonly sheltered: number[] = [];
  readonly drift: number[] = [];
  readonly stackStart: number[] = [0];
  readonly layerAt: number[] = [];
  readonly edgeStart: number[] = [0];
  readonly edgeLayer: number[] = [];
  readonly edgeHold: number[] = [];
  readonly edgeUpper: number[] = [];
  readonly sideEdges = new Map<number, SideEdge[]>();
}

/** Sorted lines, those within the tolerance of one another made one, no gap wider than `most`. */
export function gridLines(values: readonly number[], most: number): Float64Array {
  const sorted = Float64Array.from(values).sort();
  const lines: number[] = [];
  let previous = Number.NEGATIVE_INFINITY;
  for (const value of sorted) {
    const near = value - previous <= LINE_TOLERANCE;
    previous = value;
    if (near) continue;
    const last = lines.at(-1);
    if (last !== undefined && value - last > most) {
      const parts = Math.ceil((value - last) / most);
      for (let i = 1; i < parts; i++) lines.push(last + ((value - last) * i) / parts);
    }
    lines.push(value);
  }
  return Float64Array.from(lines);
}

type Segment = { readonly xa: number; readonly ya: number; readonly xb: number; readonly yb: number };

/** Every edge of the shapes and marks that is not upright, from left to right. */
const segmentsOf = (shapes: readonly Shape[], marks: readonly MarkLine[]): Segment[] => [
  ...shapes.flatMap(({ outline }) =>
    outline.flatMap(([ax, ay], i): Segment[] => {
      const [bx, by] = outline[i + 1 === outline.length ? 0 : i + 1]!;
      if (Math.abs(bx - ax) <= LINE_TOLERANCE) return [];
      return [ax < bx ? { xa: ax, ya: ay, xb: bx, yb: by } : { xa: bx, ya: by, xb: ax, yb: ay }];
    }),
  ),
  ...marks.map(({ x0, y0, x1, y1 }) => ({ xa: x0, ya: y0, xb: x1, yb: y1 })),
];

const isSlanted = ({ ya, yb }: Segment): boolean => Math.abs(yb - ya) > LINE_TOLERANCE;

/** Where slanting edges cross others, along x: between these lines no two edges cross. */
function crossings(shapes: readonly Shape[], marks: readonly MarkLine[]): number[] {
  const all = segmentsOf(shapes, marks).sort((a, b) => a.xa - b.xa);
  const found: number[] = [];
  for (let i = 0; i < all.length; i++) {
    const one = all[i]!;
    for (let j = i + 1; j < all.length; j++) {
      const other = all[j]!;
      if (other.xa >= one.xb - LINE_TOLERANCE) break;
      if (!isSlanted(one) && !isSlanted(other)) continue;
      const slopeOne = (one.yb - one.ya) / (one.xb - one.xa);
      const slopeOther = (other.yb - other.ya) / (other.xb - other.xa);
      if (Math.abs(slopeOne - slopeOther) < 1e-6) continue;
      const x = (other.ya - slopeOther * other.xa - one.ya + slopeOne * one.xa) / (slopeOne - slopeOther);
      if (x > other.xa + LINE_TOLERANCE && x < Math.min(one.xb, other.xb) - LINE_TOLERANCE) found.push(x);
    }
  }
  return found;
}

/** Crossings nearer to a line than this lie on it: no steep edge rises more than the tolerance on that way. */
const CROSSING = 0.04;

/** Lines with those of crossings put in between. */
export function withCrossings(lines: Float64Array, found: readonly number[]): Float64Array {
  const all: number[] = [];
  const sorted = Float64Array.from(found).sort();
  let i = 0;
  for (const line of lines) {
    for (; i < sorted.length && sorted[i]! < line - CROSSING; i++)
      if (sorted[i]! > (all.at(-1) ?? Number.NEGATIVE_INFINITY) + CROSSING) all.push(sorted[i]!);
    all.push(line);
  }
  return Float64Array.from(all);
}

/** The lines that part a chart into slabs: at every corner, slit and crossing of what lies on it, and at the values given. */
export function linesFor(
  shapes: readonly Shape[],
  marks: readonly MarkLine[],
  also: readonly number[],
  from: number,
  to: number,
  cellSize: number,
): Float64Array {
  const within = (x: number): boolean => x > from - LINE_TOLERANCE && x < to + LINE_TOLERANCE;
  const corners = shapes.flatMap(({ outline, slits }) => [
    ...outline.map(([x]) => x),
    ...slits.flatMap((x) => [x - SLIT / 2, x + SLIT / 2]),
  ]);
  const ends = marks.flatMap(({ x0, x1 }) => [x0, x1]);
  const lines = gridLines([from, to, ...[...corners, ...ends, ...also].filter(within)], cellSize);
  return withCrossings(lines, crossings(shapes, marks).filter(within));
}

/** Corners counter-clockwise, the holds in step. */
function turned(shape: Shape): Shape {
  const { outline, holds } = shape;
  let area = 0;
  for (let i = 0; i < outline.length; i++) {
    const [ax, ay] = outline[i]!;
    const [bx, by] = outline[i + 1 === outline.length ? 0 : i + 1]!;
    area += ax * by - bx * ay;
  }
  if (area >= 0) return shape;
  const last = outline.length - 1;
  // edge i ran from corner i to the next: turned round it runs from what was its end
  return {
    ...shape,
    outline: outline.map((_, i) => outline[last - i]!),
    holds: holds.map((_, i) => holds[(2 * last - i) % outline.length]!),
  };
}

function edgesOf(shape: Shape, lines: Float64Array, slabs: number, chart: number, chartCount: number, cells: Cells): Edge[] {
  const { layer, outline, holds, slits } = turned(shape);
  let slit: Uint8Array | undefined;
  if (slits.length > 0) {
    slit = new Uint8Array(slabs);
    for (const x of slits) slit.fill(1, lineNear(lines, x - SLIT / 2), lineNear(lines, x + SLIT / 2));
  }
  return outline.flatMap(([ax, ay], i): Edge[] => {
    const [bx, by] = outline[i + 1 === outline.length ? 0 : i + 1]!;
    const [from, to] = [lineNear(lines, Math.min(ax, bx)), lineNear(lines, Math.max(ax, bx))];
    const hold = holds[i] ?? holds[0]!;
    if (from === to) {
      if (layer > 0) {
        const key = layer * chartCount + chart;
        const list = cells.sideEdges.get(key) ?? [];
        list.push({ line: from, low: Math.min(ay, by), high: Math.max(ay, by), hold });
        cells.sideEdges.set(key, list);
      }
      return [];
    }
    const [xa, ya, xb, yb] = ax < bx ? [ax, ay, bx, by] : [bx, by, ax, ay];
    const slanted = Math.abs(yb - ya) > LINE_TOLERANCE;
    return [{ from, to, xa, ya, xb, yb, layer, enters: ax < bx ? 1 : -1, hold: HOLDS.indexOf(hold), slit, slanted }];
  });
}

/** Cuts one chart's shapes into cells and their stacks, slab by slab, and adds them to what is cut already. */
export function cutSlabs(
  cells: Cells,
  lines: Float64Array,
  shapes: readonly Shape[],
  marks: readonly MarkLine[],
  chart: number,
  chartCount: number,
): void {
  const slabs = lines.length - 1;
  const edges = [
    ...shapes.flatMap((shape) => edgesOf(shape, lines, slabs, chart, chartCount, cells)),
    ...marks.map(({ x0, y0, x1, y1 }): Edge => ({
      from: lineNear(lines, x0),
      to: lineNear(lines, x1),
      xa: x0,
      ya: y0,
      xb: x1,
      yb: y1,
      layer: MARK,
      enters: 0,
      hold: 0,
      slit: undefined,
      slanted: Math.abs(y1 - y0) > LINE_TOLERANCE,
    })),
  ];
  const starting: Edge[][] = Array.from({ length: slabs }, () => []);
  for (const edge of edges) if (edge.from < edge.to) starting[edge.from]!.push(edge);
  let active: Edge[] = [];
  const count = new Map<number, number>();
  for (let slab = 0; slab < slabs; slab++) {
    const [left, right] = [lines[slab]!, lines[slab + 1]!];
    active = active.filter(({ to }) => to > slab);
    active.push(...starting[slab]!);
    cells.chartOfSlab.push(chart);
    active = stackUp(cells, active, slab, left, right, count);
    cells.slabStart.push(cells.slabOf.length);
  }
}

const at = ({ xa, ya, xb, yb }: Edge, x: number): number =>
  x <= xa ? ya : x >= xb ? yb : ya + ((yb - ya) * (x - xa)) / (xb - xa);

const slopeOf = ({ xa, ya, xb, yb }: Edge): number => (yb - ya) / (xb - xa);

/** Do two slanting edges run the same way? */
const runsAlong = (one: Edge, other: Edge): boolean =>
  one.slanted && other.slanted && Math.abs(slopeOf(one) - slopeOf(other)) <= 0.05 * (1 + slopeOf(one) ** 2);

/** One slab: between two of its edges that do not fall together lies a cell. Returns the edges from the lowest up. */
function stackUp(cells: Cells, active: Edge[], slab: number, left: number, right: number, count: Map<number, number>): Edge[] {
  const n = active.length;
  const lefts = new Float64Array(n);
  const rights = new Float64Array(n);
  const order = new Int32Array(n);
  for (let i = 0; i < n; i++) {
    lefts[i] = at(active[i]!, left);
    rights[i] = at(active[i]!, right);
    // nearly in order from the slab before: by insertion
    const middle = lefts[i]! + rights[i]!;
    let j = i;
    while (j > 0 && lefts[order[j - 1]!]! + rights[order[j - 1]!]! > middle) {
      order[j] = order[j - 1]!;
      j--;
    }
    order[j] = i;
  }
  const sorted = Array.from(order, (i) => active[i]!);
  count.clear();
  const stack: number[] = [];
  let previous = -1;
  let lowLeft = 0;
  let lowRight = 0;
  let groupStart = 0;
  for (let k = 0; k < n;) {
    const anchor = order[k]!;
    let [anchorLeft, anchorRight] = [lefts[anchor]!, rights[anchor]!];
    const first = sorted[k]!;
    const fallsTogether = (i: number): boolean => {
      const near = runsAlong(first, sorted[i]!) ? CUT_TO * Math.hypot(1, slopeOf(first)) : LINE_TOLERANCE;
      return Math.abs(lefts[order[i]!]! - anchorLeft) <= near && Math.abs(rights[order[i]!]! - anchorRight) <= near;
    };
    let end = k + 1;
    while (end < n && fallsTogether(end)) end++;
    // a level edge among them is where it was laid to
    for (let i = k; i < end && sorted[k]!.slanted; i++)
      if (!sorted[i]!.slanted) {
        [anchorLeft, anchorRight] = [lefts[order[i]!]!, rights[order[i]!]!];
        break;
      }
    if (k > 0 && has(count, SURFACE) && !has(count, STANDING)) {
      const cell = cells.slabOf.length;
      cells.slabOf.push(cells.chartOfSlab.length - 1);
      cells.lowLeft.push(lowLeft);
      cells.lowRight.push(lowRight);
      cells.highLeft.push(anchorLeft);
      cells.highRight.push(anchorRight);
      cells.below.push(previous);
      cells.sheltered.push(has(count, SHELTERED) ? 1 : 0);
      cells.drift.push(has(count, DRIFT_LEFT) ? -1 : has(count, DRIFT_RIGHT) ? 1 : 0);
      for (let i = groupStart; i < k; i++) {
        const edge = sorted[i]!;
        if (edge.layer <= 0 || edge.slit?.[slab]) continue;
        cells.edgeLayer.push(edge.layer);
        cells.edgeHold.push(edge.hold);
        cells.edgeUpper.push(edge.enters === -1 ? 1 : 0);
      }
      cells.edgeStart.push(cells.edgeLayer.length);
      cells.layerAt.push(0);
      for (const layer of stack) cells.layerAt.push(layer);
      cells.stackStart.push(cells.layerAt.length);
      previous = cell;
    } else previous = -1;
    for (let i = k; i < end; i++) {
      const edge = sorted[i]!;
      if (edge.enters === 0 || edge.slit?.[slab]) continue;
      const before = count.get(edge.layer) ?? 0;
      count.set(edge.layer, before + edge.enters);
      if (edge.layer > 0) {
        if (before <= 0 && before + edge.enters > 0) stack.splice(placeOf(stack, edge.layer), 0, edge.layer);
        else if (before > 0 && before + edge.enters <= 0) stack.splice(stack.indexOf(edge.layer), 1);
      }
    }
    groupStart = k;
    [lowLeft, lowRight] = [anchorLeft, anchorRight];
    k = end;
  }
  return sorted;
}

const has = (count: Map<number, number>, layer: number): boolean => (count.get(layer) ?? 0) > 0;

function placeOf(stack: readonly number[], layer: number): number {
  let at = stack.length;
  while (at > 0 && stack[at - 1]! > layer) at--;
  return at;
}
