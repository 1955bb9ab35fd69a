import type { EdgeHold } from '../assembly/index.ts';
import type { Outline } from '../roof/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import { HOLDS, type Meeting, type SideEdge } from './sheet.ts';

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
export type MarkLine = {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
  /** Number of the valley whose line it is. */
  readonly valley?: number;
};

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
  /** The edges it fell together with in the slab before. */
  group: Group | undefined;
};

/** Edges that fall together, the cell over them in the slab they are in, and what bounds that above. */
type Group = { readonly edges: readonly Edge[]; cell: number; top: Group | undefined };

/** Where a point is looked for, and the cell found: best one that has the layer. */
export type Sought = { readonly x: number; readonly y: number; readonly layer: number; cell: number; hasLayer: boolean };

/** Cells of all charts as they are cut, before they become a sheet's typed arrays. */
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
export function linesFor(
  shapes: readonly Shape[],
  marks: readonly MarkLine[],
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
  const lines = gridLines([from, to, ...[...corners, ...ends].filter(within)], cellSize);
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

/**
 * Cuts one chart's shapes into cells and their stacks and adds them to what is cut already. A sweep from left to right over upright slabs between
 * which no edges end or cross; a cell goes on through as many slabs as have the same edges under and over it and the same stack.
 * `whole`: cells end at every line.
 */
export function cutChart(
  cells: Cells,
  lines: Float64Array,
  shapes: readonly Shape[],
  marks: readonly MarkLine[],
  chart: number,
  chartCount: number,
  sought: readonly Sought[],
  whole: boolean,
): void {
  const slabs = lines.length - 1;
  const edges = [
    ...shapes.flatMap((shape) => edgesOf(shape, lines, slabs, chart, chartCount, cells)),
    ...marks.map(({ x0, y0, x1, y1, valley }): Edge => ({
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
    })),
  ];
  const starting: Edge[][] = Array.from({ length: slabs }, () => []);
  let layers = 0;
  for (const edge of edges) {
    layers = Math.max(layers, edge.layer);
    if (edge.from < edge.to) starting[edge.from]!.push(edge);
  }
  const points = [...sought].sort((a, b) => a.x - b.x);
  let point = 0;
  let active: Edge[] = [];
  let before: Slab = { cells: [], started: [] };
  const counts = new Int32Array(layers + 6);
  for (let slab = 0; slab < slabs; slab++) {
    const [left, right] = [lines[slab]!, lines[slab + 1]!];
    active = active.filter(({ to }) => to > slab);
    active.push(...starting[slab]!);
    const made = sweepSlab(cells, active, slab, left, right, counts, chart, whole);
    active = made.sorted;
    if (slab > 0) linkAside(cells, before.cells, made);
    while (point < points.length && points[point]!.x < left - NEAR) point++;
    for (let i = point; i < points.length && points[i]!.x <= right + NEAR; i++) find(cells, made.cells, points[i]!);
    before = made;
  }
}

type Slab = { readonly cells: readonly number[]; readonly started: readonly number[] };

/** A point this near to a cell may be in it: right on a border it is in the one that has its piece. */
const NEAR = 2 * LINE_TOLERANCE;

function find(cells: Cells, among: readonly number[], point: Sought): void {
  for (const cell of among) {
    const share = Math.max(0, Math.min(1, (point.x - cells.left[cell]!) / (cells.right[cell]! - cells.left[cell]!)));
    if (point.y < cells.lowLeft[cell]! + (cells.lowRight[cell]! - cells.lowLeft[cell]!) * share - NEAR) return;
    if (point.y > cells.highLeft[cell]! + (cells.highRight[cell]! - cells.highLeft[cell]!) * share + NEAR) continue;
    if (point.cell >= 0 && point.hasLayer) return;
    const end = cells.stackStart[cell + 1]!;
    let has = false;
    for (let i = cells.stackStart[cell]!; i < end; i++) has ||= cells.layerAt[i] === point.layer;
    if (point.cell < 0 || has) Object.assign(point, { cell, hasLayer: has });
  }
}

/** Cells that end at a line meet those that begin there. */
function linkAside(cells: Cells, before: readonly number[], { cells: here, started }: Slab): void {
  if (started.length === 0 && before.length === here.length) return;
  const going = new Set(here);
  const [lefts, rights] = cells.aside;
  let i = 0;
  for (const cell of before) {
    if (going.has(cell)) continue;
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

/** One slab: between two of its groups of edges lies a cell, one that goes on or a new one. */
function sweepSlab(
  cells: Cells,
  active: Edge[],
  slab: number,
  left: number,
  right: number,
  counts: Int32Array,
  chart: number,
  whole: boolean,
): Slab & { sorted: Edge[] } {
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
  const here: number[] = [];
  const started: number[] = [];
  const stack: number[] = [];
  counts.fill(0);
  let under: Group | undefined;
  let underGoesOn = false;
  let lowLeft = 0;
  let lowRight = 0;
  let previous = -1;
  for (let k = 0; k < n;) {
    const anchor = order[k]!;
    let [anchorLeft, anchorRight] = [lefts[anchor]!, rights[anchor]!];
    const first = sorted[k]!;
    const alone = first.slanted ? CUT_TO * Math.hypot(1, slopeOf(first)) : LINE_TOLERANCE;
    let end = k + 1;
    for (; end < n; end++) {
      const near = first.slanted && runsAlong(first, sorted[end]!) ? alone : LINE_TOLERANCE;
      if (Math.abs(lefts[order[end]!]! - anchorLeft) > near || Math.abs(rights[order[end]!]! - anchorRight) > near) break;
    }
    // a level edge among them is where it was laid to
    for (let i = k; i < end && first.slanted; i++)
      if (!sorted[i]!.slanted) {
        [anchorLeft, anchorRight] = [lefts[order[i]!]!, rights[order[i]!]!];
        break;
      }
    const before = first.group;
    let goesOn = before !== undefined && before.edges.length === end - k && !whole;
    for (let i = k + 1; i < end && goesOn; i++) goesOn = sorted[i]!.group === before;
    const group: Group = goesOn ? before! : { edges: sorted.slice(k, end), cell: -1, top: undefined };
    if (under && counts[SURFACE + OFFSET]! > 0 && counts[STANDING + OFFSET]! <= 0) {
      const sheltered = counts[SHELTERED + OFFSET]! > 0 ? 1 : 0;
      const drift = counts[DRIFT_LEFT + OFFSET]! > 0 ? -1 : counts[DRIFT_RIGHT + OFFSET]! > 0 ? 1 : 0;
      let cell = under.cell;
      if (
        cell < 0 ||
        !underGoesOn ||
        under.top !== group ||
        cells.sheltered[cell] !== sheltered ||
        cells.drift[cell] !== drift ||
        !sameStack(cells, cell, stack)
      ) {
        cell = newCell(cells, under.edges, slab, stack);
        cells.chartOf.push(chart);
        cells.left.push(left);
        cells.lowLeft.push(lowLeft);
        cells.highLeft.push(anchorLeft);
        cells.sheltered.push(sheltered);
        cells.drift.push(drift);
        started.push(cell);
      }
      cells.right[cell] = right;
      cells.lowRight[cell] = lowRight;
      cells.highRight[cell] = anchorRight;
      under.cell = cell;
      under.top = group;
      if (previous >= 0 && cells.lastBelow[cell] !== previous) {
        cells.lastBelow[cell] = previous;
        cells.over[0].push(previous);
        cells.over[1].push(cell);
      }
      here.push(cell);
      previous = cell;
    } else {
      if (under) under.cell = -1;
      previous = -1;
    }
    for (let i = k; i < end; i++) {
      const edge = sorted[i]!;
      edge.group = group;
      if (edge.enters === 0 || edge.slit?.[slab]) continue;
      const was = counts[edge.layer + OFFSET]!;
      const is = was + edge.enters;
      counts[edge.layer + OFFSET] = is;
      if (edge.layer <= 0) continue;
      if (was <= 0 && is > 0) stack.splice(placeOf(stack, edge.layer), 0, edge.layer);
      else if (was > 0 && is <= 0) stack.splice(stack.indexOf(edge.layer), 1);
    }
    under = group;
    underGoesOn = goesOn;
    [lowLeft, lowRight] = [anchorLeft, anchorRight];
    k = end;
  }
  if (under) under.cell = -1;
  return { cells: here, started, sorted };
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
