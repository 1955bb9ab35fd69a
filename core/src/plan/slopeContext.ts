import { DETAILS, type Valley } from '../details/index.ts';
import type { Job, Library, Plane } from '../document/index.ts';
import { type Outline, type Span, bounds, byExtent, pitchAngle, slopeFactor } from '../roof/index.ts';
import type { Requirements } from '../rules/index.ts';
import {
  type PlacedWall,
  type PlaneContext,
  type SidePiece,
  type ValleySide,
  apronLegFor,
  asksOf,
  besideValley,
  blocksByCourse,
  cricketBehind,
  findStanding,
  lastUnderApron,
  onLine,
  pickStep,
  standingBlocks,
  standOn,
} from '../slope/index.ts';
import { type Lines, buttLine, chalkLine, courseBand, gaugeAt } from '../surface/index.ts';
import { inches } from '../units/index.ts';
import type { Order } from './order.ts';
import type { LaidOut } from './rulesOf.ts';

/** Wraps reach this far on to the deck beside what they wrap, and an inch. */
const WRAP = inches(7);

/** And a valley's sheet at its foot, as wide as half of it. */
const BESIDE_FOOT = inches(19);

/** All that the families need to know of one slope; `other` gives another slope’s, once all are made. */
export function contextOf(
  job: Job,
  plane: Plane,
  library: Library,
  { covering, rules, surface: whole }: LaidOut,
  valleys: readonly Valley[],
  order: Order,
  other: PlaneContext['other'],
): PlaneContext {
  const { walls, fronts, frames } = withApronLegs(standOn(job, plane), rules);
  const top = fronts.find(({ y }) => y > whole.lines.end - 1);
  // the last course goes under the apron of the wall along the top
  const lines = top
    ? { ...whole.lines, count: Math.min(whole.lines.count, lastUnderApron(whole.lines, top.y, top.apronLeg)) }
    : whole.lines;
  const sides = valleys.flatMap((valley) => valley.sides.filter(({ plane: id }) => id === plane.id).map(({ side }) => side));
  const blocks = standingBlocks(walls, frames, plane);
  const features = job.features.filter((feature) => feature.plane === plane.id);
  const steps = new Map<string, SidePiece | undefined>();
  const stepAt = (wall: PlacedWall): SidePiece | undefined => {
    if (!steps.has(wall.id)) steps.set(wall.id, pickStep(base, wall).item);
    return steps.get(wall.id);
  };
  const base = {
    job,
    plane,
    covering,
    catalog: library.catalog,
    rules,
    lines,
    surface: { ...whole, lines },
    slopeFactor: slopeFactor(plane.pitch),
    angle: pitchAngle(plane.pitch),
    walls,
    frames,
    blocks,
    blocksAt: byExtent(blocks, ({ from, to }) => [from, to]),
    fronts,
    valleys: sides,
    features,
    found: findStanding(walls, frames, fronts, features),
    order: order.sheets,
    orderAt: (course: number): number => {
      const { place, woven } = order.courses.findLast(({ above }) => course > above || above === 0)!;
      return woven ? place + heightOf(plane, buttLine(lines, course)) / FAR_ABOVE : place;
    },
    vented: false,
    facet: plane.id,
    stepLeg: (wall: PlacedWall): number => stepAt(wall)?.roofLeg ?? 0,
    stepLength: (wall: PlacedWall): number => stepAt(wall)?.length ?? 0,
    other,
  };
  const details = asksOf(DETAILS, base);
  const crickets = new Set(
    base.features.flatMap((feature) => (feature.kind === 'chimney' && cricketBehind(base, feature) ? [feature.id] : [])),
  );
  const standing = blocksByCourse(base, crickets);
  const openings = byExtent(details.openings, upSlope);
  return {
    ...base,
    blocksFor: (n) => [...standing(n), ...details.blocksFor(n)],
    openingsAt: (n) => [
      // in a closed valley the starter and the first course of both sides meet on the centre, woven
      // below a dormer's eave the courses run on to the centre, under what the dormer's valley brings
      ...sides
        .filter(({ role, footOn }) => n > footOn && (role === 'open' || (role === 'cut' && n > 1)))
        .map((side) => besideValley(side, side.clearLow, side.clearHigh)),
      ...openings(...courseBand(lines, n)),
    ],
    pierced: details.pierced,
    pipes: details.pipes,
    slits: [
      ...frames.map(({ x0, x1, from }) => ({ x0: x0 - WRAP, x1: x1 + WRAP, from })),
      ...valleySlits(sides),
      ...details.slits,
    ].sort((a, b) => a.from - b.from),
    metal: details.metal,
    metalAt: byExtent(details.metal, upSlope),
    nailFree: details.nailFree,
    nailFreeAt: byExtent(details.nailFree, ({ from, to }) => [from, to]),
    jointFree: details.jointFree,
    doubled: details.doubled,
    jointOff: (n) => [
      ...details.jointOff(n),
      ...sides.filter(({ footOn }) => n > footOn).flatMap((side) => nearValley(side, lines, n)),
      // beside a frame a step's nail stands at its outer edge, in the course under it
      ...base.found.wallsAt(...courseBand(lines, n)).flatMap((wall) => {
        if (
          wall.partOf === undefined ||
          buttLine(lines, n) >= wall.to - 1 ||
          chalkLine(lines, n) <= wall.from - gaugeAt(lines, n)
        )
          return [];
        const far = wall.x + wall.side * (base.stepLeg(wall) + inches(2.25));
        return [{ x0: Math.min(wall.x, far), x1: Math.max(wall.x, far) }];
      }),
    ],
  };
}

