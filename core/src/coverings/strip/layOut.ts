import { itemById } from '../../catalog/index.ts';
import { type Issue, coveringOfKind } from '../../document/index.ts';
import { mostOf } from '../../rules/index.ts';
import type { ToCheck, ToLayOut } from '../../slope/index.ts';
import type { Surface } from '../../surface/index.ts';
import { tooFarApart, tooFlat } from '../check.ts';
import { exposedSurface } from '../exposed.ts';
import { shingleOf } from './shingle.ts';

/** A slope in shingles: as far apart as the job says, else as its maker and the rules allow. */
export function layOut(asked: ToLayOut): Surface {
  const covering = coveringOfKind(asked, 'strip');
  const shingle = shingleOf(asked);
  const { years } = shingle;
  return {
    ...exposedSurface(asked, shingle, covering),
    valleys: 'any',
    wholeOverHead: true,
    ...(years === undefined ? {} : { years }),
  };
}

/** A pitch under the least, an exposure over the greatest. */
export function check(asked: ToCheck): Issue[] {
  const { job, plane, rules, catalog } = asked;
  const { shingle: id, exposure } = coveringOfKind(asked, 'strip');
  const shingle = itemById(catalog, 'shingle', id);
  const most = Math.min(shingle.maxExposure, mostOf(rules, 'covering.exposure'));
  return [
    ...tooFlat(asked, shingle.name, 'x12', job.parts.length > 1 ? `${plane.name}, pitch` : 'Pitch'),
    ...tooFarApart(
      asked,
      { field: 'exposure', name: 'exposure', given: exposure },
      most,
      (print) => `${shingle.maker} allows for ${shingle.name}, ${print}`,
    ),
  ];
}
