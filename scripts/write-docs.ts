// Writes the JSON Schema of the job format and the API's OpenAPI description; with --check, fails when they are out of date.
import { readFileSync, writeFileSync } from 'node:fs';
import { jobJsonSchema } from '@ruvet/core';

const problem = (description: string) => ({
  description,
  content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
});
const json = (description: string, schema: object) => ({ description, content: { 'application/json': { schema } } });
const ref = (name: string) => ({ $ref: `#/components/schemas/${name}` });
const id = { name: 'id', in: 'path', required: true, schema: { type: 'string', format: 'uuid' } };
const body = (schema: object) => ({ required: true, content: { 'application/json': { schema } } });
const job = jobJsonSchema();
const object = (properties: object) => ({ type: 'object', properties, required: Object.keys(properties) });

const openApi = {
  openapi: '3.1.0',
  info: {
    title: 'Ruvet',
    version: '1',
    description: 'Jobs of one organisation. Every save appends a revision; errors are problem details (RFC 9457).',
  },
  paths: {
    '/api/health': {
      get: { summary: 'Is the server up', responses: { 200: json('It is', object({ ok: { type: 'boolean' } })) } },
    },
    '/api/library': {
      get: {
        summary: 'Rule packs and catalog',
        responses: { 200: json('As they were written', object({ packs: { type: 'array', items: {} }, catalog: {} })) },
      },
    },
    '/api/jobs': {
      get: { summary: 'Jobs, newest first', responses: { 200: json('Summaries', { type: 'array', items: ref('JobSummary') }) } },
      post: {
        summary: 'Add a job document',
        requestBody: body(ref('Job')),
        responses: {
          201: json('Added', ref('StoredJob')),
          400: problem('Not JSON'),
          413: problem('Over 2 MB'),
          422: problem('Cannot be planned; errors name the fields'),
        },
      },
    },
    '/api/jobs/{id}': {
      parameters: [id],
      get: { summary: 'The newest revision', responses: { 200: json('The job', ref('StoredJob')), 404: problem('No such job') } },
      put: {
        summary: 'Save on top of a version',
        requestBody: body(object({ version: { type: 'integer', minimum: 1 }, job: ref('Job') })),
        responses: {
          200: json('Saved', object({ version: { type: 'integer' } })),
          404: problem('No such job'),
          409: problem('Someone saved first; `current` holds theirs'),
          422: problem('Cannot be planned'),
        },
      },
      delete: { summary: 'Delete; can be restored', responses: { 204: { description: 'Deleted' }, 404: problem('No such job') } },
    },
    '/api/jobs/{id}/restore': {
      parameters: [id],
      post: { summary: 'Undo a deletion', responses: { 204: { description: 'Restored' }, 404: problem('No deleted job') } },
    },
  },
  components: {
    schemas: {
      Job: job,
      JobSummary: object({
        id: id.schema,
        name: { type: 'string' },
        version: { type: 'integer' },
        updatedAt: { type: 'string', format: 'date-time' },
        slope: { type: 'string' },
        slopes: { type: 'integer' },
        walls: { type: 'integer' },
        features: { type: 'integer' },
      }),
      StoredJob: object({
        id: id.schema,
        version: { type: 'integer' },
        savedAt: { type: 'string', format: 'date-time' },
        job: ref('Job'),
      }),
      Problem: {
        type: 'object',
        required: ['status', 'title', 'detail'],
        properties: {
          status: { type: 'integer' },
          title: { type: 'string' },
          detail: { type: 'string' },
          errors: { type: 'array', items: object({ path: { type: 'string' }, message: { type: 'string' } }) },
          current: ref('StoredJob'),
        },
      },
    },
  },
};

const documents = { 'docs/job.schema.json': jobJsonSchema(), 'docs/openapi.json': openApi };
for (const [path, document] of Object.entries(documents)) {
  const file = new URL(`../${path}`, import.meta.url);
  const text = `${JSON.stringify(document, null, 2)}\n`;
  if (!process.argv.includes('--check')) writeFileSync(file, text);
  else if (readFileSync(file, 'utf8') !== text) {
    console.log(`${path} is out of date: npm run docs`);
    process.exitCode = 1;
  }
}
