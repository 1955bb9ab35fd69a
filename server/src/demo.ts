import { readFile, readdir } from 'node:fs/promises';
import { type Shelf, catalogSchema, jobSchema, packSchema } from '#core';
import type pg from 'pg';
import { type Database, inTransaction } from './database.ts';
import { insertJob, writeRevision } from './revisions.ts';

const DEMO = new URL('../../demo/', import.meta.url);

/** The organisation everyone belongs to until there is signing in. */
export const DEMO_ORGANISATION = 'larkmoor';

const readText = (path: string): Promise<string> => readFile(new URL(path, DEMO), 'utf8');
const filesIn = async (folder: string): Promise<string[]> => (await readdir(new URL(folder, DEMO))).sort();

/** Every version of the catalog that was ever shipped. */
const readCatalogs = async (): Promise<string[]> =>
  Promise.all((await filesIn('')).filter((file) => file.startsWith('catalog')).map(readText));

/** The shipped packs and catalogs, straight from their files. */
export async function readShippedShelf(): Promise<Shelf> {
  const packs = await Promise.all(
    (await filesIn('packs/')).map(async (file) => packSchema.parse(JSON.parse(await readText(`packs/${file}`)))),
  );
  return { packs, catalogs: (await readCatalogs()).map((text) => catalogSchema.parse(JSON.parse(text))) };
}

/**
 * Gives the demo organisation what is shipped: versions of packs and of the catalog it does not have yet, jobs it never had, and for a shipped job that
 * nobody touched its newest document. What is there is never changed. Every start does it; instances that start together wait for each other.
 */
export async function loadDemo(database: Database): Promise<void> {
  const packs = await Promise.all((await filesIn('packs/')).map((file) => readText(`packs/${file}`)));
  const jobs = await Promise.all((await filesIn('jobs/')).map(async (file) => ({ file, text: await readText(`jobs/${file}`) })));
  const catalogs = await readCatalogs();
  await inTransaction(database, async (client) => {
    await client.query('INSERT INTO organisations (id, name) VALUES ($1, $2) ON CONFLICT DO NOTHING', [
      DEMO_ORGANISATION,
      'Larkmoor Field Station',
    ]);
    await client.query('SELECT 1 FROM organisations WHERE id = $1 FOR UPDATE', [DEMO_ORGANISATION]);
    for (const text of packs) {
      const { id, version } = packSchema.parse(JSON.parse(text));
      await client.query(
        'INSERT INTO packs (organisation_id, id, version, body) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING',
        [DEMO_ORGANISATION, id, version, text],
      );
    }
    for (const text of catalogs) {
      const { version } = catalogSchema.parse(JSON.parse(text));
      await client.query('INSERT INTO catalogs (organisation_id, version, body) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING', [
        DEMO_ORGANISATION,
        version,
        text,
      ]);
    }
    for (const { file, text } of jobs) await giveJob(client, file, text);
  });
}

async function giveJob(client: pg.PoolClient, file: string, text: string): Promise<void> {
  const job = jobSchema.parse(JSON.parse(text));
  const first = await client.query('INSERT INTO shipped_jobs (organisation_id, file) VALUES ($1, $2) ON CONFLICT DO NOTHING', [
    DEMO_ORGANISATION,
    file,
  ]);
  if (first.rowCount === 1) return void (await insertJob(client, DEMO_ORGANISATION, job, file));
  const untouched = await client.query<{ id: string; version: number; body: unknown }>(
    `SELECT j.id, j.version, r.body FROM jobs j JOIN job_revisions r ON r.job_id = j.id AND r.version = j.version
     WHERE j.organisation_id = $1 AND j.shipped = $2 FOR UPDATE OF j`,
    [DEMO_ORGANISATION, file],
  );
  for (const { id, version, body } of untouched.rows)
    if (JSON.stringify(body) !== JSON.stringify(job))
      await writeRevision(client, { organisation: DEMO_ORGANISATION, id, on: version, job, shipped: file });
}
