import { LINE_TOLERANCE, clearlyBelow, inches, stepsToReach } from '../units/index.ts';

/** The lines a covering makes across one slope, where the lower edges of its courses run. All lengths millimetres up the slope from the deck's eave edge. */
export type Lines = {
  /** The first one: below 0 where the covering hangs over the deck's edge. */
  readonly first: number;
  /** From one to the next where nothing was measured: a strip covering's exposure, a slate's or tile's gauge. */
  readonly gauge: number;
  /** From a unit's lower edge to its top. */
  readonly reach: number;
  /** The top of the slope. */
  readonly end: number;
  readonly count: number;
  /** Lines as they really are on the roof, where some were measured: those of courses 1, 2 and so on. Above them the gauge goes on. */
  readonly at?: readonly number[];
};

/** A line measured on the roof: the lower edge of a course, up the slope. */
export type MeasuredLine = { readonly course: number; readonly at: number };

/** Lines a gauge apart, as many as the slope takes. */
export const evenLines = (first: number, gauge: number, reach: number, end: number): Lines => ({
  first,
  gauge,
  reach,
  end,
  count: courseCount({ first, gauge, end }),
});

/** Courses from the eave to the top of the slope: ⌈(Ls + o) / E⌉. 196", o 1/2", E 5 5/8" gives 35. */
export const courseCount = ({ at, first, gauge, end }: Pick<Lines, 'at' | 'first' | 'gauge' | 'end'>): number =>
  (at ? at.length - 1 : 0) + stepsToReach(end - (at?.at(-1) ?? first), gauge);

/**
 * The same with what was measured on the roof, which always wins: what lies between two measured lines is spread evenly, and everything above the
 * last of them goes on from there at the gauge.
 */
export function fittedLines(lines: Lines, measured: readonly MeasuredLine[]): Lines {
  if (measured.length === 0) return lines;
  const at = [lines.first];
  for (const one of measured.toSorted((a, b) => a.course - b.course)) {
    const [from, low] = [at.length, at.at(-1)!];
    // the first course's own line was measured: it hangs over by more or less than was meant
    if (one.course === 1) at[0] = one.at;
    else for (let n = from + 1; n <= one.course; n++) at.push(low + ((one.at - low) * (n - from)) / (one.course - from));
  }
  return { ...lines, first: at[0]!, at, count: courseCount({ ...lines, at }) };
}

/** A course gives way by at most this much, in sixteenths: more is seen (trade practice). */
const MOST_CLOSER = inches(1 / 8);
const FINEST = inches(1 / 16);

/** The same lines as they are, then a sixteenth of an inch closer and so on, as far as nobody sees it: in the order they are tried where courses are fitted. */
export const closerLines = (lines: Lines): Lines[] =>
  Array.from({ length: MOST_CLOSER / FINEST + 1 }, (_, i) => ({ ...lines, gauge: lines.gauge - i * FINEST }));

/** Butt line of course `n` (1 at the eave): y(n) = −o + (n − 1)·E, or where it was measured. */
export function buttLine({ at, first, gauge }: Lines, n: number): number {
  if (!at || n < 1) return first + (n - 1) * gauge;
  return at[n - 1] ?? at.at(-1)! + (n - at.length) * gauge;
}

/** Chalk line for course `n`: its top edge, y(n) + H. */
export const chalkLine = (lines: Lines, n: number): number => buttLine(lines, n) + lines.reach;

/** From the line of course `n` to the next. */
export const gaugeAt = (lines: Lines, n: number): number => buttLine(lines, n + 1) - buttLine(lines, n);

/**
 * The heights that what is laid in course `n` lies between: from its butt line to a gauge above its top, where the sheet on it, under the next course, ends.
 * Such a sheet begins a gauge above the butt line of the course over it, and is no longer up the slope than a unit.
 */
export const courseBand = (lines: Lines, n: number): readonly [low: number, high: number] => [
  buttLine(lines, n),
  chalkLine(lines, n) + gaugeAt(lines, n),
];

