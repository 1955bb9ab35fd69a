import type { Span } from '../../roof/index.ts';
import { courseJoints } from '../../surface/index.ts';
import { LINE_TOLERANCE, NOISE, countWhile, distanceToNearest, inches, isOver } from '../../units/index.ts';

/** What the joints of one course have to keep to. Lengths millimetres, places along the eave. */
export type Bond = {
  readonly course: number;
  /** Width of a whole shingle, and the side offset of a course against the one below. */
  readonly width: number;
  readonly offset: number;
  /** Narrowest piece wanted. */
  readonly least: number;
  /** Joints of the course below in order, and how far one stays from them. */
  readonly below: readonly number[];
  readonly apart: number;
  /** Shingles with tabs keep their keyways in line every other course: joints stand only so many tabs from one place. */
  readonly tabs?: { readonly from: number; readonly width: number };
  /** Where no joint may stand between two places: over metal, beside a cut. */
  off(from: number, to: number): readonly { readonly x0: number; readonly x1: number }[];
  /** Does a piece between two joints have room for its nails? */
  holds(from: number, to: number): boolean;
};

/** A cut piece under this is a waste of a shingle where a longer one would do. */
const HANDY = inches(12);
/** Joints that had to move are looked for this far apart. */
const GRID = inches(2);

/** What a joint or a piece costs from here on breaks a rule; less is only a cut more, or a joint off the regular bond. */
const BROKEN = 20;
const COST = { cut: 1, short: 0.5, moved: 0.3, narrow: 50, loose: 80, overMetal: 40, overJoint: 60 } as const;

const withinOff = ({ off }: Bond, x: number): boolean =>
  off(x, x).some((one) => x > one.x0 + LINE_TOLERANCE && x < one.x1 - LINE_TOLERANCE);

function jointCost(bond: Bond, x: number, isRegular: boolean): number {
  let cost = isRegular ? 0 : COST.moved;
  const nearest = distanceToNearest(bond.below, x);
  if (nearest < bond.apart - LINE_TOLERANCE) cost += COST.overJoint * (2 - nearest / bond.apart);
  if (withinOff(bond, x)) cost += COST.overMetal;
  return cost;
}

/** What a piece costs; past `under`, only that it costs no less. */
function pieceCost(bond: Bond, from: number, to: number, under = Number.POSITIVE_INFINITY): number {
  const length = to - from;
  if (length > bond.width + LINE_TOLERANCE) return Number.POSITIVE_INFINITY;
  let cost = length >= bond.width - LINE_TOLERANCE ? 0 : COST.cut;
  if (length < HANDY) cost += COST.short;
  if (length < bond.least - LINE_TOLERANCE) cost += COST.narrow * (2 - length / bond.least);
  // where nails find room is asked only of a piece that may still be the cheapest
  return cost < under && !bond.holds(from, to) ? cost + COST.loose : cost;
}

/**
 * Joints of one stretch of a course from `x0` to `x1`: the regular bond where that breaks no rule, else moved by as little as will do: no piece
 * longer than it is made, none narrower than the least, each with room for its nails, joints off those below and off what lies under them.
 * `whole`: shingles that must lie whole (across a valley, over a skylight's head). Where not all can be had the joints are those that break least.
 */
export function layJoints(x0: number, x1: number, whole: readonly Span[], bond: Bond): number[] {
  const joints: number[] = [];
  let from = x0;
  let before = Number.NEGATIVE_INFINITY;
  for (const [a, b] of [...whole].sort((p, q) => p[0] - q[0])) {
    const [start, end] = [Math.max(a, x0), Math.min(b, x1)];
    // one that would lie over another gives way to it
    if (start < before - LINE_TOLERANCE || end - start < LINE_TOLERANCE) continue;
    if (start - from > LINE_TOLERANCE) joints.push(...between(from, start, bond));
    if (start > x0 + LINE_TOLERANCE && joints.at(-1) !== start) joints.push(start);
    if (end < x1 - LINE_TOLERANCE) joints.push(end);
    from = end;
    before = end;
  }
  if (x1 - from > LINE_TOLERANCE) joints.push(...between(from, x1, bond));
  return joints;
}

