import type { Zone } from '../../assembly/index.ts';
import {
  type Outline,
  type Point,
  type Span,
  bounds,
  clipSpans,
  extentBetween,
  isWithin,
  isWithinSpans,
  mergeSpans,
  rectangle,
  spansNear,
  spansAcross,
  subtractSpans,
  tidyOutline,
} from '../../roof/index.ts';
import { leastOf, unheard } from '../../rules/index.ts';
import { type PlacedWall, type PlaneContext, type ValleySide, fromValleyLine, lastUnderApron } from '../../slope/index.ts';
import { buttLine, chalkLine } from '../../surface/index.ts';
import { LINE_TOLERANCE, inches } from '../../units/index.ts';
import { reachOf } from '../valleys.ts';
import { shingleOf } from './shingle.ts';

/** Nails stand this far in from a shingle's ends, the usual place for the outermost ones. */
export const END_NAIL = inches(1);
/** And this far below its top. */
const FROM_TOP = inches(0.5);
/** Two nails never closer than this: the second would split what the first holds. */
export const NAILS_APART = inches(0.75);
/** A nail is covered by what lies over it by this much at least. */
const UNDER_COVER = inches(0.25);
const UNDER_APRON = inches(0.75);
/** Heights that are tried where the line itself is taken. */
const LEVEL_STEP = inches(0.25);

/**
 * A nail stands at least this far from the joints of the course above: water that creeps 2 in sideways from an open joint (the reserve a
 * plan is to have) does not find it.
 */
const NAIL_FROM_JOINT_ABOVE = inches(2.25);

/** Where the nails of one course may stand. Spans run along the eave at a height up the slope, told by its number among the levels. */
export type NailGround = {
  /** The heights looked at: the one nails are wanted at, then others, nearest to it first. */
  readonly levels: readonly [line: number, ...others: number[]];
  /** The butt line of the course after the next: up to it the joints over the course let water down to its nails. */
  readonly headlap: number;
  /** Where the rules let one stand. */
  free(level: number): readonly Span[];
  /** The same at any height at all, in order and none over another. */
  anywhere(): readonly Span[];
  /** Where one may stand for a piece that would have too few: beside a wall or flange after all, but in the headlap and through no metal. */
  spare(level: number): readonly Span[];
};

/** A place for a nail, and whether it had to go into the headlap inside a band that nails keep clear of. */
export type NailSpot = { readonly at: Point; readonly inHeadlap: boolean };

const span = (from: number, to: number): Span => (from < to ? [from, to] : [to, from]);

/** The band kept clear of field nails goes as far up as the last step's metal, a headlap past a wall that ends on the slope. */
const bandTop = ({ lines, rules }: Pick<PlaneContext, 'lines' | 'rules'>, wall: PlacedWall): number =>
  Math.min(lines.end, wall.to + leastOf(rules, 'stepFlashing.headlap'));

/** A wall as the nails of courses see it: from where to where up the slope it is beside them, and the bands they keep clear of and the step takes. */
type Beside = { readonly from: number; readonly to: number; readonly band: Span; readonly step: Span; readonly stepTop: number };

/** What of a slope a course's nails have to do with, and what they keep from it. */
type Near = Pick<PlaneContext, 'nailFree' | 'metal'> & {
  readonly clear: number;
  readonly walls: readonly Beside[];
  /** How near a valley a level line comes, by its height. */
  readonly valleys: readonly ((y: number) => Span | undefined)[];
};

/** The walls as nails see them; `butt`: the lower edge of the course, under which a step lies. */
function besideOf(context: PlaneContext, walls: readonly PlacedWall[], butt: number): Beside[] {
  const clear = leastOf(context.rules, 'fieldNails.fromWall');
  return walls.map((wall) => ({
    from: wall.from - LINE_TOLERANCE,
    to: bandTop(context, wall) + LINE_TOLERANCE,
    band: span(wall.x, wall.x + wall.side * clear),
    step: span(wall.x, wall.x + wall.side * context.stepLeg(wall)),
    stepTop: butt + context.stepLength(wall),
  }));
}

/** What comes near the heights from `low` to `high` at all: a course looks at nothing else. */
function nearTo(context: PlaneContext, low: number, high: number): Near {
  const { rules, nailFreeAt, valleys, metalAt } = context;
  const walls = context.found
    .wallsAt(low - leastOf(unheard(rules), 'stepFlashing.headlap') - LINE_TOLERANCE, high + LINE_TOLERANCE)
    .filter((wall) => high >= wall.from - LINE_TOLERANCE && low <= bandTop(context, wall) + LINE_TOLERANCE);
  return {
    clear: leastOf(rules, 'fieldNails.fromWall'),
    walls: besideOf(context, walls, low),
    nailFree: nailFreeAt(low, high).filter(({ from, to }) => high > from && low < to),
    valleys: valleys.flatMap((valley) => {
      const reach = reachOf(valley);
      return high > Math.min(valley.low[1], valley.high[1]) - reach && low < Math.max(valley.low[1], valley.high[1]) + reach
        ? [spansNear(valley.low, valley.high, reach)]
        : [];
    }),
    metal: metalAt(low, high),
  };
}

