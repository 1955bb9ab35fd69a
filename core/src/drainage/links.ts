import type { Assembly, Joint } from '../assembly/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import type { Made } from './cut.ts';
import { type Chart, type OnLine, type Sheet, type ValleyCell, cellAtPoint, lineNear } from './sheet.ts';

type Links = Map<number, number[]>;

const link = (links: Links, from: number, to: number): void => {
  const list = links.get(from);
  if (!list) links.set(from, [to]);
  else if (!list.includes(to)) list.push(to);
};

const cellsIn = (sheet: Sheet, slab: number): number[] => {
  const first = sheet.slabStart[slab]!;
  return Array.from({ length: sheet.slabStart[slab + 1]! - first }, (_, i) => first + i);
};

const slabsOf = ({ firstSlab, lines }: Chart): number[] => Array.from({ length: lines.length - 1 }, (_, i) => firstSlab + i);

/** Lower and upper end of a cell's left (−1) or right (1) border. */
const borderOf = (sheet: Sheet, cell: number, side: 1 | -1): [number, number] =>
  side === 1 ? [sheet.lowRight[cell]!, sheet.highRight[cell]!] : [sheet.lowLeft[cell]!, sheet.highLeft[cell]!];

const overlap = ([a0, a1]: readonly [number, number], [b0, b1]: readonly [number, number]): number =>
  Math.min(a1, b1) - Math.max(a0, b0);

/** Where the water of each wall lands on its slope, and where water that lies there rises against it. */
export function linkWalls(sheet: Sheet, made: readonly Made[]): { landing: Links; rises: Links } {
  const landing: Links = new Map();
  const rises: Links = new Map();
  made.forEach(({ joint, host }, index) => {
    if (!joint) return;
    for (const slab of slabsOf(sheet.charts[index]!)) {
      const foot = sheet.slabStart[slab]!;
      if (foot === sheet.slabStart[slab + 1]!) continue;
      for (const cell of roofBeside(sheet, index, host, joint, slab)) {
        link(landing, foot, cell);
        link(rises, cell, foot);
      }
    }
  });
  return { landing, rises };
}

/** The cells of the slope along the foot of one of a wall's slabs. */
function roofBeside(sheet: Sheet, index: number, host: number, joint: Joint, slab: number): number[] {
  const wall = sheet.charts[index]!;
  const roof = sheet.charts[host]!;
  const [left, right] = [wall.lines[slab - wall.firstSlab]!, wall.lines[slab - wall.firstSlab + 1]!];
  if (joint.kind === 'side') {
    const k = Math.hypot(1, wall.raking!);
    const line = lineNear(roof.lines, joint.onA[0][0]);
    const beside = joint.side === 1 ? line : line - 1;
    if (beside < 0 || beside >= roof.lines.length - 1) return [];
    return cellsIn(sheet, roof.firstSlab + beside).filter(
      (cell) => overlap(borderOf(sheet, cell, joint.side === 1 ? -1 : 1), [left * k, right * k]) > LINE_TOLERANCE,
    );
  }
  const y = joint.onA[0][1];
  const cell = cellAtPoint(
    sheet,
    host,
    (left + right) / 2,
    joint.kind === 'front' ? y - 2 * LINE_TOLERANCE : y + 2 * LINE_TOLERANCE,
  );
  return cell < 0 ? [] : [cell];
}

