import {
  type Assembly,
  type Fastener,
  type Finding,
  type Piece,
  type Step,
  cut,
  emptyAssembly,
  inCourse,
  inStarter,
  laid,
  mm,
  rightAfter,
} from '../../assembly/index.ts';
import { type ItemOf, chooseNail, itemById } from '../../catalog/index.ts';
import { coveringOfKind } from '../../document/index.ts';
import { type Outline, type Span, bounds, byExtent, mergeSpans, rectangle, subtractSpans } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import { type PlaneContext, onPlane, patchesRound, spansOf } from '../../slope/index.ts';
import {
  STARTER_MARK,
  buttLine,
  chalkLine,
  courseJoints,
  courseMark,
  gaugeAt,
  lastCourseAtOrBelow,
  twoLayerHeadlap,
  widestGauge,
} from '../../surface/index.ts';
import { LINE_TOLERANCE, distanceToNearest, inches } from '../../units/index.ts';
import { courseOutlines, eaveOutlines, slopeFacet } from '../courses.ts';
import { ridgePieces, ridgeSteps } from '../ridge.ts';
import {
  type Course,
  FROM_JOINT_ABOVE,
  type Row,
  courseOf,
  coursePiece,
  heightsFrom,
  looseFindings,
  markOf,
  nailGroundAt,
  nailed,
  nailsIn,
  noNailFinding,
  openAt,
  rowOf,
  underFirst,
  unitsOf,
} from '../rows.ts';

/** A shake's two nails stand an inch in from its edges and 1 3/4 in above the butt of the next course (trade practice). */
const FROM_EDGE = inches(1);
const ABOVE_NEXT = inches(1.75);
/** Narrower ones split. */
const NARROWEST = inches(4);
/** Two nails of one shake stand this far apart. */
const APART = inches(1.5);
/** Part of a shake and its gap that each course is moved by: 2/5 keeps joints of this course off those of the last two. */
const OFFSET = 0.4;

const shakeOf = (context: Pick<PlaneContext, 'covering' | 'catalog'>): ItemOf<'shake'> =>
  itemById(context.catalog, 'shake', coveringOfKind(context, 'shake').shake);

/** The covering of one plane in shakes: a starter course along the eave, a piece a course with its gaps, felt between the courses, two nails a shake, ridge units. */
export function planShakes(context: PlaneContext): Assembly {
  const { catalog, rules, covering, surface } = context;
  const long = 2 * surface.thickness + Math.min(leastOf(rules, 'nail.embedment'), covering.deckThickness);
  const nail = chooseNail(catalog, 'roofing', long, covering.metal);
  const cap = itemById(catalog, 'ridgeCap', coveringOfKind(context, 'shake').ridgeCap);
  const all = shakeCourses(context);
  const held = all.map((course, i) => ({ course, ...nailsOf(context, course, all[i + 1], nail) }));
  const felts = [...all.flatMap((course) => interlayOver(context, course)), ...feltOverFlanges(context)];
  return {
    ...emptyAssembly,
    facets: [slopeFacet(context)],
    pieces: [...all.map((course) => pieceOf(context, course)), ...felts, ...ridgePieces(context, cap)],
    fasteners: held.flatMap(({ fasteners }) => fasteners),
    steps: [
      ...all.map((course, i) => stepOf(context, course, held[i]!.fasteners.length)),
      ...felts.map((felt) => feltStep(context, felt)),
      ...ridgeSteps(context, cap),
    ],
    findings: nail
      ? looseFindings(context, held, {
          one: 'shake',
          many: 'shakes',
          fix: 'Take a wider shake there, or move what stands beside it.',
        })
      : [noNailFinding(context, long)],
  };
}

/** Height of a course's nails. */
const nailLine = ({ lines }: PlaneContext, n: number): number => {
  const of = Math.max(1, n);
  return Math.min(buttLine(lines, of) + (n === 0 ? ABOVE_NEXT : gaugeAt(lines, of) + ABOVE_NEXT), lines.end - FROM_EDGE);
};

/** Heights a course's nails are tried at: their line, then nearer the tops, where a flange lies under it. */
function heightsOf(context: PlaneContext, n: number): number[] {
  const { lines } = context;
  const line = nailLine(context, n);
  const top = (n === 0 ? buttLine(lines, 1) + STARTER_HEIGHT : Math.min(chalkLine(lines, n), lines.end)) - FROM_EDGE;
  return heightsFrom(line, top, FROM_EDGE);
}

/** Beyond a step's outer edge: water that creeps 2 in from it (the reserve a plan is to have) finds no nail. */
const BESIDE_STEP = inches(2.25);