/** From where to where up the slope an outline reaches. */
function upSlope(outline: Outline): Span {
  const { y0, y1 } = bounds(outline);
  return [y0, y1];
}

/** No apron's leg on the roof is shorter than what governs, whatever was asked for; one that is left out has none. */
function withApronLegs({ walls, fronts, frames }: ReturnType<typeof standOn>, rules: Requirements): ReturnType<typeof standOn> {
  const long = <T extends { readonly apronLeg: number }>(one: T): T => ({
    ...one,
    apronLeg: apronLegFor({ rules }, one.apronLeg),
  });
  const laid = fronts.map((front) => (front.apron === 'left out' ? { ...front, apronLeg: 0 } : long(front)));
  return { walls: walls.map(long), fronts: laid, frames: frames.map(long) };
}

/** Higher than any roof: heights divided by it order courses within one place. */
const FAR_ABOVE = 1e7;

const heightOf = ({ joined, pitch }: Plane, y: number): number => joined.face.place.height + (y / slopeFactor(pitch)) * pitch;

/** Where a course is cut along a valley no joint stands in or beside what is cut. */
function nearValley({ low, high, role }: ValleySide, lines: Lines, n: number): { x0: number; x1: number }[] {
  const [from, to] = [Math.max(buttLine(lines, n), low[1]), Math.min(chalkLine(lines, n), high[1])];
  if (from >= to || role === 'through' || role === 'woven') return [];
  const [p, q] = [onLine(low, high, from), onLine(low, high, to)];
  return [{ x0: Math.min(p, q) - JOINT_BESIDE_VALLEY, x1: Math.max(p, q) + JOINT_BESIDE_VALLEY }];
}

/** Water that creeps 2 in from a joint (the reserve a plan is to have) stays on the course below. */
const JOINT_BESIDE_VALLEY = inches(2.5);

/** Where a valley begins up the slope its sheet lies on the underlayment below its foot and under that above. */
const valleySlits = (sides: readonly ValleySide[]): PlaneContext['slits'] =>
  sides
    .filter(({ footOn }) => footOn > 0)
    .map(({ low, high, side }) => ({
      x0: Math.min(low[0] + side * BESIDE_FOOT, high[0]),
      x1: Math.max(low[0] + side * BESIDE_FOOT, high[0]),
      from: low[1],
    }));
