import { type Feature, type FeatureOf, type Job, type PartOf, type Plane, USUAL_WALL } from '../document/index.ts';
import { type Point, byExtent, slopeFactor, slopeLength } from '../roof/index.ts';
import { type Requirements, leastOf } from '../rules/index.ts';
import { type Lines, buttLine, courseBand, interfaceLines, lastCourseAtOrBelow, lastCourseBelow } from '../surface/index.ts';
import { inches } from '../units/index.ts';
import type { Block, Footprint, Frame, Front, PlacedWall, PlaneContext } from './model.ts';
import { blockBehind, blocksBehind, placeWalls, squareWalls } from './walls.ts';

/** The covering above a back piece stops this far short of the back face or the valley line, so that the trough stays open. */
export const TROUGH = inches(2);

/** Where a feature stands on its slope's chart: its near side and front, or a pipe's centre. */
export function featurePoint(
  feature: Exclude<Feature, { kind: 'headwall' }>,
  plane: Plane,
  width: number,
): { x: number; y: number } {
  const { across } = feature;
  const x = across.from === 'left' ? across.distance : plane.eaveLength - across.distance - width;
  return { x, y: slopeLength(feature.up, plane.pitch) };
}

/** A fault is told as a spot of this size. */
const FAULT = 60;

/** The rectangle a feature takes up on its slope; a pipe's is square round it, a grid's goes round all its legs. */
export function footprint(feature: Exclude<Feature, { kind: 'headwall' }>, plane: Plane): Footprint {
  switch (feature.kind) {
    case 'chimney': {
      const { x, y } = featurePoint(feature, plane, feature.width);
      return { x0: x, x1: x + feature.width, from: y, to: y + feature.depth * slopeFactor(plane.pitch) };
    }
    case 'skylight': {
      const { x, y } = featurePoint(feature, plane, feature.width);
      return { x0: x, x1: x + feature.width, from: y, to: y + feature.height };
    }
    case 'pipe': {
      const { x, y } = featurePoint(feature, plane, 0);
      const half = feature.diameter / 2;
      // a pipe stands plumb: cut by the slope it is longer up the slope than across
      const up = half * slopeFactor(plane.pitch);
      return { x0: x - half, x1: x + half, from: y - up, to: y + up };
    }
    case 'tileFault': {
      const { x, y } = featurePoint(feature, plane, 0);
      return { x0: x - FAULT / 2, x1: x + FAULT / 2, from: y - FAULT / 2, to: y + FAULT / 2 };
    }
    case 'standoffs': {
      const width = (feature.columns - 1) * feature.spacingAcross;
      const { x, y } = featurePoint(feature, plane, width);
      return { x0: x, x1: x + width, from: y, to: y + (feature.rows - 1) * feature.spacingUp };
    }
  }
}

type Standing = { walls: PlacedWall[]; fronts: Front[]; frames: Frame[] };

const faceWall = (
  id: string,
  name: string,
  side: 1 | -1,
  frame: Frame,
  rest: Required<Pick<PlacedWall, 'face'>> &
    Pick<PlacedWall, 'height' | 'cladding' | 'counter' | 'jointSpacing' | 'stepFlashing' | 'inKit'>,
): PlacedWall => ({
  id,
  name,
  side,
  stands: side === 1 ? 'left' : 'right',
  x: side === 1 ? frame.x1 : frame.x0,
  from: frame.from,
  to: frame.to,
  besideTiles: 'cover flashing',
  slant: null,
  lean: 0,
  runsPastEave: false,
  foot: 'corner',
  apronLeg: frame.apronLeg,
  nailSide: 'deck',
  fieldNails: 'clear-of-wall',
  partOf: frame.id,
  ...rest,
});

/**
 * How far a back piece goes up the slope behind a frame: at least `least`, and a headlap past the line up to which the first course over it
 * may have an open joint there.
 */
