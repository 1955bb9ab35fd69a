import { findItem } from '../catalog/index.ts';
import { familyOf } from '../coverings/index.ts';
import {
  type Issue,
  type Job,
  type Library,
  type Plane,
  type Wall,
  contradictions,
  coveringOf,
  isSlanted,
  planesOf,
  productsNamedBy,
} from '../document/index.ts';
import {
  type Outline,
  type Point,
  distanceToStretch,
  heightAt,
  intersectOutlines,
  isWithin,
  outlineArea,
  rectangle,
} from '../roof/index.ts';
import { type Requirements, findPack } from '../rules/index.ts';
import { rulesIn } from './rulesOf.ts';
import { type Footprint, type PlacedWall, blocksBehind, footprint, isCheek, placeWalls, squareWalls } from '../slope/index.ts';
import { LINE_TOLERANCE, NOISE, inches, printLength } from '../units/index.ts';

/**
 * What the schema cannot see: items and packs that do not exist, a pitch under the covering's least, an exposure over the greatest,
 * walls that do not fit their slope. An empty list means the job can be planned.
 */
export function checkJob(job: Job, library: Library): Issue[] {
  const missing = checkReferences(job, library);
  if (missing.length > 0) return missing;
  const doubled = checkIds(job);
  if (doubled.length > 0) return doubled;
  const contradicting = contradictions(job);
  if (contradicting.length > 0) return contradicting;
  const { planes, problems } = planesOf(job);
  if (problems.length > 0) return problems.map(({ part, field, message }) => ({ path: `parts.${part}.${field}`, message }));
  const hidden = job.parts.flatMap((part, i) =>
    part.planes
      .filter(({ id }) => !planes.some((plane) => plane.id === id))
      .map(({ name }) => ({
        path: `parts.${i}.planes`,
        message: `${name}: other parts of the roof cover it wholly; move or shrink them.`,
      })),
  );
  const rulesAt = rulesIn(job, library);
  return [
    ...hidden,
    ...planes.flatMap((plane) => [
      ...checkCovering(job, plane, library, rulesAt(plane)),
      ...checkButts(job, plane, familyOf(coveringOf(job, plane)).overhang(coveringOf(job, plane))),
      ...checkWalls(job, plane),
    ]),
    ...checkMeeting(job, planes),
    ...checkDormers(job, planes),
    ...checkFeatures(job, planes),
  ];
}

/** Where a slope's record stands in the document. */
function pathOf(job: Job, plane: { readonly id: string }): { part: string; record: string } {
  for (const [i, part] of job.parts.entries())
    for (const [j, { id }] of part.planes.entries())
      if (id === plane.id) return { part: `parts.${i}`, record: `parts.${i}.planes.${j}` };
  throw new Error(`no slope ${plane.id}`);
}

function checkIds(job: Job): Issue[] {
  const issues: Issue[] = [];
  const coverings = new Set<string>();
  job.coverings.forEach(({ id, name }, i) => {
    if (coverings.has(id)) issues.push({ path: `coverings.${i}.id`, message: `${name}: another covering has the id "${id}".` });
    coverings.add(id);
  });
  const planes = new Set<string>();
  const parts = new Set<string>();
  const marks = new Set<string>();
  job.parts.forEach((part, i) => {
    if (parts.has(part.id))
      issues.push({ path: `parts.${i}.id`, message: `${part.name}: another part of the roof has the id "${part.id}".` });
    parts.add(part.id);
    part.planes.forEach((plane, j) => {
      if (planes.has(plane.id))
        issues.push({ path: `parts.${i}.planes.${j}.id`, message: `${plane.name}: another slope has the id "${plane.id}".` });
      planes.add(plane.id);
      if (!coverings.has(plane.covering))
        issues.push({
          path: `parts.${i}.planes.${j}.covering`,
          message: `${plane.name}, covering: there is no covering "${plane.covering}".`,
        });
      plane.walls.forEach((wall, w) => {
        if (marks.has(wall.id))
          issues.push({
            path: `parts.${i}.planes.${j}.walls.${w}.id`,
            message: `${wall.name}, mark: another wall is already marked ${wall.id}.`,
          });
        marks.add(wall.id);
      });
    });
  });
  job.features.forEach((feature, i) => {
    if (marks.has(feature.id))
      issues.push({
        path: `features.${i}.id`,
        message: `${feature.name}, mark: something else is already marked ${feature.id}.`,
      });
    marks.add(feature.id);
    if (!planes.has(feature.plane))
      issues.push({ path: `features.${i}.plane`, message: `${feature.name}, slope: there is no slope "${feature.plane}".` });
  });
  return issues;
}

