import {
  type Assembly,
  type Cover,
  type Fastener,
  type Joint,
  type Piece,
  byLay,
  isBesideWall,
  isSidePiece,
} from '../assembly/index.ts';
import { type Outline, type Point, type Span, bounds, rectangle, subtractOutlines, wallToSlope } from '../roof/index.ts';
import { LINE_TOLERANCE, inches } from '../units/index.ts';
import {
  Cells,
  DRIFT_LEFT,
  DRIFT_RIGHT,
  type MarkLine,
  SHELTERED,
  STANDING,
  SURFACE,
  type Shape,
  type Sought,
  type ToCut,
  type Upright,
  cutChart,
  meetingOf,
} from './cells.ts';
import { linkCorners, linkEdges, linkPierced, linkValleys, linkWalls } from './links.ts';
import type { Chart, Hole, LaidPiece, Made, RunsOn, Mesh } from './mesh.ts';

/** How much of a wall above the roof line is looked at; nothing that is laid here goes higher. */
const WALL_LOOKED_AT = inches(20);

export type MeshRequest = {
  /** Marks that are laid; all of them when absent. */
  readonly laid?: ReadonlySet<string>;
  /** How long the sheets have lain open, days: cap nails seal no longer than their sheet may. */
  readonly daysOpen?: number;
  /** Largest cell. Verdicts do not depend on it: cells end at every edge anyway. */
  readonly cellSize?: number;
};

/** Memory one check may take, and the cells that fit: some five states a cell at about 90 bytes each. */
export const MEMORY_LIMIT_MB = 400;
const MOST_CELLS = (MEMORY_LIMIT_MB * 1_000_000) / 450;

/** A cell size too fine for the memory limit; `finest` is what is allowed. */
export class TooFine extends Error {
  readonly finest: number;
  constructor(finest: number) {
    super('the cell size needs more memory than is allowed');
    this.finest = finest;
  }
}

/**
 * Cuts one plane, the slopes that share its valleys, and the walls that stand on them into cells. Facets and pieces may come in any order:
 * layers follow the order of laying.
 */
export function cutMesh(assembly: Assembly, plane: string, request: MeshRequest = {}): Mesh {
  refuseTooFine(assembly, plane, request);
  const made = facetsFrom(assembly, plane);
  const indexOf = new Map(made.map(({ facet }, i) => [facet.id, i]));
  const laid = assembly.pieces
    .filter(({ mark, covers }) => (request.laid?.has(mark) ?? true) && covers.some(({ facet }) => indexOf.has(facet)))
    .flatMap(stackedParts)
    .sort(byLay);
  const pieces: LaidPiece[] = [
    { mark: '', role: 'course', layer: 0, sealsNails: false, facet: '' },
    ...laid.map(({ mark, role, sealsNails, covers, crowns }, i) => ({
      mark,
      role,
      layer: i + 1,
      sealsNails: sealsNails === true,
      facet: covers[0]!.facet,
      ...(crowns ? { crowns } : {}),
    })),
  ];
  const shapes: Shape[][] = made.map(() => []);
  laid.forEach((piece, i) => addShapes(piece, i + 1, indexOf, shapes));
  const sought = made.map((): Sought[] => []);
  const layerOf = new Map(pieces.map(({ mark, layer }) => [mark, layer]));
  const holes = assembly.fasteners.flatMap((fastener) => {
    const index = indexOf.get(fastener.facet);
    const layer = layerOf.get(fastener.piece);
    if (index === undefined || layer === undefined) return [];
    const place: Sought = { x: fastener.at[0], y: fastener.at[1], layer, cell: -1, hasLayer: false };
    sought[index]!.push(place);
    return [{ place, hole: holeOf(fastener, layer, pieces, request.daysOpen ?? 0) }];
  });
  for (const { mark, drips = [], covers } of laid)
    for (const [x, y] of drips) {
      const index = indexOf.get(covers[0]!.facet);
      const layer = layerOf.get(mark)!;
      if (index === undefined) continue;
      const place: Sought = { x, y, layer, cell: -1, hasLayer: false };
      sought[index]!.push(place);
      holes.push({ place, hole: { layer, x, y, sealed: false, covering: true, drips: true } });
    }
  const cells = new Cells();
  const charts: Chart[] = [];
  made.forEach((one, index) => {
    const {
      marks,
      uprights = [],
      all,
      from,
      to,
      ...chart
    } = one.joint
      ? wallChart(one, one.joint, made, shapes[index]!, request)
      : roofChart(assembly, one, shapes[index]!, laid, request);
    const firstCell = cells.count;
    cutChart(cells, { marks, uprights, all, from, to }, index, made.length, sought[index]!, request.cellSize);
    charts.push({ ...chart, firstCell, endCell: cells.count });
    if (cells.count > MOST_CELLS) throw new TooFine((request.cellSize ?? 1) * Math.sqrt(cells.count / MOST_CELLS));
  });
  return finish(assembly, made, charts, cells, pieces, laid, indexOf, holes);
}

