import {
  type Assembly,
  type Fastener,
  type Piece,
  type Step,
  type Use,
  cementBand,
  cut,
  emptyAssembly,
  inCourse,
  inStarter,
  mm,
  piecesOf,
} from '../../assembly/index.ts';
import { type ItemOf, chooseNail, itemById } from '../../catalog/index.ts';
import { coveringOfKind } from '../../document/index.ts';
import { type Outline, type Point, type Span, bounds, clipByLine, isWithin, rectangle, tidyOutline } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import {
  type Patch,
  type PlaneContext,
  type ValleySide,
  fromValley,
  onLine,
  onPlane,
  patchesRound,
  rakeStretches,
  spansOf,
} from '../../slope/index.ts';
import { STARTER_MARK, buttLine, chalkLine, courseMark, jointOffset } from '../../surface/index.ts';
import { LINE_TOLERANCE, inches, stepsToReach } from '../../units/index.ts';
import { courseOutlines, isUnderCaps, piecesIn, slopeFacet } from '../courses.ts';
import { ridgePieces, ridgeSteps } from '../ridge.ts';
import { type Unheld, unheldFindings } from './held.ts';
import { type Bond, layJoints, tabLines } from './joints.ts';
import {
  END_NAIL,
  NAILS_APART,
  type NailGround,
  hasRoom,
  mayTakeNail,
  nailGround,
  nailPiece,
  nailZones,
  underJoints,
} from './nails.ts';
import { shingleOf } from './shingle.ts';

/**
 * The covering of one plane: starter along the eave and the rakes, a piece a course cut round what stands on the plane, ridge caps.
 * Every shingle nail is placed: in the maker's nail band, kept clear of walls by the school chosen.
 */
export function planCovering(context: PlaneContext): Assembly {
  const { covering, catalog, rules } = context;
  const shingle = shingleOf(context);
  const nailLength = 3 * shingle.thickness + Math.min(leastOf(rules, 'nail.embedment'), covering.deckThickness + inches(1 / 8));
  const nail = chooseNail(catalog, 'roofing', nailLength, 'galvanised steel');
  const gap = leastOf(rules, 'covering.gapAtWall');
  const cap = itemById(catalog, 'ridgeCap', coveringOfKind(context, 'strip').ridgeCap);
  const laidOut: LaidOut[] = [];
  for (let n = 1; n <= context.lines.count; n++)
    laidOut.push(layOutCourse(context, n, courseOutlines(context, n), laidOut.at(-1)));
  const courses = laidOut.map((course, i) => planCourse(context, course, laidOut[i + 1], nail?.id));
  const unheld = [
    ...courses.flatMap((course) => course.unheld),
    ...laidOut.flatMap((course, i) => tooNear(context, course, laidOut[i - 1])),
  ];
  const starters = planStarter(context, gap);
  return {
    ...emptyAssembly,
    facets: [slopeFacet(context)],
    pieces: [...starters, ...courses.flatMap(({ piece }) => piece), ...ridgePieces(context, cap)],
    fasteners: courses.flatMap(({ fasteners }) => fasteners),
    zones: nailZones(context),
    steps: [
      ...(starters.length > 0 ? [starterStep(context, starters, nail)] : []),
      ...courses.flatMap(({ step }) => step),
      ...ridgeSteps(context, cap),
    ],
    findings: nail
      ? unheldFindings(context, unheld)
      : [
          {
            id: 'nail.length',
            severity: 'breaks a rule',
            sentence: ['No roofing nail in the catalog is long enough for this covering: ', cut(nailLength), ' is needed.'],
            fix: ['Add a longer nail to the catalog.'],
            key: 'nail.embedment',
          },
        ],
  };
}

type PlannedCourse = { piece: Piece[]; fasteners: Fastener[]; step: Step[]; unheld: Unheld[] };

/** A course before its nails: what it covers, its stretches and their shingle edges. */
type LaidOut = {
  readonly n: number;
  readonly outlines: readonly Outline[];
  readonly crossings: readonly Crossing[];
  /** What each stretch covers of the slope itself, and the edges of its shingles, left to right. */
  readonly stretches: readonly { readonly outlines: readonly Outline[]; readonly edges: readonly number[] }[];
  /** Where nails may stand, but for the joints of the course over it. */
  readonly ground: NailGround;
};

