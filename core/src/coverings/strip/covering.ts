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
  laid,
  listed,
  mm,
  rightAfter,
  type Words,
  CEMENT_BAND,
  beforeCourse,
} from '../../assembly/index.ts';
import { chooseNail, itemById } from '../../catalog/index.ts';
import { coveringOfKind } from '../../document/index.ts';
import { type Point, bounds, isWithin } from '../../roof/index.ts';
import { leastOf, unheard } from '../../rules/index.ts';
import { type PlaneContext, type ValleySide, cutAlong } from '../../slope/index.ts';
import { STARTER_MARK, buttLine, chalkLine, courseMark } from '../../surface/index.ts';
import { LINE_TOLERANCE, inches, stepsToReach } from '../../units/index.ts';
import { alongEave, courseOutlines, isUnderCaps, piecesIn, slopeFacet } from '../courses.ts';
import { ridgePieces, ridgeSteps } from '../ridge.ts';
import { type LaidOut, jointsOf, keywaysOf, layOutCourse, openIn, tooNear } from './course.ts';
import { planDummies } from './dummyCourse.ts';
import { farNails } from './farNails.ts';
import { type Unheld, unheldFindings } from './held.ts';
import { NAILS_APART, type NailGround, nailPiece, nailZones, underJoints } from './nails.ts';
import { shingleOf } from './shingle.ts';
import { planStarter, starterStep } from './starter.ts';

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
  const dummies = courses.flatMap(({ fasteners }, i) => planDummies(context, laidOut[i]!, nail, fasteners));
  const unheld = [
    ...courses.flatMap((course) => course.unheld),
    ...laidOut.flatMap((course, i) => tooNear(context, course, laidOut[i - 1])),
  ];
  const starters = planStarter(context, gap);
  return {
    ...emptyAssembly,
    facets: [slopeFacet(context)],
    pieces: [
      ...starters,
      ...dummies.map(({ piece }) => piece),
      ...courses.flatMap(({ piece }) => piece),
      ...ridgePieces(context, cap),
    ],
    fasteners: [...dummies, ...courses].flatMap(({ fasteners }) => fasteners),
    zones: nailZones(context),
    steps: [
      ...valleySteps(context, starters.length > 0 ? 0 : 1),
      ...(starters.length > 0 ? [starterStep(context, starters, nail)] : []),
      ...dummies.map(({ step }) => step),
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
  const step: Step = laid([piece], {
    course: n,
    stage: 'covering',
    action: [
      `Lay course ${n}, `,
      ...(chalk <= lines.end ? ['chalk line ', mm(chalk)] : ['tops cut off at the top, ', mm(lines.end)]),
      `; first shingle from the left ${isWhole(first) ? 'whole, ' : 'cut to '}`,
      cut(first),
      stretches.length > 1 ? `; it comes in ${stretches.length} stretches.` : '.',
      ...valleysWords(context, n, cutAt),
    ],
    fasteners:
      fasteners.length === 0
        ? ['0 nails: the caps hold it at the ridge']
        : [
            `${fasteners.length} ${fasteners.length === 1 ? 'nail' : 'nails'}: ${perShingle} to a whole shingle, at least ${least} to a cut one, `,
            cut(shingle.nailBand.from),
            ' to ',
            cut(shingle.nailBand.to),
            ' above the butt',
          ],
    uses: bedding(context, cutAt),
    people: 1,
    keys: ['covering.exposure', 'covering.nails', 'fieldNails.fromWall'],
  });
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
    const far = farNails(context, n, one, ground.levels[0], least);
    for (const at of far) drive(one.other, at);
    if (far.length < least && !underCaps)
      unheld.push({ course: n, x0: one.farEnd, x1: one.farEnd, nails: far.length, across: one.id });
    return { line: one.line, nails: far.length };
  });
  for (const { outlines: all, edges } of stretches) {
    const near = alongEave(all);
    for (let i = 1; i < edges.length; i++)
      for (const piece of piecesIn(near(edges[i - 1]!, edges[i]!), edges[i - 1]!, edges[i]!)) {
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
  }
  // the school that nails the shingle at the wall puts that nail where the next step hides it: middle of the headlap above y(n + 1)
  const hidden = buttLine(lines, n + 1) + leastOf(unheard(rules), 'stepFlashing.headlap') / 2;
  for (const wall of context.found.wallsAt(hidden, hidden)) {
    if (wall.fieldNails !== 'in-headlap') continue;
    const at: Point = [wall.x + wall.side * (leastOf(rules, 'stepFlashing.roofLeg') / 2), hidden];
    const clear = fasteners.every((one) => Math.hypot(one.at[0] - at[0], one.at[1] - at[1]) >= NAILS_APART);
    if (at[1] >= wall.from && at[1] < wall.to - LINE_TOLERANCE && clear && outlines.some((outline) => isWithin(outline, at)))
      drive(context.facet, at);
  }
  return { fasteners, unheld };
}

