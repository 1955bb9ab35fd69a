import { type Assembly, type EdgeHold, type Fastener, type Piece, type Role, byLay, holdOf } from '../assembly/index.ts';
import { wallToSlope } from '../roof/index.ts';
import { LINE_TOLERANCE, inches } from '../units/index.ts';

/** Width of the open slit between two shingles of a course. */
const SLIT = inches(1 / 16);

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
 * wall columns are the same lines up the slope and rows are height above the roof line, so water falls straight down a column on both.
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
  /** Sine of the surface's angle: a head h reaches h / sine along it. */
  readonly sine: number;
};

/** A wall meets a roof chart along a column's edge. */
export type Fold = {
  readonly wall: number;
  readonly column: number;
  readonly runsOn: boolean;
  /** Columns of the roof under the wall's flashing legs. */ readonly leg: readonly number[];
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
  /** How the lower, right, upper and left edge of each layer's rectangle is held, by layer and chart: 4 codes. */
  readonly holds: ReadonlyMap<number, readonly EdgeHold[]>;
  readonly holes: ReadonlyMap<number, readonly Hole[]>;
  /** 1 at each line of the roof chart (by the number of the row above it) where a course has its butt. */
  readonly buttLines: Uint8Array;
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

/** Cuts one plane and the walls that meet it into cells. Facets and pieces may come in any order: layers follow the order of laying. */
export function cutSheet(assembly: Assembly, plane: string, request: SheetRequest = {}): Sheet {
  refuseTooFine(assembly, plane, request);
  const roof = assembly.facets.find(({ id }) => id === plane);
  if (!roof) throw new Error(`there is no facet ${plane}`);
  const joints = assembly.joints.filter(({ a }) => a === plane).sort((p, q) => (p.b < q.b ? -1 : 1));
  const pitch = Math.tan(roof.angle);
  const laid = assembly.pieces
    .filter(
      ({ mark, covers }) =>
        (request.laid?.has(mark) ?? true) && covers.some(({ facet }) => facet === plane || facet.startsWith(`${plane}/`)),
    )
    .sort(byLay);
  const pieces: LaidPiece[] = [
    { mark: '', role: 'course', layer: 0, sealsNails: false },
    ...laid.map(({ mark, role, sealsNails }, i) => ({ mark, role, layer: i + 1, sealsNails: sealsNails === true })),
  ];
  const xs = roof.outline.map(([x]) => x);
  const ys = roof.outline.map(([, y]) => y);
  const window = request.window ?? {
    x0: Math.min(...xs),
    x1: Math.max(...xs),
    y0: Number.NEGATIVE_INFINITY,
    y1: Math.max(...ys),
  };
  const chartOf = new Map<string, number>([[plane, 0], ...joints.map(({ b }, i) => [b, i + 1] as const)]);
  const holds = new Map<number, readonly EdgeHold[]>();
  const rects = laid.flatMap((piece, i) => rectsOf(piece, i + 1, chartOf, pitch, holds)).flatMap((rect) => clip(rect, window));
  const charts = layCharts(assembly, plane, rects, joints, chartOf, window, request.cellSize ?? Number.POSITIVE_INFINITY);
  return fillStacks(assembly, charts, rects, pieces, holds, joints, chartOf, pitch, laid);
}

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
  chartOf: ReadonlyMap<string, number>,
  pitch: number,
  holds: Map<number, readonly EdgeHold[]>,
): Rect[] {
  const k = Math.hypot(1, pitch);
  return piece.covers.flatMap((cover): Rect[] => {
    const chart = chartOf.get(cover.facet);
    if (chart === undefined) return [];
    const points =
      chart === 0
        ? cover.outline
        : cover.outline.map((point) => wallToSlope(point, pitch)).map(({ s, u }) => [s, u * k] as const);
    const px = points.map(([x]) => x);
    const py = points.map(([, y]) => y);
    const rect: Rect = { layer, chart, x0: Math.min(...px), x1: Math.max(...px), y0: Math.min(...py), y1: Math.max(...py) };
    holds.set(
      layer * 64 + chart,
      [0, 1, 2, 3].map((i) => holdOf(cover.holds, i)),
    );
    const slits = (piece.joints ?? []).filter((x) => x - SLIT / 2 > rect.x0 && x + SLIT / 2 < rect.x1);
    const starts = [rect.x0, ...slits.map((x) => x + SLIT / 2)];
    const ends = [...slits.map((x) => x - SLIT / 2), rect.x1];
    return starts.map((x0, i) => ({ ...rect, x0, x1: ends[i]! }));
  });
}

