import type { Catalog } from '../catalog/index.ts';
import { type LocalRule, type Pack, type PackRef, type RuleKey, type RuleSources, findPack } from '../rules/index.ts';
import { MM_PER_INCH } from '../units/index.ts';
import { type Covering, type CoveringKind, type CoveringOf, productsNamedBy } from './choices/index.ts';
import type { Job, PlaneRecord } from './schema.ts';

/** All that a plan is computed from besides the job itself. */
export type Library = { readonly packs: readonly Pack[]; readonly catalog: Catalog };

/** Ids of every product the job names: its coverings' (or those of some of them), then the flashings and bases chosen by hand. */
export const productsOf = (job: Job, coverings: readonly Covering[] = job.coverings): string[] => [
  ...coverings.flatMap((covering) => productsNamedBy(covering).flatMap(({ id }) => id ?? [])),
  ...job.parts.flatMap(({ planes }) => planes.flatMap(({ walls }) => walls.flatMap(({ stepFlashing }) => stepFlashing ?? []))),
  ...job.features.flatMap(
    (feature) => ('stepFlashing' in feature ? feature.stepFlashing : 'boot' in feature ? feature.boot : null) ?? [],
  ),
];

/** The covering of a slope. @throws Error when the job has none by that id: `checkJob` says so first. */
export function coveringOf(job: Job, plane: Pick<PlaneRecord, 'covering'>): Covering {
  const found = job.coverings.find(({ id }) => id === plane.covering);
  if (!found) throw new Error(`the job has no covering "${plane.covering}"`);
  return found;
}

/** Instructions that come with the job's products: a maker speaks only where its product is used. */
export function makerPacks(job: Job, catalog: Catalog, coverings?: readonly Covering[]): PackRef[] {
  const used = new Set(productsOf(job, coverings));
  const refs = catalog.items.filter(({ id }) => used.has(id)).flatMap(({ instructions }) => (instructions ? [instructions] : []));
  // one that the job names itself speaks there
  return refs.filter((ref, i) => [...job.packs, ...refs.slice(0, i)].every((other) => !isSame(other, ref)));
}

const isSame = (one: PackRef, other: PackRef): boolean => one.id === other.id && one.version === other.version;

/** The sources that speak on the slopes of one covering: the job's packs, its products' makers, its own settings and what was decided on the roof. */
export function sourcesOf(job: Job, library: Library, covering: Covering): RuleSources {
  const packs = [...job.packs, ...makerPacks(job, library.catalog, [covering])].flatMap(
    (ref) => findPack(library.packs, ref) ?? [],
  );
  const local: LocalRule[] = job.deviations.map(({ reason, ...rule }) => ({
    source: 'field',
    name: 'Decided on the roof',
    rule: { ...rule, section: 'this job', why: reason },
  }));
  const inside = covering.underlayers.insideWall;
  if (inside !== null) {
    const key: RuleKey = 'iceBarrier.insideWall';
    const inches = job.units === 'imperial';
    local.push({
      source: 'house',
      name: 'Set for this job',
      rule: {
        key,
        sense: 'atLeast',
        value: inches ? inside / MM_PER_INCH : inside,
        unit: inches ? 'in' : 'mm',
        section: 'Underlayers: inside the wall line',
      },
    });
  }
  return { packs, local, decisions: job.decisions };
}

/** The covering of a slope, which must be of that kind. @throws Error when it is another: a family plans only its own. */
export function coveringOfKind<K extends CoveringKind>({ covering }: { readonly covering: Covering }, kind: K): CoveringOf<K> {
  if (covering.kind !== kind) throw new Error(`${covering.name} is not ${kind}`);
  return covering as CoveringOf<K>;
}
