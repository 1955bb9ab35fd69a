import { randomUUID } from 'node:crypto';
import { readFileSync, readdirSync } from 'node:fs';
import fc from 'fast-check';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { JOB_FORMAT_VERSION } from '#core';
import { createApp } from './app.ts';
import { type Database, migrate } from './database.ts';
import { loadDemo } from './demo.ts';
import { Store } from './store.ts';
import { cases } from '../../core/fixtures/seeds.ts';
import { type DemoApi, demoApi } from '../fixtures/api.ts';

/** Jobs that come with Ruvet. */
const SHIPPED = readdirSync(new URL('../../demo/jobs/', import.meta.url)).length;
const house = () => JSON.parse(readFileSync(new URL('../../demo/jobs/ringing-house.ruvet.json', import.meta.url), 'utf8'));
const demoJob = () =>
  JSON.parse(readFileSync(new URL('../../core/fixtures/ringing-house-version-1.ruvet.json', import.meta.url), 'utf8'));

let demo: DemoApi;
let database: Database;
let api: DemoApi['api'];

beforeAll(async () => {
  demo = await demoApi();
  ({ api, database } = demo);
});

afterAll(() => demo.end());

const add = async (change: (job: ReturnType<typeof demoJob>) => void = () => undefined) => {
  const job = demoJob();
  change(job);
  return api.post('/api/jobs').send(job);
};

describe('starting', () => {
  it('twice in a row, and several at once, changes nothing', async () => {
    await Promise.all([migrate(database), migrate(database)]);
    await loadDemo(database);
    expect((await database.query('SELECT count(*)::int AS n FROM jobs')).rows[0].n).toBe(SHIPPED);
  });

  it('loads the demo: the whole house, its north plane alone, a slate porch, two tiled ones and a shake roof, its packs and catalogs', async () => {
    const jobs = await api.get('/api/jobs').expect(200);
    expect(jobs.body.jobs).toHaveLength(SHIPPED);
    expect(jobs.body.next).toBeNull();
    expect(jobs.body.jobs).toEqual(
      expect.arrayContaining([
        expect.objectContaining({
          name: 'Ringing House: north plane and tower wall',
          slope: 'North plane',
          slopes: 1,
          walls: 1,
          features: 0,
        }),
        expect.objectContaining({ name: 'Keeper’s Cottage: slate porch', slopes: 1, walls: 1, features: 1 }),
        expect.objectContaining({ name: 'Keeper’s Cottage: wash-house', slopes: 1, walls: 0, features: 2 }),
        expect.objectContaining({
          name: 'Keeper’s Cottage: back slope and outshot',
          slope: 'Back slope',
          slopes: 3,
          walls: 0,
          features: 1,
        }),
        expect.objectContaining({ name: 'Peat shed: shake roof', slopes: 2, walls: 1, features: 1 }),
        expect.objectContaining({ name: 'Ringing House', slope: 'South plane', slopes: 5, walls: 2, features: 6 }),
      ]),
    );
    const library = await api.get('/api/library').expect(200);
    expect(library.body.packs.map(({ id }: { id: string }) => id)).toContain('model-code');
  });
});

describe('a file of an older version', () => {
  const old = () =>
    JSON.parse(readFileSync(new URL('../../core/fixtures/ringing-house-version-2.ruvet.json', import.meta.url), 'utf8'));

  it('is taken in as it would be saved today: pitches as said, and a flue’s clearance still to be asked', async () => {
    const { id } = (await api.post('/api/jobs').send(old()).expect(201)).body;
    const { job } = (await api.get(`/api/jobs/${id}`).expect(200)).body;
    expect([job.version, job.catalog]).toEqual([JOB_FORMAT_VERSION, 2]);
    expect(job.parts.map(({ pitch }: { pitch: unknown }) => pitch)).toEqual([6, 6, 4].map((rise) => ({ rise, run: 12 })));
    expect(job.features.find((one: { hot?: boolean }) => one.hot)).toMatchObject({ clearance: null });
    await api.put(`/api/jobs/${id}`).send({ version: 1, job }).expect(200);
  });
});