/** Slopes of different parts whose edges lie over one another in plan but not in height. */
function checkMeeting(job: Job, planes: readonly Plane[]): Issue[] {
  const issues: Issue[] = [];
  const edges = planes.map(outer);
  planes.forEach((plane, i) => {
    for (const [j, other] of planes.entries()) {
      if (j <= i || other.part === plane.part) continue;
      // what stands on a slope rises from it beside its side walls; roofs set edge to edge have no such wall
      const onIt = standsOn(job, plane, other) || standsOn(job, other, plane);
      const told = ({ wall }: EdgeInPlan): boolean => !(wall && onIt);
      const theirEdges = edges[j]!.filter(told);
      const miss = edges[i]!.filter(told).flatMap(({ from, to }) => {
        const middle: [number, number] = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];
        if (!theirEdges.some((edge) => distanceToStretch(middle, edge.from, edge.to) < 13)) return [];
        const apart = Math.abs(heightAt(plane.joined.face, middle) - heightAt(other.joined.face, middle));
        return apart > 1 && apart < 150 ? [apart] : [];
      });
      if (miss.length > 0)
        issues.push({
          path: `${pathOf(job, other).part}.place.height`,
          message: `${other.name} and ${plane.name} do not meet: their edges stand over one another in plan but ${printLength(miss[0]!, job.units)} apart in height; check the pitches, runs and eave heights.`,
        });
    }
  });
  return issues;
}

/** A dormer stands wholly on its slope: both its side walls rise from it, and its valleys run down on to it alone. */
function checkDormers(job: Job, planes: readonly Plane[]): Issue[] {
  return job.parts.flatMap((part, i): Issue[] => {
    if (part.kind !== 'dormer') return [];
    const host = planes.find(({ id }) => id === part.host);
    const own = planes.filter((plane) => plane.part === part.id);
    const astray = own
      .flatMap(({ edges }) => edges)
      .find(({ kind, other }) => kind !== 'ridge' && other !== undefined && other !== part.host);
    const walls = host?.edges.filter(({ kind, from, to }) => kind === 'wall' && isCheek(part, from, to)) ?? [];
    if (!astray && walls.length === 2) return [];
    const other = astray && planes.find(({ id }) => id === astray.other);
    return [
      {
        path: `parts.${i}.centre`,
        message: `${part.name}, its middle: there it runs ${other ? `on to ${other.name}` : `off ${host?.name ?? 'its slope'}`}; move it, or make it narrower or lower.`,
      },
    ];
  });
}

type EdgeInPlan = { readonly from: Point; readonly to: Point; readonly wall: boolean };

const standsOn = (job: Job, above: Plane, below: Plane): boolean =>
  job.parts.some((part) => part.id === above.part && 'host' in part && part.host === below.id);

/** A slope's edges in plan that no other slope shares. */
const outer = ({ joined }: Plane): EdgeInPlan[] =>
  joined.plan.flatMap((from, i): EdgeInPlan[] => {
    const edge = joined.edges[i];
    if (!edge || edge.other !== undefined) return [];
    return [{ from, to: joined.plan[(i + 1) % joined.plan.length]!, wall: edge.kind === 'wall' }];
  });

const rectangleOf = ({ x0, x1, from, to }: Footprint): Outline => rectangle(x0, from, x1, to);

