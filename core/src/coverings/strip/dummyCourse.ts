import { type Fastener, type Piece, type Step, cut, fastenersAt, inCourse, laid, mm } from '../../assembly/index.ts';
import type { ItemOf } from '../../catalog/index.ts';
import { type Point, type Span, bounds } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import type { Doubled, PlaneContext } from '../../slope/index.ts';
import { courseMark } from '../../surface/index.ts';
import { LINE_TOLERANCE, NOISE, inches, stepsToReach } from '../../units/index.ts';
import { piecesIn } from '../courses.ts';
import { type LaidOut, jointsOf, openIn } from './course.ts';
import { nailPiece, underJoints } from './nails.ts';
import { shingleOf } from './shingle.ts';

/** Joints of the two layers over a head stand so far apart (trade practice). */
export const LAYERS_APART = inches(6);

/** What one lower layer lies over: the corners of what stands there, from the left, and where it has to end for the next one's sake. */
type Over = Pick<Doubled, 'detail' | 'name' | 'on' | 'past'> & { readonly corners: readonly number[]; readonly within: Span };

/** Things that stand too near each other for a joint between them go under one lower layer; others share the room between them. */
function together(doubled: readonly Doubled[]): Over[] {
  const groups: Omit<Over, 'within'>[] = [];
  for (const { x0, x1, ...one } of [...doubled].sort((a, b) => a.x0 - b.x0)) {
    const last = groups.at(-1);
    if (last && x0 - last.corners.at(-1)! < 2 * one.past)
      groups[groups.length - 1] = { ...last, name: `${last.name} and ${one.name}`, corners: [...last.corners, x0, x1] };
    else groups.push({ ...one, corners: [x0, x1] });
  }
  return groups.map((one, i) => {
    const [before, after] = [groups[i - 1]?.corners.at(-1), groups[i + 1]?.corners[0]];
    return {
      ...one,
      within: [
        before === undefined ? Number.NEGATIVE_INFINITY : (before + one.corners[0]!) / 2,
        after === undefined ? Number.POSITIVE_INFINITY : (one.corners.at(-1)! + after) / 2,
      ],
    };
  });
}

/**
 * Edges of the whole units of the lower layer, left to right: as few as reach past the outermost corners, in the middle or as little aside as keeps the
 * joints between them off the corners and off `joints`, those of the layer over it; one unit more where fewer cannot.
 */
export function dummyEdges(
  { corners, past }: Pick<Over, 'corners' | 'past'>,
  width: number,
  joints: readonly number[],
): number[] {
  const [x0, x1] = [corners[0]!, corners.at(-1)!];
  const reach = x1 - x0 + 2 * past;
  const fewest = stepsToReach(reach, width);
  const edgesOf = (units: number, aside: number): number[] =>
    Array.from({ length: units + 1 }, (_, i) => (x0 + x1 - units * width) / 2 + aside + i * width);
  const isGood = (edges: readonly number[]): boolean =>
    edges.every((x) => joints.every((joint) => Math.abs(x - joint) >= LAYERS_APART - LINE_TOLERANCE)) &&
    edges.slice(1, -1).every((x) => corners.every((corner) => Math.abs(x - corner) >= past - LINE_TOLERANCE));
  for (const units of [fewest, fewest + 1]) {
    const slack = (units * width - reach) / 2;
    // as far aside as brings an edge just clear of what it keeps from
    const asides = edgesOf(units, 0).flatMap((x) => [
      ...joints.flatMap((joint) => [joint - LAYERS_APART - x, joint + LAYERS_APART - x]),
      ...corners.flatMap((corner) => [corner - past - x, corner + past - x]),
    ]);
    const found = [0, ...asides]
      .filter((aside) => Math.abs(aside) <= slack + NOISE)
      .sort((a, b) => Math.abs(a) - Math.abs(b))
      .map((aside) => edgesOf(units, aside))
      .find(isGood);
    if (found) return found;
  }
  return edgesOf(fewest, 0);
}

