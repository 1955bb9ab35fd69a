import type { EdgeHold } from '../assembly/index.ts';
import type { Outline, Point } from '../roof/index.ts';
import { LINE_TOLERANCE, NOISE } from '../units/index.ts';
import { HOLDS, type Meeting, type SideEdge } from './mesh.ts';

/** What an outline on a chart stands for, where it is not a layer (1 and up). A mark only cuts cells and changes nothing else. */
export const SURFACE = -1;
export const STANDING = -2;
export const SHELTERED = -3;
export const DRIFT_LEFT = -4;
export const DRIFT_RIGHT = -5;
const MARK = 0;

/** An outline on a chart: a layer's, or one of the above. `slits`: where the piece is open from butt to top, middles along x. */
export type Shape = {
  readonly layer: number;
  readonly outline: Outline;
  readonly holds: readonly EdgeHold[];
  readonly slits: readonly number[];
};

/** Width of the open slit between two shingles of a course: 1/16 in. */
const SLIT = 25.4 / 16;

/** Pieces cut to the same slanting line lie within this of it and of one another, square to it. */
const CUT_TO = 0.6;

/** A line that only cuts, from left to right. */
export type MarkLine = {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
  /** Number of the valley whose line it is. */
  readonly valley?: number;
};

/** An upright line at which cells end, between two heights. */
export type Upright = { readonly x: number; readonly y0: number; readonly y1: number };

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
  /** Number of the valley whose line it marks. */
  readonly valley: number | undefined;
  /** The edges it falls together with. */
  group: Group | undefined;
};

/** Edges that fall together, the one that says where, the cell over them (−1: none), and what bounds that above. */
type Group = { readonly edges: readonly Edge[]; readonly anchor: Edge; cell: number; top: Group | undefined };

/** Where a point is looked for, and the cell found: best one that has the layer. */
export type Sought = { readonly x: number; readonly y: number; readonly layer: number; cell: number; hasLayer: boolean };

/** Cells of all charts as they are cut, before they become a mesh's typed arrays. */
export class Cells {
  count = 0;
  readonly chartOf: number[] = [];
  readonly left: number[] = [];
  readonly right: number[] = [];
  readonly lowLeft: number[] = [];
  readonly lowRight: number[] = [];
  readonly highLeft: number[] = [];
  readonly highRight: number[] = [];
  readonly sheltered: number[] = [];
  readonly drift: number[] = [];
  readonly stackStart: number[] = [0];
  readonly layerAt: number[] = [];
  readonly edgeStart: number[] = [0];
  readonly edgeLayer: number[] = [];
  readonly edgeHold: number[] = [];
  readonly edgeUpper: number[] = [];
  readonly sideEdges = new Map<number, SideEdge[]>();
  /** Cells over the line of a valley, by its number. */
  readonly onValley = new Map<number, number[]>();
  /** Pairs of cells that meet: one over another, and one to the right of another. */
  /** The edges that bound a cell, and the cell last found under it. */
  readonly low: Edge[] = [];
  readonly high: Edge[] = [];
  readonly lastBelow: number[] = [];
  readonly over: [below: number[], above: number[]] = [[], []];
  readonly aside: [left: number[], right: number[]] = [[], []];
}

/** What meets each cell, from pairs in order. */
export function meetingOf(count: number, own: readonly number[], other: readonly number[]): Meeting {
  const start = new Int32Array(count + 1);
  for (const cell of own) start[cell + 1]!++;
  for (let cell = 0; cell < count; cell++) start[cell + 1]! += start[cell]!;
  const next = start.slice();
  const cells = new Int32Array(own.length);
  own.forEach((cell, i) => (cells[next[cell]!++] = other[i]!));
  return { start, cells };
}

