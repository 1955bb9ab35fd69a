import type { Job } from '../document/index.ts';
import type { PlaneContext } from '../slope/index.ts';
import type { Order } from './order.ts';

/**
 * Slopes planned lately, by all that goes into one: while one slope of a roof is worked on the others need not be planned anew. For one library;
 * another wants its own.
 */
export class KeptSlopes<Planned> {
  readonly #planned = new Map<string, Planned>();
  readonly #most: number;

  /** @param most how many slopes are kept; the one that was not asked for longest goes first. */
  constructor(most = 24) {
    this.#most = most;
  }

  /** What was planned from the same, or what planning it makes. */
  planned(from: string, make: () => Planned): Planned {
    const found = this.#planned.get(from) ?? make();
    this.#planned.delete(from);
    this.#planned.set(from, found);
    if (this.#planned.size > this.#most) this.#planned.delete(this.#planned.keys().next().value!);
    return found;
  }
}

/** All that goes into the plan of a slope, as text: what the job says of the whole roof, and of this slope and those across its valleys all there is. */
export function goesInto(context: PlaneContext, mark: string, orders: ReadonlyMap<string, Order>): string {
  const near = [context, ...context.valleys.map(({ other }) => context.other(other))];
  const ids = new Set(near.map(({ plane }) => plane.id));
  const job: Job = {
    ...context.job,
    name: '',
    note: '',
    done: [],
    features: [],
    valleys: {},
    parts: context.job.parts.map((part) => ({ ...part, planes: part.planes.filter(({ id }) => ids.has(id)) })) as Job['parts'],
  };
  return JSON.stringify([
    mark,
    job,
    near.map(({ plane, features, valleys }) => ({ plane, features, valleys, order: orders.get(plane.id) })),
  ]);
}
