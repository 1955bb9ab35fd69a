import { type Outline, type Span, bounds, byExtent } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import { type PlaneContext, spansOf } from '../../slope/index.ts';
import { jointOffset } from '../../surface/index.ts';
import { LINE_TOLERANCE, distanceToNearest, inches } from '../../units/index.ts';
import { alongEave } from '../courses.ts';
import type { Unheld } from './held.ts';
import { type Bond, layJoints, tabLines } from './joints.ts';
import { type NailGround, hasRoom, nailGround } from './nails.ts';
import { shingleOf } from './shingle.ts';
import { type Crossing, crossing } from './crossing.ts';

/** A course before its nails: what it covers, its stretches and their shingle edges. */
export type LaidOut = {
  readonly n: number;
  readonly outlines: readonly Outline[];
  readonly crossings: readonly Crossing[];
  /** What each stretch covers of the slope itself, and the edges of its shingles, left to right. */
  readonly stretches: readonly { readonly outlines: readonly Outline[]; readonly edges: readonly number[] }[];
  /** Where nails may stand, but for the joints of the course over it. */
  readonly ground: NailGround;
};

export const jointsOf = ({ stretches }: Pick<LaidOut, 'stretches'>): number[] =>
  stretches.flatMap(({ edges }) => edges.slice(1, -1));

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
export function keywaysOf(context: PlaneContext, { n, stretches }: Pick<LaidOut, 'n' | 'stretches'>): number[] {
  const { tabs } = tabsOf(context, n);
  if (!tabs) return [];
  return stretches.flatMap(({ edges }) =>
    tabLines(tabs, edges[0]!, edges.at(-1)!).filter((x) => edges.every((edge) => Math.abs(edge - x) > KEYWAY_OFF)),
  );
}

/** Where a course is open from its butt up: joints and keyways. */
export const openIn = (context: PlaneContext, course: LaidOut): number[] => [...jointsOf(course), ...keywaysOf(context, course)];

export function layOutCourse(
  context: PlaneContext,
  n: number,
  outlines: readonly Outline[],
  below: LaidOut | undefined,
): LaidOut {
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
    below: below ? jointsOf(below).sort((a, b) => a - b) : [],
    apart: leastOf(rules, 'covering.jointOffset'),
    off: byExtent(context.jointOff(n), ({ x0, x1 }) => [x0, x1]),
    ...tabsOf(context, n),
    holds: (from, to) => hasRoom(ground, from, to),
  };
  const across = alongEave(outlines);
  const stretches = spans.map((one) => {
    const stretch = stretchAcross(one, crossings);
    const { x0, x1 } = stretch;
    return {
      outlines: across(...one).filter((outline) => bounds(outline).x0 < one[1] && bounds(outline).x1 > one[0]),
      edges: [x0, ...layJoints(x0, x1, wholeIn(context, n, stretch, bond), bond), x1],
    };
  });
  return { n, outlines, crossings, stretches, ground };
}

/** A joint stands this far from what a shingle must lie whole over: farther than the creep a plan is to have in hand. */
const BEYOND = inches(2.5);

/** Joints that could not keep off those of the course below. */
export function tooNear(context: PlaneContext, course: LaidOut, below: LaidOut | undefined): Unheld[] {
  const apart = leastOf(context.rules, 'covering.jointOffset');
  const others = below ? openIn(context, below).toSorted((a, b) => a - b) : [];
  return jointsOf(course).flatMap((x) => {
    const joint = Math.min(apart, distanceToNearest(others, x));
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
        distanceToNearest(below, x) >= apart - LINE_TOLERANCE &&
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
