import type { Catalog } from '../catalog/index.ts';
import { type LocalRule, type Pack, type PackRef, type RuleKey, type RuleSources, findPack } from '../rules/index.ts';
import { MM_PER_INCH } from '../units/index.ts';
import type { Job } from './schema.ts';

/** All that a plan is computed from besides the job itself. */
export type Library = { readonly packs: readonly Pack[]; readonly catalog: Catalog };

/** Ids of every product the job names. */
export function productsOf(job: Job): string[] {
  const { covering, underlayers } = job;
  return [covering.shingle, covering.starter, covering.ridgeCap, underlayers.iceBarrier, underlayers.underlayment];
}

/** Instructions that come with the job's products: a maker speaks only where its product is used. */
export function makerPacks(job: Job, catalog: Catalog): PackRef[] {
  const used = new Set(productsOf(job));
  const refs = catalog.items.filter(({ id }) => used.has(id)).flatMap(({ instructions }) => (instructions ? [instructions] : []));
  return refs.filter((ref, i) => refs.findIndex((other) => other.id === ref.id && other.version === ref.version) === i);
}

/** The sources that speak in a job: its packs, its products' makers, its own settings and what was decided on the roof. */
export function sourcesOf(job: Job, library: Library): RuleSources {
  const packs = [...job.packs, ...makerPacks(job, library.catalog)].flatMap((ref) => findPack(library.packs, ref) ?? []);
  const local: LocalRule[] = job.deviations.map(({ reason, ...rule }) => ({
    source: 'field',
    name: 'Decided on the roof',
    rule: { ...rule, section: 'this job', why: reason },
  }));
  const inside = job.underlayers.insideWall;
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
