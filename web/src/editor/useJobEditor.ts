import { replaceEqualDeep } from '@tanstack/react-query';
import { type Issue, type Job, type Library, type Shelf, dropHidden, jobSchema, readJob, setAside } from '#core';
import { useCallback, useEffect, useEffectEvent, useLayoutEffect, useMemo, useReducer, useRef } from 'react';
import { type StoredJob, addJob } from '../api.ts';
import { draftOf, forget, keepDraft } from '../saving/drafts.ts';
import { type Saving, useSaving } from '../saving/useSaving.ts';

/** Changes to the same field within this time are one step of undo. */
const SAME_STEP_MS = 1500;
const SAVE_AFTER_MS = 700;

type History = { past: Job[]; present: Job; future: Job[]; field: string; at: number };
type Act =
  | { kind: 'change'; job: Job; field: string; at: number }
  | { kind: 'undo' }
  | { kind: 'redo' }
  | { kind: 'replace'; job: Job };

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

export type SaveState = 'saved' | 'saving' | 'unsaved' | 'away' | 'refused';

/** What is said of a change; `kept`: it was made all the same. */
export type Told = Issue & { readonly kept?: true };

/** What a field tries to do: change a draft of the job. */
export type Edit = (draft: Job) => void;

/** Applies an edit the schema takes, and says what of the outcome cannot be planned; one it refuses changes nothing. */
export type Change = (field: string, edit: Edit) => readonly Told[];

export type JobEditor = {
  readonly job: Job;
  readonly saveState: SaveState;
  readonly saving: Saving;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  readonly change: Change;
  /** The same for a gesture: one whose outcome cannot be planned changes nothing. */
  readonly changeIfSound: Change;
  undo(): void;
  redo(): void;
  /** Keeps mine as a job of its own, whose id comes back, and goes on with what the server has, if that is known. */
  keepAsCopy(): Promise<string>;
};

const stateOf = ({ draft, busy, away, refused }: Saving): SaveState =>
  !draft ? 'saved' : refused ? 'refused' : away ? 'away' : busy ? 'saving' : 'unsaved';

/**
 * The job being edited: undo and redo, and every change kept and saved as the user goes. `stored` is what the server has; `initial` what is gone on with,
 * which is a draft where there is one.
 */
export function useJobEditor(stored: StoredJob, initial: Job, shelf: Shelf, library: (job: Job) => Library): JobEditor {
  const { id } = stored;
  const [history, act] = useReducer(step, { past: [], present: initial, future: [], field: '', at: 0 });
  const saving = useSaving(id);
  const job = history.present;
  const latest = useRef(job);
  useLayoutEffect(() => {
    latest.current = job;
  }, [job]);
  // what is as the server has it: first what was opened, then what was sent
  const known = useRef(initial);
  const version = useRef(stored.version);
  const { send, theirs } = saving;
  const sendNow = useEffectEvent(() => send());

  useEffect(() => {
    if (job !== known.current) {
      known.current = job;
      keepDraft(id, job, version.current);
    }
    if (!draftOf(id)) return;
    const soon = setTimeout(() => sendNow(), SAVE_AFTER_MS);
    return () => clearTimeout(soon);
  }, [id, job]);

  useEffect(
    () => () => {
      // leaving for another page of the app does not wait for the timer
      if (draftOf(id)) sendNow();
    },
    [id],
  );

  /** What the field that was changed last was told. */
  const said = useRef<{ readonly field: string; readonly messages: ReadonlySet<string> }>(undefined);
  const make = useCallback(
    (field: string, edit: Edit, unsound: 'keep' | 'refuse'): readonly Told[] => {
      const draft = structuredClone(latest.current);
      edit(draft);
      dropHidden(draft);
      const parsed = jobSchema.safeParse(draft);
      if (!parsed.success)
        return parsed.error.issues.map(({ path, message }) => ({
          path: path.join('.'),
          message: `${message[0]?.toUpperCase()}${message.slice(1)}.`,
        }));
      const { sound, aside } = setAside(parsed.data, library(parsed.data));
      if (!sound) return aside;
      const before = new Set(setAside(latest.current, library(latest.current)).aside.map(({ message }) => message));
      // the field says what is not right about it, but not what was wrong elsewhere before
      const own = said.current?.field === field ? said.current.messages : undefined;
      const told = aside.filter(({ message }) => !before.has(message) || own?.has(message));
      if (unsound === 'refuse' && told.length > 0) return told;
      // what is as it was stays the very same, and is not drawn anew
      const next = replaceEqualDeep(latest.current, parsed.data);
      if (next !== latest.current) act({ kind: 'change', job: next, field, at: Date.now() });
      said.current = { field, messages: new Set(told.map(({ message }) => message)) };
      return told.map((issue) => ({ ...issue, kept: true }));
    },
    [library],
  );
  const change = useCallback<Change>((field, edit) => make(field, edit, 'keep'), [make]);
  const changeIfSound = useCallback<Change>((field, edit) => make(field, edit, 'refuse'), [make]);

  const undo = useCallback(() => act({ kind: 'undo' }), []);
  const redo = useCallback(() => act({ kind: 'redo' }), []);
  const keepAsCopy = useCallback(async () => {
    const kept = latest.current;
    const mine = await addJob({ ...kept, name: `${kept.name} (my version)`.slice(0, 120) });
    const read = theirs && readJob(theirs.job, shelf);
    forget(id);
    if (theirs && read?.ok) {
      version.current = theirs.version;
      known.current = read.job;
      act({ kind: 'replace', job: read.job });
    }
    return mine.id;
  }, [id, shelf, theirs]);

  const saveState = stateOf(saving);
  const canUndo = history.past.length > 0;
  const canRedo = history.future.length > 0;
  return useMemo(
    () => ({ job, saveState, saving, canUndo, canRedo, change, changeIfSound, undo, redo, keepAsCopy }),
    [job, saveState, saving, canUndo, canRedo, change, changeIfSound, undo, redo, keepAsCopy],
  );
}