const holeOf = (
  { at: [x, y], keptDry, daysSealed, into }: Fastener,
  layer: number,
  pieces: readonly LaidPiece[],
  daysOpen: number,
): Hole => ({
  layer,
  x,
  y,
  sealed: keptDry !== 'covered' && daysOpen <= (daysSealed ?? Number.POSITIVE_INFINITY),
  covering: pieces[layer]!.role === 'course',
  ...(into ? { inBatten: true as const } : {}),
});

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

/** The plane, the slopes it shares valleys with, and so on; then the walls of each. */
function facetsFrom(assembly: Assembly, plane: string): Made[] {
  const byId = new Map(assembly.facets.map((facet) => [facet.id, facet]));
  if (!byId.has(plane)) throw new Error(`there is no facet ${plane}`);
  const slopes = [plane];
  const valleys = assembly.joints.filter(({ kind }) => kind === 'valley');
  for (const id of slopes)
    for (const { a, b } of valleys)
      for (const [own, other] of [[a, b], [b, a]] as const) if (own === id && !slopes.includes(other)) slopes.push(other); // prettier-ignore
  const walls = slopes.flatMap((id, host) =>
    assembly.joints
      .filter(({ kind, a }) => kind !== 'valley' && kind !== 'cavity' && a === id)
      .sort((p, q) => (p.b < q.b ? -1 : 1))
      .map((joint): Made => ({ facet: byId.get(joint.b)!, joint, host })),
  );
  const made = [...slopes.map((id, host): Made => ({ facet: byId.get(id)!, host })), ...walls];
  // behind a face, drained on to it
  const cavities = made.flatMap(
    ({ facet }, host) =>
    assembly.joints.filter(({ kind, a }) => kind === 'cavity' && a === facet.id).map((joint): Made => ({ facet: byId.get(joint.b)!, joint, host })), // prettier-ignore
  );
  return [...made, ...cavities];
}

export const pitchOf = (made: readonly Made[], host: number): number => Math.tan(made[host]!.facet.angle);

/** Refuses a cell size before anything is cut, by the least number of cells it must give. */
function refuseTooFine(assembly: Assembly, plane: string, { cellSize }: MeshRequest): void {
  if (cellSize === undefined) return;
  const { x0, x1, y0, y1 } = bounds(assembly.facets.find(({ id }) => id === plane)!.outline);
  const finest = Math.sqrt(((x1 - x0) * (y1 - y0)) / MOST_CELLS);
  if (!(cellSize >= finest)) throw new TooFine(finest);
}

/** What a piece covers on each chart. A course is single shingles: it is open at its joints. */
function addShapes(piece: Piece, layer: number, indexOf: ReadonlyMap<string, number>, shapes: readonly Shape[][]): void {
  const own = piece.covers[0]?.facet;
  for (const cover of piece.covers) {
    const index = indexOf.get(cover.facet);
    if (index === undefined) continue;
    const { x0, x1 } = bounds(cover.outline);
    const slits = cover.facet === own ? (piece.joints ?? []).filter((x) => x > x0 + 1 && x < x1 - 1) : [];
    for (const { outline, holds } of withoutKeyways(piece, cover, cover.facet === own))
      shapes[index]!.push({ layer, outline, holds: holds.length === 1 ? outline.map(() => holds[0]!) : holds, slits });
  }
}

/** A keyway is a slot as wide as this, open up from the butt. */
const KEYWAY = inches(0.25);