const jointsOf = ({ stretches }: Pick<LaidOut, 'stretches'>): number[] => stretches.flatMap(({ edges }) => edges.slice(1, -1));

/** Where the tabs of a course end, a whole number of them from its joints in the regular bond. */
function tabsOf(context: PlaneContext, n: number): Pick<Bond, 'tabs'> {
  const shingle = shingleOf(context);
  if (!shingle.keyways) return {};
  return {
    tabs: { from: jointOffset(n, shingle.width, shingle.bondOffset), width: shingle.width / (shingle.keyways.count + 1) },
  };
}

/** A keyway this near to a joint or an edge is cut off with it. */
const KEYWAY_OFF = inches(0.5);

/** Where the slots between tabs stand in a course. */
function keywaysOf(context: PlaneContext, { n, stretches }: Pick<LaidOut, 'n' | 'stretches'>): number[] {
  const { tabs } = tabsOf(context, n);
  if (!tabs) return [];
  return stretches.flatMap(({ edges }) =>
    tabLines(tabs, edges[0]!, edges.at(-1)!).filter((x) => edges.every((edge) => Math.abs(edge - x) > KEYWAY_OFF)),
  );
}

/** Where a course is open from its butt up: joints and keyways. */
const openIn = (context: PlaneContext, course: LaidOut): number[] => [...jointsOf(course), ...keywaysOf(context, course)];

function layOutCourse(context: PlaneContext, n: number, outlines: readonly Outline[], below: LaidOut | undefined): LaidOut {
  const { rules } = context;
  const shingle = shingleOf(context);
  const spans = spansOf(outlines.map(bounds));
  const crossings = context.valleys
    .filter(({ role }) => role === 'through' || role === 'woven')
    .flatMap((valley) => crossing(context, valley, n, spans, below ? jointsOf(below) : []));
  // its joints are laid before those above it are known: nails keep off those later
  const ground = nailGround(context, n, outlines);
  const bond: Bond = {
    course: n,
    width: shingle.width,
    offset: shingle.bondOffset,
    least: leastOf(rules, 'covering.leastPiece'),
    below: below ? jointsOf(below) : [],
    apart: leastOf(rules, 'covering.jointOffset'),
    off: context.jointOff(n),
    ...tabsOf(context, n),
    holds: (from, to) => hasRoom(ground, from, to),
  };
  const stretches = spans.map((one) => {
    const stretch = stretchAcross(one, crossings);
    const { x0, x1 } = stretch;
    return {
      outlines: outlines.filter((outline) => bounds(outline).x0 < one[1] && bounds(outline).x1 > one[0]),
      edges: [x0, ...layJoints(x0, x1, wholeIn(context, n, stretch, bond), bond), x1],
    };
  });
  return { n, outlines, crossings, stretches, ground };
}

/** A joint stands this far from what a shingle must lie whole over: farther than the creep a plan is to have in hand. */
const BEYOND = inches(2.5);

/** Joints that could not keep off those of the course below. */
function tooNear(context: PlaneContext, course: LaidOut, below: LaidOut | undefined): Unheld[] {
  const apart = leastOf(context.rules, 'covering.jointOffset');
  const others = below ? openIn(context, below) : [];
  return jointsOf(course).flatMap((x) => {
    const joint = Math.min(...others.map((other) => Math.abs(other - x)), apart);
    return joint < apart - LINE_TOLERANCE ? [{ course: course.n, x0: x, x1: x, nails: 0, joint }] : [];
  });
}

/** Shingles of a stretch that must lie whole: across a valley it ends in, over the heads of valleys, over a skylight. */
function wholeIn(context: PlaneContext, n: number, { x0, x1, ending, over }: CourseStretch, bond: Bond): Span[] {
  const xs = over.flatMap(({ line }) => [line.x0, line.x1]);
  const free: Span[] = [
    ...(over.length > 0 ? [[Math.min(...xs), Math.max(...xs)] as const] : []),
    ...context.jointFree(n).map(({ x0: a, x1: b }): Span => [a, b]),
  ];
  return [
    ...ending.flatMap(({ joint, farEnd }): Span[] =>
      joint > x0 + LINE_TOLERANCE && joint < x1 - LINE_TOLERANCE ? [[Math.min(joint, farEnd), Math.max(joint, farEnd)]] : [],
    ),
    ...free.map((one) => wholeOver(one, x0, x1, bond)).filter(([a, b]) => a > x0 && b < x1),
  ];
}