/** Bands that nails keep clear of by a distance: beside walls and frames, round flanges. */
function bandsAt({ walls, nailFree }: Pick<Near, 'walls' | 'nailFree'>, y: number): Span[] {
  const bands: Span[] = [];
  for (const { from, to, band } of walls) if (y >= from && y <= to) bands.push(band);
  for (const { x0, x1, from, to } of nailFree) if (y > from && y < to) bands.push([x0, x1]);
  return bands;
}

/** Where a nail would go through metal or into a valley. */
function metalAt({ metal, valleys, nailFree, walls, clear }: Near, y: number): Span[] {
  const through: Span[] = [];
  for (const outline of metal) through.push(...spansAcross(outline, y));
  for (const besideIt of valleys) {
    const beside = besideIt(y);
    if (beside) through.push(beside);
  }
  // a flange, within the band round it
  for (const { x0, x1, from, to } of nailFree)
    if (y > from && y < to && x1 - x0 > 2 * clear) through.push([x0 + clear, x1 - clear]);
  // the step that lies under this course
  for (const { from, to, step, stepTop } of walls) if (y <= stepTop && y >= from && y <= to) through.push(step);
  return through;
}

/** Stretches of course `n` that an apron covers, each with the height up to which it does not. */
function apronsOver({ lines, found }: PlaneContext, n: number): { readonly over: Span; readonly from: number }[] {
  const [low, high] = [buttLine(lines, n) - 1, buttLine(lines, n + 1) + 1];
  const isOver = (at: number, leg: number): boolean => at - leg > low && at - leg < high && lastUnderApron(lines, at, leg) === n;
  return [
    ...found
      .frontsOver(low, high)
      .filter(({ y, apronLeg }) => isOver(y, apronLeg))
      .map(({ x0, x1, y, apronLeg }) => ({ over: [x0, x1] as const, from: y - apronLeg + UNDER_APRON })),
    ...found
      .framesOver(low, high)
      .filter(({ from, apronLeg, hasBack }) => hasBack && isOver(from, apronLeg))
      .map(({ x0, x1, from, apronLeg }) => ({ over: [x0, x1] as const, from: from - apronLeg + UNDER_APRON })),
  ];
}

/** A stretch of covering without what nails keep from its ends. */
function inFromEnds([from, to]: Span): Span {
  const inset = Math.min(END_NAIL, (to - from) / 4);
  return [from + inset, to - inset];
}

/** The ground for the nails of course `n`, which covers `outlines`, before it is known where the joints over it stand. */
export function nailGround(context: PlaneContext, n: number, outlines: readonly Outline[]): NailGround {
  const { lines } = context;
  const shingle = shingleOf(context);
  const butt = buttLine(lines, n);
  const top = Math.min(chalkLine(lines, n), lines.end) - FROM_TOP;
  const line = Math.max(Math.min(butt + (shingle.nailBand.from + shingle.nailBand.to) / 2, top), butt + FROM_TOP);
  const headlap = buttLine(lines, n + 2);
  const count = Math.max(0, Math.floor((top - butt - FROM_TOP) / LEVEL_STEP));
  const others = Array.from({ length: count }, (_, i) => top - i * LEVEL_STEP);
  const levels = [line, ...others.sort((a, b) => Math.abs(a - line) - Math.abs(b - line))] as const;
  const near = nearTo(context, butt, top);
  const aprons = apronsOver(context, n);
  const fromNext = n < lines.count ? buttLine(lines, n + 1) + UNDER_COVER : Number.POSITIVE_INFINITY;
  const isCovered = (y: number): boolean =>
    y >= fromNext || (context.plane.top === 'ridge' ? y >= lines.end - context.surface.underRidge + FROM_TOP : n === lines.count);
  const ground = byLevel((level) => {
    const y = levels[level]!;
    const stuff = mergeSpans(acrossAll(outlines, y), LINE_TOLERANCE).map(inFromEnds);
    // below the butt of the next course it lies bare, but where an apron is what covers it
    const covered = isCovered(y);
    if (!covered && aprons.length === 0) return [];
    const over = aprons.filter(({ from }) => y < from === covered).map((apron) => apron.over);
    const under = covered ? subtractSpans(stuff, over) : over.flatMap(([a, b]) => clipSpans(stuff, a, b));
    return subtractSpans(under, metalAt(near, y));
  });
  const free = byLevel((level) => subtractSpans(ground(level), bandsAt(near, levels[level]!)));
  const spare = (level: number): readonly Span[] => (levels[level]! < headlap + FROM_TOP ? [] : ground(level));
  return { levels, headlap, free, spare, anywhere: onceOver(levels, free) };
}