/** Features off their slope, over one another, in a valley, wider than the slope, or on a wall. */
function checkFeatures(job: Job, planes: readonly Plane[]): Issue[] {
  const issues: Issue[] = [];
  const print = (mm: number): string => printLength(mm, job.units);
  const placed = job.features.flatMap((feature, i) => {
    const plane = planes.find(({ id }) => id === feature.plane);
    return feature.kind === 'headwall' || !plane ? [] : [{ feature, i, plane, foot: footprint(feature, plane) }];
  });
  job.features.forEach((feature, i) => {
    if (feature.kind !== 'headwall') return;
    const plane = planes.find(({ id }) => id === feature.plane);
    if (plane && plane.top !== 'wall')
      issues.push({
        path: `features.${i}.plane`,
        message: `${feature.name}, slope: ${plane.name} does not end against a wall at its top; set its top to a wall first.`,
      });
    if (job.features.some((other, j) => j < i && other.kind === 'headwall' && other.plane === feature.plane))
      issues.push({
        path: `features.${i}.plane`,
        message: `${feature.name}, slope: the wall along the top of that slope is already there.`,
      });
  });
  for (const { feature, i, plane, foot } of placed) {
    const path = `features.${i}`;
    const width = foot.x1 - foot.x0;
    const say = (field: string, message: string): void =>
      void issues.push({ path: `${path}.${field}`, message: `${feature.name}, ${message}` });
    if (feature.kind === 'tileFault' && coveringOf(job, plane).kind !== 'singleLap')
      say('plane', `slope: ${plane.name} is no slope of tiles that lock into each other; take it away there.`);
    if (width > plane.eaveLength + LINE_TOLERANCE)
      say('across.distance', `width: ${print(width)} is wider than the slope it stands on, ${print(plane.eaveLength)}.`);
    else if (foot.x0 < -LINE_TOLERANCE || foot.x1 > plane.eaveLength + LINE_TOLERANCE)
      say('across.distance', `across the slope: it would stand past the ${foot.x0 < 0 ? 'left' : 'right'} end of ${plane.name}.`);
    else if (foot.from < 0) say('up.length', `up the slope: it would hang over the eave.`);
    else if (foot.to > plane.slope.length + LINE_TOLERANCE)
      say(
        'up.length',
        `up the slope: its upper end, ${print(foot.to)}, is past the top of ${plane.name}, ${print(plane.slope.length)}.`,
      );
    else {
      const on = rectangleOf(foot);
      const kept = intersectOutlines(plane.outline, on).reduce((sum, part) => sum + outlineArea(part), 0);
      const inHole = plane.holes.some((hole) => intersectOutlines(hole, on).length > 0 || isWithin(hole, [foot.x0, foot.from]));
      if (kept < outlineArea(on) - 100 || inHole) {
        const valley = plane.edges.find(({ kind, from, to }) => kind === 'valley' && crosses(on, from, to));
        say(
          'across.distance',
          valley
            ? 'place: it would stand in a valley.'
            : `place: it would stand off ${plane.name}, where another part of the roof is.`,
        );
      }
    }
    for (const other of placed) {
      if (other.i >= i || other.plane !== plane) continue;
      const apart =
        foot.x0 >= other.foot.x1 || foot.x1 <= other.foot.x0 || foot.from >= other.foot.to || foot.to <= other.foot.from;
      if (!apart) say('across.distance', `place: it would overlap ${other.feature.name}.`);
    }
    const wall = plane.walls.find(
      ({ x, from, to }) =>
        x > foot.x0 + LINE_TOLERANCE && x < foot.x1 - LINE_TOLERANCE && from < foot.to && (to ?? plane.slope.length) > foot.from,
    );
    if (wall) say('across.distance', `place: ${wall.name} runs through it.`);
    else if (
      blocksBehind(placeWalls(squareWalls(plane.walls), plane.slope.length), plane.eaveLength).some(
        (block) => foot.x1 > block.x0 + 1 && foot.x0 < block.x1 - 1 && foot.to > block.from && foot.from < block.to,
      )
    )
      say('across.distance', 'place: a wall takes up that part of the slope.');
  }
  return issues;
}

const crosses = (outline: Outline, from: readonly [number, number], to: readonly [number, number]): boolean =>
  Array.from({ length: 41 }, (_, i) => i / 40).some((t) =>
    isWithin(outline, [from[0] + (to[0] - from[0]) * t, from[1] + (to[1] - from[1]) * t]),
  ) || outline.some((corner) => distanceToStretch(corner, from, to) < 50);