/** A whole shingle in the middle of what it has to lie over, or as little aside as keeps its ends off the joints below and leaves no sliver beside it. */
function wholeOver([from, to]: Span, x0: number, x1: number, { width, below, apart, least }: Bond): Span {
  const start = (from + to - width) / 2;
  const slack = Math.max(0, (width - (to - from)) / 2 - BEYOND);
  const isGood = (aside: number): boolean =>
    [start + aside, start + aside + width].every(
      (x) =>
        below.every((other) => Math.abs(other - x) >= apart - LINE_TOLERANCE) &&
        [x - x0, x1 - x].every((left) => left >= least || left <= LINE_TOLERANCE),
    );
  const steps = Array.from({ length: Math.floor(slack / inches(0.5)) }, (_, i) => (i + 1) * inches(0.5));
  const aside = [0, ...steps.flatMap((by) => [by, -by])].find(isGood) ?? 0;
  return [start + aside, start + aside + width];
}

/** A stretch of a course with the valleys it ends in, whose far ends it reaches, and those whose head it runs over. */
type CourseStretch = {
  readonly x0: number;
  readonly x1: number;
  readonly ending: readonly Crossing[];
  readonly over: readonly Crossing[];
};

function stretchAcross([x0, x1]: readonly [number, number], crossings: readonly Crossing[]): CourseStretch {
  const within = crossings.filter(({ line }) => line.x1 > x0 - LINE_TOLERANCE && line.x0 < x1 + LINE_TOLERANCE);
  // at the head of a valley the course goes on beyond the line, over the ridge that ends there
  const ends = ({ side, line }: Crossing): boolean =>
    side === 1 ? x0 > line.x0 - LINE_TOLERANCE : x1 < line.x1 + LINE_TOLERANCE;
  const ending = within.filter(ends);
  return {
    x0: Math.min(x0, ...ending.map(({ farEnd }) => farEnd)),
    x1: Math.max(x1, ...ending.map(({ farEnd }) => farEnd)),
    ending,
    over: within.filter((one) => !ends(one)),
  };
}

function planCourse(context: PlaneContext, course: LaidOut, above: LaidOut | undefined, nail: string | undefined): PlannedCourse {
  const { lines, rules } = context;
  const shingle = shingleOf(context);
  const { n, outlines, crossings, stretches } = course;
  if (stretches.length === 0) return { piece: [], fasteners: [], step: [], unheld: [] };
  const perShingle = leastOf(rules, 'covering.nails');
  const least = leastOf(rules, 'covering.leastNails');
  const ground = underJoints(course.ground, above ? openIn(context, above) : []);
  const nailed = nail === undefined ? { fasteners: [], unheld: [] } : nailCourse(context, course, ground, nail);
  const { fasteners, unheld } = nailed;
  const lengths = stretches.flatMap(({ edges }) => edges.slice(1).map((x, i) => x - edges[i]!));
  const isWhole = (length: number): boolean => length >= shingle.width - LINE_TOLERANCE;
  const first = lengths[0]!;
  const piece: Piece = {
    mark: courseMark(n),
    detail: 'covering',
    role: 'course',
    product: shingle.id,
    course: n,
    covers: [
      ...outlines.map((outline) => ({ facet: context.facet, outline, holds: ['open'] as const })),
      ...crossings.flatMap(({ other, outlines: own }) =>
        own.map((outline) => ({ facet: other, outline, holds: ['open'] as const })),
      ),
    ],
    lay: inCourse(context, n, 'shingles'),
    liesOn: [n === 1 ? STARTER_MARK : courseMark(n - 1)],
    joints: jointsOf(course),
    ...(shingle.keyways ? { keyways: { at: keywaysOf(context, course), depth: shingle.keyways.depth } } : {}),
    units: { whole: lengths.filter(isWhole).length, parts: lengths.filter((length) => !isWhole(length)) },
    keys: [
      'covering.pitch',
      'covering.exposure',
      'covering.nails',
      'covering.leastNails',
      'covering.leastPiece',
      'covering.jointOffset',
      'covering.gapAtWall',
    ],
  };
  const chalk = chalkLine(lines, n);
  const cutAt = context.valleys.filter(({ low, high }) => buttLine(lines, n) < high[1] && chalk > low[1]);
  const step: Step = {
    lay: inCourse(context, n, 'shingles'),
    detail: 'covering',
    course: n,
    stage: 'covering',
    action: [
      `Lay course ${n}, `,
      ...(chalk <= lines.end ? ['chalk line ', mm(chalk)] : ['tops cut off at the top, ', mm(lines.end)]),
      `; first shingle from the left ${isWhole(first) ? 'whole, ' : 'cut to '}`,
      cut(first),
      stretches.length > 1 ? `; it comes in ${stretches.length} stretches.` : '.',
      ...cutAt.flatMap(({ id, role }) => valleyWords(id, role)),
    ],
    pieces: [piece.mark],
    fasteners: [
      `${fasteners.length} nails: ${perShingle} to a whole shingle, at least ${least} to a cut one, `,
      cut(shingle.nailBand.from),
      ' to ',
      cut(shingle.nailBand.to),
      ' above the butt',
    ],
    uses: cutAt.flatMap((valley) => bedding(context, valley)),
    people: 1,
    keys: ['covering.exposure', 'covering.nails', 'fieldNails.fromWall'],
  };
  return { piece: [piece], fasteners, step: [step], unheld };
}

