import { Button } from '@mantine/core';
import { type Shelf, readJob, writeJobText } from '#core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { type StoredJob, download, fileName } from '../api.ts';
import { type LeftDraft, draftOf, drop, leftDrafts, takeUp } from './drafts.ts';
import css from './LeftBehind.module.css';

const WHEN = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' });

/** Before a job opens: changes to it that a window left behind, which never reached the server, are offered. */
export function LeftBehind({ stored, shelf, children }: { stored: StoredJob; shelf: Shelf; children: ReactNode }) {
  const queries = useQueryClient();
  const left = useQuery({
    queryKey: ['left', stored.id],
    networkMode: 'always',
    gcTime: 0,
    queryFn: async () => {
      const drafts = await leftDrafts(stored.id);
      const lost = drafts.filter((draft) => !isSaved(draft, stored));
      await Promise.all(drafts.filter((draft) => isSaved(draft, stored)).map(({ key }) => drop(key)));
      return lost;
    },
  });
  // what this very window is still sending goes on by itself
  if (draftOf(stored.id)) return children;
  if (!left.data) return <p className="waiting">Opening the job…</p>;
  const [draft] = left.data;
  if (!draft) return children;
  const settled = (): Promise<void> => queries.invalidateQueries({ queryKey: ['left'] });
  const read = readJob(draft.job, shelf);
  return (
    <main className={`jobs ${css.leftBehind}`}>
      <h1>Changes that were not saved</h1>
      <p>
        On {WHEN.format(draft.at)} this job, “{draft.job.name}”, was changed on this device, and the server has not acknowledged
        it. What is saved is from {WHEN.format(new Date(stored.savedAt))}.
      </p>
      {!read.ok && <p role="alert">These changes cannot be planned as they are: {read.issues[0]!.message}</p>}
      <div className="choices">
        {read.ok && (
          <Button onClick={() => void takeUp({ ...draft, job: read.job }).then(settled)}>Go on with the changes</Button>
        )}
        <Button
          variant="default"
          onClick={() => download(`${fileName(draft.job.name)}.ruvet.json`, writeJobText(draft.job), 'application/json')}
        >
          Export them as a job file
        </Button>
        <Button variant="default" onClick={() => void drop(draft.key).then(settled)}>
          Drop them, open what is saved
        </Button>
      </div>
    </main>
  );
}

/** Was a draft saved after all, or is it what is saved? */
const isSaved = ({ saveId, job }: LeftDraft, stored: StoredJob): boolean =>
  saveId === stored.saveId || JSON.stringify(job) === JSON.stringify(stored.job);
