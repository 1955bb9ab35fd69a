import { useMutation } from '@tanstack/react-query';
import { useMemo, useSyncExternalStore } from 'react';
import { ApiProblem, type StoredJob, isPassing, saveJob } from '../api.ts';
import { type Draft, acknowledge, draftOf, onDrafts, rebase } from './drafts.ts';

const TRY_AGAIN_MS = 5_000;

/** Sends a job's draft until none is left: what is changed while one is on its way goes after it. */
async function sendAll(jobId: string): Promise<void> {
  for (let draft = draftOf(jobId); draft; draft = draftOf(jobId)) {
    const { saveId, base, job, unanswered } = draft;
    try {
      acknowledge(jobId, saveId, await saveJob(jobId, { version: base, saveId, job }));
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error;
      const { status, current } = error;
      // what stands there may be a save of this window's own, whose answer was lost
      if (current?.saveId && unanswered.includes(current.saveId)) acknowledge(jobId, current.saveId, current.version);
      // what was changed since may be what the server will have
      else if (status !== 422 || draftOf(jobId)?.saveId === saveId) throw error;
    }
  }
}

export type Saving = {
  readonly draft: Draft | undefined;
  /** What is being sent, or tried again. */
  readonly busy: boolean;
  /** Why the last try did not go through; it is being tried again. */
  readonly away: string | undefined;
  /** Why the server will not have it; undefined while it is tried again. */
  readonly refused: ApiProblem | undefined;
  /** Someone saved first: theirs, until the user has chosen. */
  readonly theirs: StoredJob | undefined;
  send(): void;
  /** Goes on with the draft, on top of what someone else saved. */
  overrule(): void;
};

/** Saves a job's draft. It goes on when the page is left, until the server has answered. */
export function useSaving(jobId: string): Saving {
  const draft = useSyncExternalStore(onDrafts, () => draftOf(jobId));
  const { mutate, isPending, error, failureReason } = useMutation({
    mutationKey: ['save', jobId],
    mutationFn: () => sendAll(jobId),
    scope: { id: `save ${jobId}` },
    networkMode: 'always',
    retry: (_, failure) => isPassing(failure),
    retryDelay: (tries) => Math.min(500 * 2 ** tries, TRY_AGAIN_MS),
  });
  const failed = !isPending && draft && error instanceof ApiProblem ? error : undefined;
  const theirs = failed?.status === 409 ? failed.current : undefined;
  const away = isPending && failureReason ? failureReason.message : undefined;
  return useMemo(
    () => ({
      draft,
      busy: isPending,
      away,
      refused: theirs ? undefined : failed,
      theirs,
      // one that is on its way takes the newest along
      send: () => {
        if (!isPending) mutate();
      },
      overrule: () => {
        if (theirs) rebase(jobId, theirs.version);
        mutate();
      },
    }),
    [jobId, draft, isPending, away, failed, theirs, mutate],
  );
}