function withoutKeyways({ keyways }: Piece, { outline, holds }: Cover, isOwn: boolean): Pick<Cover, 'outline' | 'holds'>[] {
  if (!keyways || !isOwn) return [{ outline, holds }];
  const { x0, x1, y0 } = bounds(outline);
  const slots = keyways.at
    .filter((x) => x > x0 + KEYWAY && x < x1 - KEYWAY)
    .map((x) => rectangle(x - KEYWAY / 2, y0 - 1, x + KEYWAY / 2, y0 + keyways.depth));
  if (slots.length === 0) return [{ outline, holds }];
  return subtractOutlines(outline, slots).map((part) => ({ outline: part, holds: ['open'] }));
}

const plain = (layer: number, outline: Outline): Shape => ({ layer, outline, holds: ['open'], slits: [] });

type ChartToCut = Omit<Chart, 'firstCell' | 'endCell'> & ToCut;

function roofChart(
  assembly: Assembly,
  { facet }: Made,
  own: readonly Shape[],
  laid: readonly Piece[],
  { cellSize = Number.POSITIVE_INFINITY }: MeshRequest,
): ChartToCut {
  const lowest = Math.min(0, ...own.flatMap(({ outline }) => outline.map(([, y]) => y)));
  const drifts = assembly.drifts.filter((drift) => drift.facet === facet.id);
  const all = [
    plain(SURFACE, downToEaves(facet.outline, lowest)),
    ...(facet.taken ?? []).map((outline) => plain(STANDING, outline)),
    ...(facet.pierced ?? []).map((outline) => plain(STANDING, outline)),
    ...(facet.sheltered ?? []).map((outline) => plain(SHELTERED, outline)),
    ...drifts.map(({ outline, towards }) => plain(towards === -1 ? DRIFT_LEFT : DRIFT_RIGHT, outline)),
    ...own,
  ];
  const valleys = assembly.joints.flatMap(({ kind, a, b, onA, onB }, valley): MarkLine[] =>
    kind === 'valley' && (a === facet.id || b === facet.id) ? [{ ...leftToRight(a === facet.id ? onA : onB), valley }] : [],
  );
  // crickets' valleys are numbered after the joints
  const ofCrickets = assembly.drifts.flatMap(({ facet: own, valley }, i): MarkLine[] =>
    own === facet.id ? [{ ...leftToRight(valley), valley: assembly.joints.length + i }] : [],
  );
  const { x0, x1, y1 } = bounds(facet.outline);
  return {
    facet: facet.id,
    kind: 'roof',
    from: x0,
    to: x1,
    sine: Math.sin(facet.angle),
    planShare: Math.cos(facet.angle),
    hasEave: eavesOf(facet.outline).length > 0,
    ...(facet.sheetSheds ? { sheetSheds: true as const } : {}),
    ...(facet.dams ? { dams: facet.dams } : {}),
    butts: buttLines(own, laid, facet.id),
    marks: [...valleys, ...ofCrickets, ...levelMarks(x0, x1, lowest, y1, cellSize)],
    uprights: crownLines(own, laid, facet.id),
    all,
  };
}

/** Level lines that only cut, so that no cell is taller than asked. */
const levelMarks = (x0: number, x1: number, y0: number, y1: number, cellSize: number): MarkLine[] =>
  Number.isFinite(cellSize)
    ? Array.from({ length: Math.floor((y1 - y0) / cellSize) }, (_, i) => y0 + (i + 1) * cellSize).map((y) => ({
        x0,
        y0: y,
        x1,
        y1: y,
      }))
    : [];

const leftToRight = ([[ax, ay], [bx, by]]: readonly [Point, Point]): MarkLine =>
  ax < bx ? { x0: ax, y0: ay, x1: bx, y1: by } : { x0: bx, y0: by, x1: ax, y1: ay };

const isEave = ([, y]: Point, [, ny]: Point): boolean => Math.abs(y) < 0.05 && Math.abs(ny) < 0.05;

const eavesOf = (outline: Outline): [Point, Point][] =>
  outline.flatMap((a, i): [Point, Point][] => {
    const b = outline[(i + 1) % outline.length]!;
    return isEave(a, b) && b[0] - a[0] > 1 ? [[a, b]] : [];
  });