/** Joints strictly between two fixed edges. */
function between(from: number, to: number, bond: Bond): number[] {
  const regular = courseJoints(bond.course, from, to, bond.width, bond.offset);
  const onBond = new Set(regular);
  let edges = [from, ...regular, to];
  for (const reach of [2, 5]) {
    const bad = brokenRuns(edges, bond, reach);
    if (bad.length === 0) break;
    // from the end, so that earlier numbers stay good
    for (const [a, b] of bad.toReversed())
      edges = [...edges.slice(0, a + 1), ...cheapest(edges[a]!, edges[b]!, onBond, bond), ...edges.slice(b)];
  }
  return edges.slice(1, -1);
}

/** Runs of edges round each that breaks a rule, by the numbers of the edges kept at either end. */
function brokenRuns(edges: readonly number[], bond: Bond, reach: number): [number, number][] {
  const runs: [number, number][] = [];
  const last = edges.length - 1;
  const add = (first: number, end: number): void => {
    const [a, b] = [Math.max(0, first - reach), Math.min(last, end + reach)];
    const run = runs.at(-1);
    if (run && a < run[1]) run[1] = Math.max(run[1], b);
    else runs.push([a, b]);
  };
  for (let i = 1; i < edges.length; i++) {
    if (pieceCost(bond, edges[i - 1]!, edges[i]!) >= BROKEN) add(i - 1, i);
    if (i < last && jointCost(bond, edges[i]!, true) >= BROKEN) add(i, i);
  }
  return runs;
}

/** The cheapest joints between two edges, by the shortest way from place to place. */
function cheapest(from: number, to: number, onBond: ReadonlySet<number>, bond: Bond): number[] {
  const places = placesBetween(from, to, bond);
  const best = places.map(() => Number.POSITIVE_INFINITY);
  const back = places.map(() => 0);
  best[0] = 0;
  let first = 0;
  for (let i = 1; i < places.length; i++) {
    const x = places[i]!;
    const own = i === places.length - 1 ? 0 : jointCost(bond, x, onBond.has(x));
    while (x - places[first]! > bond.width + LINE_TOLERANCE) first++;
    // the longest piece first: it is mostly the cheapest, and most others need not be looked at closely; of two alike the shorter one
    for (let j = first; j < i; j++) {
      const before = best[j]! + own;
      if (before > best[i]!) continue;
      const cost = before + pieceCost(bond, places[j]!, x, best[i]! - before + NOISE);
      if (cost > best[i]!) continue;
      best[i] = cost;
      back[i] = j;
    }
  }
  const joints: number[] = [];
  for (let i = back[places.length - 1]!; i > 0; i = back[i]!) joints.push(places[i]!);
  return joints.reverse();
}

/** Where tabs end between two places. */
export function tabLines(tabs: { readonly from: number; readonly width: number }, from: number, to: number): number[] {
  const first = tabs.from + Math.floor((from - tabs.from) / tabs.width + NOISE) * tabs.width;
  const lines: number[] = [];
  for (let i = 0; first + i * tabs.width < to - LINE_TOLERANCE; i++) {
    const x = first + i * tabs.width;
    if (x > from + LINE_TOLERANCE) lines.push(x);
  }
  return lines;
}

/** Places a joint may move to: the regular ones, the edges of what it has to keep off, whole shingles from either end, and a grid. */
function placesBetween(from: number, to: number, bond: Bond): number[] {
  const { width, least, below, apart, off, tabs } = bond;
  if (tabs) return [from, ...tabLines(tabs, from, to), to];
  const steps = (by: number): number[] => Array.from({ length: Math.floor((to - from) / by) }, (_, i) => (i + 1) * by);
  const wanted = [
    ...courseJoints(bond.course, from, to, width, bond.offset),
    ...off(from, to).flatMap(({ x0, x1 }) => [x0, x1]),
    ...below
      .slice(
        countWhile(below, (x) => x <= from - apart),
        countWhile(below, (x) => x < to + apart),
      )
      .flatMap((x) => [x - apart, x + apart]),
    from + least,
    to - least,
    ...steps(width).flatMap((by) => [from + by, to - by]),
    ...steps(GRID).map((by) => from + by),
  ]
    .filter((x) => x > from + LINE_TOLERANCE && x < to - LINE_TOLERANCE)
    .sort((a, b) => a - b);
  return [from, ...wanted.filter((x, i) => i === 0 || isOver(x, wanted[i - 1]!)), to];
}
