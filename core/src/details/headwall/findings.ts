import { type Finding, type Words, cut } from '../../assembly/index.ts';
import { leastOf } from '../../rules/index.ts';
import { type Front, type PlaneContext, sheetIsRoof, shortLastCourse } from '../../slope/index.ts';
import { LINE_TOLERANCE } from '../../units/index.ts';
import type { Fit } from './fit.ts';
import { fitFor } from './fit.ts';

/** Aprons asked for shorter than what governs: the least is planned, and said. */
export function shortLegs(context: PlaneContext): Finding[] {
  const least = leastOf(context.rules, 'apron.roofLeg');
  const asked = [
    ...context.plane.walls.flatMap(({ id, name, from, apronLeg }) => (from > 0 ? [{ id, name, apronLeg }] : [])),
    ...context.features.flatMap((feature) =>
      'apronLeg' in feature && !(feature.kind === 'headwall' && feature.apron === 'left out') ? [feature] : [],
    ),
  ];
  return asked
    .filter(({ apronLeg }) => apronLeg < least - LINE_TOLERANCE)
    .map(({ id, name, apronLeg }) => ({
      id: `${id}.apronLeg`,
      severity: 'breaks a rule',
      sentence: [
        `${name}: an apron with `,
        cut(apronLeg),
        ' on the roof is under the least, ',
        cut(least),
        '; the least is planned.',
      ],
      fix: ['Measure again what room there is, or accept the longer leg.'],
      piece: `${id}F-A1`,
      key: 'apron.roofLeg',
    }));
}

export function apronFindings(context: PlaneContext, front: Front): Finding[] {
  const { lines } = context;
  const findings: Finding[] = [];
  if (front.apron === 'left out')
    return sheetIsRoof(context)
      ? []
      : [
          {
            id: `${front.id}.noApron`,
            severity: 'leaks',
            sentence: [
              `${front.name} has no metal: what runs down it goes under the covering, and the sheet there is not built as the roof.`,
            ],
            fix: ['Choose an apron, or take a pack whose school has the sheet under tiles as the roof.'],
            piece: `${front.id}-M1`,
            key: 'sheet.isRoof',
          },
        ];
  if (front.apron === 'strip nailed')
    findings.push({
      id: `${front.id}.strip`,
      severity: 'leaks',
      sentence: [
        `${front.name}: a strip nailed over the apron leads water between strip and metal to every nail; a slow leak over framing.`,
      ],
      fix: ['Fasten the apron along its lower edge and seal the heads, or adhere the strip.'],
      piece: `${front.id}-CS1`,
      key: 'apron.roofLeg',
    });
  if (front.y > lines.end - 1) {
    findings.push(
      ...shortLastCourse(context, front.y, front.apronLeg, {
        id: front.id,
        what: `${front.name}: the last course under the apron`,
        piece: `${front.id}-A1`,
        fix: fixWords(fitFor(context, front)),
        ...remedyOf(context, fitFor(context, front)),
      }),
    );
  }
  return findings;
}

const remedyOf = ({ plane }: PlaneContext, fit: Fit | undefined): Pick<Finding, 'remedy'> =>
  fit ? { remedy: { does: 'set exposure', plane: plane.id, exposure: fit.exposure } } : {};

const fixWords = (fit: Fit | undefined): Words =>
  fit
    ? [
        'Set the exposure of this slope to ',
        cut(fit.exposure),
        `: ${fit.courses} courses, the last `,
        cut(fit.lastTall),
        ' tall.',
      ]
    : ['No exposure within 1/8 in gives a taller one: accept it, or cut a filler course.'];
