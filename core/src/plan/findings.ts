import { type Finding, type Piece, ROLES, type Step } from '../assembly/index.ts';
import { type Catalog, itemsOf } from '../catalog/index.ts';
import type { Requirement } from '../rules/index.ts';
import { STRIP_LAP, stripsAcross } from '../takeoff/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';

/** What lines use and the catalog has not: it stands in the line and not on the order. */
export function lackingFindings(steps: readonly Step[]): Finding[] {
  const lines = new Map<string, number>();
  for (const { uses = [] } of steps)
    for (const { product, name } of uses) if (product === undefined) lines.set(name, (lines.get(name) ?? 0) + 1);
  return [...lines].map(([name, count]): Finding => ({
    id: `order.${name.replaceAll(' ', '-')}`,
    severity: 'worth a look',
    sentence: [
      `The catalog has no ${name} that will do, so it is not on the order; ${count} ${count === 1 ? 'line uses' : 'lines use'} it.`,
    ],
    fix: ['Add it to the catalog, or buy it apart from this order.'],
  }));
}

/** Strips wider than the roll they are cut from: laid side by side in several, which the order counts. */
export function tooWideFindings(pieces: readonly Piece[], catalog: Catalog): Finding[] {
  const widths = new Map(itemsOf(catalog, 'iceBarrier').map(({ id, width, name }) => [id, { width, name }]));
  return pieces.flatMap(({ mark, role, product, sheetWidth }): Finding[] => {
    const roll = widths.get(product ?? '');
    if (!roll || sheetWidth === undefined || sheetWidth <= roll.width + LINE_TOLERANCE) return [];
    return [
      {
        id: `${mark}.width`,
        severity: 'worth a look',
        sentence: [
          `${ROLES[role].name} ${mark} is `,
          { mm: sheetWidth, inchesOnly: true },
          ` wide, and ${roll.name} comes `,
          { mm: roll.width, inchesOnly: true },
          ' wide.',
        ],
        fix: [
          `Lay it in ${stripsAcross(sheetWidth, roll.width)} strips, upper over lower, side laps `,
          { mm: STRIP_LAP, inchesOnly: true },
          '; the order has them all.',
        ],
        piece: mark,
        key: 'iceBarrier.sideLap',
      },
    ];
  });
}

/** The same thing said of several slopes is said once. */
export function uniqueFindings(findings: readonly Finding[]): Finding[] {
  const seen = new Set<string>();
  return findings.filter(({ id, sentence, piece }) => {
    const key = id.startsWith('rule.') ? id : `${id} ${JSON.stringify(sentence)} ${piece ?? ''}`;
    if (seen.has(key)) return false;
    seen.add(key);
    return true;
  });
}

/** Every finding has an id of its own, so that a list of them can be kept apart: the second of a kind is numbered. */
export function numbered(findings: readonly Finding[]): Finding[] {
  const counts = new Map<string, number>();
  return findings.map((finding) => {
    const count = (counts.get(finding.id) ?? 0) + 1;
    counts.set(finding.id, count);
    return count === 1 ? finding : { ...finding, id: `${finding.id}#${count}` };
  });
}

/** Conflicts, deviations and silences become findings; they never pass unnoticed. */
export function ruleFindings(requirements: readonly Requirement[]): Finding[] {
  return requirements.flatMap((requirement): Finding[] => {
    const { key, meaning, status } = requirement;
    const common = { id: `rule.${key}`, key };
    const said = requirement.statements.filter(({ standing }) => standing === 'conflicts').map(({ name }) => name);
    switch (status) {
      case 'conflict':
        return [
          {
            ...common,
            severity: 'breaks a rule',
            sentence: [`${[...new Set(said)].join(' and ')} contradict each other on: ${meaning}.`],
            fix: ['Open “Who says?” on it, ask the inspector, and record which to follow.'],
          },
        ];
      case 'deviated':
        return [
          {
            ...common,
            severity: 'breaks a rule',
            sentence: [`Decided on the roof to go below what governs: ${meaning}.`],
            fix: [requirement.why],
          },
        ];
      case 'assumed':
        return key === 'iceBarrier.alongSlope' || key === 'iceBarrier.required'
          ? []
          : [
              {
                ...common,
                severity: 'worth a look',
                sentence: [`No source in this job speaks on: ${meaning}. A usual value is assumed.`],
                fix: ['Add a rule pack that speaks on it.'],
              },
            ];
      default:
        return [];
    }
  });
}
