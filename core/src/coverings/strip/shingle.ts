import { type ItemOf, itemById } from '../../catalog/index.ts';
import type { PlaneContext } from '../../slope/index.ts';

/** The shingle of a slope. */
export const shingleOf = ({ job, catalog }: Pick<PlaneContext, 'job' | 'catalog'>): ItemOf<'shingle'> =>
  itemById(catalog, 'shingle', job.covering.shingle);
