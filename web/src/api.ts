import { type Issue, type Job, type Pack, type Shelf, catalogSchema, packSchema } from '#core';
import { z } from 'zod';

const storedSchema = z.object({
  id: z.string(),
  version: z.number(),
  savedAt: z.string(),
  saveId: z.string().nullable(),
  job: z.unknown(),
});
export type StoredJob = z.infer<typeof storedSchema>;

const summarySchema = z.object({
  id: z.string(),
  name: z.string(),
  version: z.number(),
  updatedAt: z.string(),
  slope: z.string(),
  slopes: z.number(),
  walls: z.number(),
  features: z.number(),
  findings: z
    .union([
      z.object({ leaks: z.number(), breaks: z.number(), seals: z.number(), looks: z.number() }),
      z.literal('cannot be planned'),
    ])
    .nullable(),
});
export type JobSummary = z.infer<typeof summarySchema>;

const problemSchema = z.object({
  status: z.number(),
  title: z.string(),
  detail: z.string(),
  errors: z.array(z.object({ path: z.string(), message: z.string() })).optional(),
  current: storedSchema.optional(),
});

/** What the server answered instead of doing it; or that it could not be reached (status 0). */
export class ApiProblem extends Error {
  readonly status: number;
  readonly issues: readonly Issue[];
  readonly current: StoredJob | undefined;

  constructor(status: number, detail: string, issues: readonly Issue[] = [], current?: StoredJob) {
    super(detail);
    this.status = status;
    this.issues = issues;
    this.current = current;
  }
}

/** What passes by itself: the server or its database is away, or too slow. The same can be asked again. */
export const isPassing = (error: unknown): boolean => error instanceof ApiProblem && (error.status === 0 || error.status >= 500);

/** Asked for until the server is there. */
export const UNTIL_THERE = {
  networkMode: 'always',
  retry: (_: number, error: Error) => isPassing(error),
  retryDelay: 2_000,
  refetchOnReconnect: false,
} as const;

async function call(method: string, path: string, body?: unknown): Promise<unknown> {
  const init =
    body === undefined ? { method } : { method, body: JSON.stringify(body), headers: { 'content-type': 'application/json' } };
  const response = await fetch(`/api${path}`, init).catch(() => {
    throw new ApiProblem(0, 'The server does not answer.');
  });
  if (response.status === 204) return undefined;
  const data: unknown = await response.json().catch(() => undefined);
  if (response.ok) return data;
  const problem = problemSchema.safeParse(data);
  throw problem.success
    ? new ApiProblem(response.status, problem.data.detail, problem.data.errors, problem.data.current)
    : new ApiProblem(response.status, 'The server answered something unreadable.');
}

const pageSchema = z.object({ jobs: z.array(summarySchema), next: z.string().nullable() });
export type JobsPage = z.infer<typeof pageSchema>;

/** A page of the jobs whose name has `search` in it; `after` is what the page before answered as `next`. */
export const listJobs = async (search: string, after: string | undefined): Promise<JobsPage> =>
  pageSchema.parse(await call('GET', `/jobs?${new URLSearchParams({ search, ...(after ? { after } : {}) }).toString()}`));
export const getJob = async (id: string): Promise<StoredJob> => storedSchema.parse(await call('GET', `/jobs/${id}`));
export const addJob = async (job: Job): Promise<StoredJob> => storedSchema.parse(await call('POST', '/jobs', job));
/** Saves on top of a version; the id of the save is sent again when its answer was lost. */
export const saveJob = async (id: string, save: { version: number; saveId: string; job: Job }): Promise<number> =>
  z.object({ version: z.number() }).parse(await call('PUT', `/jobs/${id}`, save)).version;
export const deleteJob = (id: string): Promise<unknown> => call('DELETE', `/jobs/${id}`);
export const restoreJob = (id: string): Promise<unknown> => call('POST', `/jobs/${id}/restore`);

/** Says what the house mutes in all its jobs, on top of a version. */
export const muteInHouse = async (version: number, muted: Readonly<Record<string, string>>): Promise<Pack> =>
  packSchema.parse(await call('PUT', '/house/muted', { version, muted }));

export const getShelf = async (): Promise<Shelf> =>
  z.object({ packs: z.array(packSchema), catalogs: z.array(catalogSchema) }).parse(await call('GET', '/library'));

/** Hands the browser a file to keep. */
export function download(name: string, text: string, type: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type }));
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}

/** A file name from a job's name: letters and digits, the rest dashes. */
export const fileName = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '') || 'job';