function checkReferences(job: Job, { packs, catalog }: Library): Issue[] {
  const issues: Issue[] = [];
  const several = job.coverings.length > 1;
  job.coverings.forEach((covering, i) => {
    for (const { field, label, kind, id } of productsNamedBy(covering)) {
      if (id !== null && !findItem(catalog, kind, id))
        issues.push({
          path: `coverings.${i}.${field}`,
          message: `${several ? `${covering.name}, ${label.toLowerCase()}` : label}: the catalog has no such item as "${id}".`,
        });
    }
  });
  const missing = (path: string, name: string, kind: 'stepFlashing' | 'boot', id: string | null): void => {
    if (id === null || findItem(catalog, kind, id)) return;
    issues.push({
      path,
      message: `${name}, ${kind === 'boot' ? 'base' : 'step flashing'}: the catalog has no such item as "${id}".`,
    });
  };
  job.parts.forEach((part, i) =>
    part.planes.forEach((plane, p) =>
      plane.walls.forEach((wall, j) =>
        missing(`parts.${i}.planes.${p}.walls.${j}.stepFlashing`, wall.name, 'stepFlashing', wall.stepFlashing),
      ),
    ),
  );
  job.features.forEach((feature, i) => {
    if (feature.kind === 'chimney') missing(`features.${i}.stepFlashing`, feature.name, 'stepFlashing', feature.stepFlashing);
    if (feature.kind === 'pipe') missing(`features.${i}.boot`, feature.name, 'boot', feature.boot);
  });
  job.packs.forEach((ref, i) => {
    if (!findPack(packs, ref))
      issues.push({
        path: `packs.${i}`,
        message: `Rule packs: there is no pack "${ref.id}" version ${ref.version} here; import it first.`,
      });
  });
  return issues;
}

/** What keeps a slope's covering from being laid on it. */
function checkCovering(job: Job, plane: Plane, { catalog }: Library, rules: Requirements): Issue[] {
  const covering = coveringOf(job, plane);
  const { part, record } = pathOf(job, plane);
  const path = `coverings.${job.coverings.indexOf(covering)}`;
  return familyOf(covering).check({ job, plane, covering, catalog, rules, path, partPath: part, recordPath: record });
}

/** Butts measured on the roof rise from course to course, and lie on the slope. */
function checkButts(job: Job, plane: Plane, overhang: number): Issue[] {
  const print = (mm: number): string => printLength(mm, job.units);
  const { record } = pathOf(job, plane);
  const told = (plane.measuredButts ?? []).map((butt, i) => ({ ...butt, i })).sort((a, b) => a.course - b.course || a.i - b.i);
  return told.flatMap(({ course, at, i }, n): Issue[] => {
    const path = `${record}.measuredButts.${i}`;
    const label = `${plane.name}, measured butt of course ${course}`;
    const below = told[n - 1] ?? (course > 1 ? { course: 1, at: -overhang } : undefined);
    if (below?.course === course) return [{ path: `${path}.course`, message: `${label}: it is there twice.` }];
    if (below && at <= below.at + (course - below.course) * LEAST_GAUGE)
      return [
        {
          path: `${path}.at`,
          message: `${label}: at ${print(at)} there is no room for ${course - below.course} ${course - below.course === 1 ? 'course' : 'courses'} above course ${below.course} at ${print(below.at)}.`,
        },
      ];
    if (at >= plane.slope.length - LINE_TOLERANCE)
      return [
        { path: `${path}.at`, message: `${label}: ${print(at)} is past the top of the slope, ${print(plane.slope.length)}.` },
      ];
    return [];
  });
}

/** Nobody lays courses closer than this: it is a slip of the pen. */
const LEAST_GAUGE = inches(1);

