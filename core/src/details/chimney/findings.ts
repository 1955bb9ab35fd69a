import { type Finding, cut, notInCatalog } from '../../assembly/index.ts';
import type { FeatureOf } from '../../document/index.ts';
import { type Cricket, tableHeight } from '../../roof/index.ts';
import { mostOf } from '../../rules/index.ts';
import { type PlaneContext, apronLegFor, footprint, shortLastCourse, takesCricket } from '../../slope/index.ts';
import { isOver, isUnder } from '../../units/index.ts';

export function findingsOf(
  context: PlaneContext,
  chimney: FeatureOf<'chimney'>,
  cricket: Cricket | undefined,
  hasMetal: boolean,
): Finding[] {
  const { rules } = context;
  const foot = footprint(chimney, context.plane);
  const findings: Finding[] = [];
  const piece = `${chimney.id}-${cricket ? 'CK' : 'P'}`;
  if (!hasMetal)
    findings.push(
      notInCatalog(chimney.name, [`flat ${context.covering.metal} sheet to bend its back piece from`], {
        id: `${chimney.id}.metal`,
        severity: 'breaks a rule',
        fix: ['Add it to the catalog, or choose another metal.'],
        piece,
        key: 'flashing.thickness',
      }),
    );
  if (chimney.back === 'pan' && takesCricket(context) && isOver(chimney.width, mostOf(rules, 'chimney.cricketOver')))
    findings.push({
      id: `${chimney.id}.cricket`,
      severity: 'breaks a rule',
      sentence: [
        `${chimney.name} is `,
        cut(chimney.width),
        ' wide across the slope: over ',
        cut(mostOf(rules, 'chimney.cricketOver')),
        ' the code asks for a cricket behind it.',
      ],
      fix: ['Set its back to a cricket.'],
      piece,
      key: 'chimney.cricketOver',
    });
  if (
    cricket &&
    chimney.cricketHeight !== null &&
    isUnder(chimney.cricketHeight, tableHeight(chimney.width, context.plane.pitch))
  )
    findings.push({
      id: `${chimney.id}.height`,
      severity: 'breaks a rule',
      sentence: [
        `${chimney.name}: a cricket `,
        cut(chimney.cricketHeight),
        ' high is below the table’s ',
        cut(tableHeight(chimney.width, context.plane.pitch)),
        '; the table’s is planned.',
      ],
      fix: ['Make it higher, or leave the height to the table.'],
      piece,
      key: 'chimney.cricketOver',
    });
  findings.push(
    ...shortLastCourse(context, foot.from, apronLegFor(context, chimney.apronLeg), {
      id: chimney.id,
      what: `${chimney.name}: the last course below its front`,
      piece: `${chimney.id}F-A1`,
      fix: ['Fit the courses of this slope, or accept it.'],
    }),
  );
  if (context.job.site.iceDams && !cricket && takesCricket(context))
    findings.push({
      id: `${chimney.id}.snow`,
      severity: 'worth a look',
      sentence: [`${chimney.name}: snow slides and lies behind it here; a cricket sheds it where a pan holds it.`],
      fix: ['Consider a cricket, though its width does not ask for one.'],
      piece,
      key: 'chimney.cricketOver',
    });
  return findings;
}
