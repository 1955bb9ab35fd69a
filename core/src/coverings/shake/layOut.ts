import { itemById } from '../../catalog/index.ts';
import { type Issue, coveringOfKind } from '../../document/index.ts';
import { mostOf } from '../../rules/index.ts';
import type { ToCheck, ToLayOut } from '../../slope/index.ts';
import { type Surface, evenLines, fittedLines } from '../../surface/index.ts';
import { tooFarApart, tooFlat } from '../check.ts';

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
  const { rules, catalog, path } = asked;
  const covering = coveringOfKind(asked, 'shake');
  const shake = itemById(catalog, 'shake', covering.shake);
  const ridge = itemById(catalog, 'ridgeCap', covering.ridgeCap);
  const most = Math.min(shake.maxExposure, mostOf(rules, 'covering.exposure'));
  return [
    ...tooFlat(asked, shake.name, 'x12'),
    ...tooFarApart(
      asked,
      { field: 'exposure', name: 'exposure', given: covering.exposure },
      most,
      (print) => `${shake.name} may be exposed, ${print}`,
    ),
    ...(ridge.for === 'shake'
      ? []
      : [{ path: `${path}.ridgeCap`, message: `Ridge units: ${ridge.name} is not made for shakes.` }]),
  ];
}
