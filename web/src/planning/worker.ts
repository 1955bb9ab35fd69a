import { type Job, type Library, type Plan, keptPlans, planJob } from '#core';

/** The library comes first, then jobs to be planned with it. */
export type Ask = { readonly library: Library } | { readonly job: Job };
export type Answer = { readonly plan: Plan } | { readonly problem: string };

const tell = (answer: Answer): void => postMessage(answer);

let library: Library | undefined;
const kept = keptPlans();

addEventListener('message', ({ data }: MessageEvent<Ask>) => {
  if ('library' in data) return void (library = data.library);
  try {
    tell({ plan: planJob(data.job, library!, kept) });
  } catch (error) {
    tell({ problem: error instanceof Error ? error.message : String(error) });
  }
});