/** The same once the joints of the course over it are known: below a height, that of its headlap if none is said, nails keep off them. */
export function underJoints(ground: NailGround, jointsAbove: readonly number[], below = ground.headlap + FROM_TOP): NailGround {
  const { levels } = ground;
  const above = mergeSpans(jointsAbove.map((x): Span => [x - NAIL_FROM_JOINT_ABOVE, x + NAIL_FROM_JOINT_ABOVE]));
  const free = byLevel((level) => (levels[level]! < below ? subtractSpans(ground.free(level), above) : ground.free(level)));
  return { ...ground, free, anywhere: onceOver(levels, free) };
}

/** Where a level line runs inside any of some outlines. */
const acrossAll = (outlines: readonly Outline[], y: number): Span[] =>
  outlines.length === 1 ? spansAcross(outlines[0]!, y) : outlines.flatMap((outline) => spansAcross(outline, y));

/** Looked for once a level. */
function byLevel<Found>(find: (level: number) => Found): (level: number) => Found {
  const known: Found[] = [];
  return (level) => (known[level] ??= find(level));
}

/** All that is free at any of some heights, looked for when it is first asked for. */
function onceOver(levels: readonly number[], free: (level: number) => readonly Span[]): () => readonly Span[] {
  let all: readonly Span[] | undefined;
  return () => (all ??= mergeSpans(levels.flatMap((_, level) => free(level))));
}

/** Room along the eave in which two nails go whatever their heights. */
const ROOM = 2 * NAILS_APART;

/** Has a piece between two joints room for two nails, on the line or else at another height? */
export function hasRoom({ free, anywhere }: NailGround, from: number, to: number): boolean {
  const inset = Math.min(END_NAIL, (to - from) / 4);
  const low = from + inset;
  const high = to - inset;
  if (high - low < ROOM) return false;
  return extentBetween(free(0), low, high) >= ROOM || extentBetween(anywhere(), low, high) >= ROOM;
}

const nearestIn = (span: Span, x: number): number => Math.max(span[0], Math.min(span[1], x));

/** What a height away from the line costs against a place aside on it. */
const UP_OR_ASIDE = 2;

/**
 * Nails of one piece: `wanted` evenly from end to end on the line; one that falls where none may stand moves to the edge of that place or into the
 * nearest free height; if then fewer than `least` are driven, the rest go into the headlap nearest to where they were wanted. `driven`: nails
 * already there.
 */
