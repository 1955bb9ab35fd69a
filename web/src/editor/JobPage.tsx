import { useQuery, useQueryClient } from '@tanstack/react-query';
import {
  type Feature,
  type Finding,
  type Job,
  type Library,
  type Plan,
  type Plane,
  type PlanePlan,
  type RuleKey,
  type Shelf,
  libraryFor,
  newestLibrary,
  planesOf,
  readJob,
  slopeOf,
  waterRequests,
  withWater,
} from '#core';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { Link, Outlet, useLocation, useNavigate, useParams } from 'react-router';
import { type StoredJob, UNTIL_THERE, getJob, getShelf } from '../api.ts';
import { type Planning, usePlan } from '../planning/usePlan.ts';
import { useWater } from '../water/useWater.ts';
import { WhoSays } from '../rules/WhoSays.tsx';
import { LeftBehind } from '../saving/LeftBehind.tsx';
import { SavedFirst, SavingBar } from '../saving/SavingBar.tsx';
import { draftOf } from '../saving/drafts.ts';
import { NewerBar } from '../versions/NewerBar.tsx';
import {
  type Editing,
  EditingContext,
  type Planned,
  PlannedContext,
  type SlopeShown,
  SlopeContext,
  type View,
  ViewContext,
  unitsFor,
} from './context.ts';
import { Pointed } from './Pointed.tsx';
import { useAddressed, useKeptInAddress } from './address.ts';
import { TopBar } from './TopBar.tsx';
import { type JobEditor, useJobEditor } from './useJobEditor.ts';
import css from './JobPage.module.css';

const VIEWS = ['roof', 'details', 'bench', 'order'] as const;

