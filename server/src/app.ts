import { fileURLToPath } from 'node:url';
import { type Issue, MAX_JOB_BYTES, type ReadJob, readJob } from '@ruvet/core';
import express, { type ErrorRequestHandler, type Express, type Response } from 'express';
import helmet from 'helmet';
import { z } from 'zod';
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

const saveSchema = z.strictObject({
  version: z.int({ error: 'must be the version the change was made to' }).positive(),
  job: z.unknown(),
});

const isId = (id: string): boolean => z.uuid().safeParse(id).success;

/** The HTTP application: jobs and library as JSON, everything else is the web build. */
export function createApp(store: Store): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(
    helmet({
      contentSecurityPolicy: { directives: { 'upgrade-insecure-requests': null, 'style-src': ["'self'", "'unsafe-inline'"] } },
    }),
  );
  app.use('/api', jobRoutes(store));
  app.use('/api', (_, response) =>
    problem(response, { status: 404, title: 'No such address', detail: 'The API has no such address.' }),
  );
  app.use(express.static(WEB, { index: false, maxAge: '1h' }));
  app.get('/{*page}', (_, response) => response.sendFile('index.html', { root: WEB }));
  app.use(reportError);
  return app;
}

function jobRoutes(store: Store): express.Router {
  const routes = express.Router();
  // a little over the job limit, so that a job's own message comes first
  routes.use(express.json({ limit: MAX_JOB_BYTES + 64 * 1024, strict: false }));
  const read = async (data: unknown): Promise<ReadJob> => readJob(data, await store.library());

  routes.get('/health', (_, response) => void response.json({ ok: true }));
  routes.get('/library', async (_, response) => void response.json(await store.libraryDocuments()));
  routes.get('/jobs', async (_, response) => void response.json(await store.listJobs()));

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
    if (!body.success)
      return problem(
        response,
        invalid(
          body.error.issues.map(({ path, message }) => ({
            path: path.join('.'),
            message: `${path.join('.') || 'Request'} ${message}.`,
          })),
        ),
      );
    const job = await read(body.data.job);
    if (!job.ok) return problem(response, invalid(job.issues));
    const outcome = await store.saveJob(request.params.id, body.data.version, job.job);
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

const reportError: ErrorRequestHandler = (error: { status?: number; type?: string }, request, response, next) => {
  if (response.headersSent) return next(error);
  if (error.type === 'entity.too.large') {
    return problem(response, {
      status: 413,
      title: 'Too large',
      detail: `Job file: it is too large; a job file may be at most ${MAX_JOB_BYTES / 1024 / 1024} MB.`,
    });
  }
  if (error.type === 'entity.parse.failed')
    return problem(response, { status: 400, title: 'Not JSON', detail: 'Job file: its text is cut off or is not JSON.' });
  if (error.status !== undefined && error.status < 500)
    return problem(response, { status: error.status, title: 'Bad request', detail: 'The request cannot be read.' });
  request.log?.error(error);
  problem(response, {
    status: 500,
    title: 'Something broke',
    detail: 'The server could not do this. Nothing was saved; try again.',
  });
};