export function upBehind(lines: Lines, frame: Footprint, least: number): number {
  const { last } = interfaceLines(lines, frame.from, frame.to);
  // units that lap once lock into each other: no joint is open over the line they end on
  const openUpTo = lines.reach < 2 * lines.gauge ? last + 1 : last + 2;
  return Math.max(least, buttLine(lines, openUpTo) + BACK_HEADLAP - frame.to);
}

const BACK_HEADLAP = inches(2.5);

/** The sill flashing's leg on the covering. */
export const SILL_LEG = inches(4);

/** A corner piece laps an ear by this much at least. */
const EAR_LAP = inches(2.5);

/**
 * How far the ears of an apron or sill, whose leg begins `leg` below a face at `y`, run up beside the face: until the corner piece, where it starts
 * high, laps them properly.
 */
export const earRise = (lines: Lines, y: number, leg: number): number =>
  Math.max(0, Math.max(buttLine(lines, lastCourseAtOrBelow(lines, y)), y - leg) + EAR_LAP - y);

/** Every wall that meets the slope, told by the crew or following from what stands on it. */
export function standOn(job: Job, plane: Plane): Standing {
  const slope = plane.slope.length;
  const walls = placeWalls(plane.walls, slope);
  const fronts: Front[] = [];
  const frames: Frame[] = [];
  addCorners(plane, walls, fronts, frames);
  for (const feature of job.features) {
    if (feature.plane !== plane.id) continue;
    if (feature.kind === 'chimney') addChimney(feature, plane, walls, fronts, frames);
    if (feature.kind === 'skylight') addSkylight(feature, plane, walls, frames);
    if (feature.kind === 'headwall') fronts.push(headwallFront(feature, plane, walls));
  }
  addDormers(job, plane, walls, fronts, frames);
  addCrossGables(job, plane, walls);
  walls.sort((a, b) => a.x - b.x || a.from - b.from || (a.id < b.id ? -1 : 1));
  return { walls, fronts, frames };
}

/**
 * A wall that begins up the slope has a front: what stands behind it turns its face down the slope, from its corner to the slope's end or to
 * the wall that closes it. Where it stands at the slope's very end its front is beside the roof, not on it.
 */
function addCorners(plane: Plane, walls: PlacedWall[], fronts: Front[], frames: Frame[]): void {
  const own = [...walls];
  for (const wall of own) {
    if (wall.from === 0 || frames.some((frame) => frame.id === walls.find(({ id }) => id === wall.id)!.partOf)) continue;
    const { x0, x1 } = blockBehind(wall, own, plane.eaveLength);
    const far = wall.side === 1 ? x0 : x1;
    const closing = own.find((other) => other !== wall && other.x === far && other.from === wall.from);
    const { id, name, from, to, height, cladding, apronLeg, jointSpacing } = wall;
    for (const one of [wall, closing]) if (one) walls[walls.indexOf(one)] = { ...one, partOf: id };
    frames.push({ id, x0, x1, from, to, apronLeg, hasBack: false });
    if (x1 - x0 < 1) continue;
    const end = closing ? 'corner' : own.some((other) => other.x === far) ? 'wall' : 'end';
    fronts.push({
      id: `${id}F`,
      name: `${name}, front`,
      x0,
      x1,
      y: from,
      height,
      cladding,
      apronLeg,
      apron: 'exposed',
      counter: wall.counter === 'repair' ? 'repair' : 'reglet',
      jointSpacing,
      left: wall.side === 1 ? end : 'corner',
      right: wall.side === 1 ? 'corner' : end,
    });
  }
}

function addChimney(chimney: FeatureOf<'chimney'>, plane: Plane, walls: PlacedWall[], fronts: Front[], frames: Frame[]): void {
  const { id, name, apronLeg, height, counter, jointSpacing, stepFlashing } = chimney;
  const frame: Frame = { ...footprint(chimney, plane), id, apronLeg, hasBack: true };
  const cladding = chimney.masonry ? 'masonry' : 'boards';
  const rest = { face: 'chimney', height, cladding, counter, jointSpacing, stepFlashing } as const;
  frames.push(frame);
  walls.push(
    faceWall(`${id}L`, `${name}, left side`, -1, frame, rest),
    faceWall(`${id}R`, `${name}, right side`, 1, frame, rest),
  );
  fronts.push({
    id: `${id}F`,
    name: `${name}, front`,
    x0: frame.x0,
    x1: frame.x1,
    y: frame.from,
    height,
    cladding,
    apronLeg,
    apron: 'exposed',
    counter: counter === 'repair' ? 'repair' : 'reglet',
    jointSpacing,
    left: 'corner',
    right: 'corner',
  });
}

