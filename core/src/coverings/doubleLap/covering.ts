import {
  type Assembly,
  type Fastener,
  type Finding,
  type Piece,
  type Step,
  type Use,
  type Words,
  cut,
  emptyAssembly,
  inCourse,
  inStarter,
  mm,
  piecesOf,
} from '../../assembly/index.ts';
import { type ItemOf, chooseNail, findItem, itemById } from '../../catalog/index.ts';
import { coveringOfKind } from '../../document/index.ts';
import { type Span, mergeSpans, subtractSpans } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import type { PlaneContext } from '../../slope/index.ts';
import { buttLine, chalkLine, gaugeAt, widestGauge } from '../../surface/index.ts';
import { LINE_TOLERANCE, isOver } from '../../units/index.ts';
import { courseOutlines, eaveOutlines, slopeFacet } from '../courses.ts';
import { ridgePieces, ridgeSteps } from '../ridge.ts';
import {
  type Course,
  battenStep,
  courseOf,
  coursePiece,
  headlapFindings,
  heightsFrom,
  looseFindings,
  markOf,
  nailGroundAt,
  nailed,
  noNailFinding,
  openAt,
  overhangFindings,
  underFirst,
  unitsOf,
  widthFinding,
} from '../rows.ts';
import { halfBond } from './bond.ts';
import { lengthsAt, slatesOf } from './slate.ts';

/** The covering of one plane in slates or plain tiles: battens, the under-eave course, a piece a course in half bond, each slate held by two nails, and the ridge. */
export function planDoubleLap(context: PlaneContext): Assembly {
  const { lines, catalog } = context;
  const { slate } = slatesOf(context);
  const nail = chooseNail(catalog, 'roofing', nailLength(context), context.covering.metal);
  const ridge = itemById(catalog, 'ridgeCap', coveringOfKind(context, 'doubleLap').ridge);
  const underEave = underEaveCourse(context);
  const courses = Array.from({ length: lines.count }, (_, i): Course => {
    const n = i + 1;
    const outlines = courseOutlines(context, n);
    return courseOf(n, outlines, (span) => halfBond(span, n, slate.width));
  }).filter(({ outlines }) => outlines.length > 0);
  const all = underEave ? [underEave, ...courses] : courses;
  const held = all.map((course, i) => nailsOf(context, course, all[i + 1], nail));
  return {
    ...emptyAssembly,
    facets: [slopeFacet(context)],
    pieces: [...all.map((course) => pieceOf(context, course)), ...ridgePieces(context, ridge)],
    fasteners: held.flatMap(({ fasteners }) => fasteners),
    steps: [
      ...battenSteps(context),
      ...all.map((course, i) => stepOf(context, course, held[i]!.fasteners.length)),
      ...ridgeSteps(context, ridge),
    ],
    findings: nail
      ? looseFindings(context, held, { one: 'slate', many: 'slates', fix: 'Hang it with a hook, or move what stands there.' })
      : [noNailFinding(context, nailLength(context))],
  };
}

/** Through two slates into a batten, or into or through the deck. */
function nailLength({ surface, rules, covering }: PlaneContext): number {
  return (
    2 * surface.thickness +
    Math.min(leastOf(rules, 'nail.embedment'), surface.bearing === 'rafters' ? Number.POSITIVE_INFINITY : covering.deckThickness)
  );
}

/** Short slates along the eave, whose joints the first course covers; none where the slope has no eave. */
function underEaveCourse(context: PlaneContext): Course | undefined {
  const { slate } = slatesOf(context);
  const outlines = eaveOutlines(context, lengthsAt(slate.height, gaugeAt(context.lines, 1)).underEave);
  return outlines.length > 0 ? courseOf(0, outlines, (span) => halfBond(span, 0, slate.width)) : undefined;
}

/** Widths of the slates in a course, left to right. */
const widthsIn = (course: Pick<Course, 'rows'>): number[] => unitsOf(course).map(([from, to]) => to - from);

