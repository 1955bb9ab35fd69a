import {
  type Assembly,
  type Fastener,
  type Piece,
  STAGE,
  type Step,
  type Zone,
  cut,
  emptyAssembly,
  mm,
} from '../../assembly/index.ts';
import { chooseNail, itemById } from '../../catalog/index.ts';
import { buttLine, chalkLine, courseJoints } from '../../covering/index.ts';
import { type Outline, type Point, bounds, clipByLine, isWithin, rectangle, tidyOutline } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import { LINE_TOLERANCE, inches, stepsToReach } from '../../units/index.ts';
import {
  type PlaneContext,
  type PlacedWall,
  type ValleySide,
  besideValley,
  fromValley,
  isRectangular,
  onLine,
  onPlane,
} from '../context.ts';
import { type Patch, patchesRound, spansOf } from './spans.ts';

export const courseMark = (n: number): string => `C${String(n).padStart(2, '0')}`;
export const STARTER_MARK = 'ST';
export const RIDGE_MARK = 'RC';

/** Nails stand this far in from a shingle's ends, the usual place for the outermost ones. */
const END_NAIL = inches(1);

/**
 * A nail stands at least this far from the joints of the course above: water that creeps 2 in sideways from an open joint (the reserve a
 * plan is to have) does not find it.
 */
const NAIL_FROM_JOINT_ABOVE = inches(2.25);

/**
 * The covering of one plane: starter along the eave and the rakes, a piece a course cut round what stands on the plane, ridge caps.
 * Every shingle nail is placed: in the maker's nail band, kept clear of walls by the school chosen.
 */