/** Sorted lines, those within the tolerance of one another made one, no gap wider than `most`. */
function gridLines(values: readonly number[], most: number): Float64Array {
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

/** Where slanting edges cross others: between lines there no two edges cross. */
function crossings(shapes: readonly Shape[], marks: readonly MarkLine[]): Point[] {
  const all = segmentsOf(shapes, marks).sort((a, b) => a.xa - b.xa);
  const found: Point[] = [];
  for (let i = 0; i < all.length; i++) {
    const one = all[i]!;
    for (let j = i + 1; j < all.length; j++) {
      const other = all[j]!;
      if (other.xa >= one.xb - LINE_TOLERANCE) break;
      if (!isSlanted(one) && !isSlanted(other)) continue;
      const slopeOne = (one.yb - one.ya) / (one.xb - one.xa);
      const slopeOther = (other.yb - other.ya) / (other.xb - other.xa);
      if (Math.abs(slopeOne - slopeOther) < NOISE) continue;
      const x = (other.ya - slopeOther * other.xa - one.ya + slopeOne * one.xa) / (slopeOne - slopeOther);
      if (x > other.xa && x < Math.min(one.xb, other.xb)) found.push([x, one.ya + slopeOne * (x - one.xa)]);
    }
  }
  return found;
}

/** Crossings nearer to a line than this lie on it: no steep edge rises more than the tolerance on that way. */
const CROSSING = 0.04;

/** Lines with those of crossings put in between. */
function withCrossings(lines: Float64Array, found: readonly number[]): Float64Array {
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

/** The lines that part a chart into slabs: at every corner, slit and crossing of what lies on it. */
function linesFor(
  { all: shapes, marks, uprights = [], from, to }: ToCut,
  cellSize: number,
): { lines: Float64Array; crossed: Point[] } {
  const within = (x: number): boolean => x > from - LINE_TOLERANCE && x < to + LINE_TOLERANCE;
  const corners = shapes.flatMap(({ outline, slits }) => [
    ...outline.map(([x]) => x),
    ...slits.flatMap((x) => [x - SLIT / 2, x + SLIT / 2]),
  ]);
  const ends = [...marks.flatMap(({ x0, x1 }) => [x0, x1]), ...uprights.map(({ x }) => x)];
  const lines = gridLines([from, to, ...[...corners, ...ends].filter(within)], cellSize);
  const crossed = crossings(shapes, marks).filter(([x]) => within(x));
  return { lines: withCrossings(lines, crossed.map(([x]) => x)), crossed }; // prettier-ignore
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
        list.push({ x: lines[from]!, low: Math.min(ay, by), high: Math.max(ay, by), hold });
        cells.sideEdges.set(key, list);
      }
      return [];
    }
    const [xa, ya, xb, yb] = ax < bx ? [ax, ay, bx, by] : [bx, by, ax, ay];
    const slanted = Math.abs(yb - ya) > LINE_TOLERANCE;
    return [
      {
        from,
        to,
        xa,
        ya,
        xb,
        yb,
        layer,
        enters: ax < bx ? 1 : -1,
        hold: HOLDS.indexOf(hold),
        slit,
        slanted,
        valley: undefined,
        group: undefined,
      },
    ];
  });
}

/** Number of the line nearest to a value. */
function lineNear(lines: Float64Array, value: number): number {
  let low = 0;
  let high = lines.length - 1;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (lines[middle]! < value) low = middle + 1;
    else high = middle;
  }
  return low > 0 && value - lines[low - 1]! < lines[low]! - value ? low - 1 : low;
}

/** What a chart is cut from, and how far along x it goes. */
export type ToCut = {
  readonly all: readonly Shape[];
  readonly marks: readonly MarkLine[];
  readonly uprights?: readonly Upright[];
  readonly from: number;
  readonly to: number;
};

/**
 * Cuts one chart into cells and their stacks and adds them to what is cut already. A line sweeps over it from left to right and stops where edges end,
 * begin or cross. Only there, and only as far up and down as that goes, cells end and others begin: one goes on as long as it has the same edges under
 * and over it and the same stack. `cellSize`: cells end at every line, and no two lines are farther apart.
 */