/** Where a course's nails may stand: clear of walls too, whose steps lie under the shakes. */
const groundOf = (
  context: PlaneContext,
  outlines: readonly Outline[],
  y: number,
  jointsAbove: readonly number[] = [],
): readonly Span[] => {
  const clear = leastOf(context.rules, 'fieldNails.fromWall');
  const beside = context.found
    .wallsAt(y - LINE_TOLERANCE, y + LINE_TOLERANCE)
    .filter(({ fieldNails }) => fieldNails === 'clear-of-wall')
    .map((wall): Span => {
      const by = Math.max(clear, context.stepLeg(wall) + BESIDE_STEP);
      return wall.side === 1 ? [wall.x, wall.x + by] : [wall.x - by, wall.x];
    });
  return subtractSpans(nailGroundAt(context, outlines, y, jointsAbove), mergeSpans(beside));
};

/** The widest that are split. */
const WIDEST = inches(14);

/** The bond of a course over the joints of the one below: regular, but for joints that would stand over a flange or beside a wall's steps. */
function bondOf(context: PlaneContext, n: number, outlines: readonly Outline[], below: Course | undefined): (span: Span) => Row {
  const module = shakeOf(context).width + leastOf(context.rules, 'shake.gap');
  const apart = leastOf(context.rules, 'covering.jointOffset');
  const grounds = heightsOf(context, n).map((y) => groundOf(context, outlines, y));
  const does = (from: number, to: number): boolean =>
    to - from >= NARROWEST - LINE_TOLERANCE &&
    grounds.some((ground) => nailsIn([from, to], ground, FROM_EDGE, APART).length === 2);
  const isPlace = placeFor(context, n, below, apart);
  return (span) => {
    const regular = courseJoints(n + 5, span[0], span[1], module, module * OFFSET);
    return rowOf(span, endsMoved(span, movedOff(regular, isPlace), isPlace, does), does);
  };
}

/** Joints of a course, row by row. */
const jointsOf = ({ rows }: Course): number[] => rows.flatMap((row) => row.joints);

/** May a joint stand at a place: over nothing it must keep off, off the joints below, and off the nails there, which it would lay open? */
function placeFor(context: PlaneContext, n: number, below: Course | undefined, apart: number): (x: number) => boolean {
  const off = byExtent(context.jointOff(n), ({ x0, x1 }) => [x0, x1]);
  const ground = below ? groundOf(context, below.outlines, nailLine(context, below.n)) : [];
  const inOrder = (places: readonly number[]): number[] => places.toSorted((a, b) => a - b);
  const joints = inOrder(below ? jointsOf(below) : []);
  const nails = inOrder(below ? unitsOf(below).flatMap((unit) => nailsIn(unit, ground, FROM_EDGE, APART)) : []);
  return (x) =>
    off(x, x).every(({ x0, x1 }) => x <= x0 + LINE_TOLERANCE || x >= x1 - LINE_TOLERANCE) &&
    distanceToNearest(joints, x) >= apart - LINE_TOLERANCE &&
    distanceToNearest(nails, x) >= FROM_JOINT_ABOVE - LINE_TOLERANCE;
}

/** Places a joint that has to move is looked for, nearest first. */
const ASIDE = Array.from({ length: 28 }, (_, i) => inches(0.25) * (i + 1)).flatMap((by) => [by, -by]);

const isWide = (width: number): boolean => width >= NARROWEST && (width <= WIDEST || width === Number.POSITIVE_INFINITY);

/** Joints moved aside by as little as makes each stand where it may, where the shakes beside them can be had so wide. */
function movedOff(regular: readonly number[], isPlace: (x: number) => boolean): number[] {
  const moved = [...regular];
  regular.forEach((x, i) => {
    if (isPlace(x)) return;
    const [before, after] = [moved[i - 1] ?? Number.NEGATIVE_INFINITY, moved[i + 1] ?? Number.POSITIVE_INFINITY];
    const by = ASIDE.find((aside) => isPlace(x + aside) && isWide(x + aside - before) && isWide(after - x - aside));
    if (by !== undefined) moved[i] = x + by;
  });
  return moved;
}

/** A shake at an end that has no room for its nails (beside a wall's steps) is taken wider, the one beside it narrower. */
function endsMoved(
  [x0, x1]: Span,
  joints: readonly number[],
  isPlace: (x: number) => boolean,
  does: (from: number, to: number) => boolean,
): number[] {
  const moved = [...joints];
  const last = moved.length - 1;
  if (last < 0) return moved;
  const move = (i: number, end: number, next: number): void => {
    const unit = (x: number): [number, number] => (x < end ? [x, end] : [end, x]);
    if (does(...unit(moved[i]!))) return;
    const x = ASIDE.map((by) => moved[i]! + by).find(
      (to) => isPlace(to) && isWide(Math.abs(end - to)) && isWide(Math.abs(to - next)) && does(...unit(to)),
    );
    if (x !== undefined) moved[i] = x;
  };
  move(last, x1, moved[last - 1] ?? x0);
  move(0, x0, moved[1] ?? x1);
  return moved;
}