describe('jobs', () => {
  it('come back byte for byte as they were saved', async () => {
    const added = (await api.post('/api/jobs').send(house())).body;
    const found = await api.get(`/api/jobs/${added.id}`).expect(200);
    expect(JSON.stringify(found.body.job)).toBe(JSON.stringify(house()));
  });

  it('saving appends a revision; the earlier ones stay', async () => {
    const { id } = (await add()).body;
    const job = { ...demoJob(), name: 'Renamed' };
    await api.put(`/api/jobs/${id}`).send({ version: 1, job }).expect(200, { version: 2 });
    const kept = await database.query(
      `SELECT version, body ->> 'name' AS name FROM job_revisions WHERE job_id = $1 ORDER BY version`,
      [id],
    );
    expect(kept.rows.map((row) => row.name)).toEqual(['Ringing House: north plane and tower wall', 'Renamed']);
  });

  it('a stale save changes nothing and hands back what the other saved', async () => {
    const { id } = (await add()).body;
    await api
      .put(`/api/jobs/${id}`)
      .send({ version: 1, job: { ...demoJob(), name: 'Theirs' } })
      .expect(200);
    const stale = await api
      .put(`/api/jobs/${id}`)
      .send({ version: 1, job: { ...demoJob(), name: 'Mine' } })
      .expect(409);
    expect(stale.headers['content-type']).toContain('application/problem+json');
    expect(stale.body).toMatchObject({ title: 'Someone saved first', current: { version: 2, job: { name: 'Theirs' } } });
  });

  it('of two saves at the same moment one wins and one is told', async () => {
    const { id } = (await add()).body;
    const saves = await Promise.all(
      ['A', 'B', 'C'].map((mark) => api.put(`/api/jobs/${id}`).send({ version: 1, job: { ...demoJob(), name: mark } })),
    );
    expect(saves.map(({ status }) => status).sort()).toEqual([200, 409, 409]);
  });

  it('what a house mutes is a version of its pack: the next one only on top of the newest, and a job may name it', async () => {
    const put = (version: number, muted: unknown) => api.put('/api/house/muted').send({ version, muted });
    const first = await put(0, { rafters: 'our framer settles it' }).expect(200);
    expect(first.body).toMatchObject({
      id: 'house-muted',
      version: 1,
      source: 'house',
      muted: { rafters: 'our framer settles it' },
    });
    const late = await put(0, {}).expect(409);
    expect(late.body.detail).toMatch(/^Somebody else changed what this house mutes/);
    await put(7, {}).expect(409);
    const second = await Promise.all([put(1, {}), put(1, { lasts: 'told at hand-over' })]);
    expect(second.map(({ status }) => status).sort()).toEqual([200, 409]);
    const { packs } = (await api.get('/api/library').expect(200)).body as { packs: { id: string; version: number }[] };
    expect(packs.filter(({ id }) => id === 'house-muted').map(({ version }) => version)).toEqual([1, 2]);
    const { id } = (await add()).body;
    const job = { ...demoJob(), packs: [...demoJob().packs, { id: 'house-muted', version: 2 }] };
    await api.put(`/api/jobs/${id}`).send({ version: 1, job }).expect(200);
  });

  it.each([
    [{ version: 0, muted: { rafters: 'no' } }, 'muted.rafters must say why.'],
    [{ version: 0, muted: { rafters: 'a\u0000b c' } }, 'muted has a character that cannot be shown.'],
    [{ version: -1, muted: {} }, 'version must be the version the change was made to.'],
    [{ muted: {} }, 'version must be the version the change was made to.'],
    [{ version: 0, muted: {}, rules: [] }, 'Request has an entry that is not known.'],
  ])('what cannot be muted is refused by its field: %j', async (body, sentence) => {
    const answer = await api.put('/api/house/muted').send(body).expect(422);
    expect(answer.body.detail).toBe(sentence);
  });

  it('can be deleted and brought back', async () => {
    const { id } = (await add()).body;
    await api.delete(`/api/jobs/${id}`).expect(204);
    await api.get(`/api/jobs/${id}`).expect(404);
    await api.put(`/api/jobs/${id}`).send({ version: 1, job: demoJob() }).expect(404);
    await api.delete(`/api/jobs/${id}`).expect(404);
    await api.post(`/api/jobs/${id}/restore`).expect(204);
    await api.get(`/api/jobs/${id}`).expect(200);
  });

  it('of another organisation are out of reach', async () => {
    const { id } = (await add()).body;
    await database.query(`INSERT INTO organisations (id, name) VALUES ('other', 'Other') ON CONFLICT DO NOTHING`);
    const other = request(createApp(new Store(database, 'other')));
    await other.get(`/api/jobs/${id}`).expect(404);
    await other.delete(`/api/jobs/${id}`).expect(404);
    expect((await other.get('/api/jobs')).body).toEqual({ jobs: [], next: null });
    await api.get(`/api/jobs/${id}`).expect(200);
  });
});