function addSkylight(skylight: FeatureOf<'skylight'>, plane: Plane, walls: PlacedWall[], frames: Frame[]): void {
  const { id, name, upstand } = skylight;
  const frame: Frame = { ...footprint(skylight, plane), id, apronLeg: SILL_LEG, hasBack: true };
  const rest = {
    face: 'frame',
    height: upstand,
    cladding: 'frame',
    counter: 'reglet',
    jointSpacing: inches(8 / 3),
    stepFlashing: null,
    inKit: skylight.flashing === 'kit',
  } as const;
  frames.push(frame);
  walls.push(
    faceWall(`${id}L`, `${name}, left side`, -1, frame, rest),
    faceWall(`${id}R`, `${name}, right side`, 1, frame, rest),
  );
}

function headwallFront(headwall: FeatureOf<'headwall'>, plane: Plane, walls: readonly PlacedWall[]): Front {
  const y = plane.slope.length;
  const top = plane.edges.filter(({ from, to }) => Math.abs(from[1] - y) < 1 && Math.abs(to[1] - y) < 1);
  const xs = top.flatMap(({ from, to }) => [from[0], to[0]]);
  const [x0, x1] = xs.length > 0 ? [Math.min(...xs), Math.max(...xs)] : [0, plane.eaveLength];
  const meets = (x: number): boolean => walls.some((wall) => Math.abs(wall.x - x) < 1 && wall.to > y - 1);
  return {
    id: headwall.id,
    name: headwall.name,
    x0,
    x1,
    y,
    height: headwall.height,
    cladding: headwall.cladding,
    apronLeg: headwall.apronLeg,
    apron: headwall.apron,
    counter: headwall.counter,
    jointSpacing: headwall.jointSpacing,
    left: meets(x0) ? 'wall' : 'end',
    right: meets(x1) ? 'wall' : 'end',
  };
}

/** Is an edge of the host's slope where a side wall of the dormer or cross gable stands? */
export const isCheek = (part: PartOf<'dormer' | 'crossGable'>, from: Point, to: Point): boolean =>
  Math.abs(from[0] - to[0]) < 1 && Math.abs(Math.abs(from[0] - part.centre) - halfOf(part)) < 1;

const halfOf = (part: PartOf<'dormer' | 'crossGable'>): number => (part.kind === 'dormer' ? part.width / 2 : part.halfWidth);

/** Side walls of a cross gable whose eaves stand above the slope's, from the eave up to where its valleys begin. */
function addCrossGables(job: Job, plane: Plane, walls: PlacedWall[]): void {
  const crossing = job.parts.filter((part) => part.kind === 'crossGable');
  crossing.forEach((part, i) => {
    if (part.host !== plane.id) return;
    for (const { kind, from, to } of plane.edges) {
      if (kind !== 'wall' || !isCheek(part, from, to)) continue;
      const side = from[0] < part.centre ? -1 : 1;
      walls.push({
        id: `CG${i + 1}${side === -1 ? 'L' : 'R'}`,
        name: `${part.name}, ${side === -1 ? 'left' : 'right'} side`,
        side,
        stands: side === 1 ? 'left' : 'right',
        x: from[0],
        from: Math.max(0, Math.min(from[1], to[1])),
        to: Math.max(from[1], to[1]),
        height: part.rise,
        cladding: part.cladding,
        runsPastEave: part.projection > 0,
        foot: part.projection > 0 ? 'kick-out' : 'corner',
        ...USUAL_WALL,
        lean: 0,
      });
    }
  });
}

