import {
  type Assembly,
  type EdgeHold,
  type Facet,
  type Fastener,
  type Joint,
  type Piece,
  type Role,
  byLay,
  holdOf,
} from '../assembly/index.ts';
import { type Outline, type Point, bounds, distanceToStretch, isWithin, wallToSlope } from '../roof/index.ts';
import { LINE_TOLERANCE, inches } from '../units/index.ts';

/** Width of the open slit between two shingles of a course. */
const SLIT = inches(1 / 16);

/**
 * A cell is covered by a slanting shape where this point of it is within: off the middle, so that edges through the corners of cells do not
 * go through the points asked for.
 */
const ASKED: Point = [0.53, 0.48];
const askedOf = (columns: Float64Array, rows: Float64Array, column: number, row: number): Point => [
  columns[column]! + (columns[column + 1]! - columns[column]!) * ASKED[0],
  rows[row]! + (rows[row + 1]! - rows[row]!) * ASKED[1],
];

/**
 * Edges that slant across a chart (along a valley, round a cricket) are followed in steps of this size: far smaller than any lap there.
 */
const SLANT_STEP = inches(1);

/** How much of a wall above the roof line is looked at; nothing that is laid here goes higher. */
const WALL_LOOKED_AT = inches(20);

/** Edges of a rectangle, in the order of its outline. */
export const LOWER = 0;
export const RIGHT = 1;
export const UPPER = 2;
export const LEFT = 3;

/** A laid piece in the order of the stack; `layer` 0 is the deck or the bare wall. */
export type LaidPiece = { readonly mark: string; readonly role: Role; readonly layer: number; readonly sealsNails: boolean };

/**
 * One chart: a grid whose lines are the edges of everything on it. On a roof plane columns run along the eave and rows up the slope. On a
 * wall beside the slope columns are the same lines up the slope and rows are height above the roof line; on a face across the slope
 * columns are the lines along the eave. So water falls straight down a column on all of them.
 */
export type Chart = {
  readonly facet: string;
  readonly kind: 'roof' | 'wall';
  readonly columns: Float64Array;
  readonly rows: Float64Array;
  /** Number of the chart's first cell; cell = first + row · columnCount + column. */
  readonly first: number;
  readonly columnCount: number;
  readonly rowCount: number;
  /** 1 where there is no surface. */
  readonly taken: Uint8Array;
  /** 1 where another roof hangs over it and no rain falls. */
  readonly sheltered: Uint8Array;
  /** −1 or 1 where the surface sheds sideways before it falls (the sides of a cricket). */
  readonly drift: Int8Array;
  /** Sine of the surface's angle: a head h reaches h / sine along it. */
  readonly sine: number;
  /** Does water leave it over an eave? */
  readonly hasEave: boolean;
  /** 1 at each row's lower line where a course has its butt. */
  readonly butts: Uint8Array;
  /** A wall: how far up the slope it stands where it does not run up it. */
  readonly stands?: number;
};

/** A wall meets a roof chart: along a column's edge where it runs up the slope, along a row's where it stands across it. */
export type Fold = {
  readonly wall: number;
  readonly roof: number;
  readonly along: 'column' | 'row';
  /** The column or row of the roof chart right beside the wall. */
  readonly line: number;
  readonly runsOn: boolean;
  /** Columns of the roof under the wall's flashing legs. */ readonly leg: readonly number[];
};

/**
 * A cell on the line of a valley: where its water goes on down the valley, on its own chart and on the other one. −1: nowhere, over the
 * eave.
 */
export type ValleyCell = {
  readonly next: number;
  readonly across: number;
  /** How far along the course the valley's water runs wide of the line here. */
  readonly spread: number;
  /** From the line on to this chart's slope: to the right (1) or to the left (−1). */
  readonly away: 1 | -1;
};

/** What a fastener goes through where it stands. */
export type Hole = {
  readonly layer: number;
  readonly along: number;
  readonly up: number;
  readonly sealed: boolean;
  readonly covering: boolean;
  readonly piece: string;
};

