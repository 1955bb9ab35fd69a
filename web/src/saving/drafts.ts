import type { Job } from '#core';
import { createStore, del, entries, set } from 'idb-keyval';
import { v4 as newId } from 'uuid';

/** What somebody changed and the server has not acknowledged yet. */
export type Draft = {
  readonly jobId: string;
  readonly job: Job;
  /** The version of the job it was made on top of. */
  readonly base: number;
  /** The id it is sent with: sent twice, it is saved once. */
  readonly saveId: string;
  /** Ids of what was sent before it and not answered: that may have been saved all the same. */
  readonly unanswered: readonly string[];
  readonly at: number;
};

/** A draft that a window left behind, and where it is kept. */
export type LeftDraft = Draft & { readonly key: string };

const kept = createStore('ruvet', 'drafts');

// Each window keeps its own drafts, and holds a lock as long as it lives: what is kept of a window without its lock was left behind.
const WINDOW = newId();
const lockOf = (name: string): string => `ruvet window ${name}`;
const keyOf = (jobId: string): string => `${jobId} ${WINDOW}`;
if (navigator.locks) void navigator.locks.request(lockOf(WINDOW), () => new Promise(() => undefined));

const drafts = new Map<string, Draft>();
/** The newest version of each job that this window saved. */
const saved = new Map<string, number>();
const listeners = new Set<() => void>();

/** Tells a listener of every change; answers how to stop. */
export function onDrafts(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** This window's draft of a job; none when all is acknowledged. */
export const draftOf = (jobId: string): Draft | undefined => drafts.get(jobId);

let all: readonly Draft[] = [];

/** This window's drafts of all jobs. */
export const allDrafts = (): readonly Draft[] => all;

function tell(): void {
  all = [...drafts.values()];
  for (const listener of listeners) listener();
}

function put(draft: Draft): void {
  drafts.set(draft.jobId, draft);
  // where nothing can be kept on the device (a private window, a full disk) saving goes on all the same
  set(keyOf(draft.jobId), draft, kept).catch(() => undefined);
  tell();
}

/** Keeps a change, on the device too, until the server has acknowledged it. */
export function keepDraft(jobId: string, job: Job, base: number): void {
  const before = drafts.get(jobId);
  put({
    jobId,
    job,
    base: before?.base ?? Math.max(base, saved.get(jobId) ?? 0),
    saveId: newId(),
    unanswered: before ? [...before.unanswered, before.saveId] : [],
    at: Date.now(),
  });
}

/** Takes up what another window left behind as this window's own. */
export async function takeUp({ key, ...draft }: LeftDraft): Promise<void> {
  put(draft);
  await drop(key);
}

/** The server has acknowledged a save: what came after it was made on top of it. */
export function acknowledge(jobId: string, saveId: string, version: number): void {
  saved.set(jobId, version);
  const draft = drafts.get(jobId);
  if (!draft) return;
  if (draft.saveId === saveId) return forget(jobId);
  put({ ...draft, base: version, unanswered: draft.unanswered.filter((id) => id !== saveId) });
}

/** A draft goes on top of another version. */
export function rebase(jobId: string, version: number): void {
  const draft = drafts.get(jobId);
  if (draft) put({ ...draft, base: version, saveId: newId(), unanswered: [] });
}

/** This window's draft of a job is no longer wanted, or saved. */
export function forget(jobId: string): void {
  drafts.delete(jobId);
  del(keyOf(jobId), kept).catch(() => undefined);
  tell();
}

/** Lets go of a draft that was left behind. */
export const drop = (key: string): Promise<void> => del(key, kept);

/** What windows that are gone left behind, of one job or of all, the newest first. */
export async function leftDrafts(jobId?: string): Promise<LeftDraft[]> {
  const all = await entries<string, Draft>(kept).catch((): [string, Draft][] => []);
  const held = new Set((await navigator.locks?.query())?.held?.map(({ name }) => name));
  return all
    .filter(([key, draft]) => {
      const window = key.split(' ')[1] ?? '';
      return window !== WINDOW && !held.has(lockOf(window)) && (jobId === undefined || draft.jobId === jobId);
    })
    .map(([key, draft]) => ({ ...draft, key }))
    .sort((a, b) => b.at - a.at);
}

addEventListener('beforeunload', (event) => {
  if (drafts.size > 0) event.preventDefault();
});
