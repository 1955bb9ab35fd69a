import type { Assembly, Joint } from '../assembly/index.ts';
import { type Point, bounds } from '../roof/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import {
  type Corner,
  type Foot,
  type Made,
  type OnLine,
  type Pierced,
  type Mesh,
  type ValleyCell,
  borderHigh,
  borderLow,
  borderX,
  cellAtPoint,
  highAt,
  isIn,
  lowAt,
  meetsAny,
} from './mesh.ts';

function link<T>(links: Map<number, T[]>, from: number, to: T): void {
  const list = links.get(from);
  if (list) list.push(to);
  else links.set(from, [to]);
}

/** Cells of a chart that pass a test. */
function cellsOf(mesh: Mesh, chart: number, test: (cell: number) => boolean): number[] {
  const { firstCell, endCell } = mesh.charts[chart]!;
  const found: number[] = [];
  for (let cell = firstCell; cell < endCell; cell++) if (test(cell)) found.push(cell);
  return found;
}

const overlap = (a0: number, a1: number, b0: number, b1: number): number => Math.min(a1, b1) - Math.max(a0, b0);

/** Where the water of each wall lands on its slope, and where water that lies there rises against it. */
export function linkWalls(mesh: Mesh, made: readonly Made[]): { landing: Map<number, Foot[]>; rises: Map<number, Foot[]> } {
  const landing = new Map<number, Foot[]>();
  const rises = new Map<number, Foot[]>();
  made.forEach(({ joint, host }, index) => {
    if (!joint) return;
    const feet = cellsOf(mesh, index, (cell) => !meetsAny(mesh.below, cell));
    for (const { roof, at, line } of roofBeside(mesh, host, joint))
      for (const wall of feet) {
        const k = joint.kind === 'side' ? Math.hypot(1, mesh.charts[index]!.raking!) : 1;
        const [from, to] = [mesh.left[wall]! * k, mesh.right[wall]! * k];
        const meets =
          joint.kind === 'side'
            ? overlap(from, to, line[0][1], line[1][1])
            : overlap(from, to, mesh.left[roof]!, mesh.right[roof]!);
        if (meets <= LINE_TOLERANCE) continue;
        link(landing, wall, { wall, roof, at, line });
        if (joint.kind !== 'cavity') link(rises, roof, { wall, roof, at, line });
      }
  });
  return { landing, rises };
}

/** The cells of a slope along the foot of a wall, and on which of their sides it stands. */
function roofBeside(mesh: Mesh, host: number, { kind, side, onA }: Joint): Omit<Foot, 'wall'>[] {
  const [[ax, ay], [bx, by]] = onA;
  if (kind === 'side' && Math.abs(bx - ax) > LINE_TOLERANCE)
    return roofAlong(mesh, host, onA).map((found) => ({ ...found, at: side === 1 ? 'left' : 'right' }));
  if (kind === 'side') {
    const own = side === 1 ? -1 : 1;
    const beside = (cell: number): readonly [Point, Point] => [
      [borderX(mesh, cell, own), borderLow(mesh, cell, own)],
      [borderX(mesh, cell, own), borderHigh(mesh, cell, own)],
    ];
    return cellsOf(
      mesh,
      host,
      (cell) =>
        Math.abs(borderX(mesh, cell, own) - ax) <= 2 * LINE_TOLERANCE &&
        overlap(ay, by, borderLow(mesh, cell, own), borderHigh(mesh, cell, own)) > LINE_TOLERANCE,
    ).map((roof) => ({ roof, at: side === 1 ? 'left' : 'right', line: beside(roof) }));
  }
  const isUnder = kind === 'front' || kind === 'cavity';
  const y = isUnder ? ay - 2 * LINE_TOLERANCE : ay + 2 * LINE_TOLERANCE;
  return cellsOf(mesh, host, (cell) => {
    const [from, to] = [Math.max(ax, mesh.left[cell]!), Math.min(bx, mesh.right[cell]!)];
    if (to - from <= LINE_TOLERANCE) return false;
    const middle = (from + to) / 2;
    return y >= lowAt(mesh, cell, middle) && y <= highAt(mesh, cell, middle);
  }).map((roof) => ({ roof, at: isUnder ? 'top' : 'bottom', line: onA }));
}

