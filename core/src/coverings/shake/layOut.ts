import { findItem, itemById } from '../../catalog/index.ts';
import { type Issue, coveringOfKind } from '../../document/index.ts';
import { leastOf, mostOf } from '../../rules/index.ts';
import type { ToCheck, ToLayOut } from '../../slope/index.ts';
import { type Surface, evenLines, fittedLines } from '../../surface/index.ts';
import { isFlatter, isOver, printLength, printPitch } from '../../units/index.ts';

/** A slope in shakes: as far apart as the job says, else as their maker and the rules allow. */
export function layOut(asked: ToLayOut): Surface {
  const { plane, rules, catalog } = asked;
  const covering = coveringOfKind(asked, 'shake');
  const shake = itemById(catalog, 'shake', covering.shake);
  const exposure = plane.exposure ?? covering.exposure ?? Math.min(shake.maxExposure, mostOf(rules, 'covering.exposure'));
  return {
    product: shake.id,
    name: shake.name,
    maker: shake.maker,
    lines: fittedLines(evenLines(-covering.firstButt, exposure, shake.height, plane.slope.length), plane.measuredButts ?? []),
    unit: { width: shake.width, height: shake.height },
    thickness: shake.thickness,
    underRidge: itemById(catalog, 'ridgeCap', covering.ridgeCap).halfWidth,
    sides: 'steps',
    valleys: 'open',
    held: 'deck',
  };
}

/** A pitch under the least, an exposure over the greatest, ridge units of another covering. */
export function check(asked: ToCheck): Issue[] {
  const { job, plane, rules, catalog, path, partPath, recordPath } = asked;
  const covering = coveringOfKind(asked, 'shake');
  const shake = findItem(catalog, 'shake', covering.shake)!;
  const print = (mm: number): string => printLength(mm, job.units);
  const issues: Issue[] = [];
  const leastPitch = leastOf(rules, 'covering.pitch');
  if (isFlatter(plane.pitch, leastPitch))
    issues.push({
      path: `${partPath}.pitch`,
      message: `${plane.name}, pitch: ${printPitch(plane.pitch, 'x12')} is under the least for ${shake.name}, ${printPitch(leastPitch, 'x12')}.`,
      planned: true,
    });
  const most = Math.min(shake.maxExposure, mostOf(rules, 'covering.exposure'));
  for (const [exposure, field, name] of [
    [covering.exposure, `${path}.exposure`, 'Exposure'],
    [plane.exposure, `${recordPath}.exposure`, `${plane.name}, exposure`],
  ] as const)
    if (exposure !== null && isOver(exposure, most))
      issues.push({
        path: field,
        message: `${name}: ${print(exposure)} is more than ${shake.name} may be exposed, ${print(most)}.`,
        planned: true,
      });
  const ridge = findItem(catalog, 'ridgeCap', covering.ridgeCap)!;
  if (ridge.for !== 'shake')
    issues.push({ path: `${path}.ridgeCap`, message: `Ridge units: ${ridge.name} is not made for shakes.` });
  return issues;
}
