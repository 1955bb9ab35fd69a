import { readFileSync, readdirSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { type Job, catalogSchema, libraryFor, newerVersions, newestLibrary, onNewest, packSchema, planJob, readJob } from '#core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Database, migrate, openDatabase } from './database.ts';
import { DEMO_ORGANISATION, loadDemo, readShippedShelf } from './demo.ts';
import { fillSummaries, withoutUnkept } from './repair.ts';
import { Store } from './store.ts';
import { type OwnDatabase, ownDatabase } from '../fixtures/database.ts';

/** Jobs that come with Ruvet. */
const SHIPPED = readdirSync(new URL('../../demo/jobs/', import.meta.url)).length;

const NEWEST_CATALOG = (
  JSON.parse(readFileSync(new URL('../../demo/catalog.json', import.meta.url), 'utf8')) as { version: number }
).version;

const shipped = (file: string): Job =>
  JSON.parse(readFileSync(new URL(`../../demo/jobs/${file}.ruvet.json`, import.meta.url), 'utf8')) as Job;

const start = async (database: Database): Promise<void> => {
  await migrate(database);
  await loadDemo(database);
  await fillSummaries(database);
};

// each dump is of a database as a version of Ruvet left it: its shipped jobs untouched, and one job somebody made
describe.each([
  ['first-slopes', 'documents of version 1', 1],
  ['whole-roofs', 'documents of version 2', 1],
  ['pitches-as-said', 'documents of version 3', 1],
  ['one-covering', 'documents of version 4', 2],
])('a database of before: %s, %s', (dump, _documents, catalog) => {
  let own: OwnDatabase;
  let database: Database;
  let store: Store;

  beforeAll(async () => {
    own = await ownDatabase();
    database = openDatabase(own.url);
    await database.query(gunzipSync(readFileSync(new URL(`../fixtures/${dump}.sql.gz`, import.meta.url))).toString('utf8'));
    await start(database);
    store = new Store(database, DEMO_ORGANISATION);
  });
  afterAll(async () => {
    await database.end();
    await own.drop();
  });

  const byName = async (name: string) => {
    const found = (await store.listJobs()).jobs.find((job) => job.name === name);
    return (await store.getJob(found!.id))!;
  };

  it('lists every job by what it is, the whole house among them', async () => {
    const { jobs } = await store.listJobs();
    expect(jobs.map(({ name, slopes, walls, features }) => [name, slopes, walls, features])).toEqual(
      expect.arrayContaining([
        ['Ringing House', 5, 2, 6],
        ['Ringing House: north plane and tower wall', 1, 1, 0],
        ['Bell yard, by hand', 1, 1, 0],
      ]),
    );
    expect(jobs).toHaveLength(SHIPPED + 1);
  });

  it('has what is shipped beside what it had, and both are read', async () => {
    const { packs, catalogs } = await store.shelf();
    expect(catalogs.map(({ version }) => version)).toEqual(
      Array.from({ length: NEWEST_CATALOG }, (_, i) => i + 1).filter((version) => version >= catalog),
    );
    expect(packs.filter(({ id }) => id === 'model-code').map(({ version }) => version)).toEqual(
      [1, 2].filter((version) => version >= catalog),
    );
    const documents = await store.shelfDocuments();
    expect(documents.catalogs.every((one) => catalogSchema.safeParse(one).success)).toBe(true);
    expect(documents.packs.every((one) => packSchema.safeParse(one).success)).toBe(true);
  });

  it('plans its untouched shipped jobs as a fresh database does', async () => {
    const shelf = await store.shelf();
    for (const [name, file] of [
      ['Ringing House', 'ringing-house'],
      ['Ringing House: north plane and tower wall', 'ringing-house-north'],
    ] as const) {
      const { job } = await byName(name);
      expect(job).toEqual(shipped(file));
      const read = readJob(job, shelf);
      if (!read.ok) throw new Error(read.issues[0]!.message);
      expect(newerVersions(read.job, shelf)).toEqual([]);
      const fresh = planJob(read.job, newestLibrary(await readShippedShelf()));
      const here = planJob(read.job, libraryFor(shelf, read.job.catalog)!);
      expect(here.pieces.map(({ mark }) => mark)).toEqual(fresh.pieces.map(({ mark }) => mark));
      expect(here.order).toEqual(fresh.order);
    }
  });

  it('leaves a job of somebody’s own as it was, on the versions it was made with, and offers the newer ones', async () => {
    const shelf = await store.shelf();
    const stored = await byName('Bell yard, by hand');
    expect(stored.version).toBe(2);
    const read = readJob(stored.job, shelf);
    if (!read.ok) throw new Error(read.issues[0]!.message);
    expect(read.job.catalog).toBe(catalog);
    expect(read.job.packs.map(({ version }) => version)).toEqual(
      (stored.job as { packs: { version: number }[] }).packs.map(({ version }) => version),
    );
    const newer = newerVersions(read.job, shelf);
    expect(newer.map(({ name }) => name)).toContain('Catalog');
    const moved = onNewest(read.job, shelf);
    expect(newerVersions(moved, shelf)).toEqual([]);
    const [before, after] = [read.job, moved].map((job) => planJob(job, libraryFor(shelf, job.catalog)!));
    expect(before!.pieces.length).toBeGreaterThan(0);
    expect(after!.pieces.length).toBeGreaterThan(0);
  });

  it('starting again, and two at once, changes nothing more', async () => {
    const versions = async () => (await database.query('SELECT count(*)::int AS n FROM job_revisions')).rows[0].n as number;
    const before = await versions();
    await Promise.all([start(database), start(database)]);
    expect(await versions()).toBe(before);
  });

  it('a shipped job that was deleted or saved by somebody stays so', async () => {
    const house = await byName('Ringing House');
    await store.saveJob(house.id, house.version, { ...(house.job as Job), note: 'Ours now.' });
    const plane = await byName('Ringing House: north plane and tower wall');
    await store.setDeleted(plane.id, true);
    await database.query(`UPDATE job_revisions SET body = jsonb_set(body::jsonb, '{note}', '"old"')::json WHERE job_id = $1`, [
      plane.id,
    ]);
    await start(database);
    expect((await byName('Ringing House')).job).toMatchObject({ note: 'Ours now.' });
    expect((await store.listJobs()).jobs.map(({ name }) => name)).not.toContain(plane.id);
    // all but the deleted one, and the job of somebody's own
    expect((await store.listJobs()).jobs).toHaveLength(SHIPPED);
  });
});

describe('rows whose text nothing can show', () => {
  it('are mended in a revision of their own, and listed; what cannot be read at all is listed too', async () => {
    const own = await ownDatabase();
    const database = openDatabase(own.url);
    await start(database);
    const put = async (body: string) => {
      const { rows } = await database.query<{ id: string }>(
        `INSERT INTO jobs (organisation_id, version) VALUES ('${DEMO_ORGANISATION}', 1) RETURNING id`,
      );
      await database.query(
        `INSERT INTO job_revisions (organisation_id, job_id, version, body) VALUES ('${DEMO_ORGANISATION}', $1, 1, $2)`,
        [rows[0]!.id, body],
      );
      return rows[0]!.id;
    };
    const dirty = await put(JSON.stringify({ ...shipped('ringing-house'), name: 'Bell \0house \ud83d' }));
    await put('{"format":"ruvet-job","name":"Half \\ud800 a job","version":4}');
    await put('[]');
    await start(database);
    const store = new Store(database, DEMO_ORGANISATION);
    const { jobs } = await store.listJobs();
    expect(jobs.map(({ name }) => name)).toEqual(
      expect.arrayContaining(['Bell house \uFFFD', 'Half \uFFFD a job', 'A job that cannot be read']),
    );
    const mended = (await store.getJob(dirty))!;
    expect([mended.version, (mended.job as Job).name]).toEqual([2, 'Bell house \uFFFD']);
    const first = await database.query('SELECT body::text AS text FROM job_revisions WHERE job_id = $1 AND version = 1', [dirty]);
    expect(first.rows[0].text).toContain('\\u0000');
    await database.end();
    await own.drop();
  });

  it('keeps every whole character', () => {
    const text = { 'a𝄞': ['Ærøskøbing', '🏠 ', 1, null, true] };
    expect(withoutUnkept(text)).toEqual(text);
  });
});