/** The same along a wall at an angle: the cells whose lower or upper boundary lies on its line, and the stretch of it each lies along. */
function roofAlong(mesh: Mesh, host: number, [foot, top]: Joint['onA']): Omit<Foot, 'wall' | 'at'>[] {
  const steep = (top[1] - foot[1]) / (top[0] - foot[0]);
  const near = 2 * LINE_TOLERANCE * Math.hypot(1, steep);
  const heightAt = (x: number): number => foot[1] + (x - foot[0]) * steep;
  const [left, right] = [Math.min(foot[0], top[0]), Math.max(foot[0], top[0])];
  return cellsOf(mesh, host, () => true).flatMap((roof) => {
    const [xa, xb] = [Math.max(mesh.left[roof]!, left), Math.min(mesh.right[roof]!, right)];
    if (Math.abs(heightAt(xb) - heightAt(xa)) <= LINE_TOLERANCE || xb <= xa) return [];
    const isOn = (at: typeof lowAt): boolean => [xa, xb].every((x) => Math.abs(at(mesh, roof, x) - heightAt(x)) <= near);
    if (!isOn(lowAt) && !isOn(highAt)) return [];
    const ends = [xa, xb].map((x): Point => [x, heightAt(x)]).sort((p, q) => p[1] - q[1]);
    return [{ roof, line: [ends[0]!, ends[1]!] as const }];
  });
}

/** Cells that meet round the corner of a face across the slope and one that runs up it. */
export function linkCorners(mesh: Mesh, made: readonly Made[]): Map<number, Corner[]> {
  const corners = new Map<number, Corner[]>();
  const walls = made.map((one, index) => ({ ...one, index }));
  const atEnd = (index: number, side: 1 | -1): number[] => {
    const own = cellsOf(mesh, index, () => true);
    const end = own.reduce((most, cell) => Math.max(most, side * borderX(mesh, cell, side)), Number.NEGATIVE_INFINITY) * side;
    return own.filter((cell) => Math.abs(borderX(mesh, cell, side) - end) <= LINE_TOLERANCE);
  };
  for (const { joint: face, host, index } of walls) {
    if (!face || face.kind === 'side' || face.kind === 'cavity') continue;
    for (const { joint: wall, host: other, index: wallIndex } of walls) {
      if (wall?.kind !== 'side' || other !== host) continue;
      const meetsAt = ([ax, ay]: Point): boolean => face.onA.some(([x, y]) => Math.abs(x - ax) < 1 && Math.abs(y - ay) < 1);
      const [foot, top] = wall.onA;
      // a wall that runs up to a face across the slope meets it with its upper end
      const inside = face.kind === 'front' && meetsAt(top);
      const end = face.kind === 'back' || inside ? top : foot;
      if (!meetsAt(end)) continue;
      const own = end[0] < (face.onA[0][0] + face.onA[1][0]) / 2 ? -1 : 1;
      const theirs = end === top ? 1 : -1;
      const pitch = mesh.charts[wallIndex]!.raking!;
      const up = (pitch * end[1]) / Math.hypot(1, pitch);
      const round = cellsOf(mesh, host, (cell) => isIn(mesh, cell, end[0], end[1], 2 * LINE_TOLERANCE));
      for (const one of atEnd(index, own))
        for (const two of atEnd(wallIndex, theirs)) {
          const meets = overlap(
            borderLow(mesh, one, own) + up,
            borderHigh(mesh, one, own) + up,
            borderLow(mesh, two, theirs),
            borderHigh(mesh, two, theirs),
          );
          if (meets <= LINE_TOLERANCE) continue;
          link(corners, one, { cell: two, side: own, otherSide: theirs, up, inside, foot: round });
          link(corners, two, { cell: one, side: theirs, otherSide: own, up: -up, inside, foot: round });
        }
    }
  }
  return corners;
}