/** Cells that meet round the corner of a face across the slope and one that runs up it. */
export function linkCorners(sheet: Sheet, made: readonly Made[]): Links {
  const corners: Links = new Map();
  const walls = made.map((one, index) => ({ ...one, index }));
  for (const { joint: face, host, index } of walls) {
    if (!face || face.kind === 'side') continue;
    for (const { joint: side, host: other, index: sideIndex } of walls) {
      if (side?.kind !== 'side' || other !== host) continue;
      const end = face.kind === 'front' ? side.onA[0] : side.onA[1];
      const at = face.onA.findIndex(([x, y]) => Math.abs(x - end[0]) < 1 && Math.abs(y - end[1]) < 1);
      if (at < 0) continue;
      const faceSlabs = slabsOf(sheet.charts[index]!);
      const sideSlabs = slabsOf(sheet.charts[sideIndex]!);
      const [x0, x1] = [face.onA[0][0], face.onA[1][0]];
      const leftEnd = end[0] < (x0 + x1) / 2;
      const foot = sheet.charts[sideIndex]!.raking! * (end[1] / Math.hypot(1, sheet.charts[sideIndex]!.raking!));
      for (const one of cellsIn(sheet, leftEnd ? faceSlabs[0]! : faceSlabs.at(-1)!))
        for (const two of cellsIn(sheet, face.kind === 'front' ? sideSlabs[0]! : sideSlabs.at(-1)!)) {
          const [low, high] = borderOf(sheet, two, face.kind === 'front' ? -1 : 1);
          if (overlap(borderOf(sheet, one, leftEnd ? -1 : 1), [low - foot, high - foot]) <= LINE_TOLERANCE) continue;
          link(corners, one, two);
          link(corners, two, one);
        }
    }
  }
  return corners;
}

/** Cells of a chart on a valley's line, from its lower end up, with the shares of the line they reach from and to. */
function cellsOnLine(sheet: Sheet, index: number, [low, high]: Joint['onA']): OnLine[] {
  const chart = sheet.charts[index]!;
  const found: OnLine[] = [];
  for (const slab of slabsOf(chart)) {
    const [left, right] = [chart.lines[slab - chart.firstSlab]!, chart.lines[slab - chart.firstSlab + 1]!];
    const share = (x: number): number => (x - low[0]) / (high[0] - low[0]);
    const middle = share((left + right) / 2);
    if (!(middle > 0 && middle < 1)) continue;
    const y = low[1] + (high[1] - low[1]) * middle;
    const above = (one: number): number => Math.abs((sheet.lowLeft[one]! + sheet.lowRight[one]!) / 2 - y);
    // what lies under a dormer's eaves is below the line
    const cell = cellsIn(sheet, slab)
      .filter((one) => !sheet.sheltered[one])
      .reduce<number | undefined>((best, one) => (best === undefined || above(one) < above(best) ? one : best), undefined);
    if (cell !== undefined)
      found.push({ cell, from: Math.min(share(left), share(right)), to: Math.max(share(left), share(right)) });
  }
  return found.sort((p, q) => p.from - q.from);
}

/** The cell on to which a valley empties that begins up a slope, beside the wall below its lower end; −1 where it begins at the eave. */
function footBeside(sheet: Sheet, index: number, [low, high]: Joint['onA']): number {
  if (low[1] <= LINE_TOLERANCE) return -1;
  const aside = low[0] + (high[0] > low[0] ? -2 : 2) * LINE_TOLERANCE;
  return cellAtPoint(sheet, index, aside, low[1] - 2 * LINE_TOLERANCE);
}

export function linkValleys(sheet: Sheet, assembly: Assembly, indexOf: ReadonlyMap<string, number>): Map<number, ValleyCell> {
  const links = new Map<number, ValleyCell>();
  for (const { kind, a, b, onA, onB, water = [] } of assembly.joints) {
    const [first, second] = [indexOf.get(a), indexOf.get(b)];
    if (kind !== 'valley' || first === undefined || second === undefined) continue;
    const sides = [cellsOnLine(sheet, first, onA), cellsOnLine(sheet, second, onB)] as const;
    const foot = Math.max(footBeside(sheet, first, onA), footBeside(sheet, second, onB));
    sides.forEach((own, s) => {
      const other = sides[1 - s]!;
      const [low, high] = s === 0 ? onA : onB;
      const run = Math.hypot(high[0] - low[0], high[1] - low[1]);
      const sine = (high[1] - low[1]) / run;
      own.forEach(({ cell, from, to }, i) => {
        links.set(cell, {
          cell,
          from,
          to,
          next: own[i - 1]?.cell ?? foot,
          across: acrossFrom(other, from, to, run),
          spread: worthIt(Math.min(spreadAt(water, s === 0 ? 'onA' : 'onB', (from + to) / 2), run * (1 - to) * GROWS) / sine),
        });
      });
    });
  }
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
