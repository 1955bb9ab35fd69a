import { coveringOfKind } from '../../document/index.ts';
import type { CoveringFamily } from '../../slope/index.ts';
import { doubleLapFindings, planDoubleLap } from './covering.ts';
import { check, layOut } from './layOut.ts';
import { slatesOf } from './slate.ts';

/** Slates and plain tiles: tails a gauge apart, every lap three deep, a soaker a course beside a wall under a cover flashing. */
export const doubleLap: CoveringFamily = {
  word: (covering, catalog) => slatesOf({ covering, catalog }).slate.called,
  overhang: (covering) => coveringOfKind({ covering }, 'doubleLap').overhang,
  check,
  layOut,
  plan: planDoubleLap,
  findings: doubleLapFindings,
};