/** A valley that begins no higher than this begins at the eave. */
const AT_EAVE = 1;

/** Cells that meet a hole in the slope; `isOver`: the hole lies over them, and water has to climb to it. */
export function linkPierced(mesh: Mesh, made: readonly Made[]): Map<number, Pierced[]> {
  const links = new Map<number, Pierced[]>();
  made.forEach(({ facet, joint }, chart) => {
    if (joint) return;
    for (const hole of facet.pierced ?? []) {
      const { x0, x1, y0, y1 } = bounds(hole);
      const on = (one: number, other: number): boolean => Math.abs(one - other) <= 2 * LINE_TOLERANCE;
      for (const cell of cellsOf(mesh, chart, (one) => mesh.left[one]! <= x1 + 1 && mesh.right[one]! >= x0 - 1)) {
        const [left, right] = [mesh.left[cell]!, mesh.right[cell]!];
        const [xa, xb] = [Math.max(left, x0), Math.min(right, x1)];
        if (xb - xa > LINE_TOLERANCE) {
          if (on(lowAt(mesh, cell, xa), y1)) link(links, cell, { xa, ya: y1, xb, yb: y1, isOver: false });
          if (on(highAt(mesh, cell, xa), y0)) link(links, cell, { xa, ya: y0, xb, yb: y0, isOver: true });
        }
        for (const [side, x] of [
          [1, x0],
          [-1, x1],
        ] as const) {
          if (!on(borderX(mesh, cell, side), x)) continue;
          const [ya, yb] = [Math.max(borderLow(mesh, cell, side), y0), Math.min(borderHigh(mesh, cell, side), y1)];
          if (yb - ya > LINE_TOLERANCE) link(links, cell, { xa: x, ya, xb: x, yb, isOver: false });
        }
      }
    }
  });
  return links;
}

/** Cells along ridges and hips, and along rakes with the side the rake is on. */
export function linkEdges(mesh: Mesh, made: readonly Made[]): Pick<Mesh, 'capped' | 'atRake'> {
  const capped = new Set<number>();
  const atRake = new Map<number, 1 | -1>();
  made.forEach(({ facet, joint }, chart) => {
    if (joint) return;
    for (const [[ax, ay], [bx, by]] of facet.capped ?? []) {
      const [from, to] = [Math.min(ax, bx), Math.max(ax, bx)];
      const at = (x: number): number => ay + ((by - ay) * (x - ax)) / (bx - ax);
      for (const cell of cellsOf(mesh, chart, (one) => overlap(mesh.left[one]!, mesh.right[one]!, from, to) > LINE_TOLERANCE)) {
        const x = (Math.max(from, mesh.left[cell]!) + Math.min(to, mesh.right[cell]!)) / 2;
        if (Math.abs(highAt(mesh, cell, x) - at(x)) <= 1) capped.add(cell);
      }
    }
    for (const [[ax, ay], [bx, by]] of facet.rakes ?? [])
      for (const cell of cellsOf(mesh, chart, () => true))
        for (const side of [-1, 1] as const)
          if (
            Math.abs(borderX(mesh, cell, side) - ax) <= 1 &&
            Math.abs(ax - bx) <= 1 &&
            overlap(borderLow(mesh, cell, side), borderHigh(mesh, cell, side), Math.max(0, Math.min(ay, by)), Math.max(ay, by)) >
              1
          )
            atRake.set(cell, side);
  });
  return { capped, atRake };
}

/** The cell on to which a valley empties that begins up a slope, beside the wall below its lower end; −1 where it begins at the eave. */
function footBeside(mesh: Mesh, index: number, [low, high]: Joint['onA']): number {
  if (low[1] <= AT_EAVE) return -1;
  const aside = low[0] + (high[0] > low[0] ? -2 : 2) * LINE_TOLERANCE;
  return cellAtPoint(mesh, index, aside, low[1] - 2 * LINE_TOLERANCE);
}