/** How many slates of each kind a course takes: whole ones, cut ones, and those cut from one half as wide again. */
function countIn(context: PlaneContext, course: Course): { whole: number; parts: number[]; wide: number } {
  const { slate, wide } = slatesOf(context);
  const widths = widthsIn(course);
  const fromWide = wide ? widths.filter((width) => isOver(width, slate.width + LINE_TOLERANCE)) : [];
  const usual = widths.filter((width) => !fromWide.includes(width));
  const whole = usual.filter((width) => width >= slate.width - LINE_TOLERANCE);
  return { whole: whole.length, parts: usual.filter((width) => !whole.includes(width)), wide: fromWide.length };
}

function pieceOf(context: PlaneContext, course: Course): Piece {
  const { whole, parts } = countIn(context, course);
  return coursePiece(context, course, {
    product: slatesOf(context).slate.id,
    units: { whole, parts },
    keys: ['covering.pitch', 'covering.headlap', 'covering.nails', 'covering.gapAtWall'],
  });
}

type Held = { readonly course: Course; readonly fasteners: Fastener[]; readonly loose: Span[] };

/** Two nails a slate at the height of its holes, clear of metal and of flanges; those that find no place for both are told. */
function nailsOf(context: PlaneContext, course: Course, above: Course | undefined, nail: ItemOf<'nail'> | undefined): Held {
  const { lines } = context;
  const { slate } = slatesOf(context);
  const { n, outlines } = course;
  if (!nail) return { course, fasteners: [], loose: [] };
  const gauge = gaugeAt(lines, Math.max(1, n));
  const { underEave, hole } = lengthsAt(slate.height, gauge);
  const tail = buttLine(lines, Math.max(1, n));
  const top = n === 0 ? tail + underEave : Math.min(chalkLine(lines, n), lines.end);
  const y = Math.min(tail + (n === 0 ? underEave - BELOW_HEAD : hole), top - BELOW_HEAD);
  return {
    course,
    ...nailed(
      context,
      course,
      heightsFrom(y, top - BELOW_HEAD, UP),
      (at) => {
        const ground = nailGroundAt(context, outlines, at, openAt(context, at, above));
        return subtractSpans(underFirst(course, above, ground, at), soakersAt(context, n, at));
      },
      {
        product: nail.id,
        piece: markOf(n),
        inset: FROM_EDGE,
        apart: FROM_EDGE,
      },
    ),
  };
}

/** Where soakers lie under a course at a height: each as far as it is long, the one under the last course up to the ridge. */
const soakersAt = (context: PlaneContext, n: number, y: number): readonly Span[] =>
  mergeSpans(
    context.found
      .wallsAt(y - LINE_TOLERANCE, y + LINE_TOLERANCE)
      .filter((wall) => y < buttLine(context.lines, Math.max(1, n)) + context.stepLength(wall) || n === context.lines.count)
      .map((wall): Span => {
        const far = wall.x + wall.side * context.stepLeg(wall);
        return [Math.min(wall.x, far), Math.max(wall.x, far)];
      }),
  );

/** Where a flange lies under the holes a slate is holed so much higher, as often as it takes. */
const UP = 25;

/** A slate's nails stand this far in from its edges, and no nearer to each other. */
const FROM_EDGE = 30;

/** A head-nailed slate's nails, and those of one cut at the top, stand this far below its upper edge. */
const BELOW_HEAD = 25;