/** The assembly cut into cells, each with its stack. All numbers are in typed arrays; state = stackStart[cell] + level. */
export type Sheet = {
  readonly charts: readonly Chart[];
  readonly folds: readonly Fold[];
  readonly pieces: readonly LaidPiece[];
  readonly cellCount: number;
  readonly stateCount: number;
  /** First state of a cell: its deck (or bare wall); the pieces over it follow, lowest first. One entry more than cells. */
  readonly stackStart: Int32Array;
  /** Layer of the piece at each state; 0 for the deck. */
  readonly layerAt: Int32Array;
  /** How each edge of a layer's shape is held, by layer and chart; of a rectangle the lower, right, upper and left one. */
  readonly holds: ReadonlyMap<number, readonly EdgeHold[]>;
  readonly holes: ReadonlyMap<number, readonly Hole[]>;
  /** Outlines whose edges slant, by layer and chart: which of them face uphill is asked of the edge itself. */
  readonly slants: ReadonlyMap<number, readonly Outline[]>;
  readonly valleys: ReadonlyMap<number, ValleyCell>;
};

export type SheetRequest = {
  /** Marks that are laid; all of them when absent. */
  readonly laid?: ReadonlySet<string>;
  /** Part of the plane looked at, along the eave and up the slope; all when absent. Its cut sides act as walls. */
  readonly window?: { readonly x0: number; readonly x1: number; readonly y0: number; readonly y1: number };
  /** Largest cell. Verdicts do not depend on it: every edge is a grid line anyway. */
  readonly cellSize?: number;
};

type Rect = {
  readonly layer: number;
  readonly chart: number;
  readonly x0: number;
  readonly x1: number;
  readonly y0: number;
  readonly y1: number;
  /** Where its edges slant: the cells whose middles lie within are covered. */
  readonly outline?: Outline;
};

/** Memory one check may take, and the cells that fit: some six states a cell at about 33 bytes each. */
export const MEMORY_LIMIT_MB = 400;
const MOST_CELLS = (MEMORY_LIMIT_MB * 1_000_000) / 200;

/** A cell size too fine for the memory limit; `finest` is what is allowed. */
export class TooFine extends Error {
  readonly finest: number;
  constructor(finest: number) {
    super('the cell size needs more memory than is allowed');
    this.finest = finest;
  }
}

/** What a chart is made for: a slope, or a wall and the joint by which it meets one. */
type Made = { readonly facet: Facet; readonly joint?: Joint; readonly host: number };

/**
 * Cuts one plane, the slopes that share its valleys, and the walls that meet them into cells. Facets and pieces may come in any order:
 * layers follow the order of laying.
 */
export function cutSheet(assembly: Assembly, plane: string, request: SheetRequest = {}): Sheet {
  refuseTooFine(assembly, plane, request);
  const made = facetsFrom(assembly, plane, request.window !== undefined);
  const chartOf = new Map(made.map(({ facet }, i) => [facet.id, i]));
  const laid = assembly.pieces
    .filter(({ mark, covers }) => (request.laid?.has(mark) ?? true) && covers.some(({ facet }) => chartOf.has(facet)))
    .flatMap(stackedParts)
    .sort(byLay);
  const pieces: LaidPiece[] = [
    { mark: '', role: 'course', layer: 0, sealsNails: false },
    ...laid.map(({ mark, role, sealsNails }, i) => ({ mark, role, layer: i + 1, sealsNails: sealsNails === true })),
  ];
  const box = bounds(made[0]!.facet.outline);
  const window = request.window ?? { x0: box.x0, x1: box.x1, y0: Number.NEGATIVE_INFINITY, y1: box.y1 };
  const holds = new Map<number, readonly EdgeHold[]>();
  const rects = laid
    .flatMap((piece, i) => rectsOf(piece, i + 1, made, chartOf, holds))
    .flatMap((rect) => clip(rect, made, request.window && window));
  const charts = layCharts(assembly, made, rects, laid, request.window && window, request.cellSize ?? Number.POSITIVE_INFINITY);
  return fillStacks(assembly, made, charts, rects, pieces, holds, chartOf, laid);
}

/** A piece of which parts are slid under something counts as several in the stack. */
function stackedParts(piece: Piece): Piece[] {
  if (piece.covers.every(({ lay }) => lay === undefined)) return [piece];
  const parts = new Map<string, Piece['covers'][number][]>();
  for (const cover of piece.covers) {
    const key = (cover.lay ?? piece.lay).join();
    parts.set(key, [...(parts.get(key) ?? []), cover]);
  }
  return [...parts.values()].map((covers) => ({ ...piece, covers, lay: covers[0]!.lay ?? piece.lay }));
}