export function cutChart(
  cells: Cells,
  toCut: ToCut,
  chart: number,
  chartCount: number,
  sought: readonly Sought[],
  cellSize: number | undefined,
): void {
  const { lines, crossed } = linesFor(toCut, cellSize ?? Number.POSITIVE_INFINITY);
  const slabs = lines.length - 1;
  const edges = [
    ...toCut.all.flatMap((shape) => edgesOf(shape, lines, slabs, chart, chartCount, cells)),
    ...toCut.marks.map((mark) => markEdge(mark, lines)),
  ].filter(({ from, to }) => from < to);
  const starting = new Map<number, Edge[]>();
  const changes = new Changes(lines.length);
  let layers = 0;
  for (const edge of edges) {
    layers = Math.max(layers, edge.layer);
    const list = starting.get(edge.from);
    if (list) list.push(edge);
    else starting.set(edge.from, [edge]);
    changes.add(edge.from, edge.ya, edge.ya);
    changes.add(edge.to, edge.yb, edge.yb);
    if (cellSize !== undefined) for (let line = edge.from; line <= edge.to; line++) changes.add(line, edge.ya, edge.yb);
  }
  for (const [x, y] of crossed) changes.add(lineNear(lines, x), y, y);
  for (const { slits, outline } of toCut.all) {
    const ys = outline.map(([, y]) => y);
    for (const x of slits)
      for (const side of [-1, 1]) changes.add(lineNear(lines, x + (side * SLIT) / 2), Math.min(...ys), Math.max(...ys));
  }
  const parted = new Set<number>();
  for (const { x, y0, y1 } of toCut.uprights ?? []) {
    const line = lineNear(lines, x);
    parted.add(line);
    changes.add(line, y0, y1);
  }
  const near = edges.reduce((most, edge) => Math.max(most, nearOf(edge)), LINE_TOLERANCE);
  const sweep: Sweep = {
    cells,
    chart,
    lines,
    groups: [],
    counts: new Int32Array(layers + 1 + OFFSET),
    near,
    endsAt: (line) => cellSize !== undefined || parted.has(line),
  };
  const points = [...sought].sort((a, b) => a.x - b.x);
  let point = 0;
  for (let slab = 0; slab < slabs; slab++) {
    if (changes.low[slab]! <= changes.high[slab]!)
      change(sweep, slab, changes.low[slab]!, changes.high[slab]!, starting.get(slab) ?? []);
    while (point < points.length && points[point]!.x < lines[slab]! - NEAR) point++;
    for (let i = point; i < points.length && points[i]!.x <= lines[slab + 1]! + NEAR; i++) find(sweep, points[i]!);
  }
  for (const { cell } of sweep.groups) if (cell >= 0) close(cells, cell, lines[slabs]!);
}

/** How far up and down a chart edges change at each line. */
class Changes {
  readonly low: Float64Array;
  readonly high: Float64Array;
  constructor(lines: number) {
    this.low = new Float64Array(lines).fill(Number.POSITIVE_INFINITY);
    this.high = new Float64Array(lines).fill(Number.NEGATIVE_INFINITY);
  }
  add(line: number, from: number, to: number): void {
    this.low[line] = Math.min(this.low[line]!, from, to);
    this.high[line] = Math.max(this.high[line]!, from, to);
  }
}

type Sweep = {
  readonly cells: Cells;
  readonly chart: number;
  readonly lines: Float64Array;
  /** Groups of edges the line goes through, from the lowest up. */
  readonly groups: Group[];
  /** How often each layer covers the place that is looked at. */
  readonly counts: Int32Array;
  /** Edges farther apart than this never fall together. */
  readonly near: number;
  /** Do cells end at a line, even those that could go on? */
  endsAt(line: number): boolean;
};

const markEdge = ({ x0, y0, x1, y1, valley }: MarkLine, lines: Float64Array): Edge => ({
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
  valley,
  group: undefined,
});

/** A point this near to a cell may be in it: right on a border it is in the one that has its piece. */
const NEAR = 2 * LINE_TOLERANCE;

function find({ cells, groups }: Sweep, point: Sought): void {
  for (let i = firstFrom(groups, point.x, point.y - NEAR) - 1; i < groups.length; i++) {
    if (i < 0) continue;
    const { anchor, cell } = groups[i]!;
    if (at(anchor, point.x) > point.y + NEAR) return;
    if (cell < 0 || at(cells.high[cell]!, point.x) < point.y - NEAR) continue;
    let has = false;
    for (let k = cells.stackStart[cell]!; k < cells.stackStart[cell + 1]!; k++) has ||= cells.layerAt[k] === point.layer;
    if (point.cell < 0 || (has && !point.hasLayer)) Object.assign(point, { cell, hasLayer: has });
  }
}

