import type { Catalog, CoveringKind, CoveringOf, ItemKind, ItemOf, Job } from '#core';
import type { FieldsOf } from '../fields.tsx';

/** What the form of one kind of covering is given: the covering and where it is in a draft, its fields, and the catalog with its items of a kind to choose from. */
export type CoveringForm<K extends CoveringKind> = {
  covering: CoveringOf<K>;
  at: (draft: Job) => CoveringOf<K>;
  catalog: Catalog;
  fields: FieldsOf<CoveringOf<K>>;
  options: <I extends ItemKind>(
    kind: I,
    which?: (item: ItemOf<I>, index: number, all: readonly ItemOf<I>[]) => boolean,
  ) => { value: string; label: string }[];
};
