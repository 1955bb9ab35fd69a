import { ActionIcon, Button, Menu, TextInput } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { notifications } from '@mantine/notifications';
import { IconCopy, IconDots, IconDownload, IconPlus, IconSearch, IconTrash, IconUpload } from '@tabler/icons-react';
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { Job } from '#core';
import { useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import {
  ApiProblem,
  type JobSummary,
  UNTIL_THERE,
  addJob,
  deleteJob,
  download,
  fileName,
  getJob,
  getShelf,
  listJobs,
  restoreJob,
} from '../api.ts';
import { Unsaved } from '../saving/Unsaved.tsx';
import css from './JobsPage.module.css';

const DATE = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' });

const FOUND_SOON_MS = 1_500;

const files = () => import('./files.ts');

/** The jobs of the organisation: open, add, copy, delete with undo, import and export. */
export function JobsPage() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [typed, setTyped] = useState('');
  const [search] = useDebouncedValue(typed.trim(), 250);
  // where each page looked at begins, the one shown last
  const [begins, setBegins] = useState<readonly (string | undefined)[]>([undefined]);
  const after = begins.at(-1);
  const jobs = useQuery({
    queryKey: ['jobs', search, after],
    queryFn: () => listJobs(search, after),
    ...UNTIL_THERE,
    placeholderData: keepPreviousData,
    // what planning finds comes a little later
    refetchInterval: ({ state }) => (state.data?.jobs.some(({ findings }) => findings === null) ? FOUND_SOON_MS : false),
    // one page is held, the one that is shown
    gcTime: 0,
  });
  const next = jobs.data?.next;
  const shelf = useQuery({ queryKey: ['shelf'], queryFn: getShelf, ...UNTIL_THERE, staleTime: Number.POSITIVE_INFINITY });
  const error = jobs.error ?? shelf.error;
  const away = jobs.failureReason ?? shelf.failureReason;
  const picker = useRef<HTMLInputElement>(null);
  const [refused, setRefused] = useState<readonly string[]>([]);
  const refresh = () => queries.invalidateQueries({ queryKey: ['jobs'] });

  const run = useMutation({
    mutationFn: (work: () => Promise<unknown>) => work(),
    onSettled: refresh,
    onError: (error) =>
      setRefused(
        error instanceof ApiProblem && error.issues.length > 0 ? error.issues.map(({ message }) => message) : [error.message],
      ),
    onMutate: () => setRefused([]),
  });

  const open = async (job: Job) => navigate(`/jobs/${(await addJob(job)).id}`);
  const start = () =>
    run.mutate(async () => {
      const { newJob, newestLibrary } = await files();
      const job = shelf.data && newJob(newestLibrary(shelf.data), 'New job', 'imperial');
      if (!job)
        throw new Error(
          'The catalog lacks a shingle, starter, ridge cap, ice barrier or underlayment, so no job can be started.',
        );
      await open(job);
    });
  const readStored = async (id: string): Promise<Job> => {
    const { readJob } = await files();
    const read = readJob((await getJob(id)).job, shelf.data!);
    if (!read.ok) throw new Error(read.issues[0]!.message);
    return read.job;
  };
  const copy = ({ id, name }: JobSummary) =>
    run.mutate(async () => addJob({ ...(await readStored(id)), name: `${name} (copy)`.slice(0, 120) }));
  const exportJob = ({ id, name }: JobSummary) =>
    run.mutate(async () => {
      const { writeJobText } = await files();
      download(`${fileName(name)}.ruvet.json`, writeJobText(await readStored(id)), 'application/json');
    });
  const importFile = (file: File) =>
    run.mutate(async () => {
      const { readJobText, refuseSize } = await files();
      const tooLarge = refuseSize(file.size);
      const read = tooLarge ? { ok: false as const, issues: [tooLarge] } : readJobText(await file.text(), shelf.data!);
      if (read.ok) await open(read.job);
      else setRefused(read.issues.map(({ message }) => `${file.name}: ${message}`));
    });
  const remove = ({ id, name }: JobSummary) =>
    run.mutate(async () => {
      await deleteJob(id);
      notifications.show({
        id,
        autoClose: 15_000,
        withBorder: true,
        message: (
          <div className={css.undoNote}>
            <span>“{name}” is deleted.</span>
            <Button
              size="compact-sm"
              variant="default"
              onClick={() => {
                notifications.hide(id);
                run.mutate(() => restoreJob(id));
              }}
            >
              Undo
            </Button>
          </div>
        ),
      });
    });

  return (
    <main className="jobs">
      <header className={css.jobsHead}>
        <div>
          <h1 className="wordmark">Ruvet</h1>
          <p className="quiet">Larkmoor Field Station</p>
        </div>
        <div className={css.jobsActions}>
          <input
            ref={picker}
            type="file"
            accept=".json,application/json"
            hidden
            disabled={!shelf.data}
            aria-label="Job file to import"
            onChange={(event) => {
              const file = event.currentTarget.files?.[0];
              event.currentTarget.value = '';
              if (file) importFile(file);
            }}
          />
          <Button
            variant="default"
            leftSection={<IconUpload size={16} />}
            disabled={!shelf.data}
            onClick={() => picker.current?.click()}
          >
            Import a job file
          </Button>
          <Button leftSection={<IconPlus size={16} />} disabled={!shelf.data} loading={run.isPending} onClick={start}>
            New job
          </Button>
        </div>
      </header>
      {refused.length > 0 && (
        <div role="alert" className="refusal">
          {refused.map((sentence) => (
            <p key={sentence}>{sentence}</p>
          ))}
        </div>
      )}
      {error && (
        <div role="alert" className="refusal">
          {error.message} <button onClick={() => void Promise.all([jobs.refetch(), shelf.refetch()])}>Try again</button>
        </div>
      )}
      {!error && away && (
        <p role="status" className="saving-bar">
          {away.message} Trying again…
        </p>
      )}
      <Unsaved />
      {(typed !== '' || begins.length > 1 || jobs.data?.next) && (
        <TextInput
          className={css.jobSearch}
          aria-label="Find a job by its name"
          placeholder="Find a job by its name"
          leftSection={<IconSearch size={16} />}
          maxLength={120}
          value={typed}
          onChange={({ currentTarget }) => {
            setTyped(currentTarget.value);
            setBegins([undefined]);
          }}
        />
      )}
      {jobs.data?.jobs.length === 0 &&
        (search === '' ? (
          <FirstJob onStart={start} ready={shelf.data !== undefined} />
        ) : (
          <p className="quiet">No job has “{search}” in its name.</p>
        ))}
      {jobs.data && jobs.data.jobs.length > 0 && (
        <ol className={css.jobList} aria-label="Jobs">
          {jobs.data.jobs.map((job) => (
            <li key={job.id} className={css.jobRow}>
              <Link to={`/jobs/${job.id}`} className={css.jobLink}>
                <span className={css.jobName}>{job.name}</span>
                <span className="quiet">
                  {job.slopes === 1 ? job.slope : `${job.slopes} slopes`} · {counted(job.walls, 'wall')}
                  {job.features > 0 && ` · ${counted(job.features, 'detail')}`}
                </span>
                <span className={`quiet ${css.jobWhen}`}>saved {DATE.format(new Date(job.updatedAt))}</span>
                <Found findings={job.findings} />
              </Link>
              <Menu position="bottom-end">
                <Menu.Target>
                  <ActionIcon variant="subtle" size={44} aria-label={`More for ${job.name}`}>
                    <IconDots size={20} />
                  </ActionIcon>
                </Menu.Target>
                <Menu.Dropdown>
                  <Menu.Item leftSection={<IconCopy size={16} />} onClick={() => copy(job)}>
                    Copy
                  </Menu.Item>
                  <Menu.Item leftSection={<IconDownload size={16} />} onClick={() => exportJob(job)}>
                    Export job file
                  </Menu.Item>
                  <Menu.Item leftSection={<IconTrash size={16} />} onClick={() => remove(job)}>
                    Delete
                  </Menu.Item>
                </Menu.Dropdown>
              </Menu>
            </li>
          ))}
        </ol>
      )}
      {(begins.length > 1 || next) && (
        <nav className={css.jobPages} aria-label="Pages of the list">
          <Button variant="default" disabled={begins.length === 1} onClick={() => setBegins(begins.slice(0, -1))}>
            Newer
          </Button>
          <span className="quiet">Page {begins.length}</span>
          <Button
            variant="default"
            disabled={!next || jobs.isPlaceholderData}
            onClick={() => next && setBegins([...begins, next])}
          >
            Older
          </Button>
        </nav>
      )}
    </main>
  );
}

