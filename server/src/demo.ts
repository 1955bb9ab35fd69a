import { readFile, readdir } from 'node:fs/promises';
import { type Library, catalogSchema, packSchema } from '@ruvet/core';
import { type Database, inTransaction } from './database.ts';

const DEMO = new URL('../../demo/', import.meta.url);

/** The organisation everyone belongs to until there is signing in. */
export const DEMO_ORGANISATION = 'larkmoor';

const readText = (path: string): Promise<string> => readFile(new URL(path, DEMO), 'utf8');
const filesIn = async (folder: string): Promise<string[]> =>
  (await readdir(new URL(folder, DEMO))).sort().map((file) => folder + file);

/** The shipped packs and catalog, straight from their files. */
export async function readShippedLibrary(): Promise<Library> {
  const packs = await Promise.all(
    (await filesIn('packs/')).map(async (path) => packSchema.parse(JSON.parse(await readText(path)))),
  );
  return { packs, catalog: catalogSchema.parse(JSON.parse(await readText('catalog.json'))) };
}

/** Loads the demo organisation, its packs, catalog and jobs; once. Pack versions shipped later are added at the next start. */
export async function loadDemo(database: Database): Promise<void> {
  const packs = await Promise.all((await filesIn('packs/')).map(readText));
  const jobs = await Promise.all((await filesIn('jobs/')).map(readText));
  const catalog = await readText('catalog.json');
  await inTransaction(database, async (client) => {
    const added = await client.query('INSERT INTO organisations (id, name) VALUES ($1, $2) ON CONFLICT DO NOTHING', [
      DEMO_ORGANISATION,
      'Larkmoor Field Station',
    ]);
    for (const text of packs) {
      const { id, version } = packSchema.parse(JSON.parse(text));
      await client.query(
        'INSERT INTO packs (organisation_id, id, version, body) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING',
        [DEMO_ORGANISATION, id, version, text],
      );
    }
    if (added.rowCount === 0) return;
    await client.query('INSERT INTO catalogs (organisation_id, body) VALUES ($1, $2)', [DEMO_ORGANISATION, catalog]);
    for (const text of jobs) {
      const job = await client.query<{ id: string }>('INSERT INTO jobs (organisation_id, version) VALUES ($1, 1) RETURNING id', [
        DEMO_ORGANISATION,
      ]);
      await client.query('INSERT INTO job_revisions (organisation_id, job_id, version, body) VALUES ($1, $2, 1, $3)', [
        DEMO_ORGANISATION,
        job.rows[0]!.id,
        text,
      ]);
    }
  });
}
