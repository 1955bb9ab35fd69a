import {
  type Fastener,
  type Finding,
  type Piece,
  type Step,
  type Words,
  cut,
  inCourse,
  inStarter,
  lengths,
  mm,
} from '../assembly/index.ts';
import type { ItemOf } from '../catalog/index.ts';
import { type Outline, type Span, bounds, clipSpans, mergeSpans, spanNear, spansAcross, subtractSpans } from '../roof/index.ts';
import { type RuleKey, leastOf } from '../rules/index.ts';
import { type PlaneContext, spansOf } from '../slope/index.ts';
import { STARTER_MARK, buttLine, courseMark, widestGauge } from '../surface/index.ts';
import { LINE_TOLERANCE, inches } from '../units/index.ts';
import { isUnderCaps, piecesIn } from './courses.ts';
import { reachOf } from './valleys.ts';

/** A stretch of a course with the joints between its units. */
export type Row = { readonly span: Span; readonly joints: readonly number[] };

/** A course: what it covers of the slope, and its units. Course 0 lies along the eave under the first. */
export type Course = { readonly n: number; readonly outlines: readonly Outline[]; readonly rows: readonly Row[] };

/**
 * A stretch with the joints of its regular bond. A unit at an end of it that does not do (too narrow, no room for its nails) is joined to the one beside it, which
 * is then cut from a wider one, `widest` at most.
 */
export function rowOf(
  [x0, x1]: Span,
  regular: readonly number[],
  does: (from: number, to: number) => boolean,
  widest = Number.POSITIVE_INFINITY,
): Row {
  let joints = regular;
  if (joints.length > 0 && !does(x0, joints[0]!)) joints = joints.slice(1);
  const before = joints.at(-2) ?? x0;
  if (joints.length > 0 && !does(joints.at(-1)!, x1) && x1 - before <= widest + LINE_TOLERANCE) joints = joints.slice(0, -1);
  return { span: [x0, x1], joints };
}

/** A course of what it covers, each stretch in its bond. */
export const courseOf = (n: number, outlines: readonly Outline[], row: (span: Span) => Row): Course => ({
  n,
  outlines,
  rows: spansOf(outlines.map(bounds)).map(row),
});

/** The units of a course by where they begin and end, left to right. */
export const unitsOf = ({ rows }: Pick<Course, 'rows'>): Span[] =>
  rows.flatMap(({ span, joints }) => {
    const edges = [span[0], ...joints, span[1]];
    return edges.slice(1).map((x, i): Span => [edges[i]!, x]);
  });

/** Water that creeps 2 in sideways from an open joint (the reserve a plan is to have) does not find a nail this far from it. */
export const FROM_JOINT_ABOVE = inches(2.25);

/** Where nails may stand at a height: where the course is, clear of metal and of what is kept free round flanges. */
export const nailGroundAt = (
  { metalAt, nailFreeAt, valleys }: Pick<PlaneContext, 'metalAt' | 'nailFreeAt' | 'valleys'>,
  outlines: readonly Outline[],
  y: number,
  jointsAbove: readonly number[] = [],
): readonly Span[] =>
  subtractSpans(
    mergeSpans(outlines.flatMap((outline) => spansAcross(outline, y))),
    mergeSpans([
      ...metalAt(y, y).flatMap((outline) => spansAcross(outline, y)),
      ...jointsAbove.map((x): Span => [x - FROM_JOINT_ABOVE, x + FROM_JOINT_ABOVE]),
      ...valleys.flatMap((valley): Span[] => {
        const near = spanNear(valley.low, valley.high, reachOf(valley), y);
        return near ? [near] : [];
      }),
      ...nailFreeAt(y, y).flatMap(({ x0, x1, from, to }): Span[] => (y > from && y < to ? [[x0, x1]] : [])),
    ]),
  );

/** Joints of the course over another that let water down to a height of it: above the butts of the one after, that covers them. */
export const openAt = ({ lines }: Pick<PlaneContext, 'lines'>, y: number, above: Course | undefined): readonly number[] =>
  above && y < buttLine(lines, above.n + 1) ? above.rows.flatMap(({ joints }) => joints) : [];

