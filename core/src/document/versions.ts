import type { Catalog } from '../catalog/index.ts';
import type { Pack } from '../rules/index.ts';
import { type Library, makerPacks } from './library.ts';
import type { Job } from './schema.ts';

/** Every version of the rule packs and of the catalog that is at hand. What was once shipped never changes: a change is a new version. */
export type Shelf = { readonly packs: readonly Pack[]; readonly catalogs: readonly Catalog[] };

/** What a job that names a catalog version is planned with; undefined where that version is not here. */
export function libraryFor({ packs, catalogs }: Shelf, version: number): Library | undefined {
  const catalog = catalogs.find((one) => one.version === version);
  return catalog && { packs, catalog };
}

const byVersion = ({ catalogs }: Shelf): Catalog[] => catalogs.toSorted((a, b) => a.version - b.version);

/** The library of the newest catalog. @throws Error when there is none at all. */
export function newestLibrary(shelf: Shelf): Library {
  const catalog = byVersion(shelf).at(-1);
  if (!catalog) throw new Error('There is no catalog.');
  return { packs: shelf.packs, catalog };
}

/** A pack or the catalog that has a newer version than the job uses. */
export type Newer = { readonly name: string; readonly from: number; readonly to: number };

/** What is here in a newer version than a job uses: its catalog, its packs, and with the catalog its makers' instructions. */
export function newerVersions(job: Job, shelf: Shelf): Newer[] {
  const moved = onNewest(job, shelf);
  const packName = (id: string, version: number): string =>
    shelf.packs.find((pack) => pack.id === id && pack.version === version)?.name ?? id;
  const packs = job.packs.flatMap(({ id, version }, i): Newer[] => {
    const to = moved.packs[i]!.version;
    return to > version ? [{ name: packName(id, to), from: version, to }] : [];
  });
  const [before, after] = [libraryFor(shelf, job.catalog), libraryFor(shelf, moved.catalog)];
  const makers = (after ? makerPacks(moved, after.catalog) : []).flatMap(({ id, version }): Newer[] => {
    const old = before && makerPacks(job, before.catalog).find((ref) => ref.id === id);
    return old && old.version < version ? [{ name: packName(id, version), from: old.version, to: version }] : [];
  });
  const catalog = moved.catalog > job.catalog ? [{ name: 'Catalog', from: job.catalog, to: moved.catalog }] : [];
  return [...catalog, ...packs, ...makers];
}

/** The job on the newest version of its catalog and of each of its packs; nothing else of it changes. */
export function onNewest(job: Job, shelf: Shelf): Job {
  const newest = (id: string, version: number): number =>
    shelf.packs.reduce((most, pack) => (pack.id === id ? Math.max(most, pack.version) : most), version);
  return {
    ...job,
    catalog: Math.max(job.catalog, byVersion(shelf).at(-1)?.version ?? 0),
    packs: job.packs.map(({ id, version }) => ({ id, version: newest(id, version) })),
  };
}
