import { type Issue, type Job, type Library, checkJob, dropHidden, jobSchema, upgradeJob } from '@ruvet/core';
import { useCallback, useEffect, useReducer, useRef, useState } from 'react';
import { ApiProblem, type StoredJob, addJob, saveJob } from '../api.ts';

/** Changes to the same field within this time are one step of undo. */
const SAME_STEP_MS = 1500;
const SAVE_AFTER_MS = 700;
const RETRY_AFTER_MS = 4000;

type History = { past: Job[]; present: Job; future: Job[]; field: string; at: number };
type Act =
  { kind: 'change'; job: Job; field: string; at: number } | { kind: 'undo' } | { kind: 'redo' } | { kind: 'replace'; job: Job };

function step(history: History, act: Act): History {
  switch (act.kind) {
    case 'change': {
      const sameStep = act.field === history.field && act.at - history.at < SAME_STEP_MS && history.past.length > 0;
      return {
        past: sameStep ? history.past : [...history.past, history.present],
        present: act.job,
        future: [],
        field: act.field,
        at: act.at,
      };
    }
    case 'undo': {
      const before = history.past.at(-1);
      return before
        ? { past: history.past.slice(0, -1), present: before, future: [history.present, ...history.future], field: '', at: 0 }
        : history;
    }
    case 'redo': {
      const [next, ...future] = history.future;
      return next ? { past: [...history.past, history.present], present: next, future, field: '', at: 0 } : history;
    }
    case 'replace':
      return { past: [...history.past, history.present], present: act.job, future: [], field: '', at: 0 };
  }
}

export type SaveState = 'saved' | 'saving' | 'unsaved' | 'refused';

/** What a field tries to do: change a draft of the job. */
export type Edit = (draft: Job) => void;

export type JobEditor = {
  readonly job: Job;
  readonly saveState: SaveState;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  /** Someone saved first: theirs, until the user has chosen. */
  readonly theirs: StoredJob | undefined;
  /** Applies an edit when the outcome can be planned; otherwise changes nothing and says why. */
  change(field: string, edit: Edit): readonly Issue[];
  undo(): void;
  redo(): void;
  keepMine(): void;
  /** Goes on with theirs; mine is kept as a job of its own, whose id comes back. */
  keepTheirs(): Promise<string>;
};

/** The job being edited: undo and redo, saving as the user goes, and the choice when someone else saved first. */
export function useJobEditor(stored: StoredJob, initial: Job, library: Library): JobEditor {
  const [history, act] = useReducer(step, { past: [], present: initial, future: [], field: '', at: 0 });
  const [saveState, setSaveState] = useState<SaveState>('saved');
  const [theirs, setTheirs] = useState<StoredJob>();
  const version = useRef(stored.version);
  const [savedJob, setSavedJob] = useState(initial);
  const busy = useRef(false);
  const job = history.present;
  const latest = useRef(job);
  latest.current = job;
  const dirty = useRef(false);
  dirty.current = job !== savedJob;

  const save = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    const sent = latest.current;
    setSaveState('saving');
    try {
      version.current = await saveJob(stored.id, version.current, sent);
      setSavedJob(sent);
    } catch (error) {
      if (error instanceof ApiProblem && error.status === 409 && error.current) setTheirs(error.current);
      setSaveState(
        error instanceof ApiProblem && error.status >= 400 && error.status !== 409 && error.status < 500 ? 'refused' : 'unsaved',
      );
    } finally {
      busy.current = false;
    }
  }, [stored.id]);

  useEffect(() => {
    if (theirs) return;
    if (job === savedJob) return setSaveState('saved');
    setSaveState((state) => (state === 'saved' ? 'unsaved' : state));
    const soon = setTimeout(() => void save(), SAVE_AFTER_MS);
    // a save that did not go through is tried again until it does
    const again = setInterval(() => void save(), RETRY_AFTER_MS);
    return () => {
      clearTimeout(soon);
      clearInterval(again);
    };
  }, [job, savedJob, save, theirs]);

  useEffect(() => {
    const warn = (event: BeforeUnloadEvent): void => {
      if (dirty.current) event.preventDefault();
    };
    addEventListener('beforeunload', warn);
    return () => {
      removeEventListener('beforeunload', warn);
      // leaving for another page of the app does not wait for the timer
      if (dirty.current) void save();
    };
  }, [save]);

  const change = useCallback(
    (field: string, edit: Edit): readonly Issue[] => {
      const draft = structuredClone(latest.current);
      edit(draft);
      dropHidden(draft);
      const parsed = jobSchema.safeParse(draft);
      if (!parsed.success)
        return parsed.error.issues.map(({ path, message }) => ({
          path: path.join('.'),
          message: `${message[0]?.toUpperCase()}${message.slice(1)}.`,
        }));
      const issues = checkJob(parsed.data, library);
      if (issues.length > 0) return issues;
      if (JSON.stringify(parsed.data) !== JSON.stringify(latest.current))
        act({ kind: 'change', job: parsed.data, field, at: Date.now() });
      return [];
    },
    [library],
  );

  return {
    job,
    saveState,
    canUndo: history.past.length > 0,
    canRedo: history.future.length > 0,
    theirs,
    change,
    undo: () => act({ kind: 'undo' }),
    redo: () => act({ kind: 'redo' }),
    keepMine: () => {
      version.current = theirs!.version;
      setTheirs(undefined);
    },
    keepTheirs: async () => {
      const mine = await addJob({ ...job, name: `${job.name} (my version)`.slice(0, 120) });
      const read = jobSchema.parse(upgradeJob(theirs!.job));
      version.current = theirs!.version;
      setSavedJob(read);
      act({ kind: 'replace', job: read });
      setTheirs(undefined);
      return mine.id;
    },
  };
}
