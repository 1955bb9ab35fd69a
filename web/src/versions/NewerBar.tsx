import { Button, Modal } from '@mantine/core';
import { type Job, type Newer, type Plan, type Shelf, comparePlans, libraryFor, newerVersions, onNewest, readJob } from '#core';
import { useMemo, useState } from 'react';
import { useEditing, usePlanned } from '../editor/context.ts';
import { usePlan } from '../planning/usePlan.ts';
import css from './NewerBar.module.css';

/** Tells that the job's catalog or packs are here in newer versions, shows what they would change, and moves the job to them. */
export function NewerBar({ shelf }: { shelf: Shelf }) {
  const { job } = useEditing();
  const [open, setOpen] = useState(false);
  const newer = useMemo(() => newerVersions(job, shelf), [job, shelf]);
  if (newer.length === 0) return null;
  return (
    <>
      <section className="notice-bar" aria-label="Newer versions">
        Newer here: {newer.map(({ name, to }) => `${name}, version ${to}`).join('; ')}.{' '}
        <button type="button" className="link" onClick={() => setOpen(true)}>
          See what changes
        </button>
      </section>
      {open && <Moving shelf={shelf} newer={newer} close={() => setOpen(false)} />}
    </>
  );
}

function Moving({ shelf, newer, close }: { shelf: Shelf; newer: readonly Newer[]; close: () => void }) {
  const { job, change } = useEditing();
  const { plan } = usePlanned();
  const moved = useMemo(() => onNewest(job, shelf), [job, shelf]);
  const read = useMemo(() => readJob(moved, shelf), [moved, shelf]);
  const [problem, setProblem] = useState<string>();
  const move = (): void => {
    const [issue] = change('versions', (draft) => void Object.assign(draft, onNewest(draft, shelf)));
    if (issue && !issue.kept) setProblem(issue.message);
    else close();
  };
  return (
    <Modal opened onClose={close} title="Move this job to the newer versions" size="lg" centered>
      <ul>
        {newer.map(({ name, from, to }) => (
          <li key={name}>
            {name}: version {from} → {to}
          </li>
        ))}
      </ul>
      {read.ok ? (
        <Changes job={moved} shelf={shelf} before={plan} />
      ) : (
        <p role="alert">The job cannot be planned with them as it is: {read.issues[0]!.message}</p>
      )}
      {problem && <p role="alert">{problem}</p>}
      <div className="choices">
        <Button disabled={!read.ok} onClick={move}>
          Move the job
        </Button>
        <Button variant="default" onClick={close}>
          Leave it as it is
        </Button>
      </div>
    </Modal>
  );
}

function Changes({ job, shelf, before }: { job: Job; shelf: Shelf; before: Plan }) {
  const { units } = useEditing();
  const library = useMemo(() => libraryFor(shelf, job.catalog)!, [shelf, job.catalog]);
  const planning = usePlan(job, library);
  const { plan, current } = planning;
  const difference = useMemo(() => (plan && current ? comparePlans(before, plan) : undefined), [plan, current, before]);
  if (planning.problem) return <p role="alert">The job cannot be planned with them: {planning.problem}</p>;
  if (!difference) return <p className="quiet">Planning the roof with them…</p>;
  const { pieces, order, gone, added } = difference;
  if (pieces.length + order.length + gone.length + added.length === 0)
    return <p>The plan stays as it is: the same pieces, the same order, the same findings.</p>;
  return (
    <>
      {pieces.length > 0 && (
        <Lines title="Pieces" lines={pieces.map(({ name, before, after }) => `${name}: ${before} → ${after}`)} />
      )}
      {order.length > 0 && (
        <Lines
          title="Order"
          lines={order.map(({ name, package: pack, before, after }) => `${name}: ${before} → ${after}, by the ${pack}`)}
        />
      )}
      {added.length > 0 && <Lines title="New findings" lines={added.map(({ sentence }) => units.words(sentence))} />}
      {gone.length > 0 && <Lines title="Findings that go" lines={gone.map(({ sentence }) => units.words(sentence))} />}
    </>
  );
}

const Lines = ({ title, lines }: { title: string; lines: readonly string[] }) => (
  <>
    <h3>{title}</h3>
    <ul className={css.changes}>
      {lines.map((line) => (
        <li key={line}>{line}</li>
      ))}
    </ul>
  </>
);
