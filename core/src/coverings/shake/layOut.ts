import { itemById } from '../../catalog/index.ts';
import { type Issue, coveringOfKind } from '../../document/index.ts';
import { mostOf } from '../../rules/index.ts';
import type { ToCheck, ToLayOut } from '../../slope/index.ts';
import type { Surface } from '../../surface/index.ts';
import { tooFarApart, tooFlat } from '../check.ts';
import { exposedSurface } from '../exposed.ts';

/** A slope in shakes: as far apart as the job says, else as their maker and the rules allow. */
export function layOut(asked: ToLayOut): Surface {
  const covering = coveringOfKind(asked, 'shake');
  return {
    ...exposedSurface(asked, itemById(asked.catalog, 'shake', covering.shake), covering),
    valleys: 'open',
    wholeOverHead: false,
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