type PlannedDummy = { piece: Piece; fasteners: Fastener[]; step: Step };

/** The lower layers of a course that lies in two over what is under it; `upper`: the nails that hold the course itself. */
export const planDummies = (
  context: PlaneContext,
  course: LaidOut,
  nail: ItemOf<'nail'> | undefined,
  upper: readonly Fastener[],
): PlannedDummy[] => together(context.doubled(course.n)).flatMap((over) => planDummy(context, course, over, nail, upper) ?? []);

function planDummy(
  context: PlaneContext,
  course: LaidOut,
  over: Over,
  nail: ItemOf<'nail'> | undefined,
  upper: readonly Fastener[],
): PlannedDummy | undefined {
  const { facet, rules } = context;
  const shingle = shingleOf(context);
  const { n, outlines, stretches, ground } = course;
  const stretch = stretches.find(({ edges }) => edges[0]! < over.corners[0]! && edges.at(-1)! > over.corners.at(-1)!);
  if (!stretch) return undefined;
  const left = Math.max(stretch.edges[0]!, over.within[0]);
  const right = Math.min(stretch.edges.at(-1)!, over.within[1]);
  const planned = dummyEdges(over, shingle.width, jointsOf(course));
  const edges = [
    Math.max(left, planned[0]!),
    ...planned.slice(1, -1).filter((x) => x > left + LINE_TOLERANCE && x < right - LINE_TOLERANCE),
    Math.min(right, planned.at(-1)!),
  ];
  const mark = `${over.detail}-DC`;
  const perShingle = leastOf(rules, 'covering.nails');
  const least = leastOf(rules, 'covering.leastNails');
  // what a joint of the upper layer lets in runs down over all of the lower one
  const clear = underJoints(ground, openIn(context, course), Number.POSITIVE_INFINITY);
  const driven = upper.filter((one) => one.facet === facet).map(({ at }) => at);
  const pieces = edges.slice(1).flatMap((to, i) => piecesIn(outlines, edges[i]!, to));
  const places = pieces.flatMap((piece): Point[] => {
    const { x0, x1 } = bounds(piece);
    const share = Math.min(perShingle, Math.max(least, stepsToReach(x1 - x0, shingle.width / perShingle)));
    return nailPiece(clear, piece, share, least, driven).map(({ at }) => at);
  });
  const fasteners = fastenersAt(nail, { piece: mark, facet, keptDry: 'covered' }, places);
  const lengths = edges.slice(1).map((x, i) => x - edges[i]!);
  const isWhole = (length: number): boolean => length >= shingle.width - LINE_TOLERANCE;
  const joints = edges.slice(1, -1);
  const piece: Piece = {
    mark,
    detail: over.detail,
    role: 'dummyCourse',
    product: shingle.id,
    course: n,
    covers: pieces.map((outline) => ({ facet, outline, holds: ['open'] as const })),
    lay: inCourse(context, n, 'dummy', left),
    liesOn: [over.on, courseMark(n - 1)],
    joints,
    units: { whole: lengths.filter(isWhole).length, parts: lengths.filter((length) => !isWhole(length)) },
    keys: ['skylight.headCourse', 'covering.nails'],
  };
  const step = laid([piece], {
    course: n,
    stage: 'covering',
    action: [
      `${over.name}: lay dummy course ${mark} under course ${n}, ${lengths.length} ${lengths.length === 1 ? 'shingle' : 'shingles'}, `,
      mm(edges[0]!),
      ' to ',
      mm(edges.at(-1)!),
      ' from the left end',
      ...joints.flatMap((x, i) => [i === 0 ? ', joint at ' : ' and ', mm(x)]),
      `; keep the joints of course ${n} `,
      cut(LAYERS_APART),
      ' from its own.',
    ],
    fasteners: [`${fasteners.length} nails, high, in the headlap above the head flashing, under course ${n + 1}`],
    people: 1,
    keys: ['skylight.headCourse'],
  });
  return { piece, fasteners, step };
}