function stepOf(context: PlaneContext, course: Course, nails: number): Step {
  const { lines, rules } = context;
  const { n } = course;
  const { slate, wide } = slatesOf(context);
  const { underEave, hole } = lengthsAt(slate.height, gaugeAt(lines, Math.max(1, n)));
  const count = countIn(context, course);
  const cutOnes: Words =
    count.parts.length === 0
      ? []
      : [', cut ones ', ...count.parts.flatMap((width, i): Words => [...(i > 0 ? [', '] : []), cut(width)]), ' wide'];
  const half = count.wide === 0 ? [] : [`, ${count.wide} from a ${slate.called} and a half`];
  const tops: Words =
    n > 0 && chalkLine(lines, n) > lines.end + LINE_TOLERANCE ? ['; heads cut off at the top, ', mm(lines.end)] : [];
  const action: Words =
    n === 0
      ? [
          'Lay the under-eave course: cut to ',
          cut(underEave),
          ' long, tails ',
          cut(-lines.first),
          ' past the eave, joints off those of course 1',
        ]
      : [`Lay course ${n}, tails on `, mm(buttLine(lines, n)), `, half bond: ${count.whole} whole`, ...cutOnes, ...half, ...tops];
  const uses: Use[] = count.wide > 0 && wide ? [piecesOf(wide, wide.name, count.wide)] : [];
  return {
    lay: n === 0 ? inStarter(context) : inCourse(context, n, 'shingles'),
    detail: 'covering',
    course: n,
    stage: 'covering',
    action: [...action, '.'],
    pieces: [markOf(n)],
    fasteners: [
      `${nails} nails, ${leastOf(rules, 'covering.nails')} to a ${slate.called}`,
      ...(n === 0
        ? [', near its head']
        : [', holes ', cut(hole), ' above the tail: nearer it they would go through the one below']),
    ],
    uses,
    people: 1,
    ...(n === 0
      ? { caution: 'Tie off; nothing loose above the ladder. Cutting makes silica dust: wet cutting or extraction, mask.' }
      : {}),
    ...(n === 1 ? { holdPoint: 'tails in line, joints half a slate apart' } : {}),
    keys: ['covering.headlap', 'covering.nails'],
  };
}

/** One batten a course, its nails in it, joints staggered over the rafters. */
function battenSteps(context: PlaneContext): Step[] {
  const { covering, catalog, lines } = context;
  const { batten } = coveringOfKind({ covering }, 'doubleLap');
  const item = batten === null ? undefined : findItem(catalog, 'batten', batten);
  if (!item) return [];
  const { slate } = slatesOf(context);
  const heights = Array.from({ length: lines.count }, (_, i) =>
    Math.min(buttLine(lines, i + 1) + lengthsAt(slate.height, gaugeAt(lines, i + 1)).hole, lines.end - BELOW_HEAD),
  );
  const first = buttLine(lines, 1) + lengthsAt(slate.height, gaugeAt(lines, 1)).hole;
  return [
    battenStep(context, item, heights, 'covering.headlap', [
      ', one a course, ',
      cut(lines.gauge),
      ' apart, the first one’s middle ',
      mm(first),
      ' up from the slope’s lower edge; joints over rafters, no two neighbours on one. Fix a tilting fillet at the eave.',
    ]),
  ];
}

/** What is to be said of the slates of a slope as they are laid out: overhang, the lap where courses were measured, slates under half a one wide. */
export function doubleLapFindings(context: PlaneContext): Finding[] {
  const { lines } = context;
  const { slate, wide } = slatesOf(context);
  const lap = slate.height - 2 * widestGauge(lines);
  const narrow = Array.from({ length: lines.count }, (_, i) => i + 1).find((n) => {
    const course = courseOf(n, courseOutlines(context, n), (span) => halfBond(span, n, slate.width));
    return widthsIn(course).some(
      (width) => width < slate.width / 2 - LINE_TOLERANCE || (!wide && width > slate.width + LINE_TOLERANCE),
    );
  });
  return [
    ...overhangFindings(context),
    ...headlapFindings(context, lap, 'covering.headlap', 'Lay them closer, or take a longer slate.'),
    ...(narrow === undefined
      ? []
      : [
          widthFinding(
            context,
            narrow,
            `a ${slate.called} ${wide ? 'narrower than half a one' : 'wider than there is'}`,
            wide ? 'Move what stands beside it.' : 'Choose a slate and a half under Covering.',
          ),
        ]),
  ];
}
