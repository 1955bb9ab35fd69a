import { createHash } from 'node:crypto';
import { type Job, summaryOf } from '#core';
import type pg from 'pg';

type Client = Pick<pg.Pool, 'query'>;

export const hashOf = (text: string): string => createHash('sha256').update(text).digest('hex');

/** A document's text, its hash and the columns a list shows, in the order of their placeholders. */
const documentValues = (job: Job): unknown[] => {
  const text = JSON.stringify(job);
  const { name, slope, slopes, walls, features } = summaryOf(job);
  return [text, hashOf(text), name, slope, slopes, walls, features];
};

/** Adds a job with its first revision, in one statement. */
export async function insertJob(
  client: Client,
  organisation: string,
  job: Job,
  shipped: string | null = null,
): Promise<{ id: string; savedAt: Date }> {
  const { rows } = await client.query<{ job_id: string; saved_at: Date }>(
    `WITH added AS (
       INSERT INTO jobs (organisation_id, version, shipped, document_hash, name, slope, slopes, walls, features)
       VALUES ($1, 1, $2, $4, $5, $6, $7, $8, $9) RETURNING id
     )
     INSERT INTO job_revisions (organisation_id, job_id, version, body) SELECT $1, id, 1, $3 FROM added
     RETURNING job_id, saved_at`,
    [organisation, shipped, ...documentValues(job)],
  );
  return { id: rows[0]!.job_id, savedAt: rows[0]!.saved_at };
}

type Revision = {
  readonly organisation: string;
  readonly id: string;
  /** The version it was made on top of. */
  readonly on: number;
  readonly job: Job;
  readonly save?: string | undefined;
  /** The shipped job it still is; none once someone saved it. */
  readonly shipped?: string;
};

/** Appends a revision and moves the job to it, in one statement; undefined, and nothing written, when the job is on another version or not there. */
export async function writeRevision(
  client: Client,
  { organisation, id, on, job, save, shipped }: Revision,
): Promise<number | undefined> {
  const { rows } = await client.query<{ version: number }>({
    // named: it is planned once a connection
    name: 'write-revision',
    text: `WITH moved AS (
       UPDATE jobs SET version = version + 1, updated_at = now(), shipped = $4, document_hash = $7,
                       name = $8, slope = $9, slopes = $10, walls = $11, features = $12
       WHERE organisation_id = $1 AND id = $2 AND version = $3 AND deleted_at IS NULL RETURNING version
     )
     INSERT INTO job_revisions (organisation_id, job_id, version, body, save_id) SELECT $1, $2, version, $6, $5 FROM moved
     RETURNING version`,
    values: [organisation, id, on, shipped ?? null, save ?? null, ...documentValues(job)],
  });
  return rows[0]?.version;
}
