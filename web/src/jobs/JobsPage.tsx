import { ActionIcon, Button, Menu } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { IconCopy, IconDots, IconDownload, IconPlus, IconTrash, IconUpload } from '@tabler/icons-react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type Job, newJob, readJob, readJobText, refuseSize, writeJobText } from '@ruvet/core';
import { useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import {
  ApiProblem,
  type JobSummary,
  addJob,
  deleteJob,
  download,
  fileName,
  getJob,
  getLibrary,
  listJobs,
  restoreJob,
} from '../api.ts';

const DATE = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' });

/** The jobs of the organisation: open, add, copy, delete with undo, import and export. */
export function JobsPage() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const jobs = useQuery({ queryKey: ['jobs'], queryFn: listJobs });
  const library = useQuery({ queryKey: ['library'], queryFn: getLibrary, staleTime: Number.POSITIVE_INFINITY });
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
      const job = library.data && newJob(library.data, 'New job', 'imperial');
      if (!job)
        throw new Error(
          'The catalog lacks a shingle, starter, ridge cap, ice barrier or underlayment, so no job can be started.',
        );
      await open(job);
    });
  const readStored = async (id: string): Promise<Job> => {
    const read = readJob((await getJob(id)).job, library.data!);
    if (!read.ok) throw new Error(read.issues[0]!.message);
    return read.job;
  };
  const copy = ({ id, name }: JobSummary) =>
    run.mutate(async () => addJob({ ...(await readStored(id)), name: `${name} (copy)`.slice(0, 120) }));
  const exportJob = ({ id, name }: JobSummary) =>
    run.mutate(async () => download(`${fileName(name)}.ruvet.json`, writeJobText(await readStored(id)), 'application/json'));
  const importFile = (file: File) =>
    run.mutate(async () => {
      const tooLarge = refuseSize(file.size);
      const read = tooLarge ? { ok: false as const, issues: [tooLarge] } : readJobText(await file.text(), library.data!);
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
          <div className="undo-note">
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
      <header className="jobs-head">
        <div>
          <h1 className="wordmark">Ruvet</h1>
          <p className="quiet">Larkmoor Field Station</p>
        </div>
        <div className="jobs-actions">
          <input
            ref={picker}
            type="file"
            accept=".json,application/json"
            hidden
            disabled={!library.data}
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
            disabled={!library.data}
            onClick={() => picker.current?.click()}
          >
            Import a job file
          </Button>
          <Button leftSection={<IconPlus size={16} />} disabled={!library.data} loading={run.isPending} onClick={start}>
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
      {(jobs.error ?? library.error) && (
        <div role="alert" className="refusal">
          {(jobs.error ?? library.error)!.message}{' '}
          <button onClick={() => void Promise.all([jobs.refetch(), library.refetch()])}>Try again</button>
        </div>
      )}
      {jobs.data?.length === 0 && <FirstJob onStart={start} ready={library.data !== undefined} />}
      {jobs.data && jobs.data.length > 0 && (
        <ol className="job-list" aria-label="Jobs">
          {jobs.data.map((job) => (
            <li key={job.id} className="job-row">
              <Link to={`/jobs/${job.id}`} className="job-link">
                <span className="job-name">{job.name}</span>
                <span className="quiet">
                  {job.slopes === 1 ? job.slope : `${job.slopes} slopes`} · {counted(job.walls, 'wall')}
                  {job.features > 0 && ` · ${counted(job.features, 'detail')}`}
                </span>
                <span className="quiet job-when">saved {DATE.format(new Date(job.updatedAt))}</span>
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
    </main>
  );
}

function FirstJob({ onStart, ready }: { onStart: () => void; ready: boolean }) {
  return (
    <section className="first-job">
      <svg viewBox="0 0 120 150" aria-hidden="true" className="first-pole">
        <path d="M20 8V142" />
        {Array.from({ length: 9 }, (_, i) => (
          <path key={i} d={`M20 ${136 - i * 15}H${i % 2 ? 110 : 34}`} className={i % 2 ? 'chalk' : ''} />
        ))}
        <path className="copper" d="M34 121l10-15h14l-10 15zM34 91l10-15h14l-10 15zM34 61l10-15h14l-10 15z" />
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

const counted = (count: number, what: string): string =>
  count === 0 ? `no ${what} yet` : count === 1 ? `1 ${what}` : `${count} ${what}s`;