/** Number of the first group that lies at or above a height where the line is. */
function firstFrom(groups: readonly Group[], x: number, y: number): number {
  let low = 0;
  let high = groups.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (at(groups[middle]!.anchor, x) < y) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Cells that end at a line meet those that begin there. */
function linkAside(cells: Cells, ended: readonly number[], started: readonly number[]): void {
  const [lefts, rights] = cells.aside;
  let i = 0;
  for (const cell of ended) {
    const [low, high] = [cells.lowRight[cell]!, cells.highRight[cell]!];
    while (i < started.length && cells.highLeft[started[i]!]! <= low + LINE_TOLERANCE) i++;
    for (let j = i; j < started.length && cells.lowLeft[started[j]!]! < high - LINE_TOLERANCE; j++) {
      if (Math.min(high, cells.highLeft[started[j]!]!) - Math.max(low, cells.lowLeft[started[j]!]!) <= LINE_TOLERANCE) continue;
      lefts.push(cell);
      rights.push(started[j]!);
    }
  }
}

const at = ({ xa, ya, xb, yb }: Edge, x: number): number =>
  x <= xa ? ya : x >= xb ? yb : ya + ((yb - ya) * (x - xa)) / (xb - xa);

const slopeOf = ({ xa, ya, xb, yb }: Edge): number => (yb - ya) / (xb - xa);

/** Do two slanting edges run the same way? */
const runsAlong = (one: Edge, other: Edge): boolean =>
  one.slanted && other.slanted && Math.abs(slopeOf(one) - slopeOf(other)) <= 0.05 * (1 + slopeOf(one) ** 2);

/** Edges along a slanting one fall together with it within this. */
const nearOf = (edge: Edge): number => (edge.slanted ? CUT_TO * Math.hypot(1, slopeOf(edge)) : LINE_TOLERANCE);

/** Do two edges fall together from a place on, as long as both go on? */
function fallTogether(one: Edge, other: Edge, x: number): boolean {
  const near = one.slanted && runsAlong(one, other) ? nearOf(one) : LINE_TOLERANCE;
  const end = Math.min(one.xb, other.xb);
  return Math.abs(at(one, x) - at(other, x)) <= near && Math.abs(at(one, end) - at(other, end)) <= near;
}

/** The line has come to a place where edges end, begin or cross between two heights: what lies there is put together anew. */
function change(sweep: Sweep, slab: number, low: number, high: number, starting: readonly Edge[]): void {
  const { cells, groups, counts, lines } = sweep;
  const mayGoOn = !sweep.endsAt(slab);
  const [left, right] = [lines[slab]!, lines[slab + 1]!];
  const first = firstFrom(groups, left, low - sweep.near - LINE_TOLERANCE);
  let end = first;
  while (end < groups.length && at(groups[end]!.anchor, left) <= high + sweep.near + LINE_TOLERANCE) end++;
  const here = inOrder(
    [...groups.slice(first, end).flatMap(({ edges }) => edges.filter(({ to }) => to > slab)), ...starting],
    left,
    right,
  );
  const before: number[] = [];
  for (let i = Math.max(0, first - 1); i < end; i++) if (groups[i]!.cell >= 0) before.push(groups[i]!.cell);
  // the stack right under what changes
  counts.fill(0);
  const stack: number[] = [];
  for (let i = 0; i < first; i++) for (const edge of groups[i]!.edges) pass(edge, slab, counts, stack);
  const made: Group[] = [];
  const now: number[] = [];
  const started: number[] = [];
  let under = groups[first - 1];
  let below = groups[first - 2]?.cell ?? -1;
  const bound = (top: Group): void => {
    if (!under) return;
    if (counts[SURFACE + OFFSET]! <= 0 || counts[STANDING + OFFSET]! > 0) {
      under.cell = -1;
      below = -1;
      return;
    }
    const sheltered = counts[SHELTERED + OFFSET]! > 0 ? 1 : 0;
    const drift = counts[DRIFT_LEFT + OFFSET]! > 0 ? -1 : counts[DRIFT_RIGHT + OFFSET]! > 0 ? 1 : 0;
    let { cell } = under;
    const goesOn =
      mayGoOn &&
      cell >= 0 &&
      under.top === top &&
      cells.sheltered[cell] === sheltered &&
      cells.drift[cell] === drift &&
      sameStack(cells, cell, stack);
    if (!goesOn) {
      cell = newCell(cells, under.edges, slab, stack);
      cells.chartOf.push(sweep.chart);
      cells.left.push(left);
      cells.lowLeft.push(at(under.anchor, left));
      cells.highLeft.push(at(top.anchor, left));
      cells.low.push(under.anchor);
      cells.high.push(top.anchor);
      cells.sheltered.push(sheltered);
      cells.drift.push(drift);
      started.push(cell);
    }
    under.cell = cell;
    under.top = top;
    now.push(cell);
    meet(cells, below, cell);
    below = cell;
  };
  for (let k = 0; k < here.length;) {
    let last = k + 1;
    while (last < here.length && fallTogether(here[k]!, here[last]!, left)) last++;
    const group = groupOf(here.slice(k, last));
    bound(group);
    for (const edge of group.edges) pass(edge, slab, counts, stack);
    made.push(group);
    under = group;
    k = last;
  }
  const over = groups[end];
  if (over) {
    bound(over);
    if (over.cell >= 0) meet(cells, below, over.cell);
  } else if (under) under.cell = -1;
  groups.splice(first, end - first, ...made);
  const going = new Set(now);
  const ended = before.filter((cell) => !going.has(cell));
  for (const cell of ended) close(cells, cell, left);
  linkAside(cells, ended, started);
}

/** Edges from the lowest up in a slab. */
function inOrder(edges: Edge[], left: number, right: number): Edge[] {
  const middles = new Map(edges.map((edge) => [edge, at(edge, left) + at(edge, right)]));
  return edges.sort((a, b) => middles.get(a)! - middles.get(b)!);
}

/** The group that edges have made before, all of them and no others, or a new one. */
function groupOf(edges: readonly Edge[]): Group {
  const [edge] = edges;
  const before = edge!.group;
  if (before?.edges.length === edges.length && edges.every(({ group }) => group === before)) return before;
  // a level edge among slanting ones is where they were laid to
  const anchor = edge!.slanted ? (edges.find(({ slanted }) => !slanted) ?? edge!) : edge!;
  const group: Group = { edges, anchor, cell: -1, top: undefined };
  for (const one of edges) one.group = group;
  return group;
}

/** Over an edge: what begins or ends there. */
function pass({ layer, enters, slit }: Edge, slab: number, counts: Int32Array, stack: number[]): void {
  if (enters === 0 || slit?.[slab]) return;
  const was = counts[layer + OFFSET]!;
  const is = was + enters;
  counts[layer + OFFSET] = is;
  if (layer <= 0) return;
  if (was <= 0 && is > 0) stack.splice(placeOf(stack, layer), 0, layer);
  else if (was > 0 && is <= 0) stack.splice(stack.indexOf(layer), 1);
}

function meet(cells: Cells, below: number, cell: number): void {
  if (below < 0 || cells.lastBelow[cell] === below) return;
  cells.lastBelow[cell] = below;
  cells.over[0].push(below);
  cells.over[1].push(cell);
}

/** A cell ends at a line. */
function close(cells: Cells, cell: number, x: number): void {
  cells.right[cell] = x;
  cells.lowRight[cell] = at(cells.low[cell]!, x);
  cells.highRight[cell] = at(cells.high[cell]!, x);
}

/** Marks have numbers below 0. */
const OFFSET = 5;

function sameStack({ stackStart, layerAt }: Cells, cell: number, stack: readonly number[]): boolean {
  const first = stackStart[cell]! + 1;
  if (stackStart[cell + 1]! - first !== stack.length) return false;
  for (let i = 0; i < stack.length; i++) if (layerAt[first + i] !== stack[i]) return false;
  return true;
}

function newCell(cells: Cells, under: readonly Edge[], slab: number, stack: readonly number[]): number {
  const cell = cells.count++;
  for (const { layer, hold, enters, slit, valley } of under) {
    if (valley !== undefined) {
      const list = cells.onValley.get(valley);
      if (list) list.push(cell);
      else cells.onValley.set(valley, [cell]);
    }
    if (layer <= 0 || slit?.[slab]) continue;
    cells.edgeLayer.push(layer);
    cells.edgeHold.push(hold);
    cells.edgeUpper.push(enters === -1 ? 1 : 0);
  }
  cells.edgeStart.push(cells.edgeLayer.length);
  cells.layerAt.push(0);
  for (const layer of stack) cells.layerAt.push(layer);
  cells.stackStart.push(cells.layerAt.length);
  cells.lastBelow.push(-1);
  return cell;
}

function placeOf(stack: readonly number[], layer: number): number {
  let at = stack.length;
  while (at > 0 && stack[at - 1]! > layer) at--;
  return at;
}
