import { Button, Modal } from '@mantine/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { type Finding, type Job, type Library, type RuleKey, dryInMarks, planJob, readJob } from '@ruvet/core';
import { useEffect, useMemo, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { type StoredJob, getJob, getLibrary } from '../api.ts';
import { LapBench } from '../lapbench/LapBench.tsx';
import { OrderPage } from '../order/OrderPage.tsx';
import { PrintPage } from '../print/PrintPage.tsx';
import { useWater } from '../water/useWater.ts';
import { withWater } from '../water/findings.ts';
import { WhoSays } from '../rules/WhoSays.tsx';
import { type Workbench, WorkbenchContext, unitsFor, useWorkbench } from './context.ts';
import { SlopePage } from './SlopePage.tsx';
import { TopBar } from './TopBar.tsx';
import { useJobEditor } from './useJobEditor.ts';

/** Loads a job and shows the view its address names: the slope, the order list or the print. */
export function JobPage() {
  const { id } = useParams();
  const stored = useQuery({ queryKey: ['job', id], queryFn: () => getJob(id!), staleTime: 0, gcTime: 0 });
  const library = useQuery({ queryKey: ['library'], queryFn: getLibrary, staleTime: Number.POSITIVE_INFINITY });
  const error = stored.error ?? library.error;
  if (error) return <Refused sentences={[error.message]} />;
  if (!stored.data || !library.data || stored.isFetching) return <p className="waiting">Opening the job…</p>;
  const read = readJob(stored.data.job, library.data);
  if (!read.ok) return <Refused sentences={read.issues.map(({ message }) => message)} />;
  return <OpenJob key={stored.data.id} stored={stored.data} initial={read.job} library={library.data} />;
}

function Refused({ sentences }: { sentences: readonly string[] }) {
  return (
    <main className="jobs">
      <div role="alert" className="refusal">
        {sentences.map((sentence) => (
          <p key={sentence}>{sentence}</p>
        ))}
      </div>
      <Link to="/">Back to the jobs</Link>
    </main>
  );
}

function OpenJob({ stored, initial, library }: { stored: StoredJob; initial: Job; library: Library }) {
  const { view } = useParams();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const editor = useJobEditor(stored, initial, library);
  const { job } = editor;
  const plan = useMemo(() => planJob(job, library), [job, library]);
  const plane = plan.planes[0]!;
  const lines = useMemo(() => plane.runSheet.flatMap((group) => group.lines), [plane]);
  const lineOf = useMemo(
    () => new Map(lines.flatMap(({ pieces, line }) => pieces.map((mark) => [mark, line] as const))),
    [lines],
  );
  const pieces = useMemo(() => new Map(plan.pieces.map((piece) => [piece.mark, piece])), [plan]);
  const [wanted, setMarker] = useState<number>();
  const [mark, choose] = useState<string>();
  const [asked, whoSays] = useState<RuleKey>();
  const [reveal, setReveal] = useState(0);
  const water = useWater<'check'>(
    {
      what: 'check',
      assembly: plan,
      requests: [
        { plane: plane.id, stage: 'finished' },
        { plane: plane.id, stage: 'dry-in', laid: dryInMarks(plane) },
      ],
    },
    '',
  );
  const findings = useMemo(() => withWater(plan, water.answer?.results ?? []), [plan, water.answer]);
  const marker = Math.min(wanted ?? lines.length, lines.length);

  useEffect(() => {
    document.title = `${job.name} · Ruvet`;
    return () => {
      document.title = 'Ruvet';
      void queries.invalidateQueries({ queryKey: ['jobs'] });
    };
  }, [job.name, queries]);

  const units = useMemo(() => unitsFor(job.units), [job.units]);
  const bench: Workbench = {
    editor,
    job,
    library,
    plan,
    findings,
    judged: water.answer !== undefined && water.progress === undefined,
    plane,
    lines,
    marker,
    setMarker,
    lineOf,
    pieces,
    chosen: mark === undefined ? undefined : pieces.get(mark),
    choose,
    goTo: (finding: Finding) => {
      if (finding.id.startsWith('water.')) {
        choose(finding.piece);
        void navigate(`/jobs/${stored.id}/bench`);
        return;
      }
      if (finding.piece !== undefined && pieces.has(finding.piece)) {
        choose(finding.piece);
        setMarker(lineOf.get(finding.piece) ?? lines.length);
        setReveal((count) => count + 1);
      } else if (finding.key) whoSays(finding.key);
    },
    reveal,
    asked,
    whoSays,
    units,
  };

  return (
    <WorkbenchContext value={bench}>
      {view === 'print' ? (
        <PrintPage />
      ) : (
        <div className="bench">
          <TopBar view={view === 'order' || view === 'bench' ? view : 'slope'} />
          {view === 'order' ? <OrderPage /> : view === 'bench' ? <LapBench /> : <SlopePage />}
        </div>
      )}
      <WhoSays />
      <SavedFirst />
    </WorkbenchContext>
  );
}

/** Both versions are kept; the user chooses which goes on. */
function SavedFirst() {
  const { editor, job } = useWorkbench();
  const [problem, setProblem] = useState<string>();
  const { theirs } = editor;
  if (!theirs) return null;
  const name = (theirs.job as { name?: string }).name;
  return (
    <Modal opened onClose={() => undefined} withCloseButton={false} title="Someone saved this job first" centered>
      <p>
        While you were working, another version{name && name !== job.name ? ` (“${name}”)` : ''} was saved at{' '}
        {new Date(theirs.savedAt).toLocaleTimeString()}. Both are kept. Which one goes on?
      </p>
      {problem && <p role="alert">{problem}</p>}
      <div className="choices">
        <Button onClick={() => editor.keepMine()}>Go on with mine</Button>
        <Button variant="default" onClick={() => void editor.keepTheirs().catch((error: Error) => setProblem(error.message))}>
          Go on with theirs, keep mine as a copy
        </Button>
      </div>
    </Modal>
  );
}
