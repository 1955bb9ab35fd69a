import { coveringOfKind } from '../../document/index.ts';
import type { CoveringFamily } from '../../slope/index.ts';
import { planShakes, shakeFindings } from './covering.ts';
import { check, layOut } from './layOut.ts';

/** Split wood shakes: butts an exposure apart, felt between the courses, a step flashing a course beside a wall. */
export const shake: CoveringFamily = {
  word: () => 'shake',
  overhang: (covering) => coveringOfKind({ covering }, 'shake').firstButt,
  check,
  layOut,
  plan: planShakes,
  findings: shakeFindings,
};