/** Every shingle of a course nailed: each separate piece of it by its share of a whole one's nails, what crosses a valley in its far end too. */
function nailCourse(
  context: PlaneContext,
  { n, outlines, crossings, stretches }: LaidOut,
  ground: NailGround,
  product: string,
): { fasteners: Fastener[]; unheld: Unheld[] } {
  const { rules } = context;
  const shingle = shingleOf(context);
  const perShingle = leastOf(rules, 'covering.nails');
  const least = leastOf(rules, 'covering.leastNails');
  const narrowest = leastOf(rules, 'covering.leastPiece');
  const fasteners: Fastener[] = [];
  const unheld: Unheld[] = [];
  const drive = (facet: string, at: Point, inHeadlap = false): void =>
    void fasteners.push({
      piece: courseMark(n),
      facet,
      at,
      product,
      keptDry: 'covered',
      ...(inHeadlap ? { inHeadlap: true } : {}),
    });
  const { lines, plane, surface } = context;
  // the last course, when all of it lies under the caps, is held by them
  const underCaps = plane.top === 'ridge' && buttLine(lines, n) >= lines.end - surface.underRidge;
  const across = crossings.map((one) => {
    const far = farNails(context, n, one, ground.line, least);
    for (const at of far) drive(one.other, at);
    if (far.length < least && !underCaps)
      unheld.push({ course: n, x0: one.farEnd, x1: one.farEnd, nails: far.length, across: one.id });
    return { line: one.line, nails: far.length };
  });
  for (const { outlines: own, edges } of stretches)
    for (let i = 1; i < edges.length; i++)
      for (const piece of piecesIn(own, edges[i - 1]!, edges[i]!)) {
        const { x0, x1 } = bounds(piece);
        const share = Math.min(perShingle, Math.max(least, stepsToReach(x1 - x0, shingle.width / perShingle)));
        const spots = nailPiece(ground, piece, share, least);
        for (const { at, inHeadlap } of spots) drive(context.facet, at, inHeadlap);
        if (isUnderCaps(context, piece)) continue;
        // what crosses a valley goes on beyond it, and is nailed there too
        const beyond = across.find(({ line }) => x0 < line.x1 + 1 && x1 > line.x0 - 1);
        const nails = spots.length + (beyond?.nails ?? 0);
        if (nails < least || (x1 - x0 < narrowest - LINE_TOLERANCE && !beyond)) unheld.push({ course: n, x0, x1, nails });
      }
  for (const wall of context.walls.filter(({ fieldNails }) => fieldNails === 'in-headlap')) {
    // the school that nails the shingle at the wall puts that nail where the next step hides it: middle of the headlap above y(n + 1)
    const at: Point = [
      wall.x + wall.side * (leastOf(rules, 'stepFlashing.roofLeg') / 2),
      buttLine(context.lines, n + 1) + leastOf(rules, 'stepFlashing.headlap') / 2,
    ];
    const clear = fasteners.every((one) => Math.hypot(one.at[0] - at[0], one.at[1] - at[1]) >= NAILS_APART);
    if (at[1] >= wall.from && at[1] < wall.to - LINE_TOLERANCE && clear && outlines.some((outline) => isWithin(outline, at)))
      drive(context.facet, at);
  }
  return { fasteners, unheld };
}

