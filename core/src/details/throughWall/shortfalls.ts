import { type Finding, cut, flow } from '../../assembly/index.ts';

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
  return findings;
}