/** Over an eave the surface goes on as far down as what hangs there. */
function downToEaves(outline: Outline, lowest: number): Outline {
  if (lowest >= -LINE_TOLERANCE) return outline;
  return outline.flatMap((a, i): Point[] => {
    const b = outline[(i + 1) % outline.length]!;
    return isEave(a, b) && b[0] - a[0] > 1 ? [a, [a[0], lowest], [b[0], lowest]] : [a];
  });
}

/** Where pieces of a slope stand up out of the pans between. */
const crownLines = (shapes: readonly Shape[], laid: readonly Piece[], facet: string): Upright[] =>
  shapes.flatMap(({ layer, outline }) => {
    const { crowns, covers } = laid[layer - 1]!;
    if (!crowns || covers[0]!.facet !== facet) return [];
    const { x0, x1, y0, y1 } = bounds(outline);
    return crowns.filter((x) => x > x0 && x < x1).map((x): Upright => ({ x, y0, y1 }));
  });

/** Where the courses of a slope have their butts, from the lowest up. */
function buttLines(shapes: readonly Shape[], laid: readonly Piece[], facet: string): Float64Array {
  const ys = shapes.flatMap(({ layer, outline }) => {
    const piece = laid[layer - 1]!;
    return piece.role === 'course' && piece.covers[0]!.facet === facet ? [Math.min(...outline.map(([, y]) => y))] : [];
  });
  return Float64Array.from([...new Set(ys)].sort((a, b) => a - b)).filter(
    (y, i, all) => i === 0 || y - all[i - 1]! > LINE_TOLERANCE,
  );
}

function wallChart(
  { facet, host }: Made,
  joint: Joint,
  made: readonly Made[],
  own: readonly Shape[],
  { cellSize = Number.POSITIVE_INFINITY }: MeshRequest,
): ChartToCut {
  const common = {
    facet: facet.id,
    kind: 'wall' as const,
    sine: 1,
    planShare: 0,
    hasEave: false,
    butts: new Float64Array(0),
    ...(made[host]!.facet.sheetSheds ? { sheetSheds: true as const } : {}),
  };
  if (joint.kind === 'cavity') {
    const { x0, x1, y0, y1 } = bounds(facet.outline);
    const face = made[host]!;
    const all = [
      plain(SURFACE, facet.outline),
      ...(facet.taken ?? []).map((outline) => plain(STANDING, outline)),
      ...(facet.sheltered ?? []).map((outline) => plain(SHELTERED, outline)),
      ...own,
    ];
    const where = face.joint?.kind === 'side' ? { raking: pitchOf(made, face.host) } : { stands: face.joint!.onA[0][1] };
    return { ...common, ...where, cavity: true, from: x0, to: x1, marks: levelMarks(x0, x1, y0, y1, cellSize), all };
  }
  if (joint.kind !== 'side') {
    const surface = lowPart(facet.outline, bounds(facet.outline).y0 + WALL_LOOKED_AT + heightOf(facet.outline));
    const { x0, x1 } = bounds(facet.outline);
    const marks = levelMarks(x0, x1, 0, bounds(surface).y1, cellSize);
    return { ...common, stands: joint.onA[0][1], from: x0, to: x1, marks, all: [plain(SURFACE, surface), ...own] };
  }
  const pitch = pitchOf(made, host);
  const k = Math.hypot(1, pitch);
  const [from, to] = [joint.onA[0][1] / k, joint.onA[1][1] / k];
  const height = Math.min(WALL_LOOKED_AT, Math.max(...facet.outline.map((point) => wallToSlope(point, pitch).u)) * k);
  const surface: Outline = [
    [from, from * pitch],
    [to, to * pitch],
    [to, to * pitch + height],
    [from, from * pitch + height],
  ];
  const marks = levelMarks(from, to, from * pitch, to * pitch + height, cellSize);
  return { ...common, raking: pitch, from, to, marks, all: [plain(SURFACE, surface), ...own] };
}

/** How far a face's lower edge rises above its ends: over a cricket. */
const heightOf = (outline: Outline): number => {
  const { y0 } = bounds(outline);
  const lower = outline.slice(1, -2).map(([, y]) => y - y0);
  return Math.max(0, ...lower);
};

/** A face as far up as is looked at: its upper corners lowered. */
const lowPart = (outline: Outline, top: number): Outline => outline.map(([x, y]): Point => [x, Math.min(y, top)]);

