import type { Finding } from '../assembly/index.ts';
import { type Issue, type Job, type Library, type Part, contradictions, dropHidden, newCovering } from '../document/index.ts';
import { checkJob } from './check.ts';

/** What of a job can be planned, and what was set aside so that it can, in sentences that name the field; `sound` is undefined where no slope is left. */
export type Sound = { readonly sound: Job | undefined; readonly aside: readonly Issue[] };

/** More rounds than a job has stages of checks: what one round sets aside may leave something else without its host. */
const ROUNDS = 60;

/**
 * Sets aside what the checks find wrong, and only that: a feature or wall that does not fit, a choice that contradicts another, a product that is not
 * there (the first of its kind is taken), a part that cannot stand. What is under or over what its maker allows is planned as it is, and told.
 */
export function setAside(job: Job, library: Library): Sound {
  const aside: Issue[] = [];
  let sound = job;
  for (let round = 0; round < ROUNDS; round++) {
    const issues = checkJob(sound, library);
    aside.push(...issues.filter(({ message }) => !aside.some((told) => told.message === message)));
    if (issues.every(({ planned }) => planned)) return { sound, aside };
    sound = without(sound, issues, library);
    if (!sound.parts.some(({ planes }) => planes.length > 0)) break;
  }
  return { sound: undefined, aside };
}

/** Findings of what was set aside or stands as nobody allows it. */
export const asideFindings = (aside: readonly Issue[]): Finding[] =>
  aside.map(({ path, message, planned }) => ({
    id: `job.${path}`,
    severity: 'breaks a rule',
    sentence: [message],
    fix: [planned ? 'It is planned as it is.' : 'The rest is planned without it.'],
  }));

function without(job: Job, issues: readonly Issue[], library: Library): Job {
  const draft = structuredClone(job);
  const stray = new Set(contradictions(draft).map(({ message }) => message));
  if (issues.some(({ message }) => stray.has(message))) {
    dropHidden(draft);
    return draft;
  }
  const gone = { parts: new Set<number>(), features: new Set<number>(), packs: new Set<number>(), coverings: new Set<number>() };
  const walls = new Map<string, Set<number>>();
  for (const { path, planned } of issues) {
    if (planned) continue;
    const [list, at, ...rest] = path.split('.');
    const index = Number(at);
    switch (list) {
      case 'coverings':
        if (rest[0] === 'id') gone.coverings.add(index);
        else takeFirst(draft, index, rest, library);
        break;
      case 'features':
        gone.features.add(index);
        break;
      case 'packs':
        gone.packs.add(index);
        break;
      case 'valleys':
        delete draft.valleys[at!];
        break;
      case 'parts': {
        const part = draft.parts[index]!;
        const key = `${index}.${rest[1]}`;
        if (rest[0] === 'planes' && rest[2] === 'walls')
          walls.set(key, (walls.get(key) ?? new Set<number>()).add(Number(rest[3])));
        else if (rest[0] === 'planes' && rest[2] === 'measuredButts') delete slope(part, rest[1]!).measuredButts;
        else if (rest[0] === 'planes' && rest[2] === 'covering') slope(part, rest[1]!).covering = draft.coverings[0]!.id;
        else gone.parts.add(index);
      }
    }
  }
  for (const [key, indices] of walls) {
    const [part, plane] = key.split('.');
    const record = slope(draft.parts[Number(part)]!, plane!);
    record.walls = record.walls.filter((_, i) => !indices.has(i));
  }
  draft.features = draft.features.filter((_, i) => !gone.features.has(i));
  draft.packs = draft.packs.filter((_, i) => !gone.packs.has(i));
  draft.coverings = draft.coverings.filter((_, i) => !gone.coverings.has(i));
  draft.parts = draft.parts.filter((_, i) => !gone.parts.has(i));
  return draft;
}

const slope = (part: Part, at: string) => part.planes[Number(at)]!;

/** A covering's product that is not there, or not of its kind: the first the catalog has, or none where none may be chosen and the first is what is wrong. */
function takeFirst(draft: Job, index: number, path: readonly string[], { catalog }: Library): void {
  const covering = draft.coverings[index] as unknown as Record<string, unknown>;
  const fresh = newCovering(draft.coverings[index]!.kind, catalog, []) as unknown as Record<string, unknown> | undefined;
  const [field, under] = path;
  const first = fresh?.[field!] ?? null;
  if (under === undefined) covering[field!] = first === covering[field!] ? null : first;
  else (covering[field!] as Record<string, unknown>)[under] = (fresh?.[field!] as Record<string, unknown> | undefined)?.[under];
}
