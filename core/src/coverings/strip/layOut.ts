import { findItem, itemById } from '../../catalog/index.ts';
import { type Issue, coveringOfKind } from '../../document/index.ts';
import { leastOf, mostOf } from '../../rules/index.ts';
import type { ToCheck, ToLayOut } from '../../slope/index.ts';
import { type Surface, evenLines, fittedLines } from '../../surface/index.ts';
import { isFlatter, isOver, printLength, printPitch } from '../../units/index.ts';
import { shingleOf } from './shingle.ts';

/** A slope in shingles: as far apart as the job says, else as its maker and the rules allow. */
export function layOut(asked: ToLayOut): Surface {
  const { plane, rules, catalog } = asked;
  const covering = coveringOfKind(asked, 'strip');
  const shingle = shingleOf(asked);
  const exposure = plane.exposure ?? covering.exposure ?? Math.min(shingle.maxExposure, mostOf(rules, 'covering.exposure'));
  return {
    product: shingle.id,
    name: shingle.name,
    maker: shingle.maker,
    lines: fittedLines(evenLines(-covering.firstButt, exposure, shingle.height, plane.slope.length), plane.measuredButts ?? []),
    unit: { width: shingle.width, height: shingle.height },
    thickness: shingle.thickness,
    underRidge: itemById(catalog, 'ridgeCap', covering.ridgeCap).halfWidth,
    sides: 'steps',
    valleys: 'any',
    held: 'deck',
  };
}

/** A pitch under the least, an exposure over the greatest. */
export function check(asked: ToCheck): Issue[] {
  const { job, plane, rules, catalog, path, partPath, recordPath } = asked;
  const covering = coveringOfKind(asked, 'strip');
  const shingle = findItem(catalog, 'shingle', covering.shingle)!;
  const print = (mm: number): string => printLength(mm, job.units);
  const issues: Issue[] = [];
  const leastPitch = leastOf(rules, 'covering.pitch');
  if (isFlatter(plane.pitch, leastPitch)) {
    issues.push({
      path: `${partPath}.pitch`,
      message: `${job.parts.length > 1 ? `${plane.name}, pitch` : 'Pitch'}: ${printPitch(plane.pitch, 'x12')} is under the least for ${shingle.name}, ${printPitch(leastPitch, 'x12')}.`,
      planned: true,
    });
  }
  const most = Math.min(shingle.maxExposure, mostOf(rules, 'covering.exposure'));
  if (covering.exposure !== null && isOver(covering.exposure, most)) {
    issues.push({
      path: `${path}.exposure`,
      message: `Exposure: ${print(covering.exposure)} is more than ${shingle.maker} allows for ${shingle.name}, ${print(most)}.`,
      planned: true,
    });
  }
  if (plane.exposure !== null && isOver(plane.exposure, most))
    issues.push({
      path: `${recordPath}.exposure`,
      message: `${plane.name}, exposure: ${print(plane.exposure)} is more than ${shingle.maker} allows for ${shingle.name}, ${print(most)}.`,
      planned: true,
    });
  return issues;
}
