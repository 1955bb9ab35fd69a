import type { DetailFamily } from '../slope/index.ts';
import { chimneyAsks, planChimneys } from './chimney/index.ts';
import { planCounterflashing } from './counterflashing/index.ts';
import { planHeadwalls } from './headwall/index.ts';
import { pipeAsks, planPipes } from './pipe/index.ts';
import { planSidewalls, sidewallAsks } from './sidewall/index.ts';
import { planSkylights, skylightAsks } from './skylight/index.ts';
import { planTileFaults } from './tileFault/index.ts';
import { planThroughWalls } from './throughWall/index.ts';

/** Every detail family of a slope; a new one is a folder beside these and a line here. Valleys join two slopes and are planned after. */
export const DETAILS: readonly DetailFamily[] = [
  { name: 'sidewall', asks: sidewallAsks, plan: planSidewalls },
  { name: 'headwall', plan: planHeadwalls },
  { name: 'chimney', asks: chimneyAsks, plan: planChimneys },
  { name: 'skylight', asks: skylightAsks, plan: planSkylights },
  { name: 'pipe', asks: pipeAsks, plan: planPipes },
  { name: 'counterflashing', plan: planCounterflashing },
  { name: 'throughWall', plan: planThroughWalls },
  { name: 'tileFault', plan: planTileFaults },
];

export * from './valley/index.ts';