function clip(rect: Rect, window: { x0: number; x1: number; y0: number; y1: number }): Rect[] {
  const [along0, along1] = rect.chart === 0 ? [window.x0, window.x1] : [window.y0, window.y1];
  const [up0, up1] = rect.chart === 0 ? [window.y0, window.y1] : [0, WALL_LOOKED_AT];
  const cut = {
    ...rect,
    x0: Math.max(rect.x0, along0),
    x1: Math.min(rect.x1, along1),
    y0: Math.max(rect.y0, up0),
    y1: Math.min(rect.y1, up1),
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

function layCharts(
  assembly: Assembly,
  plane: string,
  rects: readonly Rect[],
  joints: Assembly['joints'],
  chartOf: ReadonlyMap<string, number>,
  window: { x0: number; x1: number; y0: number; y1: number },
  cellSize: number,
): Chart[] {
  const onRoof = rects.filter(({ chart }) => chart === 0);
  const lowest = Math.min(0, ...onRoof.map(({ y0 }) => y0));
  const top = window.y1;
  const taken = assembly.facets.find(({ id }) => id === plane)!.taken ?? [];
  const takenX = taken.flatMap((outline) => outline.map(([x]) => x));
  const takenY = taken.flatMap((outline) => outline.map(([, y]) => y));
  const within = (values: number[], from: number, to: number): number[] =>
    values.filter((value) => value > from - LINE_TOLERANCE && value < to + LINE_TOLERANCE);
  const wallLines = rects.filter(({ chart }) => chart > 0).flatMap(({ x0, x1 }) => [x0, x1]);
  const jointEnds = joints.flatMap(({ onA }) => [onA[0][1], onA[1][1]]);
  const low = Math.max(lowest, window.y0);
  const ups = gridLines(
    within([low, 0, top, ...onRoof.flatMap(({ y0, y1 }) => [y0, y1]), ...wallLines, ...jointEnds, ...takenY], low, top),
    cellSize,
  );
  const alongs = gridLines(
    within(
      [window.x0, window.x1, ...onRoof.flatMap(({ x0, x1 }) => [x0, x1]), ...joints.map(({ onA }) => onA[0][0]), ...takenX],
      window.x0,
      window.x1,
    ),
    cellSize,
  );
  const charts: Chart[] = [];
  const add = (facet: string, kind: Chart['kind'], columns: Float64Array, rows: Float64Array, sine: number): void => {
    const previous = charts.at(-1);
    const first = previous ? previous.first + previous.columnCount * previous.rowCount : 0;
    const columnCount = columns.length - 1;
    const rowCount = rows.length - 1;
    if (first + columnCount * rowCount > MOST_CELLS)
      throw new TooFine(cellSize * Math.sqrt((first + columnCount * rowCount) / MOST_CELLS));
    charts.push({
      facet,
      kind,
      columns,
      rows,
      first,
      columnCount,
      rowCount,
      taken: new Uint8Array(columnCount * rowCount),
      sine,
    });
  };
  const facet = assembly.facets.find(({ id }) => id === plane)!;
  add(plane, 'roof', alongs, ups, Math.sin(facet.angle));
  for (const { b, onA } of joints) {
    const chart = chartOf.get(b)!;
    const heights = rects.filter((rect) => rect.chart === chart).flatMap(({ y0, y1 }) => [y0, y1]);
    add(b, 'wall', ups, gridLines([0, WALL_LOOKED_AT, ...heights], cellSize), 1);
    const wall = charts.at(-1)!;
    for (let column = 0; column < wall.columnCount; column++) {
      const middle = (ups[column]! + ups[column + 1]!) / 2;
      if (middle > onA[0][1] && middle < onA[1][1]) continue;
      for (let row = 0; row < wall.rowCount; row++) wall.taken[row * wall.columnCount + column] = 1;
    }
  }
  const roof = charts[0]!;
  for (const outline of taken) markTaken(roof, outline[0]![0], outline[0]![1], outline[2]![0], outline[2]![1]);
  return charts;
}

function markTaken(chart: Chart, x0: number, y0: number, x1: number, y1: number): void {
  eachCell(chart, { x0, y0, x1, y1 }, (cell) => {
    chart.taken[cell - chart.first] = 1;
  });
}

function eachCell(
  chart: Chart,
  { x0, y0, x1, y1 }: { x0: number; y0: number; x1: number; y1: number },
  visit: (cell: number) => void,
): void {
  const [c0, c1] = [lineNear(chart.columns, x0), lineNear(chart.columns, x1)];
  const [r0, r1] = [lineNear(chart.rows, y0), lineNear(chart.rows, y1)];
  for (let row = r0; row < r1; row++)
    for (let column = c0; column < c1; column++) visit(chart.first + row * chart.columnCount + column);
}

function fillStacks(
  assembly: Assembly,
  charts: readonly Chart[],
  rects: readonly Rect[],
  pieces: readonly LaidPiece[],
  holds: ReadonlyMap<number, readonly EdgeHold[]>,
  joints: Assembly['joints'],
  chartOf: ReadonlyMap<string, number>,
  pitch: number,
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
  const roof = charts[0]!;
  const folds = joints.map(({ b, side, onA, runsOn }): Fold => {
    const at = lineNear(roof.columns, onA[0][0]);
    const detail = b.slice(b.indexOf('/') + 1);
    const legs = rects.filter(
      ({ chart, layer }) => chart === 0 && laid[layer - 1]!.role === 'step' && laid[layer - 1]!.detail === detail,
    );
    const leg = [...new Set(legs.flatMap(({ x0, x1 }) => columnsBetween(roof, x0, x1)))];
    return { wall: chartOf.get(b)!, column: side === 1 ? at : at - 1, runsOn, leg };
  });
  const butts = new Uint8Array(roof.rowCount + 1);
  const roles = new Map(pieces.map(({ layer, role }) => [layer, role]));
  for (const rect of rects) if (rect.chart === 0 && roles.get(rect.layer) === 'course') butts[lineNear(roof.rows, rect.y0)] = 1;
  return {
    charts,
    folds: folds.filter(({ column }) => column >= 0 && column < roof.columnCount),
    pieces,
    cellCount,
    stateCount,
    stackStart,
    layerAt,
    holds,
    holes: placeHoles(assembly.fasteners, charts, chartOf, pieces, pitch, laid),
    buttLines: butts,
  };
}

function columnsBetween(chart: Chart, x0: number, x1: number): number[] {
  const [from, to] = [lineNear(chart.columns, x0), lineNear(chart.columns, x1)];
  return Array.from({ length: Math.max(0, to - from) }, (_, i) => from + i);
}

function placeHoles(
  fasteners: readonly Fastener[],
  charts: readonly Chart[],
  chartOf: ReadonlyMap<string, number>,
  pieces: readonly LaidPiece[],
  pitch: number,
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
    const onWall = index > 0 ? wallToSlope(at, pitch) : undefined;
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
