import type { DetailFamily } from './context.ts';
import { planCovering } from './covering/index.ts';
import { planSidewalls } from './sidewall/index.ts';
import { planUnderlayers } from './underlayers/index.ts';

/** Every detail family; a new one is a folder beside these and a line here. */
export const DETAIL_FAMILIES: readonly DetailFamily[] = [planUnderlayers, planCovering, planSidewalls];

export * from './context.ts';
