import { type ItemOf, itemById } from '../../catalog/index.ts';
import { coveringOfKind } from '../../document/index.ts';
import type { PlaneContext } from '../../slope/index.ts';

/** The shingle of a slope. */
export const shingleOf = (context: Pick<PlaneContext, 'covering' | 'catalog'>): ItemOf<'shingle'> =>
  itemById(context.catalog, 'shingle', coveringOfKind(context, 'strip').shingle);
