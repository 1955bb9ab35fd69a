import { type Step, type Words, beforeAll } from '../assembly/index.ts';
import { type Job, OLD_COVERINGS } from '../document/index.ts';
import { namedDetails, roofLine } from './roofLine.ts';

/** More details than this are not named one by one in a line. */
const NAMED = 8;

/** Old stuff that is not handled untested (trade practice). */
export const SUSPECT: Words = ['Stop where asbestos-cement or lead may be among what comes off, and have it tested.'];

/** A line of what is looked at, or said, before anything comes off. */
export const surveyLine = (rank: number, step: Pick<Step, 'action'> & Partial<Step>): Step =>
  roofLine({ lay: beforeAll(-1, rank), stage: 'dry-in', ...step });

/** What is there is seen and photographed before it comes off (trade practice). */
export function surveySteps({ work }: Job, details: readonly string[]): Step[] {
  if (work.kind !== 're-roof') return [];
  const named = namedDetails(details, NAMED);
  return [
    surveyLine(0, { action: ['Look in from inside first: light, stains, wet insulation, vents. Photograph each.'] }),
    surveyLine(1, {
      action: [`Count the layers at a rake: ${work.layers} of ${OLD_COVERINGS[work.old].name} expected. `, ...SUSPECT],
      holdPoint: 'layers and kinds known, nothing suspect among them',
    }),
    surveyLine(2, {
      action: ['Walk the deck by the sheet: boards or sheets, gaps, soft spots. Mark and photograph each that gives.'],
      caution: 'A soft sheet may not bear you: feel ahead, stay tied off.',
    }),
    surveyLine(3, {
      action: [`Photograph the old flashing at ${named}. Single steps are never used again.`],
    }),
    surveyLine(4, {
      action: ['Note what stands on the roof and in its way: arrays, aerials, gutters to keep, and where the water goes.'],
    }),
  ];
}
