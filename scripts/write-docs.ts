// Writes the JSON Schema of the job format and the API's OpenAPI description; with --check, fails when they are out of date.
import { readFileSync, writeFileSync } from 'node:fs';
import { jobJsonSchema } from '#core';

const problem = (description: string) => ({
  description,
  content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
});
const json = (description: string, schema: object) => ({ description, content: { 'application/json': { schema } } });
const away = problem('The database is away; try again');
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
      get: {
        summary: 'Is the server up, and its database there',
        responses: {
          200: json('Both are', object({ ok: { type: 'boolean' }, database: { const: 'there' } })),
          503: problem('The database is away'),
        },
      },
    },
    '/api/library': {
      get: {
        summary: 'Every version of the rule packs and of the catalog',
        responses: {
          200: json(
            'As they were written',
            object({ packs: { type: 'array', items: {} }, catalogs: { type: 'array', items: {} } }),
          ),
          503: away,
        },
      },
    },
    '/api/house/muted': {
      put: {
        summary: 'Say what the house mutes in all its jobs',
        description: 'Adds a version of the pack `house-muted`; the job that is to go by it names that version.',
        requestBody: body(
          object({
            version: { type: 'integer', minimum: 0, description: 'The newest version there is, 0 before the first' },
            muted: { type: 'object', additionalProperties: { type: 'string', minLength: 3, maxLength: 300 } },
          }),
        ),
        responses: {
          200: json('The new version', { type: 'object', required: ['id', 'version', 'muted'] }),
          400: problem('Not JSON'),
          409: problem('Somebody said otherwise first'),
          422: problem('The request is not right'),
          503: away,
        },
      },
    },
    '/api/jobs': {
      get: {
        summary: 'A page of the jobs, the last saved first',
        parameters: [
          {
            name: 'search',
            in: 'query',
            schema: { type: 'string', maxLength: 120 },
            description: 'Part of the name, in any case',
          },
          { name: 'after', in: 'query', schema: { type: 'string' }, description: '`next` of the page before' },
        ],
        responses: {
          200: json(
            'Summaries, and where the next page goes on from',
            object({ jobs: { type: 'array', items: ref('JobSummary') }, next: { type: ['string', 'null'] } }),
          ),
          422: problem('The request is not right'),
          503: away,
        },
      },
      post: {
        summary: 'Add a job document',
        requestBody: body(ref('Job')),
        responses: {
          201: json('Added', ref('StoredJob')),
          400: problem('Not JSON'),
          413: problem('Over 2 MB'),
          422: problem('Cannot be planned; errors name the fields'),
          503: away,
        },
      },
    },
    '/api/jobs/{id}': {
      parameters: [id],
      get: {
        summary: 'The newest revision',
        responses: { 200: json('The job', ref('StoredJob')), 404: problem('No such job'), 503: away },
      },
      put: {
        summary: 'Save on top of a version',
        description:
          'Nothing is known to be saved until this answers 200. Sent again with the same `saveId` it is saved once and answers 200 again.',
        requestBody: body({
          ...object({ version: { type: 'integer', minimum: 1, maximum: 2147483647 }, job: ref('Job') }),
          properties: {
            version: { type: 'integer', minimum: 1, maximum: 2147483647 },
            saveId: { type: 'string', format: 'uuid' },
            job: ref('Job'),
          },
        }),
        responses: {
          200: json('Saved', object({ version: { type: 'integer' } })),
          404: problem('No such job'),
          409: problem('Someone saved first; `current` holds theirs'),
          422: problem('Cannot be planned'),
          503: away,
        },
      },
      delete: {
        summary: 'Delete; can be restored',
        responses: { 204: { description: 'Deleted' }, 404: problem('No such job'), 503: away },
      },
    },
    '/api/jobs/{id}/restore': {
      parameters: [id],
      post: {
        summary: 'Undo a deletion',
        responses: { 204: { description: 'Restored' }, 404: problem('No deleted job'), 503: away },
      },
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
        findings: {
          description: 'What planning found; null until it is worked out',
          oneOf: [
            object({
              leaks: { type: 'integer' },
              breaks: { type: 'integer' },
              seals: { type: 'integer' },
              looks: { type: 'integer' },
            }),
            { const: 'cannot be planned' },
            { type: 'null' },
          ],
        },
      }),
      StoredJob: object({
        id: id.schema,
        version: { type: 'integer' },
        savedAt: { type: 'string', format: 'date-time' },
        saveId: { type: ['string', 'null'], format: 'uuid' },
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
