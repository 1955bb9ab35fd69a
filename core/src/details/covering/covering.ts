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
import { rectangle } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import { LINE_TOLERANCE, inches, stepsToReach } from '../../units/index.ts';
import type { PlaneContext, PlacedWall } from '../context.ts';
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
  const courses = Array.from({ length: context.courses }, (_, i) =>
    planCourse(context, i + 1, patchesRound(body(i + 1), context.blocks, gap), nail?.id),
  );
  const starters = planStarter(context, gap);
  return {
    ...emptyAssembly,
    facets: [
      {
        id: context.facet,
        kind: 'roof',
        name: plane.name,
        outline: rectangle(0, 0, plane.eaveLength, layout.slopeLength),
        fall: [0, -1],
        angle: context.angle,
        taken: context.blocks
          .filter(({ x0, x1 }) => x1 > x0)
          .map(({ x0, x1, from, to }) => rectangle(x0, Math.max(from, 0), x1, to)),
      },
    ],
    pieces: [...starters, ...courses.flatMap(({ piece }) => piece), ...planRidge(context)],
    fasteners: courses.flatMap(({ fasteners }) => fasteners),
    zones: context.walls.flatMap((wall) => wallZone(context, wall)),
    steps: [starterStep(context, starters), ...courses.flatMap(({ step }) => step), ...ridgeSteps(context)],
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

function planCourse(context: PlaneContext, n: number, patches: Patch[], nail: string | undefined): PlannedCourse {
  const { layout, shingle, rules } = context;
  const spans = spansOf(patches);
  if (spans.length === 0) return { piece: [], fasteners: [], step: [] };
  const units = spans.map(([x0, x1]) => shinglesIn(n, x0, x1, shingle.width, shingle.bondOffset));
  const perShingle = leastOf(rules, 'covering.nails');
  const fasteners = nail === undefined ? [] : units.flatMap(({ edges }) => courseNails(context, n, edges, perShingle, nail));
  const first = units[0]!.edges[1]! - units[0]!.edges[0]!;
  const piece: Piece = {
    mark: courseMark(n),
    detail: 'covering',
    role: 'course',
    product: shingle.id,
    course: n,
    covers: patches.map(({ x0, x1, y0, y1 }) => ({ facet: context.facet, outline: rectangle(x0, y0, x1, y1), holds: ['open'] })),
    lay: [STAGE.covering, n, 1, 0],
    liesOn: [n === 1 ? STARTER_MARK : courseMark(n - 1)],
    joints: units.flatMap(({ edges }) => edges.slice(1, -1)),
    units: { whole: units.reduce((sum, { whole }) => sum + whole, 0), parts: units.flatMap(({ parts }) => parts) },
    keys: ['covering.exposure', 'covering.nails', 'covering.jointOffset', 'covering.gapAtWall'],
  };
  const chalk = chalkLine(layout, n);
  const step: Step = {
    lay: [STAGE.covering, n, 1, 0],
    detail: 'covering',
    course: n,
    stage: 'covering',
    action: [
      `Lay course ${n}, `,
      ...(chalk <= layout.slopeLength ? ['chalk line ', mm(chalk)] : ['tops cut off at the ridge, ', mm(layout.slopeLength)]),
      `; first shingle from the left ${first < shingle.width - LINE_TOLERANCE ? 'cut to ' : 'whole, '}`,
      cut(first),
      spans.length > 1 ? `; it comes in ${spans.length} stretches.` : '.',
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

/** Shingle edges across one stretch of a course, with the whole shingles and the lengths cut at its ends. */
function shinglesIn(
  n: number,
  x0: number,
  x1: number,
  width: number,
  offset: number,
): { edges: number[]; whole: number; parts: number[] } {
  const edges = [x0, ...courseJoints(n, x0, x1, width, offset), x1];
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
      wall.x >= left && wall.x <= right && y >= wall.from - LINE_TOLERANCE && y <= bandTop(context, wall) + LINE_TOLERANCE,
  );
  const fasteners: Fastener[] = [];
  const jointsAbove = courseJoints(n + 1, left, right, shingle.width, shingle.bondOffset);
  for (let i = 1; i < edges.length; i++) {
    const [x0, x1] = [edges[i - 1]!, edges[i]!];
    const inset = Math.min(END_NAIL, (x1 - x0) / 4);
    const isFree = (x: number): boolean => x > x0 && x < x1 && !beside.some((wall) => inBand(wall, x, clear));
    const share = Math.max(1, Math.min(perShingle, Math.ceil((perShingle * (x1 - x0)) / shingle.width)));
    const spots = Array.from({ length: share }, (_, j) =>
      share === 1 ? (x0 + x1) / 2 : x0 + inset + ((x1 - x0 - 2 * inset) * j) / (share - 1),
    );
    for (const x of clearOfJoints(spreadClear(spots, x0 + inset, x1 - inset, beside, clear), jointsAbove, isFree)) {
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
  const eave = patchesRound(
    { x0: 0, x1: plane.eaveLength, y0, y1: Math.min(y0 + starter.height, layout.slopeLength) },
    context.blocks,
    gap,
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
      covers: patches.map((patch) => ({
        facet: context.facet,
        outline: rectangle(patch.x0, patch.y0, patch.x1, patch.y1),
        holds: ['open'],
      })),
      lay: [STAGE.covering, 0, rank, 0],
      liesOn,
      units: { whole, parts: rest > LINE_TOLERANCE ? [rest] : [] },
      keys: [],
    };
  };
  const pieces = [
    piece(
      STARTER_MARK,
      eave,
      spansOf(eave).reduce((sum, [a, b]) => sum + b - a, 0),
      0,
      [],
    ),
  ];
  for (const side of ['left', 'right'] as const) {
    const stretches = rakeStretches(context, side);
    if (stretches.length === 0) continue;
    const [x0, x1] = side === 'left' ? [0, starter.height] : [plane.eaveLength - starter.height, plane.eaveLength];
    const patches = stretches
      .map(([from, to]) => ({
        x0: Math.max(0, x0),
        x1: Math.min(plane.eaveLength, x1),
        y0: Math.max(from, y0 + starter.height),
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

/** The stretches of a rake edge that no wall takes up, lowest first; none where the plane continues. */
export function rakeStretches(context: PlaneContext, side: 'left' | 'right'): [number, number][] {
  const { plane, layout, blocks } = context;
  if (plane[side] !== 'rake') return [];
  const x = side === 'left' ? 0 : plane.eaveLength;
  let free: [number, number][] = [[0, layout.slopeLength]];
  for (const block of blocks.filter(({ x0, x1 }) => x0 <= x + LINE_TOLERANCE && x1 >= x - LINE_TOLERANCE)) {
    free = free.flatMap(([a, b]): [number, number][] => [
      [a, Math.min(b, block.from)],
      [Math.max(a, block.to), b],
    ]);
  }
  return free.filter(([a, b]) => b - a > LINE_TOLERANCE);
}

function starterStep(context: PlaneContext, starters: readonly Piece[]): Step {
  return {
    lay: [STAGE.covering, 0, 0, 0],
    detail: 'covering',
    course: 0,
    stage: 'covering',
    action: [
      'Starter along the eave and the rakes, sealing strip outwards, ',
      cut(context.layout.firstButt),
      ' past the deck edge; joints off those of course 1.',
    ],
    pieces: starters.map(({ mark }) => mark),
    people: 1,
    caution: 'Tie off; nothing loose above the ladder.',
    keys: ['covering.firstButt'],
  };
}

function planRidge(context: PlaneContext): Piece[] {
  const { plane, layout, job, catalog } = context;
  if (plane.top !== 'ridge') return [];
  const cap = itemById(catalog, 'ridgeCap', job.covering.ridgeCap);
  const top = layout.slopeLength;
  const patches = patchesRound({ x0: 0, x1: plane.eaveLength, y0: top - cap.halfWidth, y1: top }, context.blocks, 0);
  const run = spansOf(patches).reduce((sum, [a, b]) => sum + b - a, 0);
  if (run <= 0) return [];
  return [
    {
      mark: RIDGE_MARK,
      detail: 'covering',
      role: 'ridgeCap',
      product: cap.id,
      covers: patches.map(({ x0, x1, y0, y1 }) => ({
        facet: context.facet,
        outline: rectangle(x0, y0, x1, y1),
        holds: ['open'],
      })),
      lay: [STAGE.ridge, 0, 0, 0],
      liesOn: [courseMark(context.courses)],
      units: { whole: stepsToReach(run, cap.exposure), parts: [] },
      keys: [],
    },
  ];
}

function ridgeSteps(context: PlaneContext): Step[] {
  const pieces = planRidge(context);
  if (pieces.length === 0) return [];
  return [
    {
      lay: [STAGE.ridge, 0, 0, 0],
      detail: 'covering',
      stage: 'finish',
      action: [`Cap the ridge once both slopes are laid: ${pieces[0]!.units!.whole} caps, away from the weather side.`],
      pieces: [RIDGE_MARK],
      people: 1,
      caution: 'Tie off on the ridge.',
      keys: [],
    },
  ];
}