function checkWalls(job: Job, plane: Plane): Issue[] {
  const slope = plane.slope.length;
  const print = (mm: number): string => printLength(mm, job.units);
  const issues: Issue[] = [];
  const placed = placeWalls(squareWalls(plane.walls), slope);
  plane.walls.forEach((wall, j) => {
    const path = `${pathOf(job, plane).record}.walls.${j}`;
    const to = wall.to ?? slope;
    if (to > slope + LINE_TOLERANCE)
      issues.push({
        path: `${path}.to`,
        message: `${wall.name}, upper end: ${print(to)} is past the top of the slope, ${print(slope)}.`,
      });
    if (wall.from >= to - LINE_TOLERANCE)
      issues.push({
        path: `${path}.from`,
        message: `${wall.name}, lower end: ${print(wall.from)} is not below its upper end, ${print(to)}.`,
      });
    if (wall.x > plane.eaveLength + LINE_TOLERANCE)
      issues.push({
        path: `${path}.x`,
        message: `${wall.name}, distance from the left end: ${print(wall.x)} is past the end of the eave, ${print(plane.eaveLength)}.`,
      });
    const outside = wall.stands === 'left' ? wall.x >= plane.eaveLength - LINE_TOLERANCE : wall.x <= LINE_TOLERANCE;
    if (outside)
      issues.push({
        path: `${path}.stands`,
        message: `${wall.name}, stands: no covering is left on the ${wall.stands === 'left' ? 'right' : 'left'} of it; turn it round or move it.`,
      });
    if (wall.from > 0 && wall.from < wall.apronLeg - LINE_TOLERANCE)
      issues.push({
        path: `${path}.from`,
        message: `${wall.name}, lower end: at ${print(wall.from)} there is no roof below it for an apron with a leg of ${print(wall.apronLeg)}; start it at the eave or shorten the leg.`,
      });
    issues.push(...checkSlant(job, plane, wall, path));
    const clash =
      squareWalls([wall]).length > 0 &&
      plane.walls.find(
        (other, o) =>
          o !== j &&
          !isSlanted(other) &&
          other.from < to &&
          (other.to ?? slope) > wall.from &&
          standsInside(wall, other, o < j, placed, plane),
      );
    if (clash)
      issues.push({
        path: `${path}.x`,
        message: `${wall.name}, distance from the left end: ${clash.name} already takes up that place.`,
      });
  });
  return issues;
}

/** More than this off the line of the tiles is another slope's business (trade practice). */
const MOST_SLANT = (30 * Math.PI) / 180;

/** Of a wall at an angle the slope ends at, from the eave to the top; only tiles are cut and drained along one here. */
function checkSlant(job: Job, plane: Plane, wall: Wall, path: string): Issue[] {
  if (!isSlanted(wall)) return [];
  const say = (field: string, words: string): Issue => ({ path: `${path}.${field}`, message: `${wall.name}, ${words}` });
  const { topX } = wall.slant;
  const run = plane.slope.length;
  if (coveringOf(job, plane).kind !== 'singleLap')
    return [say('slant', 'at an angle: tiles alone are planned along such a wall; enter it square to the eave, or cover the slope with tiles.')]; // prettier-ignore
  if (wall.from > 0 || wall.to !== null)
    return [say('slant', 'at an angle: it has to run from the eave to the top of the slope; clear its lower and upper end.')];
  if (topX > plane.eaveLength + LINE_TOLERANCE)
    return [say('slant.topX', `its face at the top: ${printLength(topX, job.units)} is past the end of the slope, ${printLength(plane.eaveLength, job.units)}.`)]; // prettier-ignore
  const angle = Math.atan2(Math.abs(topX - wall.x), run);
  if (angle > MOST_SLANT + NOISE)
    return [say('slant.topX', `its face at the top: it stands ${Math.round((angle * 180) / Math.PI)}° off the line of the tiles, more than the 30° that can be cut; measure it again, or lay the slope out along it.`)]; // prettier-ignore
  return [];
}

/** A wall may not stand in what another one takes up, nor on the same face as one before it. */
function standsInside(wall: Wall, other: Wall, otherIsEarlier: boolean, placed: readonly PlacedWall[], plane: Plane): boolean {
  const same = other.stands === wall.stands && Math.abs(other.x - wall.x) <= LINE_TOLERANCE;
  if (same) return otherIsEarlier;
  const block = blocksBehind(placed, plane.eaveLength)[placed.findIndex(({ id }) => id === other.id)];
  return block !== undefined && wall.x > block.x0 && wall.x < block.x1;
}
