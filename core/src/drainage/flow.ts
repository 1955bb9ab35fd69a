import type { EdgeHold, Role } from '../assembly/index.ts';
import type { Point } from '../roof/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import { type Chart, LEFT, LOWER, RIGHT, type Sheet, UPPER } from './sheet.ts';

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
  /** Stop once a leak is found: enough to know that there is one, not which is the worst. */
  readonly stopAtLeak?: boolean;
  /** Cells the water starts from; rain on every open cell when absent. */
  readonly sources?: readonly number[];
};

/** A place where water goes where it must not. */
export type Leak = {
  readonly node: number;
  readonly cause: Cause;
  readonly layer: number;
  readonly kind: 'under' | 'bare' | 'fastener' | 'exit';
};

/**
 * Where water is after a pass. A node is 2 · state where water runs or creeps, 2 · state + 1 where it was only reached by climbing; by
 * node, the node it came from and how.
 */
export type Flow = {
  readonly wet: Uint8Array;
  readonly parent: Int32Array;
  readonly move: Uint8Array;
  readonly cause: Uint8Array;
  readonly blame: Int32Array;
  readonly leaks: readonly Leak[];
};

/** Metal without hem, rib or cross-fall: past two butt lines on one piece, water leaves over its side. */
const FLAT_METAL: ReadonlySet<Role> = new Set(['step', 'kickOut', 'apronEnd']);
const SHEETS: ReadonlySet<Role> = new Set([
  'iceBarrier',
  'wallMembrane',
  'underlayment',
  'edgeSeal',
  'valleySheet',
  'collar',
  'frameTape',
]);
const EAVE_METAL: ReadonlySet<Role> = new Set(['gutterApron', 'dripEdge']);

const OVERRUN_LINES = 2;

/**
 * One pass of water over a sheet: which states get wet, by what path, and every leak. A reachability question, not fluid dynamics: the
 * five moves are fall, dead end, creep, reach and fasteners. `finished`: leaks are water on any sheet or on the bare deck or wall; before
 * the covering is on, only on the bare deck, or on the bare wall behind something.
 */
