import type { Job } from '../document/index.ts';
import type { PlaneContext } from '../slope/index.ts';
import type { Order } from './order.ts';

/** Slopes hear whether the roof is new, and whether a skylight's unit stays; what else is done to a roof stands in lines of its own. */
const heardOf = (work: Job['work']): string =>
  work.kind === 'repair' && work.what === 'skylight re-flash' ? work.what : work.kind;

/** All that goes into the plan of a slope, as text: what the job says of the whole roof, and of this slope and those across its valleys all there is. */
export function goesInto(context: PlaneContext, mark: string, orders: ReadonlyMap<string, Order>): string {
  const near = [context, ...context.valleys.map(({ other }) => context.other(other))];
  const ids = new Set(near.map(({ plane }) => plane.id));
  const job: Job = {
    ...context.job,
    name: '',
    note: '',
    done: [],
    work: { kind: 'new' },
    muted: {},
    spare: { covering: 0, fasteners: 0 },
    features: [],
    valleys: {},
    parts: context.job.parts.map((part) => ({ ...part, planes: part.planes.filter(({ id }) => ids.has(id)) })) as Job['parts'],
  };
  return JSON.stringify([
    mark,
    context.vented,
    heardOf(context.job.work),
    job,
    near.map(({ plane, features, valleys }) => ({ plane, features, valleys, order: orders.get(plane.id) })),
  ]);
}