/** The cement under one course's cut edge along a valley. */
function bedding({ catalog, lines }: PlaneContext, { role, low, high }: ValleySide): Use[] {
  if (role !== 'cut' && role !== 'open') return [];
  const along = (lines.gauge * Math.hypot(high[0] - low[0], high[1] - low[1])) / (high[1] - low[1]);
  return [cementBand(catalog, along)];
}

const valleyWords = (id: string, role: PlaneContext['valleys'][number]['role']): string[] => {
  switch (role) {
    case 'through':
      return [` At ${id} one shingle crosses the centre, no joint in the valley, pressed in, two nails in its far end.`];
    case 'woven':
      return [` At ${id} woven with the course of the other slope.`];
    case 'cut':
      return [` At ${id} past the centre, cut on the chalk line, corner cropped, bedded.`];
    case 'open':
      return [` At ${id} cut on the chalk line, corner cropped, bedded.`];
  }
};

/** What of a course crosses a valley on to the other slope, and the shingle that crosses: whole, no joint in the valley. */
type Crossing = {
  readonly other: string;
  readonly outlines: readonly Outline[];
  /** Along the eave, where the course meets the centre of the valley. */
  readonly line: { readonly x0: number; readonly x1: number };
  /** Joint before the crossing shingle. */
  readonly joint: number;
  readonly side: 1 | -1;
  readonly farEnd: number;
  readonly across: ValleySide['across'];
  readonly id: string;
};

/** A shingle crosses a valley by this much more than it must, at most. */
const MOST_MORE = inches(8);
const FINE = inches(0.5);
/** The joint before a crossing shingle stands this far from the valley: no joint in it, and room for a nail on this side. */
const IN_VALLEY = inches(9);

/** Reach of the first course round the corner of a valley at the eave. */
const CORNER = inches(8);
const OVER_RIDGE = inches(4);

