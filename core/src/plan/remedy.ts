import { type Finding, type Remedy, SEVERITIES, type Words } from '../assembly/index.ts';
import type { Job } from '../document/index.ts';
import { type FindingGroup, groupFindings } from './grouped.ts';
import { told } from './muted.ts';

/** Does to a job what a finding's fix says. */
export function applyRemedy(job: Job, remedy: Remedy): void {
  switch (remedy.does) {
    case 'set exposure': {
      const record = job.parts.flatMap(({ planes }) => planes).find(({ id }) => id === remedy.plane);
      if (record) record.exposure = remedy.exposure;
      return;
    }
    case 'move': {
      const feature = job.features.find(({ id }) => id === remedy.feature);
      if (feature && 'across' in feature) feature.across.distance += feature.across.from === 'left' ? remedy.by : -remedy.by;
      return;
    }
    case 'set nails':
      job.deviations = [
        ...job.deviations.filter(({ key }) => key !== 'covering.nails'),
        { key: 'covering.nails', sense: 'atLeast', value: remedy.nails, unit: 'count', reason: remedy.reason },
      ];
      return;
    case 'two layers': {
      const feature = job.features.find(({ id }) => id === remedy.feature);
      if (feature?.kind === 'skylight') feature.headCourse = 'two layers';
      return;
    }
    case 'set base': {
      const pipe = job.features.find(({ id }) => id === remedy.feature);
      if (pipe?.kind === 'pipe') pipe.boot = remedy.product;
    }
  }
}

/** What the button says that does it. */
export function remedyWords(remedy: Remedy): Words {
  switch (remedy.does) {
    case 'set exposure':
      return ['Set ', { mm: remedy.exposure, inchesOnly: true }, ' on this slope'];
    case 'move':
      return [
        `Move ${remedy.feature} `,
        { mm: Math.abs(remedy.by), inchesOnly: true },
        ` ${remedy.by > 0 ? 'right' : 'left'}: ${remedy.so}`,
      ];
    case 'set nails':
      return [`Set ${remedy.nails} nails in each shingle`];
    case 'two layers':
      return [`Two-layer head course on ${remedy.feature}`];
    case 'set base':
      return [`Take ${remedy.name} for ${remedy.feature}`];
  }
}

/** The changes a group's button does at once. */
export const remediesOf = ({ findings }: FindingGroup): Remedy[] => findings.flatMap(({ remedy }) => remedy ?? []);

/** How many findings there are of each id, the second and later of an id counted with the first. */
function countedIds(findings: readonly Finding[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const { id } of findings) {
    const [base] = id.split('#') as [string];
    counts.set(base, (counts.get(base) ?? 0) + 1);
  }
  return counts;
}

/** Groups of a plan's findings that can be mended by a button. */
export const mendable = (findings: readonly Finding[]): FindingGroup[] =>
  groupFindings(told(findings)).filter((group) => remediesOf(group).length > 0);

/**
 * Does a group's button do what it says? The roof is planned with it, by `plan`: what it is offered for is gone, and nothing as grave has come.
 * `before`: the findings of the job as it is.
 */
export function isSound(
  job: Job,
  group: FindingGroup,
  before: readonly Finding[],
  plan: (job: Job) => { readonly findings: readonly Finding[] },
): boolean {
  const changed = structuredClone(job);
  for (const remedy of remediesOf(group)) applyRemedy(changed, remedy);
  const gravity = SEVERITIES.indexOf(group.findings[0].severity);
  const asGrave = (findings: readonly Finding[]): Finding[] =>
    told(findings).filter(({ severity }) => SEVERITIES.indexOf(severity) <= gravity);
  const allowed = countedIds(asGrave(before));
  for (const [id, count] of countedIds(group.findings)) allowed.set(id, allowed.get(id)! - count);
  return [...countedIds(asGrave(plan(changed).findings))].every(([id, count]) => count <= (allowed.get(id) ?? 0));
}