describe('the list', () => {
  it('is told a page at a time, every job once, and searched by name', async () => {
    const named = (word: string) => Promise.all(Array.from({ length: 23 }, (_, i) => add((job) => (job.name = `${word} ${i}`))));
    await named('Byre');
    const seen: string[] = [];
    let after = '';
    for (let pages = 0; pages < 4; pages++) {
      const { body } = await api
        .get('/api/jobs')
        .query({ search: 'bYRE', ...(after ? { after } : {}) })
        .expect(200);
      seen.push(...body.jobs.map(({ name }: { name: string }) => name));
      if (body.next === null) break;
      after = body.next;
    }
    expect(seen).toHaveLength(23);
    expect(new Set(seen).size).toBe(23);
  });

  it.each([
    ['after=yesterday', 'after'],
    ['after=2026-13-45 00:00:00%2B00 00000000-0000-4000-8000-000000000000', 'after'],
    ['after=2026-01-05 00:00:00%2B00 not-a-uuid-but-thirty-six-characters', 'after'],
    ['search=a&search=b', 'search'],
    [`search=${'x'.repeat(121)}`, 'search'],
    ['search=%00', 'search'],
  ])('asked for by %s, says which part of the request is wrong', async (query, path) => {
    const { body } = await api.get(`/api/jobs?${query}`).expect(422);
    expect(body.errors.map((one: { path: string }) => one.path)).toEqual([path]);
  });
});

describe('a save', () => {
  const put = (id: string, version: number, name: string, saveId?: string) =>
    api.put(`/api/jobs/${id}`).send({ version, ...(saveId ? { saveId } : {}), job: { ...demoJob(), name } });

  it('sent again by its id is answered as it was; the same change under another id is stale', async () => {
    const { id } = (await add()).body;
    const save = randomUUID();
    await put(id, 1, 'Once', save).expect(200, { version: 2 });
    await put(id, 1, 'Once', save).expect(200, { version: 2 });
    await put(id, 2, 'Then', randomUUID()).expect(200, { version: 3 });
    await put(id, 1, 'Once', save).expect(200, { version: 2 });
    const stale = await put(id, 1, 'Once', randomUUID()).expect(409);
    expect(stale.body.current).toMatchObject({ version: 3, saveId: expect.any(String) });
    await put(id, 1, 'Once').expect(409);
    const { rows } = await database.query('SELECT count(*)::int AS n FROM job_revisions WHERE job_id = $1', [id]);
    expect(rows[0].n).toBe(3);
  });

  it('sent five times at once is made once', async () => {
    const { id } = (await add()).body;
    const save = randomUUID();
    const answers = await Promise.all(Array.from({ length: 5 }, () => put(id, 1, 'At once', save)));
    expect(answers.map(({ status, body }) => [status, body.version])).toEqual(answers.map(() => [200, 2]));
  });

  it.each([
    [{ version: 2 ** 31 }, 'version'],
    [{ version: 1e300 }, 'version'],
    [{ version: 1.5 }, 'version'],
    [{ version: 1, saveId: 'mine' }, 'saveId'],
    [{ version: 1, colour: 'red' }, ''],
  ])('with %j names the field', async (part, path) => {
    const { id } = (await add()).body;
    const { body } = await api
      .put(`/api/jobs/${id}`)
      .send({ job: demoJob(), ...part })
      .expect(422);
    expect([...new Set(body.errors.map((one: { path: string }) => one.path))]).toEqual([path]);
  });
});