/** Courses from the eave up (0: the starter, where there is an eave), each bonded over the one below. */
function shakeCourses(context: PlaneContext): Course[] {
  const courses: Course[] = [];
  const add = (n: number, outlines: readonly Outline[]): void => {
    if (outlines.length > 0) courses.push(courseOf(n, outlines, bondOf(context, n, outlines, courses.at(-1))));
  };
  add(0, eaveOutlines(context, STARTER_HEIGHT));
  for (let n = 1; n <= context.lines.count; n++) add(n, courseOutlines(context, n));
  return courses;
}

/** Starters are 15 in shakes. */
const STARTER_HEIGHT = inches(15);

/** Felt on a course and under the next: its lower edge two exposures above the butt of the course it lies on. */
function interlayOver(context: PlaneContext, { n, outlines }: Course): Piece[] {
  const { lines, catalog } = context;
  const felt = itemById(catalog, 'interlay', coveringOfKind(context, 'shake').interlay);
  const y0 = buttLine(lines, n) + 2 * gaugeAt(lines, n);
  const y1 = Math.min(y0 + felt.width, lines.end);
  if (n === 0 || n >= lines.count || y1 - y0 < NARROWEST) return [];
  const next = courseOutlines(context, n + 1);
  const covers = spansOf([...outlines, ...next].map(bounds)).flatMap(([x0, x1]) =>
    patchesRound({ x0, x1, y0, y1 }, context.blocksFor(n + 1), 0).flatMap((patch) =>
      onPlane(context.plane, rectangle(patch.x0, patch.y0, patch.x1, patch.y1), context.openingsAt(n + 1)),
    ),
  );
  if (covers.length === 0) return [];
  const run = spansOf(covers.map(bounds)).reduce((sum, [a, b]) => sum + b - a, 0);
  return [
    {
      mark: `F${String(n).padStart(2, '0')}`,
      detail: 'covering',
      role: 'interlay',
      product: felt.id,
      course: n,
      covers: covers.map((outline) => ({ facet: context.facet, outline, holds: ['open'] })),
      lay: rightAfter(inCourse(context, n, 'shingles'), 0.5),
      liesOn: [courseMark(n)],
      cutLength: run,
      keys: ['covering.exposure'],
    },
  ];
}

/** Felt reaches this far down over a flange's upper edge and its nails. */
const OVER_FLANGE = inches(4);

/** Felt over the upper edge of every flange, under the course that covers it: a joint between shakes may stand over the flange's nails (trade practice). */
function feltOverFlanges(context: PlaneContext): Piece[] {
  const { lines, catalog, plane, rules } = context;
  const felt = itemById(catalog, 'interlay', coveringOfKind(context, 'shake').interlay);
  const clear = leastOf(rules, 'fieldNails.fromWall');
  return context.nailFree.map(({ x0, x1, to, detail }, i): Piece => {
    const y0 = to - OVER_FLANGE;
    const n = lastCourseAtOrBelow(lines, to - LINE_TOLERANCE);
    const outline = rectangle(x0 + clear - OVER_FLANGE, y0, x1 - clear + OVER_FLANGE, Math.min(y0 + felt.width, lines.end));
    return {
      mark: `FF${i + 1}`,
      detail,
      role: 'interlay',
      product: felt.id,
      course: n,
      covers: onPlane(plane, outline).map((own) => ({ facet: context.facet, outline: own, holds: ['open'] })),
      lay: inCourse(context, n, 'flashing', to),
      liesOn: n > 1 ? [courseMark(n - 1)] : [STARTER_MARK],
      cutLength: x1 - x0 - 2 * clear + 2 * OVER_FLANGE,
      keys: [],
    };
  });
}

function pieceOf(context: PlaneContext, course: Course): Piece {
  const { shake, whole, parts } = countIn(context, course);
  return coursePiece(context, course, {
    product: shake.id,
    units: { whole, parts },
    keys: [
      'covering.pitch',
      'covering.exposure',
      'covering.nails',
      'covering.jointOffset',
      'covering.gapAtWall',
      'shake.gap',
      'fieldNails.fromWall',
    ],
  });
}

/** A course's shakes; wider ones come with the rest in a bundle, so each counts as so much of an average one. */
function countIn(context: PlaneContext, course: Course): { shake: ItemOf<'shake'>; whole: number; parts: number[] } {
  const shake = shakeOf(context);
  const module = shake.width + leastOf(context.rules, 'shake.gap');
  const run = unitsOf(course).reduce((sum, [from, to]) => sum + to - from, 0);
  const whole = Math.floor((run + LINE_TOLERANCE) / module);
  const rest = run - whole * module;
  return { shake, whole, parts: rest > LINE_TOLERANCE ? [rest] : [] };
}

