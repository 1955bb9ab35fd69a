import { coveringOfKind } from '../../document/index.ts';
import type { CoveringFamily } from '../../slope/index.ts';
import { planCovering } from './covering.ts';
import { coveringFindings } from './findings.ts';
import { check, layOut } from './layOut.ts';

/** Shingles in strips: butts an exposure apart, laid two layers deep, a step flashing a course beside a wall. */
export const strip: CoveringFamily = {
  word: () => 'shingle',
  overhang: (covering) => coveringOfKind({ covering }, 'strip').firstButt,
  check,
  layOut,
  plan: planCovering,
  findings: coveringFindings,
};