export function nailPiece(
  ground: NailGround,
  piece: Outline,
  wanted: number,
  least: number,
  driven: readonly Point[] = [],
): NailSpot[] {
  const { x0, x1, y0, y1 } = bounds(piece);
  const inset = Math.min(END_NAIL, (x1 - x0) / 4);
  const spots: NailSpot[] = [];
  const { levels } = ground;
  const [line] = levels;
  const [low, high] = [x0 + inset, x1 - inset];
  const places = Array.from({ length: wanted }, (_, i) =>
    wanted === 1 ? (low + high) / 2 : low + ((high - low) * i) / (wanted - 1),
  );
  const plain = piece.length === 4 && piece.every(([x, y]) => (x === x0 || x === x1) && (y === y0 || y === y1));
  // nearly every piece is a whole rectangle with nothing near it
  const isClear =
    plain &&
    driven.length === 0 &&
    wanted >= least &&
    high - low > wanted * NAILS_APART &&
    line >= y0 &&
    line + FROM_TOP - LINE_TOLERANCE < y1;
  if (isClear && places.every((x) => isWithinSpans(ground.free(0), x, low, high)))
    return places.map((x) => ({ at: [x, line], inHeadlap: false }));
  // with covering above it too, as far as a nail keeps from an upper edge
  const wholeRow: readonly Span[] = [[x0, x1]];
  const rowAt = byLevel((level): readonly Span[] => {
    const y = levels[level]!;
    const above = y + FROM_TOP - LINE_TOLERANCE;
    if (plain) return y >= y0 && above < y1 ? wholeRow : [];
    const higher = spansAcross(piece, above);
    return higher.length === 0 ? higher : spansAcross(piece, y).flatMap(([a, b]) => clipSpans(higher, a, b));
  });
  // nearly every nail stands where it is wanted
  const isFreeOnLine = (x: number, where: readonly Span[]): boolean =>
    rowAt(0).some((row) => isWithinSpans(where, x, Math.max(row[0], low), Math.min(row[1], high))) && !isTaken(x, line);
  const taken: Point[] = [...driven];
  const isTaken = (x: number, y: number): boolean => taken.some((at) => (at[0] - x) ** 2 + (at[1] - y) ** 2 <= NAILS_APART ** 2);
  /** What other nails take of a level line. */
  const takenAt = (y: number): Span[] =>
    taken.flatMap(([px, py]): Span[] => {
      const off = Math.abs(py - y);
      const half = off < NAILS_APART ? Math.sqrt(NAILS_APART ** 2 - off ** 2) : 0;
      return half > 0 ? [[px - half, px + half]] : [];
    });
  const drive = (at: Point, inHeadlap: boolean): true => {
    spots.push({ at, inHeadlap });
    taken.push(at);
    return true;
  };
  /** Drives a nail as near as may be to where it is wanted; false where there is no place left for any. */
  const choose = (x: number, where: (level: number) => readonly Span[], inHeadlap: boolean): boolean => {
    if (isFreeOnLine(x, where(0))) return drive([x, line], inHeadlap);
    let best: Point | undefined;
    let cost = Number.POSITIVE_INFINITY;
    for (let level = 0; level < levels.length; level++) {
      const y = levels[level]!;
      const aside = UP_OR_ASIDE * Math.abs(y - line);
      if (aside >= cost) break;
      const reach = cost - aside + LINE_TOLERANCE;
      const near = clipSpans(where(level), Math.max(low, x - reach), Math.min(high, x + reach));
      if (near.length === 0) continue;
      for (const row of rowAt(level)) {
        for (const span of clipSpans(near, row[0], row[1])) {
          const nearest = nearestIn(span, x);
          if (Math.abs(nearest - x) + aside >= cost) continue;
          for (const left of isTaken(nearest, y) ? subtractSpans([span], takenAt(y)) : [span]) {
            const at = nearestIn(left, x);
            if (Math.abs(at - x) + aside >= cost) continue;
            cost = Math.abs(at - x) + aside;
            best = [at, y];
          }
        }
      }
    }
    return best !== undefined && drive(best, inHeadlap);
  };
  places.every((x) => choose(x, ground.free, false));
  for (let i = 0; spots.length < least && i < least; i++)
    if (!choose(places[i === 0 ? 0 : wanted - 1]!, ground.spare, true)) break;
  return spots;
}

/** May a nail that comes over from another slope stand at a place of this one, through covering that lies there under no course of its own? */
export function mayTakeNail(context: PlaneContext): (at: Point) => boolean {
  const { valleys, nailFree, metal } = context;
  const walls = besideOf(context, context.walls, 0);
  return (at) =>
    valleys.every((valley) => fromValleyLine(valley, at) >= valley.noNail) &&
    !bandsAt({ walls, nailFree }, at[1]).some(([a, b]) => at[0] > a && at[0] < b) &&
    !metal.some((outline) => isWithin(outline, at));
}

/** A band beside a valley on its slope, just as far as the valley goes. */
function alongValley({ low, high, side }: ValleySide, width: number): Outline {
  const length = Math.hypot(high[0] - low[0], high[1] - low[1]);
  const inward: Point = [(side * (high[1] - low[1]) * width) / length, (-side * (high[0] - low[0]) * width) / length];
  return tidyOutline([low, high, [high[0] + inward[0], high[1] + inward[1]], [low[0] + inward[0], low[1] + inward[1]]]);
}

/** What field nails keep clear of on a slope, as zones to be drawn: walls and frames, valleys, flanges. */
export function nailZones(context: PlaneContext): Zone[] {
  const { facet, rules, walls, valleys, nailFree } = context;
  const clear = leastOf(rules, 'fieldNails.fromWall');
  const zone = (outline: Outline, rule: Zone['rule'], detail: string): Zone => ({
    facet,
    outline,
    rule,
    against: ['course', 'starter'],
    detail,
  });
  return [
    ...walls.flatMap((wall) => {
      if (wall.fieldNails === 'in-headlap') return [];
      const [x0, x1] = span(wall.x, wall.x + wall.side * clear);
      return [zone(rectangle(x0, wall.from, x1, bandTop(context, wall)), 'fieldNails.fromWall', wall.id)];
    }),
    ...valleys.map((valley) => zone(alongValley(valley, valley.noNail), 'valley.noNail', valley.id)),
    ...nailFree.map(({ x0, x1, from, to, detail, rule }) => zone(rectangle(x0, from, x1, to), rule, detail)),
  ];
}