function nailsOf(
  context: PlaneContext,
  course: Course,
  above: Course | undefined,
  nail: ItemOf<'nail'> | undefined,
): { fasteners: Fastener[]; loose: Span[] } {
  if (!nail) return { fasteners: [], loose: [] };
  const { n, outlines } = course;
  return nailed(
    context,
    course,
    heightsOf(context, n),
    (y) => underFirst(course, above, groundOf(context, outlines, y, openAt(context, y, above)), y),
    {
      product: nail.id,
      piece: markOf(n),
      inset: FROM_EDGE,
      apart: APART,
    },
  );
}

function stepOf(context: PlaneContext, course: Course, nails: number): Step {
  const { lines, rules } = context;
  const { n } = course;
  const gap = leastOf(rules, 'shake.gap');
  const tops = n > 0 && chalkLine(lines, n) > lines.end + LINE_TOLERANCE;
  return {
    lay: n === 0 ? inStarter(context) : inCourse(context, n, 'shingles'),
    detail: 'covering',
    course: n,
    stage: 'covering',
    action:
      n === 0
        ? [
            'Lay the starter course of shakes along the eave, butts ',
            cut(-lines.first),
            ' past the deck edge, joints off those of course 1.',
          ]
        : [
            `Lay course ${n} of shakes, butts on `,
            mm(buttLine(lines, n)),
            ', ',
            cut(gap),
            ' to 5/8" apart, joints at least ',
            cut(leastOf(rules, 'covering.jointOffset')),
            ' from those below',
            ...(tops ? ['; tops cut off at the top, ', mm(lines.end)] : []),
            '.',
          ],
    pieces: [markOf(n)],
    fasteners: [
      `${nails} nails, ${leastOf(rules, 'covering.nails')} to a shake, `,
      cut(FROM_EDGE),
      ' from its edges, ',
      cut(ABOVE_NEXT),
      ' above the next butt',
    ],
    people: 1,
    ...(n === 0 ? { caution: 'Tie off; split shakes slide. Nothing loose above the ladder.' } : {}),
    keys: ['covering.exposure', 'covering.nails', 'covering.jointOffset', 'shake.gap'],
  };
}

function feltStep(context: PlaneContext, felt: Piece): Step {
  const { y0 } = bounds(felt.covers[0]!.outline);
  return laid([felt], {
    course: felt.course!,
    stage: 'covering',
    action:
      felt.detail !== 'covering'
        ? [
            `${felt.detail}: lay felt over the flange’s upper edge and its nails, under course ${felt.course}, lower edge at `,
            mm(y0),
            '.',
          ]
        : [
            `Lay the felt interlay ${felt.mark} on course ${felt.course}, lower edge at `,
            mm(y0),
            ', ',
            cut(y0 - buttLine(context.lines, felt.course!)),
            ' above that course’s butts: none of it shows.',
          ],
    uses: [],
    people: 1,
    keys: ['covering.exposure'],
  });
}

/** What is to be said of the shakes of a slope as they are laid out: joints too near those below, no headlap left. */
export function shakeFindings(context: PlaneContext): Finding[] {
  const { lines, rules, plane, surface } = context;
  const findings: Finding[] = [];
  const lap = twoLayerHeadlap(lines.reach, widestGauge(lines));
  if (lap < 0)
    findings.push({
      id: 'covering.headlap',
      severity: 'leaks',
      sentence: [
        `${surface.name} at `,
        { mm: widestGauge(lines) },
        ' exposure does not cover twice: every joint lies open to the underlayment.',
      ],
      fix: ['Lower the exposure.'],
      piece: courseMark(1),
      key: 'covering.exposure',
    });
  const apart = leastOf(rules, 'covering.jointOffset');
  const courses = shakeCourses(context);
  const joints = courses.map((course) => jointsOf(course).sort((a, b) => a - b));
  const near = joints.findIndex((own, i) => own.some((x) => distanceToNearest(joints[i - 1] ?? [], x) < apart - LINE_TOLERANCE));
  if (near > 0)
    findings.push({
      id: 'covering.jointOffset',
      severity: 'breaks a rule',
      sentence: [
        `${plane.name}, course ${courses[near]!.n}: a joint stands nearer than `,
        cut(apart),
        ' to one of the course below.',
      ],
      fix: ['Choose a shake of another width there.'],
      piece: markOf(courses[near]!.n),
      key: 'covering.jointOffset',
    });
  return findings;
}