/** Cells over the line of a valley on one chart, from its lower end up. `over`: the cells whose lower boundary it is. */
function cellsOnLine(mesh: Mesh, over: readonly number[], [low, high]: Joint['onA']): OnLine[] {
  const share = (x: number): number => Math.max(0, Math.min(1, (x - low[0]) / (high[0] - low[0])));
  return over
    .filter((cell) => !mesh.sheltered[cell])
    .map((cell) => {
      const [a, b] = [share(mesh.left[cell]!), share(mesh.right[cell]!)];
      return { cell, from: Math.min(a, b), to: Math.max(a, b) };
    })
    .sort((p, q) => p.from - q.from);
}

export function linkValleys(
  mesh: Mesh,
  assembly: Assembly,
  indexOf: ReadonlyMap<string, number>,
  onValley: ReadonlyMap<number, readonly number[]>,
): Map<number, ValleyCell> {
  const links = new Map<number, ValleyCell>();
  assembly.joints.forEach(({ kind, a, b, onA, onB, water = [] }, number) => {
    const [first, second] = [indexOf.get(a), indexOf.get(b)];
    if (kind !== 'valley' || first === undefined || second === undefined) return;
    const over = onValley.get(number) ?? [];
    const sides = [first, second].map((chart, s) =>
      cellsOnLine(
        mesh,
        over.filter((cell) => mesh.chartOf[cell] === chart),
        s === 0 ? onA : onB,
      ),
    );
    const foot = Math.max(footBeside(mesh, first, onA), footBeside(mesh, second, onB));
    sides.forEach((own, s) => {
      const [line, otherLine] = s === 0 ? [onA, onB] : [onB, onA];
      const run = Math.hypot(line[1][0] - line[0][0], line[1][1] - line[0][1]);
      const sine = (line[1][1] - line[0][1]) / run;
      own.forEach(({ cell, from, to }, i) => {
        const grown = Math.min(spreadAt(water, s === 0 ? 'onA' : 'onB', (from + to) / 2), run * (1 - to) * GROWS);
        links.set(cell, {
          cell,
          from,
          to,
          line,
          next: own[i - 1]?.cell ?? foot,
          across: acrossFrom(sides[1 - s]!, from, to, run).map((one) => ({ ...one, line: otherLine })),
          spread: worthIt(grown / sine),
        });
      });
    });
  });
  return links;
}

/** At its head a valley's water has not come together yet: it is no wider than a quarter of the way it has run (an estimate; a steady flow needs some length). */
const GROWS = 0.25;

/** Less than the tolerance is no width. */
const worthIt = (spread: number): number => (spread > LINE_TOLERANCE ? spread : 0);

/** Slabs of two slopes meet at a line within this: what overlaps less is the next piece's. */
const SAME_PLACE = 1.5;

/** The other slope's cells along a stretch of a valley's line, or where that is very short the one that lies along most of it. */
function acrossFrom(other: readonly OnLine[], from: number, to: number, length: number): OnLine[] {
  const shared = (one: OnLine): number => (Math.min(to, one.to) - Math.max(from, one.from)) * length;
  const along = other.filter((one) => shared(one) > SAME_PLACE);
  if (along.length > 0) return along;
  const most = other.reduce<OnLine | undefined>((best, one) => (best && shared(best) >= shared(one) ? best : one), undefined);
  return most && shared(most) > 0 ? [most] : [];
}

/** How wide the valley's water runs at a share of the way up, square to the line. */
function spreadAt(water: NonNullable<Joint['water']>, side: 'onA' | 'onB', share: number): number {
  const i = water.findLastIndex((one) => one.share <= share);
  const [below, above] = [water[i], water[i + 1] ?? water[i]];
  if (!below || !above) return 0;
  const part = above.share > below.share ? (share - below.share) / (above.share - below.share) : 0;
  return below[side] + (above[side] - below[side]) * part;
}