export function planCovering(context: PlaneContext): Assembly {
  const { job, catalog, rules, layout, shingle, plane } = context;
  const nailLength = 3 * shingle.thickness + Math.min(leastOf(rules, 'nail.embedment'), job.deckThickness + inches(1 / 8));
  const nail = chooseNail(catalog, 'roofing', nailLength, 'galvanised steel');
  const gap = leastOf(rules, 'covering.gapAtWall');
  const body = (n: number): Patch => ({
    x0: 0,
    x1: plane.eaveLength,
    y0: buttLine(layout, n),
    y1: Math.min(chalkLine(layout, n), layout.slopeLength),
  });
  const laidOut: LaidOut[] = [];
  for (let n = 1; n <= context.courses; n++)
    laidOut.push(layOutCourse(context, n, coursePatches(context, n, body(n), gap), laidOut.at(-1)));
  const courses = laidOut.map((course, i) => planCourse(context, course, laidOut[i + 1], nail?.id));
  const starters = planStarter(context, gap);
  return {
    ...emptyAssembly,
    facets: [
      {
        id: context.facet,
        kind: 'roof',
        name: plane.name,
        outline: plane.outline,
        fall: [0, -1],
        angle: context.angle,
        taken: [
          ...context.blocks
            .filter(({ x0, x1 }) => x1 > x0)
            .map(({ x0, x1, from, to }) => rectangle(x0, Math.max(from, 0), x1, Math.min(to, layout.slopeLength))),
          ...plane.holes,
        ],
      },
    ],
    pieces: [...starters, ...courses.flatMap(({ piece }) => piece), ...planRidge(context)],
    fasteners: courses.flatMap(({ fasteners }) => fasteners),
    zones: [...context.walls.flatMap((wall) => wallZone(context, wall)), ...nailFreeZones(context)],
    steps: [
      ...(starters.length > 0 ? [starterStep(context, starters)] : []),
      ...courses.flatMap(({ step }) => step),
      ...ridgeSteps(context),
    ],
    findings: nail
      ? []
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

type PlannedCourse = { piece: Piece[]; fasteners: Fastener[]; step: Step[] };

/** What a course covers: its band cut round what stands in it, then to the slope's own edges. */
function coursePatches(context: PlaneContext, n: number, band: Patch, gap: number): Outline[] {
  return patchesRound(band, context.blocksFor(n), gap).flatMap(({ x0, x1, y0, y1 }) =>
    onPlane(context.plane, rectangle(x0, y0, x1, y1), context.openingsAt(n)),
  );
}

/** A course before its nails: what it covers, its stretches and their shingle edges. */
type LaidOut = {
  readonly n: number;
  readonly outlines: readonly Outline[];
  readonly crossings: readonly Crossing[];
  readonly spans: readonly [number, number][];
  readonly units: readonly { readonly edges: number[]; readonly whole: number; readonly parts: number[] }[];
};

function layOutCourse(context: PlaneContext, n: number, outlines: readonly Outline[], below: LaidOut | undefined): LaidOut {
  const crossings = context.valleys
    .filter(({ role }) => role === 'through' || role === 'woven')
    .flatMap((valley) => crossing(context, valley, n));
  const stretches = spansOf(outlines.map(bounds)).map((span) => stretchAcross(span, crossings));
  const jointsBelow = below?.units.flatMap(({ edges }) => edges.slice(1, -1)) ?? [];
  return {
    n,
    outlines,
    crossings,
    spans: stretches.map(({ x0, x1 }) => [x0, x1]),
    units: stretches.map((stretch) => shinglesIn(context, n, stretch, jointsBelow)),
  };
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
  const { layout, shingle, rules } = context;
  const { n, outlines, crossings, spans, units } = course;
  if (spans.length === 0) return { piece: [], fasteners: [], step: [] };
  const jointsAbove = above?.units.flatMap(({ edges }) => edges.slice(1, -1)) ?? [];
  const perShingle = leastOf(rules, 'covering.nails');
  const fasteners =
    nail === undefined
      ? []
      : [
          ...units.flatMap(({ edges }) => courseNails(context, n, edges, perShingle, nail, outlines, jointsAbove)),
          ...crossings.flatMap((one) => farNails(context, n, one, nail)),
        ];
  const first = units[0]!.edges[1]! - units[0]!.edges[0]!;
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
    lay: [STAGE.covering, context.orderAt(n), n, 1, 0],
    liesOn: [n === 1 ? STARTER_MARK : courseMark(n - 1)],
    joints: units.flatMap(({ edges }) => edges.slice(1, -1)),
    units: { whole: units.reduce((sum, { whole }) => sum + whole, 0), parts: units.flatMap(({ parts }) => parts) },
    keys: ['covering.exposure', 'covering.nails', 'covering.jointOffset', 'covering.gapAtWall'],
  };
  const chalk = chalkLine(layout, n);
  const cutAt = context.valleys.filter(({ low, high }) => buttLine(layout, n) < high[1] && chalk > low[1]);
  const step: Step = {
    lay: [STAGE.covering, context.orderAt(n), n, 1, 0],
    detail: 'covering',
    course: n,
    stage: 'covering',
    action: [
      `Lay course ${n}, `,
      ...(chalk <= layout.slopeLength ? ['chalk line ', mm(chalk)] : ['tops cut off at the top, ', mm(layout.slopeLength)]),
      `; first shingle from the left ${first < shingle.width - LINE_TOLERANCE ? 'cut to ' : 'whole, '}`,
      cut(first),
      spans.length > 1 ? `; it comes in ${spans.length} stretches.` : '.',
      ...cutAt.flatMap(({ id, role }) => valleyWords(id, role)),
    ],
    pieces: [piece.mark],
    fasteners: [
      `${fasteners.length} nails, ${perShingle} a shingle, `,
      cut(shingle.nailBand.from),
      ' to ',
      cut(shingle.nailBand.to),
      ' above the butt',
    ],
    people: 1,
    keys: ['covering.exposure', 'covering.nails', 'fieldNails.fromWall'],
  };
  return { piece: [piece], fasteners, step: [step] };
}

const valleyWords = (id: string, role: PlaneContext['valleys'][number]['role']): string[] => {
  switch (role) {
    case 'through':
      return [` At ${id} a whole shingle crosses the centre, pressed in, two nails in its far end.`];
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

/** Reach of the first course round the corner of a valley at the eave. */
const CORNER = inches(8);
const OVER_RIDGE = inches(4);

function crossing(context: PlaneContext, valley: ValleySide, n: number): Crossing[] {
  const { layout, shingle, rules } = context;
  // the first course is woven round the corner at the eave: what crosses there is cut to the other slope's butt line
  const atCorner = n === Math.max(1, valley.footOn);
  const y0 = atCorner ? valley.low[1] - CORNER : Math.max(buttLine(layout, n), valley.low[1] - layout.firstButt);
  // at the head of a valley what crosses is bent over the ridge too, under the course above
  const y1 = Math.min(chalkLine(layout, n), layout.slopeLength + OVER_RIDGE);
  if (y0 >= valley.high[1] - LINE_TOLERANCE || y1 <= valley.low[1]) return [];
  const at = (y: number): number => onLine(valley.low, valley.high, Math.max(valley.low[1], Math.min(valley.high[1], y)));
  // measured along the shingle from the centre at the place where it reaches furthest
  const far = valley.side === 1 ? Math.min(at(y0), at(y1)) : Math.max(at(y0), at(y1));
  const farEnd = far - valley.side * leastOf(rules, 'valley.cross');
  const joint = farEnd + valley.side * shingle.width;
  const near = valley.side === 1 ? Math.max(at(y0), at(y1)) : Math.min(at(y0), at(y1));
  // a little on this side too: at the head the line ends, and what is bent over the ridge reaches past it
  const inside = near + valley.side * OVER_RIDGE;
  const strip = rectangle(Math.min(farEnd, inside), y0, Math.max(farEnd, inside), y1);
  const beyond = clipByLine(strip, (point) => -fromValley(valley, point));
  if (beyond.length < 3) return [];
  const onOther = (outline: Outline): Outline => tidyOutline(outline.map((point) => valley.across(point)));
  const across = onOther(beyond);
  // over the ridge at the head, where the other slope goes on past the valley's line
  const head =
    y1 > layout.slopeLength + LINE_TOLERANCE
      ? [onOther(rectangle(Math.min(farEnd, inside), layout.slopeLength, Math.max(farEnd, inside), y1))]
      : [];
  return [
    {
      other: valley.other,
      outlines: [atCorner ? clipByLine(across, ([, y]) => y - valley.acrossLow + layout.firstButt) : across, ...head],
      line: { x0: Math.min(far, near), x1: Math.max(far, near) },
      joint,
      side: valley.side,
      farEnd,
      across: valley.across,
      id: valley.id,
    },
  ];
}

/** Two nails in the far end of a shingle that crosses a valley, an inch in and clear of the centre. */
function farNails(context: PlaneContext, n: number, one: Crossing, product: string): Fastener[] {
  const { layout, shingle } = context;
  const y = buttLine(layout, n) + (shingle.nailBand.from + shingle.nailBand.to) / 2;
  const valley = context.valleys.find(({ id }) => id === one.id)!;
  const clear = leastOf(context.rules, 'valley.noNail');
  return [END_NAIL, 3 * END_NAIL].flatMap((inset): Fastener[] => {
    const at: Point = [one.farEnd + one.side * inset, y];
    if (-fromValley(valley, at) < clear || y > layout.slopeLength) return [];
    return [{ piece: courseMark(n), facet: one.other, at: one.across(at), product, keptDry: 'covered' }];
  });
}

/** Shortest filler let in so that no joint lies in a valley. */
const FILLER = inches(12);

/** Shortest piece left between two joints that had to move. */
const SLIVER = inches(3);

/**
 * Joints that stand too near one of the course below move aside by as little as they must, as long as no shingle gets longer than it is
 * made. The regular bond keeps them apart by itself; fillers at a valley or over a skylight do not.
 */
function apartFrom(
  joints: readonly number[],
  below: readonly number[],
  off: readonly { readonly x0: number; readonly x1: number }[],
  x0: number,
  x1: number,
  width: number,
  apart: number,
): number[] {
  const apartFromBelow = (x: number): boolean => below.every((other) => Math.abs(other - x) >= apart - LINE_TOLERANCE);
  const offMetal = (x: number): boolean => off.every((one) => x <= one.x0 + LINE_TOLERANCE || x >= one.x1 - LINE_TOLERANCE);
  const reach = Array.from({ length: 140 }, (_, k) => (k + 1) * inches(0.25));
  let moved = [...joints];
  for (const at of joints) {
    if (apartFromBelow(at) && offMetal(at)) continue;
    const i = moved.indexOf(at);
    const [left, right] = [moved[i - 1] ?? x0, moved[i + 1] ?? x1];
    const fits = (from: number, to: number): boolean => to - from >= SLIVER && to - from <= width + LINE_TOLERANCE;
    const instead = (clear: (x: number) => boolean): readonly number[] | undefined => {
      const one = reach.flatMap((d) => [at - d, at + d]).find((x) => clear(x) && fits(left, x) && fits(x, right));
      if (one !== undefined) return [one];
      // between two whole shingles there is no room to move: two cuts with a filler between them take its place
      const rights = reach.map((d) => at + d).filter((x) => clear(x) && fits(x, right));
      for (const p of reach.map((d) => at - d).filter((x) => clear(x) && fits(left, x))) {
        const q = rights.find((x) => x - p >= FILLER && x - p <= width + LINE_TOLERANCE);
        if (q !== undefined) return [p, q];
      }
      return undefined;
    };
    // where it cannot keep off the metal too, it keeps at least off the joints below
    const places =
      instead((x) => apartFromBelow(x) && offMetal(x)) ?? (apartFromBelow(at) ? [at] : (instead(apartFromBelow) ?? [at]));
    moved = [...moved.slice(0, i), ...places, ...moved.slice(i + 1)];
  }
  return moved;
}

/** Joints with a whole shingle from `a` to `b` among them; its neighbours are no shorter than a filler and no longer than a shingle. */
function withWhole(joints: readonly number[], a: number, b: number, x0: number, x1: number, width: number): number[] {
  const beside = (kept: number[], at: number, end: number): number[] => {
    const nearest = kept.length === 0 ? end : kept.reduce((best, x) => (Math.abs(x - at) < Math.abs(best - at) ? x : best));
    if (Math.abs(nearest - at) >= FILLER || kept.length === 0) return kept;
    const rest = kept.filter((x) => x !== nearest);
    const next = rest.length === 0 ? end : rest.reduce((best, x) => (Math.abs(x - at) < Math.abs(best - at) ? x : best));
    return Math.abs(next - at) > width ? [...rest, (next + at) / 2] : rest;
  };
  const left = beside(
    joints.filter((x) => x < a - LINE_TOLERANCE),
    a,
    x0,
  );
  const right = beside(
    joints.filter((x) => x > b + LINE_TOLERANCE),
    b,
    x1,
  );
  return [...left, a, b, ...right];
}

/**
 * Shingle edges across one stretch of a course, with the whole shingles and the lengths cut at its ends. Where a shingle crosses a valley
 * it is whole: the joints beyond its near end go, and a filler before it that would be shorter than 12 in shares with its neighbour.
 */
function shinglesIn(
  context: PlaneContext,
  n: number,
  { x0, x1, ending, over }: CourseStretch,
  below: readonly number[],
): { edges: number[]; whole: number; parts: number[] } {
  const { width, bondOffset } = context.shingle;
  let joints = courseJoints(n, x0, x1, width, bondOffset);
  for (const { x0: a, x1: b } of context.jointFree(n)) if (a > x0 && b < x1) joints = withWhole(joints, a, b, x0, x1, width);
  if (over.length > 0) {
    // a whole shingle over the head of the valleys: no joint in either
    const middle = (Math.min(...over.map(({ line }) => line.x0)) + Math.max(...over.map(({ line }) => line.x1))) / 2;
    const [a, b] = [middle - width / 2, middle + width / 2];
    if (a > x0 && b < x1) joints = withWhole(joints, a, b, x0, x1, width);
  }
  for (const { joint, side } of ending) {
    const inside = joint > x0 + LINE_TOLERANCE && joint < x1 - LINE_TOLERANCE;
    joints = joints.filter((x) => (x - joint) * side > LINE_TOLERANCE);
    if (!inside) continue;
    const before = side === 1 ? Math.min(...joints, x1) : Math.max(...joints, x0);
    if (Math.abs(before - joint) < FILLER && joints.includes(before)) {
      const rest = joints.filter((x) => x !== before);
      const next = side === 1 ? Math.min(...rest, x1) : Math.max(...rest, x0);
      joints = Math.abs(next - joint) > width ? [...rest, (next + joint) / 2] : rest;
    }
    joints.push(joint);
  }
  joints = apartFrom(
    joints.sort((a, b) => a - b),
    below,
    context.jointOff(n),
    x0,
    x1,
    width,
    leastOf(context.rules, 'covering.jointOffset'),
  );
  const edges = [x0, ...joints, x1];
  let whole = 0;
  const parts: number[] = [];
  for (let i = 1; i < edges.length; i++) {
    const length = edges[i]! - edges[i - 1]!;
    if (length >= width - LINE_TOLERANCE) whole++;
    else parts.push(length);
  }
  return { edges, whole, parts };
}

/** Nails of one stretch: evenly between the ends of each shingle, moved out of the band kept clear beside walls. */
function courseNails(
  context: PlaneContext,
  n: number,
  edges: readonly number[],
  perShingle: number,
  product: string,
  outlines: readonly Outline[],
  jointsAbove: readonly number[],
): Fastener[] {
  const { layout, shingle, rules } = context;
  const height = Math.min(
    (shingle.nailBand.from + shingle.nailBand.to) / 2,
    layout.slopeLength - buttLine(layout, n) - inches(0.5),
  );
  const y = buttLine(layout, n) + Math.max(height, inches(0.5));
  const clear = leastOf(rules, 'fieldNails.fromWall');
  const [left, right] = [edges[0]! - clear, edges.at(-1)! + clear];
  const beside = context.walls.filter(
    (wall) =>
      // a wall in the middle of the slope may stand at either end of a stretch, a hair outside it
      wall.x >= left && wall.x <= right && y >= wall.from - LINE_TOLERANCE && y <= bandTop(context, wall) + LINE_TOLERANCE,
  );
  const fasteners: Fastener[] = [];
  for (let i = 1; i < edges.length; i++) {
    const [x0, x1] = [edges[i - 1]!, edges[i]!];
    const inset = Math.min(END_NAIL, (x1 - x0) / 4);
    const isFree = (x: number): boolean => x > x0 && x < x1 && !beside.some((wall) => inBand(wall, x, clear));
    const share = Math.max(1, Math.min(perShingle, Math.ceil((perShingle * (x1 - x0)) / shingle.width)));
    const spots = Array.from({ length: share }, (_, j) =>
      share === 1 ? (x0 + x1) / 2 : x0 + inset + ((x1 - x0 - 2 * inset) * j) / (share - 1),
    );
    const clearSpots = spreadClear(spots, x0 + inset, x1 - inset, beside, clear).map((x) => outOfFlanges(context, x, y, x0, x1));
    for (const x of clearOfJoints(clearSpots, jointsAbove, isFree)) {
      if (!mayNail(context, [x, y], outlines)) continue;
      fasteners.push({ piece: courseMark(n), facet: context.facet, at: [x, y], product, keptDry: 'covered' });
    }
  }
  for (const wall of beside.filter(({ fieldNails }) => fieldNails === 'in-headlap')) {
    // the school that nails the shingle at the wall puts that nail where the next step hides it: middle of the headlap above y(n + 1)
    const at = buttLine(layout, n + 1) + leastOf(rules, 'stepFlashing.headlap') / 2;
    const x = wall.x + wall.side * (leastOf(rules, 'stepFlashing.roofLeg') / 2);
    if (at < wall.to - LINE_TOLERANCE && edges[0]! < x && x < edges.at(-1)!) {
      fasteners.push({ piece: courseMark(n), facet: context.facet, at: [x, at], product, keptDry: 'covered' });
    }
  }
  return fasteners;
}

/** A nail that would stand too near a flange moves to the nearer side of it within its shingle. */
function outOfFlanges({ nailFree }: PlaneContext, x: number, y: number, x0: number, x1: number): number {
  const zone = nailFree.find((one) => x > one.x0 && x < one.x1 && y > one.from && y < one.to);
  if (!zone) return x;
  const ends = [zone.x0 - 1, zone.x1 + 1].filter((end) => end > x0 + END_NAIL / 2 && end < x1 - END_NAIL / 2);
  return ends.sort((a, b) => Math.abs(a - x) - Math.abs(b - x))[0] ?? x;
}

/** Is there covering at a place, and is it clear of valleys and flanges? */
const mayNail = (context: PlaneContext, at: Point, outlines: readonly Outline[]): boolean =>
  ((isRectangular(context.plane) && context.openingsAt(2).length === 0) || outlines.some((outline) => isWithin(outline, at))) &&
  !context.metal.some((outline) => isWithin(outline, at)) &&
  context.valleys.every((valley) => Math.abs(fromValley(valley, at)) >= leastOf(context.rules, 'valley.noNail')) &&
  !context.nailFree.some(({ x0, x1, from, to }) => at[0] > x0 && at[0] < x1 && at[1] > from && at[1] < to);

function nailFreeZones(context: PlaneContext): Zone[] {
  const strips = context.valleys.map((valley): Zone => ({
    facet: context.facet,
    outline: besideValley(valley, leastOf(context.rules, 'valley.noNail'), leastOf(context.rules, 'valley.noNail')),
    rule: 'valley.noNail',
    against: ['course', 'starter'],
    detail: valley.id,
  }));
  const flanges = context.nailFree.map(({ x0, x1, from, to, detail, rule }): Zone => ({
    facet: context.facet,
    outline: rectangle(x0, from, x1, to),
    rule,
    against: ['course', 'starter'],
    detail,
  }));
  return [...strips, ...flanges];
}

/** Is a place within the band beside a wall that field nails keep clear of? */
const inBand = (wall: PlacedWall, x: number, clear: number): boolean =>
  (x - wall.x) * wall.side >= -LINE_TOLERANCE && (x - wall.x) * wall.side < clear - LINE_TOLERANCE;

/** Moves nails aside from the joints of the course above, to the nearer free side; one that has neither is left out. */
function clearOfJoints(spots: readonly number[], joints: readonly number[], isFree: (x: number) => boolean): number[] {
  return spots.flatMap((x) => {
    const joint = joints.find((at) => Math.abs(at - x) < NAIL_FROM_JOINT_ABOVE);
    if (joint === undefined) return [x];
    const sides = [joint - NAIL_FROM_JOINT_ABOVE, joint + NAIL_FROM_JOINT_ABOVE].filter(isFree);
    return sides.sort((a, b) => Math.abs(a - x) - Math.abs(b - x)).slice(0, 1);
  });
}

/** Spots that fall within `clear` of a wall move to its edge; a shingle wholly inside the band keeps none there. */
function spreadClear(spots: readonly number[], low: number, high: number, walls: readonly PlacedWall[], clear: number): number[] {
  let moved = [...spots];
  for (const wall of walls) {
    const limit = wall.x + wall.side * clear;
    const inside = (x: number): boolean => inBand(wall, x, clear);
    if (!moved.some(inside)) continue;
    const [from, to] = wall.side === 1 ? [Math.max(low, limit), high] : [low, Math.min(high, limit)];
    if (to < from) moved = moved.filter((x) => !inside(x));
    else moved = moved.map((_, i) => (moved.length === 1 ? (from + to) / 2 : from + ((to - from) * i) / (moved.length - 1)));
  }
  // between two walls less than both bands apart nothing is left to nail
  return moved.filter((x) => !walls.some((wall) => inBand(wall, x, clear)));
}

/** The band kept clear of field nails goes as far up as the last step's metal, a headlap past a wall that ends on the slope. */
const bandTop = (context: PlaneContext, wall: PlacedWall): number =>
  Math.min(context.layout.slopeLength, wall.to + leastOf(context.rules, 'stepFlashing.headlap'));

function wallZone(context: PlaneContext, wall: PlacedWall): Zone[] {
  if (wall.fieldNails === 'in-headlap') return [];
  const edge = wall.x + wall.side * leastOf(context.rules, 'fieldNails.fromWall');
  const [x0, x1] = [Math.min(wall.x, edge), Math.max(wall.x, edge)];
  return [
    {
      facet: context.facet,
      outline: rectangle(x0, wall.from, x1, bandTop(context, wall)),
      rule: 'fieldNails.fromWall',
      against: ['course', 'starter'],
      detail: wall.id,
    },
  ];
}

function planStarter(context: PlaneContext, gap: number): Piece[] {
  const { job, catalog, plane, layout } = context;
  const starter = itemById(catalog, 'starter', job.covering.starter);
  const y0 = buttLine(layout, 1);
  const eaves = plane.edges.filter(({ kind }) => kind === 'eave');
  const eave = eaves.flatMap(({ from, to }) =>
    patchesRound({ x0: from[0], x1: to[0], y0, y1: Math.min(y0 + starter.height, layout.slopeLength) }, context.blocks, gap),
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
      lay: [STAGE.covering, context.orderAt(0), 0, rank, 0],
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

export type RakeStretch = { readonly x: number; readonly from: number; readonly to: number };

/** The stretches of the slope's rakes on one side that no wall takes up, lowest first; none where the plane continues. */
export function rakeStretches(context: PlaneContext, side: 'left' | 'right'): RakeStretch[] {
  const { plane, blocks } = context;
  // corners run counter-clockwise: a rake at the left is walked down, one at the right up
  const rakes = plane.edges.filter(
    ({ kind, from, to }) => kind === 'rake' && (side === 'left' ? from[1] > to[1] : to[1] > from[1]),
  );
  return rakes.flatMap((edge): RakeStretch[] => {
    const x = edge.from[0];
    const atEnd = Math.abs(x - (side === 'left' ? 0 : plane.eaveLength)) < 1;
    if (atEnd && plane[side] !== 'rake') return [];
    let free: [number, number][] = [[Math.min(edge.from[1], edge.to[1]), Math.max(edge.from[1], edge.to[1])]];
    for (const block of blocks.filter(({ x0, x1 }) => x0 <= x + LINE_TOLERANCE && x1 >= x - LINE_TOLERANCE)) {
      free = free.flatMap(([a, b]): [number, number][] => [
        [a, Math.min(b, block.from)],
        [Math.max(a, block.to), b],
      ]);
    }
    return free.filter(([a, b]) => b - a > LINE_TOLERANCE).map(([from, to]) => ({ x, from, to }));
  });
}

function starterStep(context: PlaneContext, starters: readonly Piece[]): Step {
  return {
    lay: [STAGE.covering, context.orderAt(0), 0, 0, 0],
    detail: 'covering',
    course: 0,
    stage: 'covering',
    action: [
      ...(starters.some(({ mark }) => mark === STARTER_MARK)
        ? [
            'Starter along the eave and the rakes, sealing strip outwards, ',
            cut(context.layout.firstButt),
            ' past the deck edge; joints off those of course 1.',
          ]
        : ['Starter along the rake, sealing strip outwards.']),
    ],
    pieces: starters.map(({ mark }) => mark),
    people: 1,
    caution: 'Tie off; nothing loose above the ladder.',
    keys: ['covering.firstButt'],
  };
}

function planRidge(context: PlaneContext): Piece[] {
  const { plane, job, catalog } = context;
  const capped = plane.edges.filter(
    ({ kind, from, to }) =>
      kind === 'ridge' || kind === 'hip' || (kind === 'top' && plane.top === 'ridge' && Math.abs(from[1] - to[1]) < 1),
  );
  if (capped.length === 0) return [];
  const cap = itemById(catalog, 'ridgeCap', job.covering.ridgeCap);
  const level = capped.filter(({ kind }) => kind !== 'hip');
  const patches = level.flatMap(({ from, to }) =>
    patchesRound(
      { x0: Math.min(from[0], to[0]), x1: Math.max(from[0], to[0]), y0: from[1] - cap.halfWidth, y1: from[1] },
      context.blocks,
      0,
    ),
  );
  const hips = capped.filter(({ kind }) => kind === 'hip');
  const hipLength = hips.reduce((sum, { from, to }) => sum + Math.hypot(to[0] - from[0], to[1] - from[1]), 0);
  const run = spansOf(patches).reduce((sum, [a, b]) => sum + b - a, 0) + hipLength;
  if (run <= 0) return [];
  // caps lie on both slopes of a line they share; they are counted on one
  const counted = capped.filter(({ other }) => other === undefined || plane.id < other);
  const countedLength = counted.reduce((sum, { from, to }) => sum + Math.hypot(to[0] - from[0], to[1] - from[1]), 0);
  const blocked = run < hipLength + level.reduce((sum, { from, to }) => sum + Math.abs(to[0] - from[0]), 0) - 1;
  return [
    {
      mark: RIDGE_MARK,
      detail: 'covering',
      role: 'ridgeCap',
      ...(counted.length > 0 ? { product: cap.id } : {}),
      covers: [
        ...patches.flatMap(({ x0, x1, y0, y1 }) => onPlane(plane, rectangle(x0, y0, x1, y1))),
        ...hips.flatMap(({ from, to }) => onPlane(plane, stripInside(from, to, cap.halfWidth))),
      ].map((outline) => ({ facet: context.facet, outline, holds: ['open'] })),
      lay: [STAGE.ridge, context.order, 0, 0, 0],
      liesOn: [courseMark(context.courses)],
      ...(counted.length > 0 ? { units: { whole: stepsToReach(blocked ? run : countedLength, cap.exposure), parts: [] } } : {}),
      keys: [],
    },
  ];
}

/** A strip along an edge of the slope, on the slope's side of it. */
function stripInside(from: Point, to: Point, width: number): Outline {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
  const inward: Point = [(-(to[1] - from[1]) / length) * width, ((to[0] - from[0]) / length) * width];
  return [from, to, [to[0] + inward[0], to[1] + inward[1]], [from[0] + inward[0], from[1] + inward[1]]];
}

function ridgeSteps(context: PlaneContext): Step[] {
  const pieces = planRidge(context);
  const caps = pieces[0];
  if (!caps) return [];
  return [
    {
      lay: [STAGE.ridge, context.order, 0, 0, 0],
      detail: 'covering',
      stage: 'finish',
      action: caps.units
        ? [
            `${context.plane.edges.some(({ kind }) => kind === 'hip') ? 'Cap the hips from the eave up, then the ridge,' : 'Cap the ridge'} once both slopes are laid: ${caps.units.whole} caps, away from the weather side.`,
          ]
        : ['Its ridge caps are counted and laid with the slope behind it.'],
      pieces: [RIDGE_MARK],
      people: 1,
      ...(caps.units ? { caution: 'Tie off on the ridge.' } : {}),
      keys: [],
    },
  ];
}