/** Of the course along the eave only what the first course covers is nailed: beside a valley's foot it runs on in the open. */
export const underFirst = ({ n }: Course, above: Course | undefined, ground: readonly Span[], y: number): readonly Span[] =>
  n > 0 || !above
    ? ground
    : mergeSpans(above.outlines.flatMap((outline) => spansAcross(outline, y))).flatMap(([a, b]) =>
        clipSpans(ground, a === 0 ? a : a + FROM_JOINT_ABOVE, b - FROM_JOINT_ABOVE),
      );

/** Where the two nails of a unit go, `inset` from its edges; one or none where there is no room for both `apart`. */
export function nailsIn([from, to]: Span, ground: readonly Span[], inset: number, apart: number): number[] {
  const by = Math.min(inset, (to - from) / 4);
  const room = clipSpans(ground, from + by, to - by);
  const [first, last] = [room[0]?.[0], room.at(-1)?.[1]];
  if (first === undefined || last === undefined) return [];
  return last - first < apart ? [(first + last) / 2] : [first, last];
}

/** How the units of a course are nailed: the product, the mark of their piece, how far in from their edges, and how far apart. */
export type Nailing = { readonly product: string; readonly piece: string; readonly inset: number; readonly apart: number };

/**
 * The two nails of each unit, at the first of some heights where it has room for both: its line, then others where a flange lies under that. Units that have
 * none are told.
 */
export function nailed(
  context: PlaneContext,
  course: Course,
  heights: readonly number[],
  groundAt: (y: number) => readonly Span[],
  { product, piece, inset, apart }: Nailing,
): { fasteners: Fastener[]; loose: Span[] } {
  const fasteners: Fastener[] = [];
  const loose: Span[] = [];
  const grounds = heights.map((y) => ({ y, ground: groundAt(y) }));
  for (const unit of unitsOf(course)) {
    const tries = grounds.map(({ y, ground }) => nailsIn(unit, ground, inset, apart).map((x) => [x, y] as const));
    const best = tries.find((spots) => spots.length === 2) ?? tries.find((spots) => spots.length > 0) ?? [];
    const least = meetsCaps(context, unit, heights[0]!) ? 1 : 2;
    const isLoose = best.length < least && !piecesIn(course.outlines, ...unit).every((one) => isUnderCaps(context, one));
    if (isLoose) loose.push(unit);
    for (const at of best) fasteners.push({ piece, facet: context.facet, at, product, keptDry: 'covered' });
  }
  return { fasteners, loose };
}

/** Does a hip or ridge unit lie over part of one at the height of its nails, and hold it there? */
export const meetsCaps = ({ plane, surface }: Pick<PlaneContext, 'plane' | 'surface'>, [from, to]: Span, y: number): boolean =>
  plane.edges.some(({ kind, from: a, to: b }) => {
    if (kind !== 'hip' && kind !== 'ridge' && !(kind === 'top' && plane.top === 'ridge')) return false;
    const near = spanNear(a, b, surface.underRidge + LINE_TOLERANCE, y);
    return near !== undefined && near[0] < to && near[1] > from;
  });

/** Heights to nail at: the line, then up towards the top, a step at a time. */
export const heightsFrom = (line: number, top: number, step: number): number[] => [
  line,
  ...Array.from({ length: Math.max(0, Math.floor((top - line) / step)) }, (_, i) => line + (i + 1) * step),
];

/** Mark of a course; the one along the eave has the starter's. */
export const markOf = (n: number): string => (n === 0 ? STARTER_MARK : courseMark(n));

/** A course of single units as one piece: on the course under it (0: along the eave, under the first), with what it is made of and the rules behind it. */
export const coursePiece = (
  context: PlaneContext,
  { n, outlines, rows }: Course,
  made: Pick<Piece, 'product' | 'units' | 'keys'>,
): Piece => ({
  mark: markOf(n),
  detail: 'covering',
  role: n === 0 ? 'starter' : 'course',
  course: n,
  covers: outlines.map((outline) => ({ facet: context.facet, outline, holds: ['open'] })),
  lay: n === 0 ? inStarter(context) : inCourse(context, n, 'shingles'),
  liesOn: n === 0 ? [] : [markOf(n - 1)],
  joints: rows.flatMap(({ joints }) => joints),
  ...made,
});

