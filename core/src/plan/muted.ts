import type { Finding } from '../assembly/index.ts';
import type { Job, Library } from '../document/index.ts';
import { type Pack, findPack } from '../rules/index.ts';

/** What sort of thing a finding says, whatever it says it of: `SK1.rafters` and `SK2.rafters#2` are both `rafters`. */
export const kindOf = ({ id }: Pick<Finding, 'id'>): string =>
  id
    .replace(/#\d+$/, '')
    .split('.')
    .filter((part) => /^[a-z]/.test(part))
    .join('.');

/** Only what is worth a look can be muted: a leak, a broken rule, a joint that hangs on sealant is always told. */
export const canBeMuted = ({ severity }: Pick<Finding, 'severity'>): boolean => severity === 'worth a look';

/** Findings with the reason on those whose kind the job, or a house pack of its, has muted; they come last. */
export function withMuted(findings: readonly Finding[], job: Job, { packs }: Library): Finding[] {
  const reasons = new Map<string, string>();
  for (const ref of job.packs) {
    const pack = findPack(packs, ref);
    if (pack?.source !== 'house') continue;
    for (const [kind, reason] of Object.entries(pack.muted ?? {})) reasons.set(kind, `${pack.name}: ${reason}`);
  }
  for (const [kind, reason] of Object.entries(job.muted)) reasons.set(kind, reason);
  const muted = (finding: Finding): string | undefined => (canBeMuted(finding) ? reasons.get(kindOf(finding)) : undefined);
  return [
    ...findings.filter((one) => muted(one) === undefined),
    ...findings.flatMap((one) => {
      const reason = muted(one);
      return reason === undefined ? [] : [{ ...one, muted: reason }];
    }),
  ];
}

/** Those that are told. */
export const told = (findings: readonly Finding[]): Finding[] => findings.filter(({ muted }) => muted === undefined);

/** The muted kinds among them, each with how many findings it hides and why. */
export function mutedKinds(findings: readonly Finding[]): { kind: string; count: number; reason: string }[] {
  const kinds = new Map<string, { kind: string; count: number; reason: string }>();
  for (const finding of findings) {
    if (finding.muted === undefined) continue;
    const kind = kindOf(finding);
    const known = kinds.get(kind);
    if (known) known.count++;
    else kinds.set(kind, { kind, count: 1, reason: finding.muted });
  }
  return [...kinds.values()];
}

/** The pack in which a house keeps the kinds of finding it does not want told in any job. */
export const HOUSE_MUTED = 'house-muted';

/** What a house mutes by the newest version of that pack, of those at hand: version 0 where it has said nothing yet. */
export function houseMuted(packs: readonly Pack[]): {
  readonly version: number;
  readonly muted: Readonly<Record<string, string>>;
} {
  const own = packs.filter(({ id }) => id === HOUSE_MUTED).sort((a, b) => b.version - a.version)[0];
  return { version: own?.version ?? 0, muted: own?.muted ?? {} };
}

/** A version of the pack: no pack is ever changed, so every change of mind is the next one. */
export const mutingPack = (version: number, muted: Readonly<Record<string, string>>): Pack => ({
  format: 'ruvet-pack',
  formatVersion: 1,
  id: HOUSE_MUTED,
  version,
  source: 'house',
  name: 'Not told in this house',
  edition: String(version),
  rules: [],
  muted,
});
