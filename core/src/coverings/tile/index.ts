import { coveringOfKind } from '../../document/index.ts';
import type { CoveringFamily } from '../../slope/index.ts';
import { check } from './check.ts';
import { planTiles, tileFindings } from './covering.ts';
import { layOut } from './layOut.ts';

/** Profiled and flat tiles: hung on a batten a course, lapped once up the slope, locked into each other along it. */
export const singleLap: CoveringFamily = {
  word: () => 'tile',
  overhang: (covering) => coveringOfKind({ covering }, 'singleLap').overhang,
  check,
  layOut,
  plan: planTiles,
  findings: tileFindings,
};
