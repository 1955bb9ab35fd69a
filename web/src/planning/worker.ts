import { type Job, type Library, type Plan, isSound, keptPlans, mendable, planJob } from '#core';

/** The library comes first, then jobs to be planned with it; none where there is no more to plan for now. */
export type Ask = { readonly library: Library | undefined } | { readonly job: Job };
/** `sound`: the first findings of the groups whose button does what it says. It follows a plan that stays a moment. */
export type Answer = { readonly plan: Plan } | { readonly problem: string } | { readonly sound: readonly string[] };

const tell = (answer: Answer): void => postMessage(answer);

let library: Library | undefined;
/** Slopes planned before, with this library. */
let kept = keptPlans();

/** While somebody types, plan follows on plan: fixes are tried on one that stays. */
const CALM_MS = 300;
let trying: ReturnType<typeof setTimeout> | undefined;

/** Tries the fixes one after another, so that a new job never waits for more than one. */
function tryFixes(job: Job, { findings }: Plan): void {
  const groups = mendable(findings);
  const sound: string[] = [];
  const next = (): void => {
    const group = groups.shift();
    if (!group) return tell({ sound });
    if (isSound(job, group, findings, (changed) => planJob(changed, library!, kept))) sound.push(group.findings[0].id);
    trying = setTimeout(next);
  };
  trying = setTimeout(next, CALM_MS);
}

addEventListener('message', ({ data }: MessageEvent<Ask>) => {
  clearTimeout(trying);
  if ('library' in data) {
    library = data.library;
    kept = keptPlans();
    return;
  }
  try {
    const plan = planJob(data.job, library!, kept);
    tell({ plan });
    tryFixes(data.job, plan);
  } catch (error) {
    tell({ problem: error instanceof Error ? error.message : String(error) });
  }
});