/** The plane, the slopes it shares valleys with, and so on; then the walls of each. A window keeps to the plane alone. */
function facetsFrom(assembly: Assembly, plane: string, alone: boolean): Made[] {
  const byId = new Map(assembly.facets.map((facet) => [facet.id, facet]));
  if (!byId.has(plane)) throw new Error(`there is no facet ${plane}`);
  const slopes = [plane];
  const valleys = alone ? [] : assembly.joints.filter(({ kind }) => kind === 'valley');
  for (const id of slopes)
    for (const { a, b } of valleys)
      for (const [own, other] of [[a, b], [b, a]] as const) if (own === id && !slopes.includes(other)) slopes.push(other); // prettier-ignore
  const walls = slopes.flatMap((id, host) =>
    assembly.joints
      .filter(({ kind, a }) => kind !== 'valley' && a === id)
      .sort((p, q) => (p.b < q.b ? -1 : 1))
      .map((joint): Made => ({ facet: byId.get(joint.b)!, joint, host })),
  );
  return [...slopes.map((id, host): Made => ({ facet: byId.get(id)!, host })), ...walls];
}

const pitchOf = (made: readonly Made[], host: number): number => Math.tan(made[host]!.facet.angle);

/** Refuses a cell size before anything is cut, by the least number of cells it must give. */
function refuseTooFine(assembly: Assembly, plane: string, { cellSize, window }: SheetRequest): void {
  if (cellSize === undefined) return;
  const outline = assembly.facets.find(({ id }) => id === plane)!.outline;
  const width = window ? window.x1 - window.x0 : Math.max(...outline.map(([x]) => x));
  const height = window ? window.y1 - window.y0 : Math.max(...outline.map(([, y]) => y));
  const finest = Math.sqrt((width * height) / MOST_CELLS);
  if (!(cellSize >= finest)) throw new TooFine(finest);
}

/** Rectangles of a piece on its charts. A course is single shingles: its slits are cut out of it. */
function rectsOf(
  piece: Piece,
  layer: number,
  made: readonly Made[],
  chartOf: ReadonlyMap<string, number>,
  holds: Map<number, readonly EdgeHold[]>,
): Rect[] {
  const own = piece.covers[0]?.facet;
  return piece.covers.flatMap((cover): Rect[] => {
    const chart = chartOf.get(cover.facet);
    if (chart === undefined) return [];
    const points = onChart(cover.outline, made, chart);
    const box = bounds(points);
    const rect: Rect = { layer, chart, ...box, ...(isAligned(points) ? {} : { outline: points }) };
    holds.set(
      layer * made.length + chart,
      cover.outline.map((_, i) => holdOf(cover.holds, i)),
    );
    const joints = cover.facet === own ? (piece.joints ?? []) : [];
    const slits = joints.filter((x) => x - SLIT / 2 > rect.x0 && x + SLIT / 2 < rect.x1);
    const starts = [rect.x0, ...slits.map((x) => x + SLIT / 2)];
    const ends = [...slits.map((x) => x - SLIT / 2), rect.x1];
    return starts.map((x0, i) => ({ ...rect, x0, x1: ends[i]! }));
  });
}

/** An outline in a chart's own columns and rows. On a wall beside the slope, what is square to the slope counts as plumb. */
function onChart(outline: Outline, made: readonly Made[], chart: number): Outline {
  const { joint, host } = made[chart]!;
  if (joint?.kind !== 'side') return outline;
  const pitch = pitchOf(made, host);
  const k = Math.hypot(1, pitch);
  const square = outline.map((point) => wallToSlope(point, pitch)).map(({ s, u }): Point => [s, u * k]);
  return isAligned(square) ? square : outline.map(([x, y]): Point => [x * k, y - pitch * x]);
}

/** Are all edges level or plumb on the chart? */
const isAligned = (outline: Outline): boolean =>
  outline.length === 4 &&
  outline.every(([x, y], i) => {
    const [nx, ny] = outline[(i + 1) % 4]!;
    return Math.abs(nx - x) < 0.01 || Math.abs(ny - y) < 0.01;
  });