describe('text that cannot be kept', () => {
  it.each<[string, (job: ReturnType<typeof demoJob>) => void, string]>([
    ['a NUL in the name', (job) => (job.name = 'North\0'), 'name'],
    ['half a character in the note', (job) => (job.note = 'snow \ud83d'), 'note'],
    ['a NUL in a wall’s name', (job) => (job.planes[0].walls[0].name = '\0'), 'planes.0.walls.0.name'],
    ['a NUL in the name of an entry', (job) => (job.decisions['\0'] = {}), 'decisions'],
  ])('%s is refused by its field', async (_, change, path) => {
    const refused = await add(change);
    expect([refused.status, refused.body.errors[0].path]).toEqual([422, path]);
    await api.get('/api/jobs').expect(200);
  });

  it('is only that: whole characters of every script are kept', async () => {
    const { id } = (await add((job) => (job.name = '𝄞 Ærø 屋根 🏠')).catch(() => ({ body: { id: '' } }))).body;
    expect((await api.get(`/api/jobs/${id}`)).body.job.name).toBe('𝄞 Ærø 屋根 🏠');
  });
});

describe('whatever is sent', () => {
  /** Every place in a document, as the keys that lead there. */
  const placesIn = (value: unknown, at: readonly (string | number)[] = []): (readonly (string | number)[])[] =>
    typeof value === 'object' && value !== null
      ? [at, ...Object.entries(value).flatMap(([key, inner]) => placesIn(inner, [...at, key]))]
      : [at];
  const places = placesIn(house()).filter(({ length }) => length > 0);
  const odd = fc.oneof(
    fc.jsonValue({ maxDepth: 3 }),
    fc.constantFrom<unknown>(
      null, [], {}, '', -0, 1e308, -1e308, 2 ** 53, 2 ** 31, 1e-320, '\0', '\ud800', '__proto__', 'NaN', { __proto__x: 1 },
      Array.from({ length: 2000 }, () => 0), 'x'.repeat(100_000),
    ), // prettier-ignore
  );

  it('it is answered by a 2xx or a 4xx that names a place, never by a 5xx, and the list goes on', async () => {
    const { id } = (await add()).body;
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...places), odd, fc.constantFrom('change', 'remove', 'add'), async (place, value, how) => {
        const job = house();
        const parent = place.slice(0, -1).reduce((inner, key) => inner[key], job);
        const last = place.at(-1)!;
        if (how === 'remove') delete parent[last];
        else parent[how === 'add' ? `${last}x` : last] = value;
        for (const sent of [api.post('/api/jobs').send(job), api.put(`/api/jobs/${id}`).send({ version: 1, job })]) {
          const answer = await sent;
          expect([200, 201, 409, 422]).toContain(answer.status);
          if (answer.status !== 422) continue;
          expect(answer.body.errors.length).toBeGreaterThan(0);
          expect(answer.text.length).toBeLessThan(30_000);
          for (const { message } of answer.body.errors) expect(message).toMatch(/\.$/);
        }
      }),
      cases(150),
    );
    await api.get('/api/jobs').expect(200);
  });
});