/** The cement under one course's cut edges along valleys. */
function bedding({ catalog, lines }: PlaneContext, valleys: readonly ValleySide[]): Use[] {
  const along = valleys
    .filter(({ role }) => role === 'cut' || role === 'open')
    .reduce((sum, valley) => sum + cutAlong(lines, valley), 0);
  return along > 0 ? [cementBand(catalog, along)] : [];
}

/** What is done at the valleys a course meets, those that are treated alike in one sentence. */
function valleysWords({ rules, lines }: PlaneContext, n: number, valleys: readonly ValleySide[]): Words {
  const roles = [...new Set(valleys.map(({ role }) => role))];
  return roles.flatMap((role): Words => {
    const here = valleys.filter((one) => one.role === role);
    const at = ` At ${listed(here.map(({ id }) => id))} `;
    const first = here.some(({ footOn }) => n === Math.max(1, footOn));
    const atEave = here.every(({ footOn }) => footOn === 0);
    switch (role) {
      case 'through':
        return [
          at,
          ...(first
            ? atEave
              ? [
                  'weave it round the corner at the foot; cut both straight across the mouth, ',
                  cut(Math.abs(buttLine(lines, 1))),
                  ' past the metal, over the gutter.',
                ]
              : ['weave it round the corner at the foot.']
            : [
                'cross the centre ',
                cut(leastOf(rules, 'valley.cross')),
                ' with a whole shingle, pressed in, two nails in its far end.',
              ]),
        ];
      case 'woven':
        return [at, 'weave it with the course of the other slope, each ', cut(leastOf(rules, 'valley.cross')), ' over.'];
      case 'cut':
      case 'open':
        return [at, 'cut it on the chalk line, crop the corner, bed it.'];
    }
  });
}

/** The corner of a cut shingle that would lead water under the course is cropped so far (trade practice). */
const CROP = inches(1);

/** How the courses are cut, laid across or woven at the valleys, once for all of them, before the first. */
function valleySteps(context: PlaneContext, first: number): Step[] {
  const { rules, valleys } = context;
  return [...new Set(valleys.map(({ role }) => role))].map((role, i) => {
    const ids = listed(valleys.filter((one) => one.role === role).map(({ id }) => id));
    const across: Words = [cut(leastOf(rules, 'valley.cross')), ' along the shingle, no joint in the valley'];
    const noNail: Words = ['; no nail within ', cut(leastOf(rules, 'valley.noNail')), ' of the centre.'];
    const bed: Words = [cut(CROP), ' at 45°, bed it in ', cut(CEMENT_BAND), ' of cement'];
    const how: Record<typeof role, Words> = {
      through: [`Cross ${ids} by at least `, ...across],
      woven: [`Weave both sides of ${ids} together, each crossing `, ...across],
      cut: [`Cut at ${ids} on the chalk line, crop each upper corner `, ...bed],
      open: [`Cut at ${ids} on the chalk line, crop each upper corner `, ...bed],
    };
    return {
      lay: rightAfter(beforeCourse(context, first), i + 1),
      detail: 'covering',
      course: first,
      stage: 'covering',
      action: [...how[role], ...noNail],
      pieces: [],
      people: 1,
      keys: ['valley.noNail'],
    };
  });
}