function crossing(
  context: PlaneContext,
  valley: ValleySide,
  n: number,
  spans: readonly Span[],
  jointsBelow: readonly number[],
): Crossing[] {
  const { lines, rules } = context;
  const shingle = shingleOf(context);
  // the first course is woven round the corner at the eave: what crosses there is cut to the other slope's butt line
  const atCorner = n === Math.max(1, valley.footOn);
  const y0 = atCorner ? valley.low[1] - CORNER : Math.max(buttLine(lines, n), valley.low[1] + lines.first);
  // at the head of a valley what crosses is bent over the ridge too, under the course above
  const y1 = Math.min(chalkLine(lines, n), lines.end + OVER_RIDGE);
  if (y0 >= valley.high[1] - LINE_TOLERANCE || y1 <= valley.low[1]) return [];
  const at = (y: number): number => onLine(valley.low, valley.high, Math.max(valley.low[1], Math.min(valley.high[1], y)));
  // measured along the shingle from the centre at the place where it reaches furthest
  const far = valley.side === 1 ? Math.min(at(y0), at(y1)) : Math.max(at(y0), at(y1));
  // it crosses farther where its joint would else stand near one of the course below, or leave a sliver at the other end of the course
  const [atLine, atEnd] = valley.side === 1 ? ([0, 1] as const) : ([1, 0] as const);
  const own = spans.toSorted((p, q) => Math.abs(p[atLine] - far) - Math.abs(q[atLine] - far))[0];
  const ends = own?.[atEnd] ?? far;
  const narrowest = leastOf(rules, 'covering.leastPiece');
  const apart = leastOf(rules, 'covering.jointOffset');
  const atLeast = far - valley.side * valley.cross;
  const near = valley.side === 1 ? Math.max(at(y0), at(y1)) : Math.min(at(y0), at(y1));
  // how far the joint before it would stand from those below; a sliver beyond it is as bad as a joint
  const clearOf = (joint: number): number => {
    const left = (ends - joint) * valley.side;
    if (left <= LINE_TOLERANCE) return apart;
    return left < narrowest ? 0 : Math.min(apart, ...jointsBelow.map((other) => Math.abs(other - joint)));
  };
  // whole, crossing as little more as may be; cut shorter only where no whole one will do, and never so that its joint lies in the valley
  const room = (atLeast + valley.side * shingle.width - near) * valley.side - IN_VALLEY;
  const ways = [
    ...Array.from({ length: MOST_MORE / FINE + 1 }, (_, i) => ({ more: i * FINE, less: 0 })),
    ...Array.from({ length: Math.max(0, Math.floor(room / FINE)) }, (_, i) => ({ more: 0, less: (i + 1) * FINE })),
  ].map(({ more, less }) => {
    const farEnd = atLeast - valley.side * more;
    const joint = farEnd + valley.side * (shingle.width - less);
    return { farEnd, joint, clear: clearOf(joint) };
  });
  const { farEnd, joint } =
    ways.find(({ clear }) => clear >= apart - LINE_TOLERANCE) ??
    ways.reduce((best, way) => (way.clear > best.clear ? way : best));
  // a little on this side too: at the head the line ends, and what is bent over the ridge reaches past it
  const inside = near + valley.side * OVER_RIDGE;
  const strip = rectangle(Math.min(farEnd, inside), y0, Math.max(farEnd, inside), y1);
  const beyond = clipByLine(strip, (point) => -fromValley(valley, point));
  if (beyond.length < 3) return [];
  const onOther = (outline: Outline): Outline => tidyOutline(outline.map((point) => valley.across(point)));
  const across = onOther(beyond);
  // over the ridge at the head, where the other slope goes on past the valley's line
  const head =
    y1 > lines.end + LINE_TOLERANCE
      ? [onOther(rectangle(Math.min(farEnd, inside), lines.end, Math.max(farEnd, inside), y1))]
      : [];
  return [
    {
      other: valley.other,
      outlines: [atCorner ? clipByLine(across, ([, y]) => y - valley.acrossLow - lines.first) : across, ...head],
      line: { x0: Math.min(far, near), x1: Math.max(far, near) },
      joint,
      side: valley.side,
      farEnd,
      across: valley.across,
      id: valley.id,
    },
  ];
}

/** How far in from its far end the nails of a crossing shingle are looked for. */
const FAR_ZONE = inches(10);
/** And how far above and below the nail line. */
const FAR_UP = inches(6);
const FAR_STEP = inches(0.25);
/** Where they are tried, in from the end and up from the line: the nearest to the usual place first, a step up as bad as two aside. */
const FAR_SPOTS = Array.from({ length: Math.floor(FAR_UP / FAR_STEP) + 1 }, (_, i) => i * FAR_STEP)
  .flatMap((up) => (up === 0 ? [0] : [up, -up]))
  .flatMap((up) =>
    Array.from({ length: Math.floor((FAR_ZONE - END_NAIL) / FAR_STEP) + 1 }, (_, i) => [END_NAIL + i * FAR_STEP, up] as const),
  )
  .sort(([insetA, upA], [insetB, upB]) => insetA + 2 * Math.abs(upA) - insetB - 2 * Math.abs(upB));

/**
 * The nails in the far end of a shingle that crosses a valley, an inch in and 2 in apart: clear of the centre, and of all that nails keep clear of on
 * the slope they stand on.
 */