type Window = { readonly x0: number; readonly x1: number; readonly y0: number; readonly y1: number };

function clip(rect: Rect, made: readonly Made[], window: Window | undefined): Rect[] {
  const { joint } = made[rect.chart]!;
  const all = {
    x0: Number.NEGATIVE_INFINITY,
    x1: Number.POSITIVE_INFINITY,
    y0: Number.NEGATIVE_INFINITY,
    y1: Number.POSITIVE_INFINITY,
  };
  const { x0, x1, y0, y1 } = window ?? all;
  const along = joint?.kind === 'side' ? [y0, y1] : [x0, x1];
  const up = joint ? [0, WALL_LOOKED_AT] : [y0, y1];
  const cut = {
    ...rect,
    x0: Math.max(rect.x0, along[0]!),
    x1: Math.min(rect.x1, along[1]!),
    y0: Math.max(rect.y0, up[0]!),
    y1: Math.min(rect.y1, up[1]!),
  };
  return cut.x1 - cut.x0 > LINE_TOLERANCE && cut.y1 - cut.y0 > LINE_TOLERANCE ? [cut] : [];
}

/** Sorted lines, those within the tolerance of one another made one, no gap wider than `most`. */
export function gridLines(values: readonly number[], most: number): Float64Array {
  const sorted = [...values].sort((a, b) => a - b);
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

/** Index of the cell between two lines that holds `value` (just above it at a line); −1 below the first, beyond the last its count. */
export function cellAt(lines: Float64Array, value: number): number {
  let low = 0;
  let high = lines.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (lines[middle]! <= value + LINE_TOLERANCE) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

/** Number of the line nearest to the edge of a piece. */
export function lineNear(lines: Float64Array, value: number): number {
  const at = Math.max(0, Math.min(lines.length - 1, cellAt(lines, value)));
  return at + 1 < lines.length && lines[at + 1]! - value < value - lines[at]! ? at + 1 : at;
}

/** A course of this very slope, as against one that crosses a valley on to it; cut to a slanting line or not, it has its butt at its lowest. */
const isCourseOf = ({ role, covers }: Piece, facet: string): boolean => role === 'course' && covers[0]!.facet === facet;

function layCharts(
  assembly: Assembly,
  made: readonly Made[],
  rects: readonly Rect[],
  laid: readonly Piece[],
  window: Window | undefined,
  cellSize: number,
): Chart[] {
  const charts: Chart[] = [];
  const add = (facet: Facet, kind: Chart['kind'], columns: Float64Array, rows: Float64Array, stands?: number): Chart => {
    const previous = charts.at(-1);
    const first = previous ? previous.first + previous.columnCount * previous.rowCount : 0;
    const columnCount = columns.length - 1;
    const rowCount = rows.length - 1;
    const cells = columnCount * rowCount;
    if (first + cells > MOST_CELLS) throw new TooFine(cellSize * Math.sqrt((first + cells) / MOST_CELLS));
    const hasEave = facet.outline.some(([x, y], i) => {
      const [nx, ny] = facet.outline[(i + 1) % facet.outline.length]!;
      return Math.abs(y) < 0.05 && Math.abs(ny) < 0.05 && nx - x > 1;
    });
    const chart: Chart = {
      facet: facet.id,
      kind,
      columns,
      rows,
      first,
      columnCount,
      rowCount,
      taken: new Uint8Array(cells),
      sheltered: new Uint8Array(cells),
      drift: new Int8Array(cells),
      sine: kind === 'roof' ? Math.sin(facet.angle) : 1,
      hasEave: kind === 'roof' && hasEave,
      butts: new Uint8Array(rowCount + 1),
      ...(stands === undefined ? {} : { stands }),
    };
    charts.push(chart);
    return chart;
  };
  made.forEach(({ facet, joint }, i) => {
    if (joint) return;
    const own = made.map((one, chart) => ({ ...one, chart })).filter((one) => one.joint && one.host === i);
    const { columns, rows } = roofLines(assembly, facet, i, own, rects, window, cellSize);
    const chart = add(facet, 'roof', columns, rows);
    if (!isAligned(facet.outline)) markOutside(chart, facet.outline);
    for (const outline of facet.taken ?? []) {
      markInside(chart, outline, (cell) => void (chart.taken[cell] = 1));
      if (!isAligned(outline)) markEdge(chart, outline);
    }
    for (const outline of facet.sheltered ?? []) markInside(chart, outline, (cell) => void (chart.sheltered[cell] = 1));
    for (const { facet: on, outline, towards } of assembly.drifts)
      if (on === facet.id) markInside(chart, outline, (cell) => void (chart.drift[cell] = towards));
    for (const rect of rects)
      if (rect.chart === i && isCourseOf(laid[rect.layer - 1]!, facet.id)) chart.butts[lineNear(rows, rect.y0)] = 1;
  });
  made.forEach(({ facet, joint, host }, i) => {
    if (!joint) return;
    const roof = charts[host]!;
    const heights = rects.filter((rect) => rect.chart === i).flatMap(({ y0, y1 }) => [y0, y1]);
    const slanted = rects.filter((rect) => rect.chart === i && rect.outline).flatMap(({ y0, y1 }) => steps(y0, y1));
    const top = Math.min(WALL_LOOKED_AT, heightOf(facet, joint, pitchOf(made, host)));
    const rows = gridLines([0, top, ...[...heights, ...slanted].filter((y) => y < top)], cellSize);
    const chart = add(
      facet,
      'wall',
      joint.kind === 'side' ? roof.rows : roof.columns,
      rows,
      joint.kind === 'side' ? undefined : joint.onA[0][1],
    );
    const [low, high] = joint.kind === 'side' ? [joint.onA[0][1], joint.onA[1][1]] : [joint.onA[0][0], joint.onA[1][0]];
    for (let column = 0; column < chart.columnCount; column++) {
      for (let row = 0; row < chart.rowCount; row++) {
        const at = askedOf(chart.columns, rows, column, row);
        const off = at[0] <= low || at[0] >= high || (joint.kind !== 'side' && !isWithin(facet.outline, at));
        if (off) chart.taken[row * chart.columnCount + column] = 1;
      }
    }
  });
  return charts;
}

/** How high a wall's facet goes above the roof line, plumb. */
function heightOf(facet: Facet, { kind }: Joint, pitch: number): number {
  if (kind !== 'side') return bounds(facet.outline).y1;
  return Math.max(...facet.outline.map((point) => wallToSlope(point, pitch).u)) * Math.hypot(1, pitch);
}

/** Lines a slant step apart between two, for edges that slant. */
function steps(from: number, to: number): number[] {
  const count = Math.max(1, Math.ceil((to - from) / SLANT_STEP));
  return Array.from({ length: count + 1 }, (_, i) => from + ((to - from) * i) / count);
}

function roofLines(
  assembly: Assembly,
  facet: Facet,
  index: number,
  walls: readonly (Made & { readonly chart: number })[],
  rects: readonly Rect[],
  window: Window | undefined,
  cellSize: number,
): { columns: Float64Array; rows: Float64Array } {
  const box = bounds(facet.outline);
  const onRoof = rects.filter(({ chart }) => chart === index);
  const onWall = (kind: 'side' | 'across') =>
    walls.flatMap(({ chart, joint }) =>
      (joint!.kind === 'side') === (kind === 'side') ? rects.filter((rect) => rect.chart === chart) : [],
    );
  const lowest = Math.min(box.y0, ...onRoof.map(({ y0 }) => y0));
  const { x0, x1, y0, y1 } = window ?? { x0: box.x0, x1: box.x1, y0: lowest, y1: box.y1 };
  const low = Math.max(lowest, y0);
  // shapes whose edges slant: parts of the slope's own outline, what stands on it, pieces cut to them
  const drifts = assembly.drifts.filter((drift) => drift.facet === facet.id).map(({ outline }) => outline);
  const taken = [...(facet.taken ?? []), ...(facet.sheltered ?? [])];
  const slanted = [facet.outline, ...taken, ...drifts].flatMap(slantedEdges);
  const corners = [...taken, ...drifts, facet.outline].flat();
  const within = (values: readonly number[], from: number, to: number): number[] =>
    values.filter((value) => value > from - LINE_TOLERANCE && value < to + LINE_TOLERANCE);
  const jointsOf = (axis: 0 | 1): number[] => walls.flatMap(({ joint }) => joint!.onA.map((point) => point[axis]));
  const rows = gridLines(
    within(
      [
        low, 0, y1,
        ...onRoof.flatMap((rect) => (rect.outline ? rect.outline.map(([, y]) => y) : [rect.y0, rect.y1])),
        ...onWall('side').flatMap((rect) => [rect.x0, rect.x1, ...(rect.outline ? steps(rect.x0, rect.x1) : [])]),
        ...jointsOf(1),
        ...corners.map(([, y]) => y),
        ...slanted.flatMap(([a, b]) => steps(Math.min(a[1], b[1]), Math.max(a[1], b[1]))),
      ],
      low,
      y1,
    ), // prettier-ignore
    cellSize,
  );
  const columns = gridLines(
    within(
      [
        x0, x1,
        ...onRoof.flatMap((rect) => [rect.x0, rect.x1]),
        ...onWall('across').flatMap((rect) => [rect.x0, rect.x1, ...(rect.outline ? steps(rect.x0, rect.x1) : [])]),
        ...jointsOf(0),
        ...corners.map(([x]) => x),
        ...slanted.flatMap(([a, b]) => steps(Math.min(a[0], b[0]), Math.max(a[0], b[0]))),
      ],
      x0,
      x1,
    ), // prettier-ignore
    cellSize,
  );
  return { columns, rows };
}

const slantedEdges = (outline: Outline): [Point, Point][] =>
  outline.flatMap((a, i): [Point, Point][] => {
    const b = outline[(i + 1) % outline.length]!;
    return Math.abs(a[0] - b[0]) > 0.01 && Math.abs(a[1] - b[1]) > 0.01 ? [[a, b]] : [];
  });

/** What is laid is cut to a slope's outline within this; nothing is asked of the surface nearer to a slanting edge of it. */
const CUT_TO = 0.5;

/** A point too near to an outline's slanting edges for its inside and what is cut to it to agree. */
function besideSlant(outline: Outline): (point: Point) => boolean {
  const edges = slantedEdges(outline);
  return (point) => edges.some(([a, b]) => distanceToStretch(point, a, b) < CUT_TO);
}

/** Cells beside a slope's outline are no surface; over an eave they are, as far as what hangs there goes. */
function markOutside(chart: Chart, outline: Outline): void {
  const onEdge = besideSlant(outline);
  for (let row = 0; row < chart.rowCount; row++)
    for (let column = 0; column < chart.columnCount; column++) {
      const [x, y] = askedOf(chart.columns, chart.rows, column, row);
      const at: Point = [x, Math.max(y, 0.05)];
      if (!isWithin(outline, at) || onEdge(at)) chart.taken[row * chart.columnCount + column] = 1;
    }
}

function markInside(chart: Chart, outline: Outline, mark: (cell: number) => void): void {
  eachCell(chart, { ...bounds(outline), ...(isAligned(outline) ? {} : { outline }) }, (cell) => mark(cell - chart.first));
}

function markEdge(chart: Chart, outline: Outline): void {
  const onEdge = besideSlant(outline);
  eachCell(chart, bounds(outline), (cell) => {
    const local = cell - chart.first;
    const [row, column] = [Math.floor(local / chart.columnCount), local % chart.columnCount];
    if (onEdge(askedOf(chart.columns, chart.rows, column, row))) chart.taken[local] = 1;
  });
}

function eachCell(
  chart: Chart,
  { x0, y0, x1, y1, outline }: Window & { readonly outline?: Outline },
  visit: (cell: number) => void,
): void {
  const [c0, c1] = [lineNear(chart.columns, x0), lineNear(chart.columns, x1)];
  const [r0, r1] = [lineNear(chart.rows, y0), lineNear(chart.rows, y1)];
  for (let row = r0; row < r1; row++)
    for (let column = c0; column < c1; column++) {
      if (outline && !isWithin(outline, askedOf(chart.columns, chart.rows, column, row))) continue;
      visit(chart.first + row * chart.columnCount + column);
    }
}

function fillStacks(
  assembly: Assembly,
  made: readonly Made[],
  charts: readonly Chart[],
  rects: readonly Rect[],
  pieces: readonly LaidPiece[],
  holds: ReadonlyMap<number, readonly EdgeHold[]>,
  chartOf: ReadonlyMap<string, number>,
  laid: readonly Piece[],
): Sheet {
  const last = charts.at(-1)!;
  const cellCount = last.first + last.columnCount * last.rowCount;
  const stackStart = new Int32Array(cellCount + 1);
  const ordered = [...rects].sort((a, b) => a.layer - b.layer || a.chart - b.chart || a.x0 - b.x0 || a.y0 - b.y0);
  // a piece may cover a cell with two of its rectangles (never two of its shingles): count it once
  const lastLayer = new Int32Array(cellCount);
  for (const rect of ordered) {
    eachCell(charts[rect.chart]!, rect, (cell) => {
      if (lastLayer[cell] !== rect.layer) stackStart[cell + 1]!++;
      lastLayer[cell] = rect.layer;
    });
  }
  for (let cell = 0; cell < cellCount; cell++) stackStart[cell + 1] = stackStart[cell + 1]! + stackStart[cell]! + 1;
  const stateCount = stackStart[cellCount]!;
  const layerAt = new Int32Array(stateCount);
  const filled = new Int32Array(cellCount);
  for (const rect of ordered) {
    eachCell(charts[rect.chart]!, rect, (cell) => {
      const level = filled[cell]!;
      if (level > 0 && layerAt[stackStart[cell]! + level] === rect.layer) return;
      filled[cell] = level + 1;
      layerAt[stackStart[cell]! + level + 1] = rect.layer;
    });
  }
  const folds = made.flatMap(({ joint, host }, wall): Fold[] => {
    if (!joint) return [];
    const roof = charts[host]!;
    if (joint.kind !== 'side') {
      const at = lineNear(roof.rows, joint.onA[0][1]);
      return [{ wall, roof: host, along: 'row', line: joint.kind === 'front' ? at - 1 : at, runsOn: false, leg: [] }];
    }
    const at = lineNear(roof.columns, joint.onA[0][0]);
    const detail = joint.b.slice(joint.b.indexOf('/') + 1);
    const legs = rects.filter(
      ({ chart, layer }) => chart === host && laid[layer - 1]!.role === 'step' && laid[layer - 1]!.detail === detail,
    );
    const leg = [...new Set(legs.flatMap(({ x0, x1 }) => columnsBetween(roof, x0, x1)))];
    return [{ wall, roof: host, along: 'column', line: joint.side === 1 ? at : at - 1, runsOn: joint.runsOn, leg }];
  });
  return {
    charts,
    folds: folds.filter(
      ({ roof, along, line }) => line >= 0 && line < (along === 'column' ? charts[roof]!.columnCount : charts[roof]!.rowCount),
    ),
    pieces,
    cellCount,
    stateCount,
    stackStart,
    layerAt,
    holds,
    slants: slantsOf(rects, charts.length),
    holes: placeHoles(assembly.fasteners, made, charts, chartOf, pieces, laid),
    valleys: linkValleys(assembly, charts, chartOf),
  };
}

function slantsOf(rects: readonly Rect[], chartCount: number): Map<number, Outline[]> {
  const slants = new Map<number, Outline[]>();
  for (const { layer, chart, outline } of rects)
    if (outline) slants.set(layer * chartCount + chart, [...(slants.get(layer * chartCount + chart) ?? []), outline]);
  return slants;
}

type OnLine = { readonly cell: number; readonly along: number };

/** Cells of a chart on a valley's line, from its lower end up: in each column the lowest one on the slope. */
function cellsOnLine(chart: Chart, [low, high]: Joint['onA']): OnLine[] {
  const found: OnLine[] = [];
  for (let column = 0; column < chart.columnCount; column++) {
    const x = (chart.columns[column]! + chart.columns[column + 1]!) / 2;
    const along = (x - low[0]) / (high[0] - low[0]);
    if (!(along > 0 && along < 1)) continue;
    const y = low[1] + (high[1] - low[1]) * along;
    let row = Math.max(0, cellAt(chart.rows, y) - 1);
    // what lies under a dormer's eaves is below the line
    const isOff = (cell: number): boolean => chart.taken[cell] === 1 || chart.sheltered[cell] === 1;
    while (row < chart.rowCount && isOff(row * chart.columnCount + column)) row++;
    if (row < chart.rowCount) found.push({ cell: chart.first + row * chart.columnCount + column, along });
  }
  return found.sort((p, q) => p.along - q.along);
}

/** The cell on to which a valley empties that begins up a slope, beside the wall below its lower end; −1 where it begins at the eave. */
function footBeside(chart: Chart, [low, high]: Joint['onA']): number {
  const row = cellAt(chart.rows, low[1] - 2 * LINE_TOLERANCE);
  const column = cellAt(chart.columns, low[0] + (high[0] > low[0] ? -2 * LINE_TOLERANCE : 0));
  const cell = row * chart.columnCount + column;
  return low[1] > LINE_TOLERANCE && row >= 0 && column >= 0 && column < chart.columnCount && !chart.taken[cell]
    ? chart.first + cell
    : -1;
}

function linkValleys(
  assembly: Assembly,
  charts: readonly Chart[],
  chartOf: ReadonlyMap<string, number>,
): Map<number, ValleyCell> {
  const links = new Map<number, ValleyCell>();
  for (const { kind, a, b, onA, onB, water = [] } of assembly.joints) {
    const [first, second] = [chartOf.get(a), chartOf.get(b)];
    if (kind !== 'valley' || first === undefined || second === undefined) continue;
    const sides = [cellsOnLine(charts[first]!, onA), cellsOnLine(charts[second]!, onB)] as const;
    const foot = Math.max(footBeside(charts[first]!, onA), footBeside(charts[second]!, onB));
    sides.forEach((own, s) => {
      const other = sides[1 - s]!;
      const [low, high] = s === 0 ? onA : onB;
      const sine = (high[1] - low[1]) / Math.hypot(high[0] - low[0], high[1] - low[1]);
      const away = high[0] > low[0] ? -1 : 1;
      const spreadAt = (share: number): number => {
        const i = water.findLastIndex((one) => one.share <= share);
        const [below, above] = [water[i], water[i + 1] ?? water[i]];
        if (!below || !above) return 0;
        const part = above.share > below.share ? (share - below.share) / (above.share - below.share) : 0;
        const [low, high] = s === 0 ? [below.onA, above.onA] : [below.onB, above.onB];
        return (low + (high - low) * part) / sine;
      };
      let partner = -1;
      own.forEach(({ cell, along }, i) => {
        while (partner + 1 < other.length && other[partner + 1]!.along <= along) partner++;
        links.set(cell, {
          next: own[i - 1]?.cell ?? foot,
          across: other[Math.max(0, partner)]?.cell ?? -1,
          spread: spreadAt(along),
          away,
        });
      });
    });
  }
  return links;
}

function columnsBetween(chart: Chart, x0: number, x1: number): number[] {
  const [from, to] = [lineNear(chart.columns, x0), lineNear(chart.columns, x1)];
  return Array.from({ length: Math.max(0, to - from) }, (_, i) => from + i);
}

function placeHoles(
  fasteners: readonly Fastener[],
  made: readonly Made[],
  charts: readonly Chart[],
  chartOf: ReadonlyMap<string, number>,
  pieces: readonly LaidPiece[],
  laid: readonly Piece[],
): Map<number, Hole[]> {
  const layerOf = new Map(pieces.map(({ mark, layer }) => [mark, layer]));
  const courses = new Set(laid.filter(({ role }) => role === 'course').map(({ mark }) => mark));
  const holes = new Map<number, Hole[]>();
  for (const { facet, at, piece, keptDry } of fasteners) {
    const index = chartOf.get(facet);
    const layer = layerOf.get(piece);
    if (index === undefined || layer === undefined) continue;
    const chart = charts[index]!;
    const { joint, host } = made[index]!;
    const pitch = pitchOf(made, host);
    const onWall = joint?.kind === 'side' ? wallToSlope(at, pitch) : undefined;
    const [x, y] = onWall ? [onWall.s, onWall.u * Math.hypot(1, pitch)] : at;
    const column = cellAt(chart.columns, x);
    const row = cellAt(chart.rows, y);
    if (column < 0 || column >= chart.columnCount || row < 0 || row >= chart.rowCount) continue;
    const cell = chart.first + row * chart.columnCount + column;
    const list = holes.get(cell) ?? [];
    list.push({ layer, along: x, up: y, sealed: keptDry !== 'covered', covering: courses.has(piece), piece });
    holes.set(cell, list);
  }
  return holes;
}
