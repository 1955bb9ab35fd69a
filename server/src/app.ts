import { fileURLToPath } from 'node:url';
import { type Issue, MAX_JOB_BYTES, type ReadJob, mutedSchema, readJob } from '#core';
import compression from 'compression';
import express, { type ErrorRequestHandler, type Express, type Response } from 'express';
import helmet from 'helmet';
import { z } from 'zod';
import { isAway } from './database.ts';
import { onlyOwnPages } from './origin.ts';
import type { Store } from './store.ts';

const WEB = fileURLToPath(new URL('../../web/dist/', import.meta.url));

/** RFC 9457 problem details; `errors` names each field by its path. */
type Problem = { status: number; title: string; detail: string; errors?: readonly Issue[]; current?: unknown };

const problem = (response: Response, body: Problem): void =>
  void response.status(body.status).type('application/problem+json').send(JSON.stringify(body));

const MISSING: Problem = { status: 404, title: 'No such job', detail: 'There is no such job here; it may have been deleted.' };

const invalid = (issues: readonly Issue[]): Problem => ({
  status: 422,
  title: 'The job cannot be planned',
  detail: issues.map(({ message }) => message).join(' '),
  errors: issues,
});

/** The largest whole number the database keeps. */
const MOST = 2 ** 31 - 1;

const VERSION = { error: 'must be the version the change was made to' };
const saveSchema = z.strictObject({
  version: z.int(VERSION).min(1, VERSION).max(MOST, VERSION),
  saveId: z.uuid({ error: 'must be a UUID' }).optional(),
  job: z.unknown(),
});

/** What a house mutes, and the version this was said on top of: 0 for the first. */
const houseMutedSchema = z.strictObject({
  version: z
    .int(VERSION)
    .min(0, VERSION)
    .max(MOST - 1, VERSION),
  muted: mutedSchema.refine((muted) => Object.entries(muted).every((entry) => entry.every((text) => !/\p{C}/u.test(text))), {
    error: 'has a character that cannot be shown',
  }),
});

const idSchema = z.uuid();
const isId = (id: string): boolean => idSchema.safeParse(id).success;

const listSchema = z.object({
  search: z
    .string({ error: 'must be given once' })
    .max(120, { error: 'must be at most 120 characters' })
    .regex(/^[^\0]*$/, { error: 'has a character in it that cannot be searched for' })
    .default(''),
  /** The end of the page before: the moment of its last job, and its id. */
  after: z
    .string({ error: 'must be given once' })
    .regex(/^\d{4}-\d\d-\d\d \d\d:\d\d:\d\d(\.\d{1,6})?[+-](0\d|1[0-5])(:[0-5]\d)? [0-9a-f-]{36}$/, {
      error: 'must be what the page before answered as `next`',
    })
    .transform((text) => text.split(/ (?=[0-9a-f-]{36}$)/) as [string, string])
    .refine(([moment, id]) => !Number.isNaN(Date.parse(`${moment.slice(0, 10)}T${moment.slice(11, 19)}Z`)) && isId(id), {
      error: 'must be what the page before answered as `next`',
    })
    .optional(),
});

/** What is wrong with the parts of a request, each by its name. */
const wrongParts = (error: z.ZodError): Problem => ({
  ...invalid(
    error.issues.slice(0, 20).map((issue) => {
      const path = issue.path.join('.');
      const what = issue.code === 'unrecognized_keys' ? 'has an entry that is not known' : issue.message;
      return { path, message: `${path || 'Request'} ${what}.` };
    }),
  ),
  title: 'The request is not right',
});

/** The HTTP application: jobs and library as JSON, everything else is the web build. */
export function createApp(store: Store): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(
    helmet({
      contentSecurityPolicy: { directives: { 'upgrade-insecure-requests': null, 'style-src': ["'self'", "'unsafe-inline'"] } },
    }),
  );
  app.use(onlyOwnPages((response, detail) => problem(response, { status: 403, title: 'Not from here', detail })));
  // what answers a save is a few bytes
  app.use(compression({ filter: (request, response) => request.method === 'GET' && compression.filter(request, response) }));
  app.use('/api', jobRoutes(store));
  app.use('/api', (_, response) =>
    problem(response, { status: 404, title: 'No such address', detail: 'The API has no such address.' }),
  );
  // their names hold their hash: another version has another name
  app.use('/assets', express.static(`${WEB}assets`, { index: false, immutable: true, maxAge: '1y', fallthrough: false }));
  app.use(express.static(WEB, { index: false, maxAge: '1h' }));
  app.get('/{*page}', (_, response) => response.sendFile('index.html', { root: WEB, headers: { 'cache-control': 'no-cache' } }));
  app.use(reportError);
  return app;
}

