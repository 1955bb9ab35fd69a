import { type Job, type Library, type Plan, planJob } from '@ruvet/core';

export type Ask = { readonly job: Job; readonly library: Library };
export type Answer = { readonly plan: Plan } | { readonly problem: string };

const tell = (answer: Answer): void => postMessage(answer);

addEventListener('message', ({ data: { job, library } }: MessageEvent<Ask>) => {
  try {
    tell({ plan: planJob(job, library) });
  } catch (error) {
    tell({ problem: error instanceof Error ? error.message : String(error) });
  }
});
