import { randomUUID } from 'node:crypto';
import { readFileSync, readdirSync } from 'node:fs';
import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020.js';
import type { Response } from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type DemoApi, demoApi } from '../fixtures/api.ts';

const read = (path: string): unknown => JSON.parse(readFileSync(new URL(`../../${path}`, import.meta.url), 'utf8'));

type Operation = { readonly responses: Record<string, { readonly content?: Record<string, unknown> }> };
const description = read('docs/openapi.json') as { readonly paths: Record<string, Record<string, Operation>> };

/** A validator that knows nothing of ours but the files in docs/. */
const ajv = new Ajv2020({ strict: false, validateFormats: false });
ajv.addSchema(description, 'openapi');

/** A part of the description, by its keys from the top. */
function schemaAt(...keys: string[]): ValidateFunction {
  const pointer = keys.map((key) => encodeURIComponent(key.replaceAll('~', '~0').replaceAll('/', '~1'))).join('/');
  return ajv.getSchema(`openapi#/${pointer}`) ?? ajv.compile({ $ref: `openapi#/${pointer}` });
}

/** Is an answer one that the description has for this request, with a body of the form it gives? */
function expectDescribed(answer: Response, method: string, path: string): void {
  const operation = description.paths[path]?.[method];
  expect(operation, `${method} ${path} is described`).toBeDefined();
  const told = operation!.responses[answer.status];
  expect(told, `${method} ${path} may answer ${answer.status}`).toBeDefined();
  const [type] = Object.keys(told!.content ?? {});
  if (type === undefined) return expect(answer.text ?? '').toBe('');
  expect(answer.headers['content-type']).toContain(type);
  const body = schemaAt('paths', path, method, 'responses', String(answer.status), 'content', type, 'schema');
  expect(body(answer.body), `${method} ${path} ${answer.status}: ${ajv.errorsText(body.errors)}`).toBe(true);
}

let demo: DemoApi;
let api: DemoApi['api'];

beforeAll(async () => {
  demo = await demoApi();
  ({ api } = demo);
});

afterAll(() => demo.end());

describe('every answer is one the description has', () => {
  const job = () => read('demo/jobs/ringing-house.ruvet.json') as { name: string; version: number };

  it('of what a house mutes', async () => {
    const put = (body: object) => api.put('/api/house/muted').send(body);
    expectDescribed(await put({ version: 0, muted: { rafters: 'our framer settles it' } }), 'put', '/api/house/muted');
    expectDescribed(await put({ version: 0, muted: {} }), 'put', '/api/house/muted');
    expectDescribed(await put({ muted: 1 }), 'put', '/api/house/muted');
  });

  it('of reading', async () => {
    expectDescribed(await api.get('/api/health'), 'get', '/api/health');
    expectDescribed(await api.get('/api/library'), 'get', '/api/library');
    const list = await api.get('/api/jobs');
    expectDescribed(list, 'get', '/api/jobs');
    expect(list.body.jobs.length).toBeGreaterThan(0);
    expectDescribed(await api.get('/api/jobs').query({ after: 'yesterday' }), 'get', '/api/jobs');
    expectDescribed(await api.get(`/api/jobs/${list.body.jobs[0].id}`), 'get', '/api/jobs/{id}');
    expectDescribed(await api.get(`/api/jobs/${randomUUID()}`), 'get', '/api/jobs/{id}');
    expectDescribed(await api.get('/api/jobs/no-id'), 'get', '/api/jobs/{id}');
  });

  it('of adding: made, cut off, too large, refused', async () => {
    expectDescribed(await api.post('/api/jobs').send(job()), 'post', '/api/jobs');
    expectDescribed(await api.post('/api/jobs').type('json').send('{"name":'), 'post', '/api/jobs');
    expectDescribed(await api.post('/api/jobs').send({ ...job(), note: 'x'.repeat(3_000_000) }), 'post', '/api/jobs');
    expectDescribed(await api.post('/api/jobs').send({ ...job(), name: '' }), 'post', '/api/jobs');
  });

  it('of saving: saved, saved first by someone else, missing, refused', async () => {
    const { id } = (await api.post('/api/jobs').send(job())).body as { id: string };
    const save = (version: number, body: object = job(), to = id) => api.put(`/api/jobs/${to}`).send({ version, job: body });
    const statuses = [
      await save(1),
      await save(1),
      await save(2, job(), randomUUID()),
      await save(2, { ...job(), units: 'cubits' }),
    ];
    expect(statuses.map(({ status }) => status)).toEqual([200, 409, 404, 422]);
    for (const answer of statuses) expectDescribed(answer, 'put', '/api/jobs/{id}');
  });

  it('of deleting and bringing back, once and again', async () => {
    const { id } = (await api.post('/api/jobs').send(job())).body as { id: string };
    for (const status of [204, 404]) {
      const answer = await api.delete(`/api/jobs/${id}`);
      expect(answer.status).toBe(status);
      expectDescribed(answer, 'delete', '/api/jobs/{id}');
    }
    for (const status of [204, 404]) {
      const answer = await api.post(`/api/jobs/${id}/restore`);
      expect(answer.status).toBe(status);
      expectDescribed(answer, 'post', '/api/jobs/{id}/restore');
    }
  });
});

it('no described body takes just anything', () => {
  for (const [path, operations] of Object.entries(description.paths))
    for (const [method, { responses }] of Object.entries(operations))
      for (const [status, { content = {} }] of Object.entries(responses ?? {}))
        for (const type of Object.keys(content)) {
          const body = schemaAt('paths', path, method, 'responses', status, 'content', type, 'schema');
          for (const wrong of ['nothing', 7, null, []]) expect(body(wrong), `${method} ${path} ${status}`).toBe(false);
        }
});

describe('the JSON Schema of a job', () => {
  const validate = ajv.compile(read('docs/job.schema.json') as object);
  const jobs = readdirSync(new URL('../../demo/jobs/', import.meta.url)).map((file) => `demo/jobs/${file}`);

  it.each(jobs)('%s is in the current version, and valid', (file) => {
    const job = read(file) as { version: number };
    expect(validate(job), ajv.errorsText(validate.errors)).toBe(true);
  });

  it('refuses what the reader refuses: another version, an unknown entry, a length that is none', () => {
    const job = read(jobs[0]!) as Record<string, unknown>;
    for (const wrong of [
      { ...job, version: 1 },
      { ...job, colour: 'red' },
      { ...job, coverings: [{ ...(job.coverings as object[])[0], deckThickness: '5/8' }] },
      { ...job, parts: [] },
    ])
      expect(validate(wrong)).toBe(false);
  });
});
