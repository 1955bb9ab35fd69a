import { type Job, jobSchema, summaryOf, upgradeJob } from '#core';
import { type Database, inTransaction } from './database.ts';
import { hashOf, writeRevision } from './revisions.ts';
import { Store } from './store.ts';

/** Jobs taken in one transaction. */
const BATCH = 100;

/**
 * Writes what the list shows for jobs that older versions saved, and mends those whose text no list could show: a NUL or half a character in it is taken
 * out in a revision of its own; what was saved stays. Ends when there is none left.
 */
export async function fillSummaries(database: Database): Promise<void> {
  for (;;) {
    const done = await inTransaction(database, async (client) => {
      const { rows } = await client.query<{
        id: string;
        organisation_id: string;
        version: number;
        shipped: string | null;
        body: unknown;
      }>(
        `SELECT j.id, j.organisation_id, j.version, j.shipped, r.body
         FROM jobs j JOIN job_revisions r ON r.job_id = j.id AND r.version = j.version
         WHERE j.name IS NULL OR j.document_hash IS NULL ORDER BY j.id LIMIT ${BATCH} FOR UPDATE OF j SKIP LOCKED`,
      );
      for (const { id, organisation_id: organisation, version, shipped, body } of rows) {
        const clean = withoutUnkept(body);
        const read = jobSchema.safeParse(upgradeJob(clean, await new Store(database, organisation).shelf()));
        const { name, slope, slopes, walls, features } = read.success ? summaryOf(read.data) : ofUnreadable(clean);
        await client.query(
          'UPDATE jobs SET document_hash = $7, name = $2, slope = $3, slopes = $4, walls = $5, features = $6 WHERE id = $1',
          [id, name, slope, slopes, walls, features, hashOf(JSON.stringify(body))],
        );
        if (read.success && JSON.stringify(clean) !== JSON.stringify(body))
          await writeRevision(client, { organisation, id, on: version, job: read.data, ...(shipped ? { shipped } : {}) });
      }
      return rows.length;
    });
    if (done < BATCH) return;
  }
}

/** What a list can tell of a document that is no job any more. */
function ofUnreadable(body: unknown): ReturnType<typeof summaryOf> {
  const { name } = (typeof body === 'object' && body !== null ? body : {}) as Partial<Job>;
  return {
    name: typeof name === 'string' && name !== '' ? name.slice(0, 120) : 'A job that cannot be read',
    slope: '',
    slopes: 0,
    walls: 0,
    features: 0,
  };
}

/** A document without what no text column keeps: NULs are left out, half a character is told by the sign for one that is not known. */
export function withoutUnkept(value: unknown): unknown {
  if (typeof value === 'string') return value.replaceAll('\0', '').replace(/\p{Surrogate}/gu, '\uFFFD');
  if (Array.isArray(value)) return value.map(withoutUnkept);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [withoutUnkept(key), withoutUnkept(inner)]));
}
