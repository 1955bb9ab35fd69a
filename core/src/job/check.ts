import { findItem, type ItemKind } from '../catalog/index.ts';
import { findPack, leastOf, mostOf, resolveRules } from '../rules/index.ts';
import { LINE_TOLERANCE, printLength, printPitch } from '../units/index.ts';
import { type PlacedWall, blocksBehind, placeWalls } from '../details/index.ts';
import { slopeLength } from '../roof/index.ts';
import { type Library, sourcesOf } from './library.ts';
import type { Job, Plane, Wall } from './schema.ts';

/** One thing wrong with an input: where (path in the document) and a sentence that names the field. */
export type Issue = { readonly path: string; readonly message: string };

/**
 * What the schema cannot see: items and packs that do not exist, a pitch under the covering's least, an exposure over the greatest,
 * walls that do not fit their slope. An empty list means the job can be planned.
 */
export function checkJob(job: Job, library: Library): Issue[] {
  const missing = checkReferences(job, library);
  if (missing.length > 0) return missing;
  return job.planes.flatMap((plane, i) => [...checkCovering(job, plane, i, library), ...checkWalls(job, plane, i)]);
}

const PRODUCT_FIELDS: readonly { path: string; label: string; kind: ItemKind; id: (job: Job) => string }[] = [
  { path: 'covering.shingle', label: 'Shingle', kind: 'shingle', id: (job) => job.covering.shingle },
  { path: 'covering.starter', label: 'Starter', kind: 'starter', id: (job) => job.covering.starter },
  { path: 'covering.ridgeCap', label: 'Ridge cap', kind: 'ridgeCap', id: (job) => job.covering.ridgeCap },
  { path: 'underlayers.iceBarrier', label: 'Ice barrier', kind: 'iceBarrier', id: (job) => job.underlayers.iceBarrier },
  { path: 'underlayers.underlayment', label: 'Underlayment', kind: 'underlayment', id: (job) => job.underlayers.underlayment },
];

function checkReferences(job: Job, { packs, catalog }: Library): Issue[] {
  const issues: Issue[] = [];
  for (const { path, label, kind, id } of PRODUCT_FIELDS) {
    if (!findItem(catalog, kind, id(job)))
      issues.push({ path, message: `${label}: the catalog has no such item as "${id(job)}".` });
  }
  job.planes.forEach((plane, i) =>
    plane.walls.forEach((wall, j) => {
      if (wall.stepFlashing !== null && !findItem(catalog, 'stepFlashing', wall.stepFlashing)) {
        issues.push({
          path: `planes.${i}.walls.${j}.stepFlashing`,
          message: `${wall.name}, step flashing: the catalog has no such item as "${wall.stepFlashing}".`,
        });
      }
    }),
  );
  job.packs.forEach((ref, i) => {
    if (!findPack(packs, ref))
      issues.push({
        path: `packs.${i}`,
        message: `Rule packs: there is no pack "${ref.id}" version ${ref.version} here; import it first.`,
      });
  });
  return issues;
}

function checkCovering(job: Job, plane: Plane, i: number, library: Library): Issue[] {
  const rules = resolveRules(sourcesOf(job, library), { covering: 'shingle', pitch: plane.pitch, iceDams: job.site.iceDams });
  const issues: Issue[] = [];
  const shingle = findItem(library.catalog, 'shingle', job.covering.shingle)!;
  const leastPitch = leastOf(rules, 'covering.pitch');
  if (plane.pitch < leastPitch - 1e-9) {
    issues.push({
      path: `planes.${i}.pitch`,
      message: `Pitch: ${printPitch(plane.pitch, 'x12')} is under the least for ${shingle.name}, ${printPitch(leastPitch, 'x12')}.`,
    });
  }
  const most = Math.min(shingle.maxExposure, mostOf(rules, 'covering.exposure'));
  if (job.covering.exposure !== null && job.covering.exposure > most + 1e-6) {
    const print = (mm: number): string => printLength(mm, job.units);
    issues.push({
      path: 'covering.exposure',
      message: `Exposure: ${print(job.covering.exposure)} is more than ${shingle.maker} allows for ${shingle.name}, ${print(most)}.`,
    });
  }
  return issues;
}

function checkWalls(job: Job, plane: Plane, i: number): Issue[] {
  const slope = slopeLength(plane.slope, plane.pitch);
  const print = (mm: number): string => printLength(mm, job.units);
  const issues: Issue[] = [];
  const ids = new Set<string>();
  const placed = placeWalls(plane, slope);
  plane.walls.forEach((wall, j) => {
    const path = `planes.${i}.walls.${j}`;
    const to = wall.to ?? slope;
    if (ids.has(wall.id))
      issues.push({ path: `${path}.id`, message: `${wall.name}, mark: another wall is already marked ${wall.id}.` });
    ids.add(wall.id);
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
    if (wall.from > 0 && wall.foot === 'kick-out')
      issues.push({
        path: `${path}.foot`,
        message: `${wall.name}, foot: a kick-out belongs at the eave, and this wall starts ${print(wall.from)} up the slope; choose the corner.`,
      });
    if (wall.from > 0 && wall.from < wall.apronLeg - LINE_TOLERANCE)
      issues.push({
        path: `${path}.from`,
        message: `${wall.name}, lower end: at ${print(wall.from)} there is no roof below it for an apron with a leg of ${print(wall.apronLeg)}; start it at the eave or shorten the leg.`,
      });
    const clash = plane.walls.find(
      (other, o) =>
        o !== j && other.from < to && (other.to ?? slope) > wall.from && standsInside(wall, other, o < j, placed, plane),
    );
    if (clash)
      issues.push({
        path: `${path}.x`,
        message: `${wall.name}, distance from the left end: ${clash.name} already takes up that place.`,
      });
  });
  return issues;
}

/** A wall may not stand in what another one takes up, nor on the same face as one before it. */
function standsInside(wall: Wall, other: Wall, otherIsEarlier: boolean, placed: readonly PlacedWall[], plane: Plane): boolean {
  const same = other.stands === wall.stands && Math.abs(other.x - wall.x) <= LINE_TOLERANCE;
  if (same) return otherIsEarlier;
  const block = blocksBehind(placed, plane.eaveLength)[placed.findIndex(({ id }) => id === other.id)];
  return block !== undefined && wall.x > block.x0 && wall.x < block.x1;
}