describe('only its own pages ask it', () => {
  it.each([
    ['a name that was made to lead here', { host: 'evil.example' }],
    ['a page of another site', { origin: 'https://evil.example' }],
    ['a page without an origin', { origin: 'null' }],
    ['a host that is none', { host: 'a b' }],
  ])('%s is refused', async (_, headers) => {
    const { id } = (await add()).body;
    for (const asked of [api.get('/api/jobs'), api.delete(`/api/jobs/${id}`), api.get('/')]) {
      const refused = await asked.set(headers as Record<string, string>);
      expect(refused.status).toBe(403);
      expect(refused.body.title).toBe('Not from here');
    }
    await api.get(`/api/jobs/${id}`).expect(200);
  });

  it('a page of its own is let in, by whichever name of this machine', async () => {
    for (const host of ['localhost:4170', '127.0.0.1:80', '[::1]:4170'])
      await api
        .get('/api/jobs')
        .set({ host, origin: `http://${host}` })
        .expect(200);
  });
});

describe('what the schema takes but nobody can plan', () => {
  it.each<[string, (job: ReturnType<typeof house>) => void]>([
    ['a pitch under the least', (job) => (job.parts[0].pitch = { rise: 1, run: 12 })],
    ['an exposure over the greatest', (job) => (job.coverings[0].exposure = 160)],
    ['an unknown product', (job) => (job.coverings[0].shingle = 'nothing-such')],
    ['a wall past the ridge', (job) => (job.parts[0].planes[1].walls[0].to = 90_000)],
    ['a choice that contradicts another', (job) => (job.features.find((one: { kind: string }) => one.kind === 'headwall').cladding = 'boards')],
  ])('%s is saved as it is', async (_, change) => {
    const job = house();
    change(job);
    const { id } = (await api.post('/api/jobs').send(job).expect(201)).body;
    expect((await api.get(`/api/jobs/${id}`).expect(200)).body.job).toEqual(job);
    await api.put(`/api/jobs/${id}`).send({ version: 1, job: { ...job, note: 'still so' } }).expect(200);
  }); // prettier-ignore
});

