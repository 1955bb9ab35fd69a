import { type Finding, type Words, listed, printWords } from '../assembly/index.ts';

/** A finding, or several that say the same of different things: who they are said of, and each. */
export type FindingGroup = { readonly names: readonly string[]; readonly findings: readonly [Finding, ...Finding[]] };

/** What a sentence says, apart from the name it begins with. */
function said({ sentence: [first, ...rest], severity, fix }: Finding): { name: string; rest: Words; key: string } {
  const text = typeof first === 'string' ? first : '';
  const colon = text.indexOf(': ');
  const name = colon < 0 ? '' : text.slice(0, colon);
  const told: Words = name === '' || first === undefined ? [first ?? '', ...rest] : [text.slice(colon + 2), ...rest];
  return { name, rest: told, key: [severity, printWords(told, 'imperial'), printWords(fix, 'imperial')].join('\n') };
}

/** The same thing said of several (two skylights alike, both slopes of a cross gable) is one group, where its first stands. */
export function groupFindings(findings: readonly Finding[]): FindingGroup[] {
  const groups = new Map<string, { names: string[]; findings: [Finding, ...Finding[]] }>();
  for (const finding of findings) {
    const { name, key } = said(finding);
    const group = groups.get(key);
    if (group && name !== '') {
      group.names.push(name);
      group.findings.push(finding);
    } else groups.set(name === '' ? `${key} ${finding.id}` : key, { names: [name], findings: [finding] });
  }
  return [...groups.values()];
}

/** A group's sentence: `West skylight and East skylight: …`. */
export function groupWords({ names, findings: [first] }: FindingGroup): Words {
  const { name, rest } = said(first);
  if (name === '') return first.sentence;
  return [`${listed(names)}: `, ...rest];
}