function finish(
  assembly: Assembly,
  made: readonly Made[],
  charts: readonly Chart[],
  cells: Cells,
  pieces: readonly LaidPiece[],
  laid: readonly Piece[],
  indexOf: ReadonlyMap<string, number>,
  found: readonly { place: Sought; hole: Hole }[],
): Mesh {
  const cellCount = cells.count;
  const stateCount = cells.layerAt.length;
  const stackStart = Int32Array.from(cells.stackStart);
  const cellOf = new Int32Array(stateCount);
  for (let cell = 0; cell < cellCount; cell++) cellOf.fill(cell, stackStart[cell]!, stackStart[cell + 1]!);
  const holes = new Map<number, Hole[]>();
  for (const { place, hole } of found) {
    if (place.cell < 0) continue;
    const list = holes.get(place.cell);
    if (list) list.push(hole);
    else holes.set(place.cell, [hole]);
  }
  const [under, over] = cells.over;
  const [lefts, rights] = cells.aside;
  const bare: Mesh = {
    charts,
    pieces,
    cellCount,
    stateCount,
    chartOf: Int32Array.from(cells.chartOf),
    left: Float64Array.from(cells.left),
    right: Float64Array.from(cells.right),
    lowLeft: Float64Array.from(cells.lowLeft),
    lowRight: Float64Array.from(cells.lowRight),
    highLeft: Float64Array.from(cells.highLeft),
    highRight: Float64Array.from(cells.highRight),
    below: meetingOf(cellCount, over, under),
    above: meetingOf(cellCount, under, over),
    leftOf: meetingOf(cellCount, rights, lefts),
    rightOf: meetingOf(cellCount, lefts, rights),
    sheltered: Uint8Array.from(cells.sheltered),
    drift: Int8Array.from(cells.drift),
    stackStart,
    layerAt: Int32Array.from(cells.layerAt),
    cellOf,
    edgeStart: Int32Array.from(cells.edgeStart),
    edgeLayer: Int32Array.from(cells.edgeLayer),
    edgeHold: Uint8Array.from(cells.edgeHold),
    edgeUpper: Uint8Array.from(cells.edgeUpper),
    sideEdges: cells.sideEdges,
    holes,
    valleys: new Map(),
    landing: new Map(),
    rises: new Map(),
    corners: new Map(),
    pierced: new Map(),
    capped: new Set(),
    atRake: new Map(),
    spreads: spreadsOf(assembly, cells),
    runsOn: runsOnOf(made, laid),
  };
  const { landing, rises } = linkWalls(bare, made);
  return {
    ...bare,
    landing,
    rises,
    corners: linkCorners(bare, made),
    pierced: linkPierced(bare, made),
    ...linkEdges(bare, made),
    valleys: linkValleys(bare, assembly, indexOf, cells.onValley),
  };
}

/** How wide the water of a cricket's valley runs over the cells along it: all its length as at its lower end. */
function spreadsOf({ joints, drifts }: Assembly, { onValley }: Cells): Map<number, number> {
  return new Map(
    drifts.flatMap(({ spread }, i) => (onValley.get(joints.length + i) ?? []).map((cell) => [cell, spread] as const)),
  );
}

/** What comes down over tiles beside a wall that goes on below the eave runs as near to it as a step's leg is wide at most: 4 in (trade practice). */
const NEAR_WALL = inches(4);

/** Where a wall that goes on below the eave stands over it, as wide as its steps' roof legs. */
function runsOnOf(made: readonly Made[], laid: readonly Piece[]): RunsOn[] {
  return made.flatMap(({ facet, joint, host }): RunsOn[] => {
    if (!joint?.runsOn) return [];
    const legs = laid
      .filter(({ role, covers }) => isBesideWall(role) && covers.some((cover) => cover.facet === facet.id))
      .flatMap(({ role, covers }) =>
        covers
          .filter((cover) => cover.facet === joint.a)
          .map(({ outline }): Span => {
            const { x0, x1 } = bounds(outline);
            if (isSidePiece(role)) return [x0, x1];
            return joint.side === 1 ? [x0, Math.min(x1, x0 + NEAR_WALL)] : [Math.max(x0, x1 - NEAR_WALL), x1];
          }),
      );
    return legs.length === 0
      ? []
      : [{ chart: host, from: Math.min(...legs.map(([x0]) => x0)), to: Math.max(...legs.map(([, x1]) => x1)) }];
  });
}