/** Sidewalls and front of every dormer on the slope, found where the slope ends against something higher. */
function addDormers(job: Job, plane: Plane, walls: PlacedWall[], fronts: Front[], frames: Frame[]): void {
  const dormers = job.parts.filter((part) => part.kind === 'dormer');
  dormers.forEach((part, i) => {
    if (part.host !== plane.id) return;
    const sides = plane.edges.filter(({ kind, from, to }) => kind === 'wall' && isCheek(part, from, to));
    const ys = sides.flatMap(({ from, to }) => [from[1], to[1]]);
    const id = `D${i + 1}`;
    const frame: Frame = {
      id,
      x0: part.centre - part.width / 2,
      x1: part.centre + part.width / 2,
      from: Math.min(...ys),
      to: Math.max(...ys),
      apronLeg: inches(5),
      hasBack: false,
    };
    frames.push(frame);
    const rest = {
      face: 'cheek',
      height: part.height,
      cladding: part.cladding,
      counter: 'reglet',
      jointSpacing: inches(8 / 3),
      stepFlashing: null,
    } as const;
    walls.push(
      faceWall(`${id}L`, `${part.name}, left cheek`, -1, frame, rest),
      faceWall(`${id}R`, `${part.name}, right cheek`, 1, frame, rest),
    );
    fronts.push({
      id: `${id}F`,
      name: `${part.name}, front`,
      x0: frame.x0,
      x1: frame.x1,
      y: frame.from,
      height: part.height,
      cladding: part.cladding,
      apronLeg: frame.apronLeg,
      apron: 'exposed',
      counter: 'reglet',
      jointSpacing: inches(8 / 3),
      left: 'corner',
      right: 'corner',
    });
  });
}

/** An apron's roof leg as it is planned: what the crew asked for, but no less than what governs. */
export const apronLegFor = ({ rules }: { readonly rules: Requirements }, asked: number): number =>
  Math.max(asked, leastOf(rules, 'apron.roofLeg'));

/** The last course under an apron of roof leg `apronLeg` whose wall stands at `y`: the last n with y(n) < y − a. */
export const lastUnderApron = (lines: Lines, y: number, apronLeg: number): number => lastCourseBelow(lines, y - apronLeg);

/**
 * What each course is cut round. In front of a frame the courses over its apron's leg are left out; beside it they stop at its faces;
 * behind it the first course stops short of the back so that the trough stays open, and no tail of a lower course is squeezed in there.
 */
export function blocksByCourse(
  { walls, frames, plane, lines }: Pick<PlaneContext, 'walls' | 'frames' | 'plane' | 'lines'>,
  crickets: ReadonlySet<string>,
): (course: number) => Block[] {
  const others = squareWalls(walls).filter((wall) => wall.partOf === undefined);
  const besideWalls = byExtent(blocksBehind(others, plane.eaveLength), ({ from, to }) => [from, to]);
  const placed = frames.map((frame) => ({
    ...frame,
    under: lastUnderApron(lines, frame.from, frame.apronLeg),
    beside: interfaceLines(lines, frame.from, frame.to).last,
  }));
  // a course lies in front of it, beside it or behind it: its own lines may be farther off than its faces
  const near = byExtent(placed, ({ from, to, under, beside }) => [
    Math.min(from, buttLine(lines, under + 1)),
    Math.max(to + TROUGH, buttLine(lines, beside)),
  ]);
  return (n) => {
    const [low, high] = courseBand(lines, n);
    return [
      ...besideWalls(low, high),
      ...near(low, high).map(({ id, x0, x1, from, to, hasBack, under, beside }): Block => ({
        x0,
        x1,
        from: n > under ? Number.NEGATIVE_INFINITY : from,
        // under a cricket's flange the tails of the courses beside go on, cut to its valleys like the rest
        to: !hasBack || crickets.has(id) ? to : n > beside ? to + TROUGH : Number.POSITIVE_INFINITY,
      })),
    ];
  };
}