/** The widest step from one line to the next: what lengths that follow from the exposure are cut for. */
export const widestGauge = (lines: Lines): number =>
  lines.at ? Math.max(lines.gauge, ...lines.at.slice(1).map((line, i) => line - lines.at![i]!)) : lines.gauge;

/** Headlap of a two-layer covering (shingle, slate): H − 2E. Negative means the covering does not cover twice. */
export const twoLayerHeadlap = (height: number, exposure: number): number => height - 2 * exposure;

/** Last course whose butt line is at or below `y` (equality counts, within 1/64 in); course 1 if none is. */
export function lastCourseAtOrBelow(lines: Lines, y: number): number {
  const above = lines.at ? lines.at.length : 1;
  const from = buttLine(lines, above);
  if (!lines.at || y + LINE_TOLERANCE >= from) return Math.max(1, Math.floor((y - from + LINE_TOLERANCE) / lines.gauge) + above);
  return Math.max(1, lines.at.findLastIndex((line) => line <= y + LINE_TOLERANCE) + 1);
}

/** Last course whose butt line is below `y`; 0 if none is. */
export function lastCourseBelow(lines: Lines, y: number): number {
  let n = lastCourseAtOrBelow(lines, y) + 1;
  while (n > 0 && !clearlyBelow(buttLine(lines, n), y)) n--;
  return n;
}

/**
 * The butt lines an edge from `from` to `to` (up the slope) meets; one flashing piece belongs to each.
 * Pieces = last − first + 1. With E 5 5/8" and o 1/2": 0 to 168" gives 1…30, 61" to 113" gives 11…21.
 */
export function interfaceLines(lines: Lines, from: number, to: number): { first: number; last: number } {
  const first = lastCourseAtOrBelow(lines, from);
  return { first, last: Math.max(first, lastCourseBelow(lines, to)) };
}

/** Side offset of course `n`'s first joint from the left end of the slope, for a bond that repeats. */
export function jointOffset(n: number, width: number, offset: number): number {
  const shift = ((n - 1) * offset) % width;
  return shift <= LINE_TOLERANCE ? width : width - shift;
}

/** Joints of course `n` between `x0` and `x1`, left to right. Bond runs from the slope's left end, `x` = 0. */
export function courseJoints(n: number, x0: number, x1: number, width: number, offset: number): number[] {
  const first = jointOffset(n, width, offset);
  const joints: number[] = [];
  for (let i = Math.ceil((x0 - first + LINE_TOLERANCE) / width); first + i * width < x1 - LINE_TOLERANCE; i++)
    joints.push(first + i * width);
  return joints;
}

/**
 * The stretch of a course of single-lap units where it lies alone, from the heads of the one below it to the tails of the one above: tail + L − g to tail + g.
 * Course 6 at 328.46, L 420, first tails at -50: 1683.8 to 1920.8.
 */
export const singleStretch = (lines: Lines, n: number): readonly [number, number] => [
  buttLine(lines, n - 1) + lines.reach,
  buttLine(lines, n + 1),
];

/**
 * Where the middle of something `across` can stand clear of every headlap of single-lap units, the nearest to where it is first: its own place alone where that
 * is clear, else the highest below and the lowest above. None where it is longer than the stretch they lie alone in. 25 across at 2600, gauge 328.46: 2565.2
 * and 2681.7.
 */
export function clearPlaces(lines: Lines, y: number, across: number): number[] {
  const near = Math.max(1, lastCourseAtOrBelow(lines, y));
  const places = [near - 1, near, near + 1]
    .filter((n) => n >= 1)
    .map((n) => singleStretch(lines, n))
    .filter(([from, to]) => across <= to - from + LINE_TOLERANCE)
    .map(([from, to]) => Math.min(Math.max(y, from + across / 2), Math.max(from + across / 2, to - across / 2)))
    .toSorted((a, b) => Math.abs(a - y) - Math.abs(b - y));
  return places[0] === y ? [y] : places.slice(0, 2);
}
