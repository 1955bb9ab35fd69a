import { type FindingGroup, type Job, type Library, type Plan, isSound, keptPlans, mendable, planJob, told } from '#core';

/**
 * The library comes first, then jobs to be planned with it; none where there is no more to plan for now. `listOpen`: all findings are shown, and not
 * just the gravest.
 */
export type Ask = { readonly library: Library | undefined } | { readonly job: Job } | { readonly listOpen: boolean };
/** `sound`: the first findings of the groups whose button does what it says, as far as they are tried. It follows a plan that stays a moment. */
export type Answer = { readonly plan: Plan } | { readonly problem: string } | { readonly sound: readonly string[] };

const tell = (answer: Answer): void => postMessage(answer);

let library: Library | undefined;
/** Slopes planned before, with this library. */
let kept = keptPlans();

/** While somebody types, plan follows on plan: fixes are tried on one that stays. */
const CALM_MS = 300;
/** The plan whose fixes are tried: of which groups not yet, and which do what they say. */
type Trial = { readonly job: Job; readonly plan: Plan; readonly left: FindingGroup[]; readonly sound: string[] };
let trial: Trial | undefined;
let trying: ReturnType<typeof setTimeout> | undefined;
let listOpen = false;

/** Only what is shown has a button: where the list is closed the gravest, if it is grave. */
const isShown = ({ findings }: Plan, { findings: [own] }: FindingGroup): boolean =>
  listOpen || (own.severity !== 'worth a look' && own.id === told(findings)[0]?.id);

/** Tries the fixes one after another, so that a new job never waits for more than one. */
function tryNext(): void {
  const next = trial?.left.findIndex((group) => isShown(trial!.plan, group)) ?? -1;
  if (!trial || next < 0) return;
  const { job, plan, left, sound } = trial;
  const [group] = left.splice(next, 1) as [FindingGroup];
  if (isSound(job, group, plan.findings, (changed) => planJob(changed, library!, kept))) {
    sound.push(group.findings[0].id);
    tell({ sound });
  }
  trying = setTimeout(tryNext);
}

addEventListener('message', ({ data }: MessageEvent<Ask>) => {
  clearTimeout(trying);
  if ('listOpen' in data) {
    ({ listOpen } = data);
    trying = setTimeout(tryNext);
    return;
  }
  trial = undefined;
  if ('library' in data) {
    library = data.library;
    kept = keptPlans();
    return;
  }
  try {
    const plan = planJob(data.job, library!, kept);
    tell({ plan });
    trial = { job: data.job, plan, left: mendable(plan.findings), sound: [] };
    trying = setTimeout(tryNext, CALM_MS);
  } catch (error) {
    tell({ problem: error instanceof Error ? error.message : String(error) });
  }
});