export function runWater(sheet: Sheet, settings: FlowSettings, finished: boolean): Flow {
  const { charts, folds, pieces, stackStart, layerAt, stateCount, cellCount } = sheet;
  const wet = new Uint8Array(stateCount);
  const passed = new Uint8Array(stateCount);
  /** Distance left to creep, entering at the left edge going right, and the other way round; and to climb, entering from below. */
  const fromLeft = new Float64Array(stateCount);
  const fromRight = new Float64Array(stateCount);
  const climb = new Float64Array(stateCount);
  const parent = new Int32Array(2 * stateCount).fill(-1);
  const move = new Uint8Array(2 * stateCount);
  const cause = new Uint8Array(2 * stateCount);
  const blame = new Int32Array(2 * stateCount);
  const cellOf = new Int32Array(stateCount);
  const chartOf = new Uint16Array(cellCount);
  const queued = new Uint8Array(stateCount);
  const filmed = new Uint8Array(stateCount);
  const leaks: Leak[] = [];
  const leaked = new Set<string>();
  let queue: number[] = [];
  const main = charts[0]!;
  const foldOfWall = new Map(folds.map((fold) => [fold.wall, fold]));

  for (let cell = 0; cell < cellCount; cell++)
    for (let state = stackStart[cell]!; state < stackStart[cell + 1]!; state++) cellOf[state] = cell;
  charts.forEach((chart, i) => chartOf.fill(i, chart.first, chart.first + chart.columnCount * chart.rowCount));

  const topOf = (cell: number): number => stackStart[cell + 1]! - 1;
  const isOpen = (state: number): boolean => state === topOf(cellOf[state]!);
  const roleAt = (state: number): Role => pieces[layerAt[state]!]!.role;
  /** The state of a layer in a cell, or −1. */
  const find = (cell: number, layer: number): number => {
    for (let state = topOf(cell); state >= stackStart[cell]!; state--) if (layerAt[state] === layer) return state;
    return -1;
  };
  /** The highest piece at or below a layer in a cell. */
  const highest = (cell: number, layer: number): number => {
    for (let state = topOf(cell); state > stackStart[cell]!; state--) if (layerAt[state]! <= layer) return state;
    return stackStart[cell]!;
  };
  const holdAt = (layer: number, chart: number, edge: number): EdgeHold =>
    sheet.holds.get(layer * charts.length + chart)?.[edge] ?? 'open';
  /** Does an edge keep water from passing under it sideways or uphill? */
  const isHeld = (hold: EdgeHold): boolean =>
    hold === 'bonded' || hold === 'letIn' || (hold === 'sealed' && !settings.sealedOpen);
  /** An edge that faces uphill turns water over itself only where it is let in or sealed; a bond alone is not trusted there. */
  const turnsOver = (hold: EdgeHold): boolean => hold === 'letIn' || (hold === 'sealed' && !settings.sealedOpen);

  const push = (state: number): void => {
    if (queued[state]) return;
    queued[state] = 1;
    queue.push(state);
  };
  const runs = (state: number): boolean => wet[state] === 1 || fromLeft[state]! > 0 || fromRight[state]! > 0;
  /** The node water leaves a state by: where it runs if it does, else where it was reached. */
  const nodeOf = (state: number): number => (runs(state) ? 2 * state : 2 * state + 1);
  const arrive = (node: number, from: number, how: Move, why: Cause, layer: number): void => {
    parent[node] = from;
    move[node] = MOVES.indexOf(how);
    const inherited = from < 0 ? 0 : cause[from]!;
    cause[node] = inherited || CAUSES.indexOf(why);
    blame[node] = inherited && from >= 0 ? blame[from]! : layer;
  };
  const leak = (node: number, kind: Leak['kind'], why: Cause, layer: number): void => {
    const key = `${kind} ${why} ${layer}`;
    if (leaked.has(key)) return;
    leaked.add(key);
    leaks.push({ node, cause: why, layer, kind });
  };
  /** Water runs at a state, full width. */
  const run = (state: number, from: number, how: Move, why: Cause = 'none', layer = 0, lines = 0): void => {
    if (!runs(state)) arrive(2 * state, from, how, why, layer);
    const more = lines > passed[state]!;
    if (wet[state] && !more) return;
    if (more) passed[state] = lines;
    wet[state] = 1;
    push(state);
  };
  const creepTo = (state: number, left: number, fromTheLeft: boolean, from: number, why: Cause = 'none', layer = 0): void => {
    if (isOpen(state)) return run(state, from, 'creeps', why, layer);
    const budget = fromTheLeft ? fromLeft : fromRight;
    if (budget[state]! >= left) return;
    if (!runs(state)) arrive(2 * state, from, 'creeps', why, layer);
    budget[state] = left;
    push(state);
  };

  /** The piece right above a state that does not also lie above it in the cell it comes from. */
  const newCover = (state: number, before: number): number => {
    const above = state + 1;
    if (above > topOf(cellOf[state]!)) return -1;
    const layer = layerAt[above]!;
    return find(before, layer) >= 0 ? -1 : layer;
  };

  /** Water on `layer` comes down into a cell: where it lands, and what it goes under if it lay open. */
  const comeDown = (from: number, cell: number, chart: number, how: Move): void => {
    const layer = layerAt[from]!;
    let target = highest(cell, layer);
    const same = layerAt[target] === layer;
    const lines =
      same && charts[chart]!.kind === 'roof' && FLAT_METAL.has(roleAt(from)) && chartOf[cellOf[from]!] === chart
        ? passed[from]! + charts[chart]!.butts[rowOf(cellOf[from]!)]!
        : 0;
    let why: Cause = 'none';
    let who = 0;
    // from a wall leg under a course is not a reverse lap: it is under cover, judged by where it comes out
    const sameChart = chartOf[cellOf[from]!] === chart;
    const lay = isOpen(from) && wet[from] === 1;
    while (sameChart && target < topOf(cell)) {
      const above = layerAt[target + 1]!;
      if (find(cellOf[from]!, above) >= 0) break;
      const hold = holdTowards(above, chart, UPPER, cell, 0, 1);
      const slant = slantAt(above, chart, cell, 0, 1);
      // along a slanting edge that is stuck down water runs off as it comes; only a level one dams it
      if (turnsOver(hold) || (hold === 'bonded' && slant && !slant.level)) target++;
      else if (!lay) break;
      else if (slant?.sideways) {
        // over it, and under it as far as water creeps
        if (settings.creep > 0) creepTo(target, settings.creep, true, 2 * from, 'short sidelap', above);
        target++;
      } else {
        why = 'reverse lap';
        who = above;
        break;
      }
    }
    if (wet[from]) run(target, 2 * from, why === 'none' ? how : 'goes under', why, who, Math.min(OVERRUN_LINES, lines));
    else {
      if (fromLeft[from]! > 0) creepTo(target, fromLeft[from]!, true, 2 * from);
      if (fromRight[from]! > 0) creepTo(target, fromRight[from]!, false, 2 * from);
    }
  };
  /** The edge of a slanting piece nearest to a cell's border: its number in the piece's outline, and whether it faces more sideways. */
  const slantAt = (
    layer: number,
    index: number,
    cell: number,
    dx: number,
    dy: number,
  ): { edge: number; sideways: boolean; level: boolean } | undefined => {
    const outlines = sheet.slants.get(layer * charts.length + index);
    if (!outlines) return undefined;
    const chart = charts[index]!;
    const local = cell - chart.first;
    const row = Math.floor(local / chart.columnCount);
    const column = local - row * chart.columnCount;
    const at: Point = [
      chart.columns[column]! + ((chart.columns[column + 1]! - chart.columns[column]!) * (1 + dx)) / 2,
      chart.rows[row]! + ((chart.rows[row + 1]! - chart.rows[row]!) * (1 + dy)) / 2,
    ];
    let nearest = Number.POSITIVE_INFINITY;
    let found = -1;
    let sideways = false;
    let level = false;
    for (const outline of outlines)
      for (let edge = 0; edge < outline.length; edge++) {
        const a = outline[edge]!;
        const b = outline[edge + 1 === outline.length ? 0 : edge + 1]!;
        const [ex, ey] = [b[0] - a[0], b[1] - a[1]];
        // corners run counter-clockwise: an edge that does not face that way is not the one met there
        if (ey * dx - ex * dy <= 0) continue;
        const t = Math.max(0, Math.min(1, ((at[0] - a[0]) * ex + (at[1] - a[1]) * ey) / (ex * ex + ey * ey)));
        const [ox, oy] = [at[0] - a[0] - t * ex, at[1] - a[1] - t * ey];
        const distance = ox * ox + oy * oy;
        if (distance >= nearest) continue;
        nearest = distance;
        found = edge;
        // more than 45° off the fall
        sideways = Math.abs(ey) > Math.abs(ex);
        level = Math.abs(ey) < Math.abs(ex) / 10;
      }
    return { edge: found, sideways, level };
  };
  /** How a piece's edge towards a neighbouring cell is held; a slanting piece's by the edge that is really there. */
  const holdTowards = (layer: number, index: number, edge: number, cell: number, dx: number, dy: number): EdgeHold => {
    const slant = slantAt(layer, index, cell, dx, dy);
    return holdAt(layer, index, slant ? slant.edge : edge);
  };
  const rowOf = (cell: number): number => {
    const chart = charts[chartOf[cell]!]!;
    return Math.floor((cell - chart.first) / chart.columnCount);
  };

  /** Water leaves the chart at the eave: on the covering, the eave metal, or a sheet that laps over that metal, it is drained. */
  const leave = (state: number, column: number): void => {
    const cell = cellOf[state]!;
    const role = layerAt[state] === 0 ? undefined : roleAt(state);
    const sheetOverMetal = (): boolean => {
      if (charts[chartOf[cell]!]!.rows[rowOf(cell) + 1]! <= LINE_TOLERANCE) return true; // folded down over the deck edge
      for (let below = state - 1; below > stackStart[cell]!; below--) if (EAVE_METAL.has(roleAt(below))) return true;
      return false;
    };
    const drained = role !== undefined && (!SHEETS.has(role) || sheetOverMetal());
    if (!drained)
      leak(
        2 * state,
        'exit',
        CAUSES[cause[2 * state]!] === 'none' ? 'gap' : CAUSES[cause[2 * state]!]!,
        blame[2 * state]! || layerAt[state]!,
      );
    if (!finished) return;
    for (const fold of folds) {
      if (!fold.runsOn || fold.roof !== chartOf[cell] || !fold.leg.includes(column)) continue;
      const kicked = Array.from({ length: topOf(cell) - stackStart[cell]! }, (_, i) => stackStart[cell]! + 1 + i).some(
        (at) => roleAt(at) === 'kickOut',
      );
      if (!kicked) leak(2 * state, 'exit', 'gap', layerAt[state]!);
    }
  };

  /** Water that is already where it should not be finds every nail; only the first fault counts. */
  const pierce = (node: number, layer: number): void => {
    if (CAUSES[cause[node]!] === 'none') leak(node, 'fastener', 'fastener', layer);
  };
  const fasteners = (state: number, cell: number, left: number, right: number): void => {
    const holes = sheet.holes.get(cell);
    if (!holes) return;
    const chart = charts[chartOf[cell]!]!;
    const layer = layerAt[state]!;
    for (const hole of holes) {
      if (layer === 0 || hole.layer < layer || hole.sealed || pieces[layer]!.sealsNails) continue;
      const bottom = chart.rows[rowOf(cell)]!;
      const within = (distance: number, budget: number): boolean => budget > 0 && distance < budget;
      const reached =
        wet[state] === 1 ||
        within(hole.along - left, fromLeft[state]!) ||
        within(right - hole.along, fromRight[state]!) ||
        (!hole.covering && within(hole.up - bottom, climb[state]!));
      if (!reached) continue;
      pierce(nodeOf(state), hole.layer);
      run(state - 1, nodeOf(state), 'follows a fastener', 'fastener', hole.layer);
    }
  };

  /** A film on covered metal wets every fastener head on its way, across the whole piece. */
  const film = (state: number, cell: number, chart: Chart, column: number): void => {
    const layer = layerAt[state]!;
    for (const step of [-1, 1]) {
      for (let c = column + step, at = cell + step; c >= 0 && c < chart.columnCount; c += step, at += step) {
        const beside = find(at, layer);
        if (beside < 0 || filmed[beside]) break;
        filmed[beside] = 1;
        for (const hole of sheet.holes.get(at) ?? []) {
          if (hole.layer < layer || hole.sealed) continue;
          if (!runs(beside)) arrive(2 * beside, 2 * state, 'creeps', 'none', 0);
          pierce(2 * beside, hole.layer);
          run(beside - 1, 2 * beside, 'follows a fastener', 'fastener', hole.layer);
        }
      }
    }
  };

  const overrun = (state: number, cell: number, chart: Chart, column: number): void => {
    const layer = layerAt[state]!;
    for (const step of [-1, 1]) {
      let c = column;
      let at = cell;
      while (c >= 0 && c < chart.columnCount && find(at, layer) >= 0) {
        c += step;
        at += step;
      }
      if (c < 0 || c >= chart.columnCount || chart.taken[at - chart.first]) continue;
      run(highest(at, layer), 2 * state, 'leaves over the side', 'overrun', layer);
    }
  };

  const sideways = (state: number, cell: number, chart: Chart, column: number): void => {
    const layer = layerAt[state]!;
    const index = chartOf[cell]!;
    const width = chart.columns[column + 1]! - chart.columns[column]!;
    const open = isOpen(state) && wet[state] === 1;
    for (const step of [-1, 1]) {
      const left = open ? settings.creep : (step === 1 ? fromLeft[state]! : fromRight[state]!) - width;
      const next = column + step;
      if (left <= LINE_TOLERANCE || next < 0 || next >= chart.columnCount || chart.taken[cell + step - chart.first]) continue;
      const at = cell + step;
      const inside = find(at, layer);
      if (inside >= 0) {
        if (inside === topOf(at)) continue;
        const cover = newCover(inside, cell);
        if (cover > 0 && isHeld(holdTowards(cover, index, step === 1 ? LEFT : RIGHT, at, -step, 0))) continue;
        creepTo(inside, left, step === 1, 2 * state);
      } else {
        if (layer > 0 && isHeld(holdTowards(layer, index, step === 1 ? RIGHT : LEFT, cell, step, 0))) continue;
        const below = highest(at, layer);
        if (below === topOf(at)) continue;
        const cover = newCover(below, cell);
        if (cover > 0 && isHeld(holdTowards(cover, index, step === 1 ? LEFT : RIGHT, at, -step, 0))) continue;
        creepTo(below, left, step === 1, 2 * state, 'short sidelap', layer);
      }
    }
  };

  /** In a valley the water runs as wide as it is deep: over the piece it runs on, and under what lies on that within the width. */
  const spreadOut = (state: number, cell: number, chart: Chart, column: number): void => {
    const width = sheet.valleys.get(cell)?.spread ?? 0;
    if (width === 0 || !isOpen(state) || !wet[state]) return;
    for (const step of [-1, 1]) {
      let left = width;
      for (let c = column + step, at = cell + step; left > LINE_TOLERANCE; c += step, at += step) {
        if (c < 0 || c >= chart.columnCount || chart.taken[at - chart.first]) break;
        const inside = find(at, layerAt[state]!);
        if (inside < 0) break;
        if (inside !== topOf(at)) {
          const cover = newCover(inside, at - step);
          if (cover <= 0 || !isHeld(holdTowards(cover, chartOf[cell]!, step === 1 ? LEFT : RIGHT, at, -step, 0)))
            creepTo(inside, left, step === 1, 2 * state);
          break;
        }
        left -= chart.columns[c + 1]! - chart.columns[c]!;
      }
    }
  };

  const upwards = (state: number, cell: number, chart: Chart, row: number): void => {
    const layer = layerAt[state]!;
    const index = chartOf[cell]!;
    const open = isOpen(state) && wet[state] === 1;
    // a head reaches h / sin θ along a slope and h on a wall
    const head = settings.reach * (main.sine / chart.sine);
    const left = open ? head : climb[state]! - (chart.rows[row + 1]! - chart.rows[row]!);
    const at = cell + chart.columnCount;
    if (left <= LINE_TOLERANCE || row + 1 >= chart.rowCount || chart.taken[at - chart.first]) return;
    const origin = open ? 2 * state : 2 * state + 1;
    const climbTo = (target: number, how: Move, why: Cause, who: number): void => {
      if (target === topOf(at) || climb[target]! >= left) return;
      const cover = newCover(target, cell);
      if (cover > 0 && isHeld(holdAt(cover, index, LOWER))) return climbTo(target + 1, how, why, who);
      if (climb[target] === 0) arrive(2 * target + 1, origin, how, why, who);
      climb[target] = left;
      push(target);
    };
    const inside = find(at, layer);
    if (inside >= 0) return climbTo(inside, 'climbs', 'none', 0);
    if (layer === 0 || isHeld(holdTowards(layer, index, UPPER, cell, 0, 1))) return;
    // past an edge that faces sideways water creeps, it does not climb
    if (slantAt(layer, index, cell, 0, 1)?.sideways) return;
    run(highest(cell, layer - 1), origin, 'spills behind', 'short headlap', layer);
    climbTo(highest(at, layer), 'climbs', 'short headlap', layer);
  };

  const expand = (state: number): void => {
    const cell = cellOf[state]!;
    const index = chartOf[cell]!;
    const chart = charts[index]!;
    const local = cell - chart.first;
    const row = Math.floor(local / chart.columnCount);
    const column = local - row * chart.columnCount;
    const running = runs(state);
    const role = roleAt(state);
    const layer = layerAt[state]!;
    if (running) {
      const why = CAUSES[cause[2 * state]!]!;
      if (layer === 0) {
        if (finished || chart.kind === 'roof' || why !== 'none')
          leak(2 * state, 'bare', why === 'none' ? 'gap' : why, blame[2 * state]!);
      } else if (finished && SHEETS.has(role)) leak(2 * state, 'under', why === 'none' ? 'gap' : why, blame[2 * state]! || layer);
    }
    fasteners(state, cell, chart.columns[column]!, chart.columns[column + 1]!);
    if (wet[state] && layer > 0 && FLAT_METAL.has(role) && !filmed[state]) {
      filmed[state] = 1;
      film(state, cell, chart, column);
    }
    if (running) {
      if (passed[state]! >= OVERRUN_LINES) overrun(state, cell, chart, column);
      fall(state, cell, index, chart, row, column);
      spreadOut(state, cell, chart, column);
      if (settings.creep > 0 || !wet[state]) sideways(state, cell, chart, column);
    }
    if (settings.reach > 0 && (running || climb[state]! > 0)) upwards(state, cell, chart, row);
  };

  /** The cell of the roof that a wall's water lands on, or −1. */
  const landing = (index: number, column: number): number => {
    const fold = foldOfWall.get(index);
    if (!fold) return -1;
    const roof = charts[fold.roof]!;
    const [row, at] = fold.along === 'column' ? [column, fold.line] : [fold.line, column];
    return roof.first + row * roof.columnCount + at;
  };

  /** Water goes on into a cell beside: over a piece that lies there above it, and under that as far as it creeps or is wide. */
  const passInto = (state: number, cell: number): void => {
    const target = highest(cell, layerAt[state]!);
    if (!isOpen(state) || target === topOf(cell)) return run(target, 2 * state, 'falls');
    run(topOf(cell), 2 * state, 'falls');
    const valley = sheet.valleys.get(cell);
    const under = Math.max(settings.creep, valley?.spread ?? 0);
    if (under > 0) creepTo(target, under, valley?.away !== -1, 2 * state);
  };

  const fall = (state: number, cell: number, index: number, chart: Chart, row: number, column: number): void => {
    const below = cell - chart.columnCount;
    if (chart.kind === 'wall') {
      if (row > 0 && !chart.taken[below - chart.first]) return comeDown(state, below, index, 'falls');
      const at = landing(index, column);
      if (at >= 0) comeDown(state, at, chartOf[at]!, 'falls');
      return;
    }
    const drift = chart.drift[cell - chart.first]!;
    if (drift !== 0 && column + drift >= 0 && column + drift < chart.columnCount) return passInto(state, cell + drift);
    const valley = sheet.valleys.get(cell);
    if (valley) {
      if (valley.next >= 0) comeDown(state, valley.next, index, 'falls');
      if (valley.across >= 0) passInto(state, valley.across);
      if (valley.next < 0 && chart.hasEave) leave(state, column);
      return;
    }
    const atEave = chart.hasEave && chart.rows[row]! <= LINE_TOLERANCE;
    if (row === 0 || (atEave && find(below, layerAt[state]!) < 0)) {
      if (atEave) leave(state, column);
      return;
    }
    if (!chart.taken[below - chart.first]) return comeDown(state, below, index, 'falls');
    for (const step of [-1, 1]) {
      const next = column + step;
      if (next >= 0 && next < chart.columnCount && !chart.taken[cell + step - chart.first])
        run(highest(cell + step, layerAt[state]!), 2 * state, 'falls');
    }
  };

  for (let cell = 0; cell < cellCount; cell++) {
    const chart = charts[chartOf[cell]!]!;
    if (chart.taken[cell - chart.first]) continue;
    // below the deck's edge there is no deck to be rained on, and a sheet folded down there stands behind the eave metal
    const overhang = chart.kind === 'roof' && chart.rows[rowOf(cell) + 1]! <= LINE_TOLERANCE;
    if (overhang && (topOf(cell) === stackStart[cell]! || SHEETS.has(roleAt(topOf(cell))))) continue;
    if (settings.sources ? settings.sources.includes(cell) : !chart.sheltered[cell - chart.first]) run(topOf(cell), -1, 'rain');
  }
  while (queue.length > 0 && !(settings.stopAtLeak && leaks.length > 0)) {
    // level by level, each in the order of the states, so that paths do not depend on the order water was found
    const level = queue.sort((a, b) => a - b);
    queue = [];
    for (const state of level) queued[state] = 0;
    for (const state of level) expand(state);
  }
  return { wet, parent, move, cause, blame, leaks };
}
