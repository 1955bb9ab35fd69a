import { type Figure, flow } from '../../assembly/index.ts';
import type { ThroughWall } from '../../document/index.ts';
import { runoff } from '../../roof/index.ts';
import { type RuleKey, leastOf } from '../../rules/index.ts';
import type { PlaneContext } from '../../slope/index.ts';

type Pointing = ThroughWall['pointing'];
const KEY: Record<Pointing, RuleKey> = { sound: 'throughWall.inflowSound', 'open joints': 'throughWall.inflowOpen' };

/**
 * Water that gets through a face of masonry into the cavity behind it, litres a minute: rain driven on to the face times the share its joints let
 * through (trade practice: 0.10 sound, 0.30 open, an estimate). 12 ft × 8 ft at 5 in/h with half of it driven on: 9.4 L/min on the face, 0.94 in the
 * cavity behind sound joints. `area` square millimetres.
 */
export const cavityInflow = ({ job, rules }: Pick<PlaneContext, 'job' | 'rules'>, pointing: Pointing, area: number): number =>
  runoff(job.site.rainPerHour, area * job.site.drivenRainShare) * leastOf(rules, KEY[pointing]);

export const inflowFigure = ({ rules }: Pick<PlaneContext, 'rules'>, pointing: Pointing, inflow: number): Figure => ({
  label: 'Water into the cavity above',
  value: [
    flow(inflow),
    `: ${Math.round(leastOf(rules, KEY[pointing]) * 100)} % of the rain driven on to the face, its joints ${pointing === 'sound' ? 'sound' : 'open'} (an estimate)`,
  ],
  key: KEY[pointing],
});
