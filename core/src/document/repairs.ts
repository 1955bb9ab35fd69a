import type { Feature, Job, Wall } from './schema.ts';
import { REPAIRS, type Repair, type WorkOf } from './work.ts';

/** A repair that could be done on a roof. */
export type PossibleRepair = { readonly what: Repair; readonly of: string; readonly label: string };

const isMasonry = (one: Feature | Wall): boolean =>
  'masonry' in one ? one.masonry : 'cladding' in one && one.cladding === 'masonry';

/** By what a repair knows it. */
const kindsOf = (one: Feature): string[] =>
  one.kind === 'tileFault' ? [one.fault === 'tile cracked' ? 'cracked tile' : 'side channel'] : [one.kind];

/** Every repair a roof offers, detail by detail; `valleys`: the marks of its valleys. */
export function possibleRepairs(job: Job, valleys: readonly string[]): PossibleRepair[] {
  const walls = job.parts.flatMap(({ planes }) => planes.flatMap(({ walls: own }) => own));
  const all = [
    ...job.features.map((one) => ({ id: one.id, name: one.name, is: [...kindsOf(one), ...(isMasonry(one) ? ['masonry'] : [])] })),
    ...walls.map((one) => ({
      id: one.id,
      name: one.name,
      is: ['wall', ...(isMasonry(one) ? ['masonry'] : [])],
    })),
    ...valleys.map((id) => ({ id, name: id, is: ['valley'] })),
  ];
  return all.flatMap(({ id, name, is }) =>
    (Object.keys(REPAIRS) as Repair[])
      .filter((what) => is.includes(REPAIRS[what].on))
      .map((what) => ({ what, of: id, label: `${name}: ${REPAIRS[what].name}` })),
  );
}

/** The job as the repair leaves it: what is planned of the detail is what the repair makes of it. */
export function asRepaired(job: Job): Job {
  if (job.work.kind !== 'repair') return job;
  const { what, of }: WorkOf<'repair'> = job.work;
  const feature = (change: (one: Feature) => Feature): Job => ({
    ...job,
    features: job.features.map((one) => (one.id === of ? change(one) : one)),
  });
  const wall = (change: (one: Wall) => Wall): Job => ({
    ...job,
    parts: job.parts.map((part) => ({
      ...part,
      planes: part.planes.map((plane) => ({
        ...plane,
        walls: plane.walls.map((one) => (one.id === of ? change(one) : one)),
      })),
    })) as Job['parts'],
  });
  switch (what) {
    case 'skylight re-flash':
    case 'skylight renewal':
      return feature((one) => (one.kind === 'skylight' ? { ...one, work: 'replacement' } : one));
    case 'through-wall':
      return feature((one) => (one.kind === 'headwall' ? { ...one, cladding: 'masonry', counter: 'through-wall' } : one));
    case 'loose counterflashing':
      return job.features.some(({ id }) => id === of)
        ? feature((one) => (one.kind === 'chimney' || one.kind === 'headwall' ? { ...one, counter: 'repair' } : one))
        : wall((one) => ({ ...one, counter: 'repair' }));
    case 'kick-out':
      return wall((one) => (one.from === 0 ? { ...one, foot: 'kick-out', runsPastEave: true } : one));
    default:
      return job;
  }
}