function jobRoutes(store: Store): express.Router {
  const routes = express.Router();
  // a little over the job limit, so that a job's own message comes first
  routes.use(express.json({ limit: MAX_JOB_BYTES + 64 * 1024, strict: false }));
  const read = async (data: unknown): Promise<ReadJob> => {
    const shelf = await store.shelf();
    const job = readJob(data, shelf);
    if (job.ok) return job;
    // it may name what another instance has brought since
    const anew = await store.shelfAnew();
    return anew === shelf ? job : readJob(data, anew);
  };

  routes.get('/health', async (_, response) => {
    let late: NodeJS.Timeout | undefined;
    const tooLate = new Promise<boolean>((resolve) => (late = setTimeout(() => resolve(false), HEALTH_WAIT_MS)));
    const there = store.ask().then(
      () => true,
      () => false,
    );
    const ok = await Promise.race([there, tooLate]);
    clearTimeout(late);
    if (!ok) return problem(response, DATABASE_AWAY);
    response.json({ ok: true, database: 'there' });
  });
  routes.get('/library', async (_, response) => void response.json(await store.shelfDocuments()));
  routes.put('/house/muted', async (request, response) => {
    const body = houseMutedSchema.safeParse(request.body);
    if (!body.success) return problem(response, wrongParts(body.error));
    const pack = await store.muteInHouse(body.data.version, body.data.muted);
    if (!pack)
      return problem(response, {
        status: 409,
        title: 'Someone said otherwise first',
        detail: 'Somebody else changed what this house mutes after you looked. Look again, then say it anew.',
      });
    response.json(pack);
  });
  routes.get('/jobs', async (request, response) => {
    const query = listSchema.safeParse(request.query);
    if (!query.success) return problem(response, wrongParts(query.error));
    const { search, after } = query.data;
    response.json(await store.listJobs({ search, ...(after ? { after } : {}) }));
  });

  routes.post('/jobs', async (request, response) => {
    const job = await read(request.body);
    if (!job.ok) return problem(response, invalid(job.issues));
    response.status(201).json(await store.addJob(job.job));
  });

  routes.param('id', (_request, response, next, id: string) => (isId(id) ? next() : problem(response, MISSING)));

  routes.get('/jobs/:id', async (request, response) => {
    const found = await store.getJob(request.params.id);
    if (!found) return problem(response, MISSING);
    response.json(found);
  });

  routes.put('/jobs/:id', async (request, response) => {
    const body = saveSchema.safeParse(request.body);
    if (!body.success) return problem(response, wrongParts(body.error));
    const job = await read(body.data.job);
    if (!job.ok) return problem(response, invalid(job.issues));
    const outcome = await store.saveJob(request.params.id, body.data.version, job.job, body.data.saveId);
    if (outcome.kind === 'missing') return problem(response, MISSING);
    if (outcome.kind === 'stale') {
      return problem(response, {
        status: 409,
        title: 'Someone saved first',
        detail: 'Someone else saved this job after you opened it. Both versions are kept; choose which goes on.',
        current: outcome.current,
      });
    }
    response.json({ version: outcome.version });
  });

  routes.delete('/jobs/:id', async (request, response) => {
    if (!(await store.setDeleted(request.params.id, true))) return problem(response, MISSING);
    response.status(204).end();
  });

  routes.post('/jobs/:id/restore', async (request, response) => {
    if (!(await store.setDeleted(request.params.id, false))) return problem(response, MISSING);
    response.status(204).end();
  });
  return routes;
}

/** How long the database may take to say that it is there, milliseconds. */
const HEALTH_WAIT_MS = 2_000;

const DATABASE_AWAY: Problem = {
  status: 503,
  title: 'The database is away',
  detail: 'The database does not answer just now. Nothing that was saved is lost; try again in a moment.',
};

const reportError: ErrorRequestHandler = (error: { status?: number; type?: string }, request, response, next) => {
  if (response.headersSent) return next(error);
  if (isAway(error)) {
    response.setHeader('retry-after', '2');
    return problem(response, DATABASE_AWAY);
  }
  if (error.type === 'entity.too.large') {
    return problem(response, {
      status: 413,
      title: 'Too large',
      detail: `Job file: it is too large; a job file may be at most ${MAX_JOB_BYTES / 1024 / 1024} MB.`,
    });
  }
  if (error.type === 'entity.parse.failed')
    return problem(response, { status: 400, title: 'Not JSON', detail: 'Job file: its text is cut off or is not JSON.' });
  if (error.status === 404)
    return problem(response, { status: 404, title: 'No such address', detail: 'There is nothing at this address.' });
  if (error.status !== undefined && error.status < 500)
    return problem(response, { status: error.status, title: 'Bad request', detail: 'The request cannot be read.' });
  request.log?.error(error);
  problem(response, {
    status: 500,
    title: 'Something broke',
    detail: 'The server could not do this. Nothing was saved; try again.',
  });
};
