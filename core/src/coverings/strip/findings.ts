import {
  type Lines,
  closerLines,
  courseCount,
  gaugeAt,
  buttLine,
  courseMark,
  twoLayerHeadlap,
  widestGauge,
} from '../../surface/index.ts';
import type { Finding } from '../../assembly/index.ts';
import { leastOf, mostOf } from '../../rules/index.ts';
import type { PlaneContext } from '../../slope/index.ts';
import { LINE_TOLERANCE, inches, isOver, isUnder } from '../../units/index.ts';
import { shingleOf } from './shingle.ts';

/** A last course below the ridge shorter than this cannot be nailed by itself. */
const RIDGE_SLIVER = inches(1);

/** The exposure, as little closer as will do, that leaves the last course below a ridge tall enough; none where butts were measured, or none will. */
const closerAtRidge = (lines: Lines): number | undefined =>
  lines.at
    ? undefined
    : closerLines(lines).find((closer) => lines.end - buttLine(closer, courseCount(closer)) >= RIDGE_SLIVER)?.gauge;

/** Courses that lie farther apart on the roof than their maker or the rules allow, by the butts measured there. */
function tooFarApart({ plane, lines, rules, surface, covering, catalog }: PlaneContext): Finding[] {
  const most = Math.min(shingleOf({ covering, catalog }).maxExposure, mostOf(rules, 'covering.exposure'));
  const measured = (plane.measuredButts ?? []).toSorted((a, b) => a.course - b.course);
  return measured.flatMap(({ course }, i): Finding[] => {
    const from = measured[i - 1]?.course ?? 1;
    const gauge = course > from ? gaugeAt(lines, course - 1) : 0;
    if (gauge <= most + LINE_TOLERANCE) return [];
    return [
      {
        id: `covering.measured.${course}`,
        severity: 'breaks a rule',
        sentence: [
          `${plane.name}: courses ${from} to ${course} lie `,
          { mm: gauge, inchesOnly: true },
          ` apart as measured, farther than the `,
          { mm: most, inchesOnly: true },
          ` that ${surface.name} may be exposed.`,
        ],
        fix: ['Take them up and lay them closer; what is over-exposed has too little headlap and loses its warranty.'],
        piece: courseMark(course),
        key: 'covering.exposure',
      },
    ];
  });
}

/** What is to be said of the covering of a slope as it is laid out: first butt, headlap, measured courses, last course, joints. */
export function coveringFindings(context: PlaneContext): Finding[] {
  const { rules, lines } = context;
  const shingle = shingleOf(context);
  const findings: Finding[] = [];
  if (isUnder(-lines.first, leastOf(rules, 'covering.firstButt')) || isOver(-lines.first, mostOf(rules, 'covering.firstButt'))) {
    findings.push({
      id: 'covering.firstButt',
      severity: 'breaks a rule',
      sentence: [
        'The first butt hangs ',
        { mm: -lines.first },
        ' past the deck edge; from ',
        { mm: leastOf(rules, 'covering.firstButt') },
        ' to ',
        { mm: Math.min(mostOf(rules, 'covering.firstButt'), 1e6) },
        ' is right.',
      ],
      fix: ['Change the first butt under Covering.'],
      piece: 'C01',
      key: 'covering.firstButt',
    });
  }
  if (twoLayerHeadlap(lines.reach, widestGauge(lines)) < 0) {
    findings.push({
      id: 'covering.headlap',
      severity: 'leaks',
      sentence: [
        `${shingle.name} at `,
        { mm: widestGauge(lines) },
        ' exposure does not cover twice: every joint lies open to the underlayment.',
      ],
      fix: ['Lower the exposure.'],
      piece: 'C01',
      key: 'covering.exposure',
    });
  }
  findings.push(...tooFarApart(context));
  const last = lines.end - buttLine(lines, context.lines.count);
  if (context.plane.top === 'ridge' && last < RIDGE_SLIVER) {
    const closer = closerAtRidge(context.lines);
    findings.push({
      id: 'covering.ridge',
      severity: 'worth a look',
      sentence: [`${context.plane.name}: the last course shows only `, { mm: last, inchesOnly: true }, ' below the ridge.'],
      fix: ['Take the courses a little closer on the way up, so that it comes out tall enough to be nailed.'],
      ...(closer ? { remedy: { does: 'set exposure', plane: context.plane.id, exposure: closer } } : {}),
      piece: courseMark(context.lines.count),
      key: 'covering.exposure',
    });
  }
  const nails = leastOf(rules, 'covering.nails');
  if (context.job.site.wind?.exposed && shingle.exposedNails !== undefined && isUnder(nails, shingle.exposedNails))
    findings.push({
      id: 'covering.wind',
      severity: 'breaks a rule',
      sentence: [
        `${context.plane.name}: open to the wind ${shingle.maker} asks ${shingle.exposedNails} nails in each ${shingle.name.toLowerCase()}; ${nails} are planned.`,
      ],
      fix: [`Drive ${shingle.exposedNails}.`],
      remedy: { does: 'set nails', nails: shingle.exposedNails, reason: 'open to the wind, by the shingle’s maker' },
      piece: 'C01',
      key: 'covering.nails',
    });
  const apart = Math.min(shingle.bondOffset % shingle.width, shingle.width - (shingle.bondOffset % shingle.width));
  if (isUnder(apart, leastOf(rules, 'covering.jointOffset'))) {
    findings.push({
      id: 'covering.jointOffset',
      severity: 'breaks a rule',
      sentence: ['Joints of neighbouring courses stand only ', { mm: apart }, ' apart.'],
      fix: ['Choose a covering with a wider side offset.'],
      piece: 'C02',
      key: 'covering.jointOffset',
    });
  }
  return findings;
}