describe('bad input is refused as problem details that name the field', () => {
  /** A dormer without the roof it stands on, as version 4 told it. */
  const standing = () => {
    const { parts, coverings, ...rest } = house();
    const { metal, deckThickness, underlayers, ...covering } = coverings[0];
    for (const key of ['kind', 'id', 'name']) delete covering[key];
    const cross = { ...parts.find((one: { kind: string }) => one.kind === 'crossGable'), host: 'nowhere' };
    return {
      ...rest,
      version: 4,
      planes: undefined,
      covering,
      metal,
      deckThickness,
      underlayers,
      features: [],
      valleys: {},
      parts: [cross],
    };
  };
  const plane = (job: ReturnType<typeof demoJob>) => job.planes[0];
  // a version 1 file is read as a part of a roof: that is where its fields are now
  const at = (old: string): string => old.replace('planes.0.walls', 'parts.0.planes.0.walls').replace(/^planes\.0/, 'parts.0');
  it.each<[string, (job: ReturnType<typeof demoJob>) => void, string]>([
    ['a negative eave', (job) => (plane(job).eaveLength = -1), 'planes.0.eaveLength'],
    ['a slope of nothing', (job) => (plane(job).slope.length = 0), 'planes.0.slope.length'],
    ['a part that stands on nothing', (job) => Object.assign(job, standing()), 'parts.0.host'],
    ['an absurd overhang', (job) => (plane(job).overhang = 1e9), 'planes.0.overhang'],
    ['another version', (job) => (job.version = 9), 'version'],
    ['an unknown entry', (job) => (job.colour = 'red'), ''],
  ])('%s', async (_, change, path) => {
    const refused = await add(change);
    expect(refused.status).toBe(422);
    expect(refused.headers['content-type']).toContain('application/problem+json');
    expect(refused.body.errors).toHaveLength(1);
    expect(refused.body.errors[0].path).toBe(at(path));
    expect(refused.body.detail.length).toBeGreaterThan(20);
  });

  const refused = async (change: (job: ReturnType<typeof house>) => void) => {
    const job = house();
    change(job);
    const answer = await api.post('/api/jobs').send(job);
    expect(answer.status).toBe(422);
    return answer.body.errors.map(({ path, message }: { path: string; message: string }) => `${path}: ${message}`);
  };
  it('a pitch that is no pitch, in words for the field', async () => {
    for (const pitch of [{ rise: 6 }, { rise: 0, run: 12 }, { degrees: 89 }, { rise: 6, run: 0 }, '6/12'])
      expect(await refused((job) => (job.parts[0].pitch = pitch)), JSON.stringify(pitch)).toEqual(
        expect.arrayContaining([expect.stringMatching(/^parts\.0\.pitch/)]),
      );
  });

  it('what was there stays when a save is refused', async () => {
    const { id } = (await add()).body;
    const bad = demoJob();
    plane(bad).pitch = -1;
    await api.put(`/api/jobs/${id}`).send({ version: 1, job: bad }).expect(422);
    expect((await api.get(`/api/jobs/${id}`)).body).toMatchObject({
      version: 1,
      job: { parts: [{ pitch: { rise: 6, run: 12 } }] },
    });
  });

  it('nested 900,000 deep, or wrong all over, in an answer of a few lines', async () => {
    const text = (part: string) => api.post('/api/jobs').set('content-type', 'application/json').send(part);
    const deep = await text(`{"format":"ruvet-job","version":4,"parts":${'['.repeat(900_000)}${']'.repeat(900_000)}}`);
    expect(deep.status).toBe(422);
    expect(deep.body.errors[0]).toMatchObject({ path: 'parts.0.0.0', message: expect.stringContaining('nested too deep') });
    const job = house();
    job.features = Array.from({ length: 290 }, () => ({ kind: 'pipe', ['k'.repeat(3000)]: 1 }));
    job[`x${'y'.repeat(500_000)}`] = 1;
    const wrong = await text(JSON.stringify(job));
    expect(wrong.status).toBe(422);
    expect(wrong.text.length).toBeLessThan(20_000);
    expect(wrong.body.errors.length).toBeLessThanOrEqual(21);
    const version = await text(`{"format":"ruvet-job","version":"${'9'.repeat(1_000_000)}"}`);
    expect([version.status, version.text.length < 1000]).toEqual([422, true]);
  });

  it('with more valleys than a roof has', async () => {
    expect(
      await refused((job) => {
        const valley = {
          style: 'woven',
          through: { plane: 'south', reason: 'the larger one' },
          trim: 'on the centre',
          lining: 'plain',
        };
        for (let i = 0; i < 201; i++) job.valleys[`a${i}+b`] = valley;
      }),
    ).toEqual([expect.stringMatching(/^valleys: .*at most 200/)]);
  });

  it('every address it cannot read in problem details too', async () => {
    for (const path of ['/api/jobs/%E0%A4%A', '/api/%', '/assets/none.js']) {
      const answer = await api.get(path);
      expect(answer.status, path).toBeGreaterThanOrEqual(400);
      expect(answer.status, path).toBeLessThan(500);
      expect(answer.headers['content-type'], path).toContain('application/problem+json');
    }
  });

  it('a file of 20 MB, one cut off, and addresses that do not exist', async () => {
    const large = await api
      .post('/api/jobs')
      .set('content-type', 'application/json')
      .send(`{"a":"${'x'.repeat(20e6)}"}`);
    expect([large.status, large.body.detail]).toEqual([413, 'Job file: it is too large; a job file may be at most 2 MB.']);
    const cut = await api.post('/api/jobs').set('content-type', 'application/json').send('{"format":');
    expect([cut.status, cut.body.title]).toEqual([400, 'Not JSON']);
    await api.get('/api/jobs/not-an-id').expect(404);
    await api.get('/api/nothing').expect(404);
    const unversioned = await api.put(`/api/jobs/${randomUUID()}`).send({ job: demoJob() });
    expect([unversioned.status, unversioned.body.errors[0].path]).toEqual([422, 'version']);
  });
});
