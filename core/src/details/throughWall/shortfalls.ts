import { type Finding, cut, flow, mm } from '../../assembly/index.ts';
import type { Metal } from '../../catalog/index.ts';
import { inches, isOver, stepsToReach } from '../../units/index.ts';

/** A wall is opened over no more than this at once (trade practice). */
export const OPEN_AT_ONCE = inches(60);

/** What the catalog or the weeps cannot do for a flashing through a wall: too narrow a sheet, too little drained. */
export function shortfalls(
  wall: { readonly id: string; readonly name: string },
  piece: string,
  sizes: {
    readonly product: unknown;
    readonly needed: number;
    readonly weeps: number;
    readonly capacity: number;
    readonly inflow: number;
    /** Length of veneer taken out above the roof. */
    readonly run: number;
    /** Metal bedded in its mortar. */
    readonly ledge?: Metal;
  },
): Finding[] {
  const findings: Finding[] = [];
  if (!sizes.product)
    findings.push({
      id: `${wall.id}.width`,
      severity: 'breaks a rule',
      sentence: [`${wall.name}: no through-wall sheet in the catalog is `, cut(sizes.needed), ' wide (veneer, cavity and rise).'],
      fix: ['Lower the rise to what governs, or add a wider sheet.'],
      piece,
      key: 'throughWall.rise',
    });
  if (sizes.weeps > 0 && sizes.capacity < sizes.inflow)
    findings.push({
      id: `${wall.id}.drain`,
      severity: 'worth a look',
      sentence: [
        `${wall.name}: ${sizes.weeps} weeps drain `,
        flow(sizes.capacity),
        ' by their maker’s figure, the wall above can take in ',
        flow(sizes.inflow),
        '.',
      ],
      fix: ['Set them closer, or lay a drainage body with more outlets.'],
      piece,
      key: 'throughWall.weeps',
    });
  if (isOver(sizes.run, OPEN_AT_ONCE))
    findings.push({
      id: `${wall.id}.opened`,
      severity: 'worth a look',
      sentence: [
        `${wall.name}: `,
        mm(sizes.run),
        ` of veneer comes out above the roof, in ${stepsToReach(sizes.run, OPEN_AT_ONCE)} lengths of at most `,
        mm(OPEN_AT_ONCE),
        '.',
      ],
      fix: ['Never open more than one; where it carries load or its mortar is weak, ask an engineer before the first brick.'],
      piece,
    });
  if (sizes.ledge === 'aluminium')
    findings.push({
      id: `${wall.id}.mortar`,
      severity: 'worth a look',
      sentence: [`${wall.name}: aluminium ledge metal lies in fresh mortar, which eats it.`],
      fix: ['Have it coated on both faces where mortar meets it, or bent from copper or lead.'],
      piece,
    });
  return findings;
}
