import type { CoveringKind, CoveringOf, ItemKind, ItemOf } from '#core';
import type { FieldsOf } from '../fields.tsx';

/** What the form of one kind of covering is given: the covering, its fields, and the catalog's items of a kind to choose from. */
export type CoveringForm<K extends CoveringKind> = {
  covering: CoveringOf<K>;
  fields: FieldsOf<CoveringOf<K>>;
  options: <I extends ItemKind>(kind: I, which?: (item: ItemOf<I>) => boolean) => { value: string; label: string }[];
};