/** Units that cannot have both their nails: one finding for all of a slope. */
export function looseFindings(
  { plane }: PlaneContext,
  held: readonly { readonly course: Course; readonly loose: readonly Span[] }[],
  {
    one,
    many,
    fix,
    nails = 'two nails',
    severity = 'breaks a rule',
  }: {
    readonly one: string;
    readonly many: string;
    readonly fix: string;
    readonly nails?: string;
    readonly severity?: Finding['severity'];
  },
): Finding[] {
  const short = held.filter(({ loose }) => loose.length > 0);
  const first = short[0];
  if (!first) return [];
  const count = short.reduce((sum, { loose }) => sum + loose.length, 0);
  return [
    {
      id: 'covering.held',
      severity,
      sentence: [
        `${plane.name}: ${count} ${count === 1 ? `${one} has` : `${many} have`} no room for ${nails} clear of walls, valleys and metal, the first in course ${Math.max(1, first.course.n)} `,
        mm(Math.max(0, first.loose[0]![0])),
        ' from the left end.',
      ],
      fix: [fix],
      piece: markOf(first.course.n),
      key: 'covering.nails',
    },
  ];
}

/** The catalog's nails are all too short, or of a metal that does not suit. */
export const noNailFinding = ({ covering, surface }: PlaneContext, long: number): Finding => ({
  id: 'nail.length',
  severity: 'breaks a rule',
  sentence: [
    `No nail in the catalog that suits ${covering.metal} is long enough for ${surface.name}: `,
    cut(long),
    ' is needed.',
  ],
  fix: ['Add a longer nail to the catalog.'],
  key: 'nail.embedment',
});

/** The first tails hang less or more over the eave than the rules want. */
export function overhangFindings({ lines, rules }: Pick<PlaneContext, 'lines' | 'rules'>): Finding[] {
  const [least, most] = [leastOf(rules, 'covering.firstButt'), rules.get('covering.firstButt').most ?? Number.POSITIVE_INFINITY];
  if (-lines.first >= least - LINE_TOLERANCE && -lines.first <= most + LINE_TOLERANCE) return [];
  return [
    {
      id: 'covering.firstButt',
      severity: 'breaks a rule',
      sentence: [
        'The first tails hang ',
        mm(-lines.first),
        ' over the eave; ',
        ...(most === Number.POSITIVE_INFINITY ? ['at least ', mm(least)] : ['from ', mm(least), ' to ', mm(most)]),
        ' is right.',
      ],
      fix: ['Change the overhang under Covering.'],
      piece: courseMark(1),
      key: 'covering.firstButt',
    },
  ];
}

/** The headlap is under the least where courses lie farthest apart; `fix`: what to do about it. */
export function headlapFindings({ lines, rules, plane }: PlaneContext, lap: number, key: RuleKey, fix: string): Finding[] {
  const wanted = leastOf(rules, key);
  if (lap >= wanted - LINE_TOLERANCE) return [];
  return [
    {
      id: 'covering.headlap',
      severity: lap < 0 ? 'leaks' : 'breaks a rule',
      sentence: [
        `${plane.name}: where courses lie `,
        mm(widestGauge(lines)),
        ' apart the headlap is ',
        mm(Math.max(0, lap)),
        ', under ',
        mm(wanted),
        '.',
      ],
      fix: [fix],
      piece: courseMark(1),
      key,
    },
  ];
}

/** A course takes a unit of a width that is not to be had. */
export const widthFinding = ({ plane }: PlaneContext, n: number, unit: string, fix: string): Finding => ({
  id: 'covering.leastPiece',
  severity: 'breaks a rule',
  sentence: [`${plane.name}, course ${n}: ${unit} is needed.`],
  fix: [fix],
  piece: courseMark(n),
  key: 'covering.leastPiece',
});

/** Battens along some heights up the slope, as far as it reaches there; `words`: how they are set out, after their count. */
export function battenStep(
  context: PlaneContext,
  item: ItemOf<'batten'>,
  heights: readonly number[],
  key: RuleKey,
  words: Words,
): Step {
  const rows = heights
    .map((y) => spansAcross(context.plane.outline, y).reduce((sum, [a, b]) => sum + b - a, 0))
    .filter((length) => length > LINE_TOLERANCE);
  return {
    lay: inStarter(context, -1),
    detail: 'covering',
    course: 0,
    stage: 'covering',
    action: [`Nail ${rows.length} ${rows.length === 1 ? 'batten' : 'battens'}`, ...words],
    pieces: [],
    uses: [lengths(item, item.name, rows)],
    people: 2,
    caution: 'Battens are no ladder until they are nailed at every rafter.',
    keys: [key],
  };
}
