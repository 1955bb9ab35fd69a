import { useQuery } from '@tanstack/react-query';
import { useSyncExternalStore } from 'react';
import { Link } from 'react-router';
import { allDrafts, leftDrafts, onDrafts } from './drafts.ts';
import css from './Unsaved.module.css';

const WHEN = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' });

/** Tells on the list of jobs what of them was changed on this device and is not saved yet. */
export function Unsaved() {
  const sending = useSyncExternalStore(onDrafts, allDrafts);
  const left = useQuery({ queryKey: ['left', 'all'], queryFn: () => leftDrafts(), networkMode: 'always', gcTime: 0 });
  if (sending.length + (left.data?.length ?? 0) === 0) return null;
  return (
    <ul className={css.unsaved} aria-label="Not saved yet">
      {sending.map(({ jobId, job }) => (
        <li key={jobId} className="saving-bar" role="status">
          “{job.name}” is not saved yet: its last changes are on their way to the server. Keep this window open.
        </li>
      ))}
      {left.data?.map(({ key, jobId, job, at }) => (
        <li key={key} className="saving-bar">
          “{job.name}” was changed on this device on {WHEN.format(at)}, and that was not saved.{' '}
          <Link to={`/jobs/${jobId}`}>Open it to go on</Link>
        </li>
      ))}
    </ul>
  );
}