/** Loads a job and shows the view its address names: the slope, the order list or the print. */
export function JobPage() {
  const { id } = useParams();
  const stored = useQuery({ queryKey: ['job', id], queryFn: () => getJob(id!), ...UNTIL_THERE, staleTime: 0, gcTime: 0 });
  const shelf = useQuery({ queryKey: ['shelf'], queryFn: getShelf, ...UNTIL_THERE, staleTime: Number.POSITIVE_INFINITY });
  const error = stored.error ?? shelf.error;
  if (error) return <Refused sentences={[error.message]} />;
  const away = stored.failureReason ?? shelf.failureReason;
  if (!stored.data || !shelf.data || stored.data.id !== id)
    return <p className="waiting">{away ? `${away.message} Trying again…` : 'Opening the job…'}</p>;
  const read = readJob(stored.data.job, shelf.data);
  if (!read.ok) return <Refused sentences={read.issues.map(({ message }) => message)} />;
  return (
    <LeftBehind key={stored.data.id} stored={stored.data} shelf={shelf.data}>
      <OpenJob stored={stored.data} read={read.job} shelf={shelf.data} />
    </LeftBehind>
  );
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

function OpenJob({ stored, read, shelf }: { stored: StoredJob; read: Job; shelf: Shelf }) {
  // a version of the catalog that is not here was refused when the job was read
  const libraryOf = useCallback((job: Job): Library => libraryFor(shelf, job.catalog) ?? newestLibrary(shelf), [shelf]);
  const [initial] = useState(() => draftOf(stored.id)?.job ?? read);
  const editor = useJobEditor(stored, initial, shelf, libraryOf);
  const { catalog } = editor.job;
  const library = useMemo(() => libraryFor(shelf, catalog) ?? newestLibrary(shelf), [shelf, catalog]);
  const planning = usePlan(editor.job, library);
  const slopes = useMemo(() => planesOf(editor.job).planes, [editor.job]);
  // until a slope that is new is planned, or one that is gone has left the plan, only what both know is shown
  const known = planning.plan?.planes.some(({ id }) => slopes.some((slope) => slope.id === id));
  if (planning.plan && known)
    return (
      <PlannedJob
        id={stored.id}
        editor={editor}
        shelf={shelf}
        library={library}
        planning={planning}
        plan={planning.plan}
        slopes={slopes}
      />
    );
  return planning.problem ? (
    <Refused sentences={[notPlanned(planning.problem)]} />
  ) : (
    <p className="waiting">Planning the roof…</p>
  );
}

const notPlanned = (problem: string): string =>
  `This roof could not be planned (${problem}). Undo the last change, or change a measure.`;

type Shown = {
  id: string;
  editor: JobEditor;
  shelf: Shelf;
  library: Library;
  planning: Planning;
  plan: Plan;
  /** The job's slopes as they are measured now, ahead of the plan. */
  slopes: readonly Plane[];
};

function PlannedJob({ id: jobId, editor, shelf, library, planning, plan, slopes }: Shown) {
  const view = useLocation().pathname.split('/')[3];
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { job } = editor;
  const [planeId, showPlane] = useState(useAddressed('slope'));
  const shown = plan.planes.filter(({ id }) => slopes.some((slope) => slope.id === id));
  const plane = shown.find(({ id }) => id === planeId) ?? shown[0]!;
  const measured = slopes.find(({ id }) => id === plane.id)!;
  const addressed = Number(useAddressed('line') ?? Number.NaN);
  // the address has the roof's number of the line, the marker counts the slope's own lines
  const [wanted, setMarker] = useState(() =>
    Number.isInteger(addressed) && addressed >= 0
      ? plane.runSheet.flatMap((group) => group.lines).filter(({ whole }) => whole <= addressed).length
      : undefined,
  );
  const [mark, choose] = useState<string>();
  const [asked, whoSays] = useState<RuleKey>();
  const [reveal, setReveal] = useState(0);
  const water = useWater<'check'>(
    {
      what: 'check',
      assembly: plan,
      requests: waterRequests(plan),
    },
    '',
  );

  const units = useMemo(() => unitsFor(job.units), [job.units]);
  const { change } = editor;
  const editing = useMemo((): Editing => ({ editor, change, job, library, units }), [editor, change, job, library, units]);

  const isPlanned = planning.current;
  const isJudged = planning.current && water.current;
  const planned = useMemo(
    (): Planned => ({
      plan,
      findings: withWater(plan, water.answer?.results ?? []),
      planned: isPlanned,
      judged: isJudged,
      pieces: new Map(plan.pieces.map((piece) => [piece.mark, piece])),
      sound: planning.sound,
      openList: planning.openList,
    }),
    [plan, water.answer, isPlanned, isJudged, planning.sound, planning.openList],
  );
  const { pieces } = planned;

  const setPlane = useCallback((id: string) => {
    showPlane(id);
    setMarker(undefined);
    choose(undefined);
  }, []);
  const slope = useMemo((): SlopeShown => {
    const roof = plan.roof.find(({ id }) => id === plane.id)!;
    const lines = plane.runSheet.flatMap((group) => group.lines);
    const partIn = (draft: Job) => draft.parts.find(({ id }) => id === measured.part)!;
    return {
      plane,
      roof,
      measured,
      part: partIn(job),
      setPlane,
      recordIn: (draft) => draft.parts.flatMap(({ planes }) => planes).find(({ id }) => id === plane.id)!,
      partIn,
      lines,
      lineOf: new Map(lines.flatMap((one) => one.pieces.map((name) => [name, one.line] as const))),
      place: (id, x, y) => editor.changeIfSound(`move ${id}`, (draft) => placeIn(draft, id, x, y, roof, plane))[0]?.message,
    };
  }, [plan, plane, measured, job, editor, setPlane]);
  const { lines, lineOf } = slope;
  const marker = Math.min(wanted ?? lines.length, lines.length);
  useKeptInAddress({
    slope: plan.planes.length > 1 ? plane.id : undefined,
    line: marker < lines.length ? String(lines[marker - 1]?.whole ?? 0) : undefined,
  });

  const goTo = useCallback(
    (finding: Finding): void => {
      if (finding.id.startsWith('water.')) {
        choose(finding.piece);
        void navigate(`/jobs/${jobId}/bench`);
        return;
      }
      const found = finding.piece === undefined ? undefined : pieces.get(finding.piece);
      if (found) {
        const on = new Set(found.covers.map(({ facet }) => slopeOf(plan, facet)));
        const own = plan.planes.find(({ id }) => on.has(id)) ?? plane;
        if (own.id !== plane.id) showPlane(own.id);
        choose(found.mark);
        setMarker(own.id === plane.id ? (lineOf.get(found.mark) ?? lines.length) : undefined);
        setReveal((count) => count + 1);
      } else if (finding.key) whoSays(finding.key);
    },
    [plan, plane, pieces, lineOf, lines, jobId, navigate],
  );
  const looked = useMemo(
    (): View => ({
      marker,
      setMarker,
      chosen: mark === undefined ? undefined : pieces.get(mark),
      choose,
      goTo,
      reveal,
      asked,
      whoSays,
    }),
    [marker, mark, pieces, goTo, reveal, asked],
  );

  useEffect(() => {
    document.title = `${job.name} · Ruvet`;
    return () => {
      document.title = 'Ruvet';
      void queries.invalidateQueries({ queryKey: ['jobs'] });
    };
  }, [job.name, queries]);

  return (
    <EditingContext value={editing}>
      <PlannedContext value={planned}>
        <SlopeContext value={slope}>
          <ViewContext value={looked}>
            {view === 'print' ? (
              <Outlet />
            ) : (
              <div className={css.bench}>
                <TopBar view={VIEWS.find((one) => one === view) ?? 'slope'} />
                <SavingBar />
                <NewerBar shelf={shelf} />
                {planning.problem && (
                  <p role="alert" className="refusal">
                    {notPlanned(planning.problem)}
                  </p>
                )}
                <Pointed>
                  <Outlet />
                </Pointed>
              </div>
            )}
            <WhoSays />
            <SavedFirst />
          </ViewContext>
        </SlopeContext>
      </PlannedContext>
    </EditingContext>
  );
}

/** Puts a feature at a place of its slope, measured as it is measured in the job. */
function placeIn(draft: Job, id: Feature['id'], x: number, y: number, roof: Plane, { slopeFactor }: PlanePlan): void {
  const feature = draft.features.find((one) => one.id === id);
  if (!feature || feature.kind === 'headwall') return;
  const width =
    'width' in feature ? feature.width : feature.kind === 'standoffs' ? (feature.columns - 1) * feature.spacingAcross : 0;
  const { from } = feature.across;
  feature.across = { from, distance: Math.max(0, from === 'left' ? x : roof.eaveLength - x - width) };
  const length = feature.up.kind === 'slope' ? y : y / slopeFactor;
  feature.up = { kind: feature.up.kind, length: Math.max(0, length) };
}