function FirstJob({ onStart, ready }: { onStart: () => void; ready: boolean }) {
  return (
    <section className={css.firstJob}>
      <svg viewBox="0 0 120 150" aria-hidden="true" className={css.firstPole}>
        <path d="M20 8V142" />
        {Array.from({ length: 9 }, (_, i) => (
          <path key={i} d={`M20 ${136 - i * 15}H${i % 2 ? 110 : 34}`} className={i % 2 ? css.chalk : ''} />
        ))}
        <path className={css.copper} d="M34 121l10-15h14l-10 15zM34 91l10-15h14l-10 15zM34 61l10-15h14l-10 15z" />
      </svg>
      <div>
        <h2>Start with the tape</h2>
        <p>
          Write down three measures of one slope: the <b>eave</b>, the <b>level run</b> from the eave edge to under the ridge, and
          the <b>pitch</b>. Then add the wall it meets. The run sheet, the pieces and the order list follow as you type.
        </p>
        <Button size="md" onClick={onStart} disabled={!ready} leftSection={<IconPlus size={18} />}>
          New job
        </Button>
      </div>
    </section>
  );
}

/** What planning a job found; nothing until it is known. */
function Found({ findings }: Pick<JobSummary, 'findings'>) {
  if (findings === null) return null;
  const said: [string, string][] = [];
  if (findings === 'cannot be planned') said.push(['bad', 'cannot be planned']);
  else {
    const { leaks, breaks, seals, looks } = findings;
    if (leaks > 0) said.push(['bad', counted(leaks, 'leak')]);
    if (breaks > 0) said.push(['bad', `breaks ${counted(breaks, 'rule')}`]);
    if (leaks + breaks + seals === 0) said.push(['good', 'sheds, and keeps the rules']);
    if (seals > 0) said.push(['', seals === 1 ? '1 relies on sealant' : `${seals} rely on sealant`]);
    if (looks > 0) said.push(['', `${looks} worth a look`]);
  }
  return (
    <span className={css.found}>
      {said.map(([kind, words]) => (
        <span key={words} className={kind}>
          {words}
        </span>
      ))}
    </span>
  );
}

const counted = (count: number, what: string): string =>
  count === 0 ? `no ${what} yet` : count === 1 ? `1 ${what}` : `${count} ${what}s`;
