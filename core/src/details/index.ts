import { planChimneys } from './chimney/index.ts';
import type { DetailFamily } from './context.ts';
import { planCounterflashing } from './counterflashing/index.ts';
import { planCovering } from './covering/index.ts';
import { planHeadwalls } from './headwall/index.ts';
import { planPipes } from './pipe/index.ts';
import { planSidewalls } from './sidewall/index.ts';
import { planSkylights } from './skylight/index.ts';
import { planThroughWalls } from './throughWall/index.ts';
import { planUnderlayers } from './underlayers/index.ts';

/** Every detail family of a slope; a new one is a folder beside these and a line here. Valleys join two slopes and are planned after. */
export const DETAIL_FAMILIES: readonly DetailFamily[] = [
  planUnderlayers,
  planCovering,
  planSidewalls,
  planHeadwalls,
  planChimneys,
  planSkylights,
  planPipes,
  planCounterflashing,
  planThroughWalls,
];

export * from './context.ts';
export * from './openings.ts';
export * from './standing.ts';
