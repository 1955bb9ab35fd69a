import { type Finding, type Words, cut, mm } from '../../assembly/index.ts';
import { leastOf } from '../../rules/index.ts';
import type { PlaneContext } from '../../slope/index.ts';
import { courseMark } from '../../surface/index.ts';
import { inches } from '../../units/index.ts';

/**
 * A piece of covering with too few nails or too narrow; `across`: the far end of one that crosses that valley; `joint`: how near a joint stands to one
 * of the course below, where it stands too near.
 */
export type Unheld = {
  readonly course: number;
  readonly x0: number;
  readonly x1: number;
  readonly nails: number;
  readonly across?: string;
  readonly joint?: number;
};

/** Pieces of neighbouring courses this near in line are told together. */
const IN_LINE = inches(30);

type Run = { readonly first: Unheld; last: Unheld; narrowest: number; nails: number };

/** What of the covering cannot be held: one finding a place, however many courses it goes through. */
export function unheldFindings(context: PlaneContext, unheld: readonly Unheld[]): Finding[] {
  const runs: Run[] = [];
  for (const one of unheld) {
    const run = runs.find(
      ({ last }) =>
        last.across === one.across && one.course - last.course <= 3 && one.x0 - last.x1 < IN_LINE && last.x0 - one.x1 < IN_LINE,
    );
    if (!run) runs.push({ first: one, last: one, narrowest: one.x1 - one.x0, nails: one.nails });
    else {
      run.last = one;
      run.narrowest = Math.min(run.narrowest, one.x1 - one.x0);
      run.nails = Math.min(run.nails, one.nails);
    }
  }
  return runs.map((run, i) => tell(context, run, i + 1));
}

function tell(context: PlaneContext, { first, last, narrowest, nails }: Run, number: number): Finding {
  const { plane, rules } = context;
  const least = leastOf(rules, 'covering.leastNails');
  const where: Words = [
    first.course === last.course
      ? `${plane.name}, course ${first.course}`
      : `${plane.name}, courses ${first.course} to ${last.course}`,
    ', ',
    mm(Math.max(0, first.x0)),
    ' from the left end: ',
  ];
  const common = { id: `covering.held.${number}`, piece: courseMark(first.course) };
  if (first.across)
    return {
      ...common,
      severity: 'breaks a rule',
      sentence: [...where, `the far end of what crosses ${first.across} has no room for its two nails.`],
      fix: ['Run the other slope through, make the valley open, or move what stands beside it.'],
      key: 'valley.noNail',
    };
  if (first.joint !== undefined)
    return {
      ...common,
      severity: 'breaks a rule',
      sentence: [
        ...where,
        'a joint stands only ',
        cut(Math.min(first.joint, last.joint ?? first.joint)),
        ' from one of the course below, under ',
        cut(leastOf(rules, 'covering.jointOffset')),
        '; between the valley, the edge and what stands there no bond does better.',
      ],
      fix: ['Move what stands beside it, or lay a piece of sheet under the joint and record it.'],
      key: 'covering.jointOffset',
    };
  if (nails >= least)
    return {
      ...common,
      severity: 'breaks a rule',
      sentence: [
        ...where,
        'a piece of covering only ',
        cut(narrowest),
        ' wide, under ',
        cut(leastOf(rules, 'covering.leastPiece')),
        '; no bond that keeps the joints apart avoids it.',
      ],
      fix: ['Move what stands beside it, or hand-cut a wider piece there and record it.'],
      key: 'covering.leastPiece',
    };
  return {
    ...common,
    severity: 'breaks a rule',
    sentence: [
      ...where,
      'a piece of covering ',
      cut(narrowest),
      ` wide has no room for ${least} nails clear of metal, valleys and edges: it will slide.`,
    ],
    fix: ['Leave more room between what stands there, or cover the strip with metal.'],
    key: 'covering.leastNails',
  };
}