function farNails(context: PlaneContext, n: number, one: Crossing, line: number, count: number): Point[] {
  const { lines } = context;
  const other = context.other(one.other);
  const top = Math.min(chalkLine(lines, n), lines.end) - inches(0.5);
  const half = FAR_STEP;
  const found: { own: Point; across: Point }[] = [];
  for (const [inset, up] of FAR_SPOTS) {
    if (found.length >= count) break;
    const own: Point = [one.farEnd + one.side * inset, line + up];
    if (own[1] > top || own[1] < buttLine(lines, n) + END_NAIL) continue;
    const apart = found.length === 0 ? 0 : 2 * END_NAIL;
    if (found.some(({ own: [x, y] }) => Math.hypot(own[0] - x, own[1] - y) < apart)) continue;
    const across = one.across(own);
    const on = [[0, 0], [half, half], [-half, half], [half, -half], [-half, -half]] // prettier-ignore
      .every(([dx, dy]) => one.outlines.some((outline) => isWithin(outline, [across[0] + dx!, across[1] + dy!])));
    if (on && mayTakeNail(other, across)) found.push({ own, across });
  }
  return found.map(({ across }) => across);
}

function planStarter(context: PlaneContext, gap: number): Piece[] {
  const { catalog, plane, lines } = context;
  const starter = itemById(catalog, 'starter', coveringOfKind(context, 'strip').starter);
  const y0 = buttLine(lines, 1);
  const eaves = plane.edges.filter(({ kind }) => kind === 'eave');
  const eave = eaves.flatMap(({ from, to }) =>
    patchesRound({ x0: from[0], x1: to[0], y0, y1: Math.min(y0 + starter.height, lines.end) }, context.blocks, gap),
  );
  const piece = (mark: string, patches: readonly Patch[], run: number, rank: number, liesOn: string[]): Piece => {
    const whole = Math.floor((run + LINE_TOLERANCE) / starter.width);
    const rest = run - whole * starter.width;
    return {
      mark,
      detail: 'covering',
      role: 'starter',
      product: starter.id,
      course: 0,
      covers: patches
        .flatMap((patch) => onPlane(plane, rectangle(patch.x0, patch.y0, patch.x1, patch.y1), context.openingsAt(0)))
        .map((outline) => ({ facet: context.facet, outline, holds: ['open'] })),
      lay: inStarter(context, rank),
      liesOn,
      units: { whole, parts: rest > LINE_TOLERANCE ? [rest] : [] },
      keys: [],
    };
  };
  const pieces: Piece[] = [];
  if (eave.length > 0)
    pieces.push(
      piece(
        STARTER_MARK,
        eave,
        spansOf(eave).reduce((sum, [a, b]) => sum + b - a, 0),
        0,
        [],
      ),
    );
  for (const side of ['left', 'right'] as const) {
    const stretches = rakeStretches(context, side);
    if (stretches.length === 0) continue;
    const patches = stretches
      .map(({ x, from, to }) => ({
        x0: side === 'left' ? x : Math.max(0, x - starter.height),
        x1: side === 'left' ? Math.min(plane.eaveLength, x + starter.height) : x,
        y0: eave.length > 0 ? Math.max(from, y0 + starter.height) : from,
        y1: to,
      }))
      .filter((patch) => patch.y1 > patch.y0);
    if (patches.length > 0)
      pieces.push(
        piece(
          `${STARTER_MARK}-${side === 'left' ? 'L' : 'R'}`,
          patches,
          patches.reduce((sum, { y0, y1 }) => sum + y1 - y0, 0),
          0.5,
          [STARTER_MARK],
        ),
      );
  }
  return pieces;
}

function starterStep(context: PlaneContext, starters: readonly Piece[], nail: ItemOf<'nail'> | undefined): Step {
  const each = leastOf(context.rules, 'starter.nails');
  const count = each * starters.reduce((sum, { units }) => sum + (units?.whole ?? 0) + (units?.parts.length ?? 0), 0);
  return {
    lay: inStarter(context),
    detail: 'covering',
    course: 0,
    stage: 'covering',
    action: [
      ...(starters.some(({ mark }) => mark === STARTER_MARK)
        ? [
            'Starter along the eave and the rakes, sealing strip outwards, ',
            cut(-context.lines.first),
            ' past the deck edge; joints off those of course 1.',
          ]
        : ['Starter along the rake, sealing strip outwards.']),
    ],
    pieces: starters.map(({ mark }) => mark),
    fasteners: [`${count} nails, ${each} to a starter, just above the eave edge where course 1 covers them`],
    uses: [piecesOf(nail, 'roofing nail', count)],
    people: 1,
    caution: 'Tie off; nothing loose above the ladder.',
    keys: ['covering.firstButt', 'starter.nails'],
  };
}
