import { type Job, type Library, catalogSchema, packSchema } from '@ruvet/core';
import { type Database, inTransaction } from './database.ts';

export type StoredJob = { readonly id: string; readonly version: number; readonly savedAt: string; readonly job: unknown };
export type JobSummary = {
  readonly id: string;
  readonly name: string;
  readonly version: number;
  readonly updatedAt: string;
  /** Its first slope, and how many there are. */
  readonly slope: string;
  readonly slopes: number;
  readonly walls: number;
  /** Chimneys, skylights, pipes and the like. */
  readonly features: number;
};
export type SaveOutcome =
  | { readonly kind: 'saved'; readonly version: number }
  | { readonly kind: 'stale'; readonly current: StoredJob }
  | { readonly kind: 'missing' };

type JobRow = { id: string; version: number; saved_at: Date; body: unknown };
const toStored = (row: JobRow): StoredJob => ({
  id: row.id,
  version: row.version,
  savedAt: row.saved_at.toISOString(),
  job: row.body,
});

const CURRENT = `
  SELECT j.id, r.version, r.saved_at, r.body
  FROM jobs j JOIN job_revisions r ON r.job_id = j.id AND r.organisation_id = j.organisation_id AND r.version = j.version
  WHERE j.organisation_id = $1 AND j.id = $2 AND j.deleted_at IS NULL`;

/** Jobs, packs and catalog of one organisation. Every statement names the organisation. */
export class Store {
  readonly #database: Database;
  readonly #organisation: string;

  constructor(database: Database, organisation: string) {
    this.#database = database;
    this.#organisation = organisation;
  }

  /** Packs and catalog as they were written, for the browser to read with the same schemas. */
  async libraryDocuments(): Promise<{ packs: unknown[]; catalog: unknown }> {
    const packs = await this.#database.query<{ body: unknown }>(
      'SELECT body FROM packs WHERE organisation_id = $1 ORDER BY id, version',
      [this.#organisation],
    );
    const catalog = await this.#database.query<{ body: unknown }>('SELECT body FROM catalogs WHERE organisation_id = $1', [
      this.#organisation,
    ]);
    return {
      packs: packs.rows.map(({ body }) => body),
      catalog: catalog.rows[0]?.body ?? { format: 'ruvet-catalog', formatVersion: 1, items: [] },
    };
  }

  async library(): Promise<Library> {
    const { packs, catalog } = await this.libraryDocuments();
    return { packs: packs.map((pack) => packSchema.parse(pack)), catalog: catalogSchema.parse(catalog) };
  }

  async listJobs(): Promise<JobSummary[]> {
    const { rows } = await this.#database.query<{
      id: string;
      name: string;
      version: number;
      updated_at: Date;
      slope: string;
      slopes: number;
      walls: number;
      features: number;
    }>(
      `SELECT j.id, j.version, j.updated_at, r.body ->> 'name' AS name,
              slope.first AS slope, slope.count AS slopes, slope.walls,
              json_array_length(COALESCE(r.body -> 'features', '[]')) AS features
       FROM jobs j JOIN job_revisions r ON r.job_id = j.id AND r.organisation_id = j.organisation_id AND r.version = j.version
       CROSS JOIN LATERAL (
         -- version 1 documents hold their slopes themselves, later ones by the part of the roof
         SELECT (array_agg(plane ->> 'name'))[1] AS first, count(*)::int AS count,
                COALESCE(sum(json_array_length(plane -> 'walls')), 0)::int AS walls
         FROM json_array_elements(COALESCE(r.body -> 'parts', json_build_array(r.body))) part,
              json_array_elements(part -> 'planes') plane
       ) slope
       WHERE j.organisation_id = $1 AND j.deleted_at IS NULL
       ORDER BY j.updated_at DESC, j.id`,
      [this.#organisation],
    );
    return rows.map(({ updated_at, ...row }) => ({ ...row, updatedAt: updated_at.toISOString() }));
  }

  async getJob(id: string): Promise<StoredJob | undefined> {
    const { rows } = await this.#database.query<JobRow>(CURRENT, [this.#organisation, id]);
    return rows[0] && toStored(rows[0]);
  }

  async addJob(job: Job): Promise<StoredJob> {
    return inTransaction(this.#database, async (client) => {
      const added = await client.query<{ id: string }>(
        'INSERT INTO jobs (organisation_id, version) VALUES ($1, 1) RETURNING id',
        [this.#organisation],
      );
      const revision = await client.query<{ saved_at: Date }>(
        'INSERT INTO job_revisions (organisation_id, job_id, version, body) VALUES ($1, $2, 1, $3) RETURNING saved_at',
        [this.#organisation, added.rows[0]!.id, JSON.stringify(job)],
      );
      return { id: added.rows[0]!.id, version: 1, savedAt: revision.rows[0]!.saved_at.toISOString(), job };
    });
  }

  /** Appends a revision on top of `version`; when someone saved first, nothing is written and theirs comes back. */
  async saveJob(id: string, version: number, job: Job): Promise<SaveOutcome> {
    return inTransaction(this.#database, async (client) => {
      const moved = await client.query<{ version: number }>(
        'UPDATE jobs SET version = version + 1, updated_at = now() WHERE organisation_id = $1 AND id = $2 AND version = $3 AND deleted_at IS NULL RETURNING version',
        [this.#organisation, id, version],
      );
      const next = moved.rows[0]?.version;
      if (next === undefined) {
        const current = await client.query<JobRow>(CURRENT, [this.#organisation, id]);
        return current.rows[0] ? { kind: 'stale', current: toStored(current.rows[0]) } : { kind: 'missing' };
      }
      await client.query('INSERT INTO job_revisions (organisation_id, job_id, version, body) VALUES ($1, $2, $3, $4)', [
        this.#organisation,
        id,
        next,
        JSON.stringify(job),
      ]);
      return { kind: 'saved', version: next };
    });
  }

  /** Deletes or restores; false when there is no such job in that state. */
  async setDeleted(id: string, deleted: boolean): Promise<boolean> {
    const { rowCount } = await this.#database.query(
      `UPDATE jobs SET deleted_at = CASE WHEN $3 THEN now() END WHERE organisation_id = $1 AND id = $2 AND (deleted_at IS NULL) = $3`,
      [this.#organisation, id, deleted],
    );
    return rowCount === 1;
  }
}
