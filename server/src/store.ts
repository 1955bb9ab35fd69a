import { type Job, type Pack, type Shelf, type Tally, catalogSchema, mutingPack, packSchema } from '#core';
import type { Database } from './database.ts';
import type { Findings } from './findings.ts';
import { insertJob, writeRevision } from './revisions.ts';

export type StoredJob = {
  readonly id: string;
  readonly version: number;
  readonly savedAt: string;
  /** The id its save was sent with, where it had one. */
  readonly saveId: string | null;
  readonly job: unknown;
};
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
  /** What planning it and letting water run over the plan found; null until that is worked out. */
  readonly findings: Tally | 'cannot be planned' | null;
};
export type JobsPage = {
  readonly jobs: readonly JobSummary[];
  /** Where the next page goes on from; null on the last. */
  readonly next: string | null;
};
export type SaveOutcome =
  | { readonly kind: 'saved'; readonly version: number }
  | { readonly kind: 'stale'; readonly current: StoredJob }
  | { readonly kind: 'missing' };

type JobRow = { id: string; version: number; saved_at: Date; save_id: string | null; body: unknown };
const toStored = (row: JobRow): StoredJob => ({
  id: row.id,
  version: row.version,
  savedAt: row.saved_at.toISOString(),
  saveId: row.save_id,
  job: row.body,
});

const CURRENT = `
  SELECT j.id, r.version, r.saved_at, r.save_id, r.body
  FROM jobs j JOIN job_revisions r ON r.job_id = j.id AND r.organisation_id = j.organisation_id AND r.version = j.version
  WHERE j.organisation_id = $1 AND j.id = $2 AND j.deleted_at IS NULL`;

/** Jobs on one page of the list. */
export const PAGE = 20;

/** Jobs, packs and catalogs of one organisation. Every statement names the organisation. */
export class Store {
  readonly #database: Database;
  readonly #organisation: string;
  readonly #findings: Findings | undefined;
  #shelf: { readonly versions: string; readonly shelf: Shelf } | undefined;

  constructor(database: Database, organisation: string, findings?: Findings) {
    this.#database = database;
    this.#organisation = organisation;
    this.#findings = findings;
  }

  /** Is the database there? @throws what the driver says when it is not. */
  async ask(): Promise<void> {
    await this.#database.query('SELECT 1');
  }

  /** Packs and catalogs as they were written, for the browser to read with the same schemas. */
  async shelfDocuments(): Promise<{ packs: unknown[]; catalogs: unknown[] }> {
    const packs = await this.#database.query<{ body: unknown }>(
      'SELECT body FROM packs WHERE organisation_id = $1 ORDER BY id, version',
      [this.#organisation],
    );
    const catalogs = await this.#database.query<{ version: number; body: object }>(
      'SELECT version, body FROM catalogs WHERE organisation_id = $1 ORDER BY version',
      [this.#organisation],
    );
    return {
      packs: packs.rows.map(({ body }) => body),
      // the first ones were written before they had versions
      catalogs: catalogs.rows.map(({ version, body }) => ({ ...body, version })),
    };
  }

  /** The same, read, as it was when it was last looked for: no version ever changes, but there may be another since. */
  async shelf(): Promise<Shelf> {
    return this.#shelf?.shelf ?? (await this.shelfAnew());
  }

  /** The same with what has come since. */
  async shelfAnew(): Promise<Shelf> {
    const { rows } = await this.#database.query<{ versions: string }>(
      `SELECT (SELECT count(*) FROM packs WHERE organisation_id = $1) || ' ' || (SELECT count(*) FROM catalogs WHERE organisation_id = $1) AS versions`,
      [this.#organisation],
    );
    const { versions } = rows[0]!;
    if (this.#shelf?.versions !== versions) {
      const { packs, catalogs } = await this.shelfDocuments();
      this.#shelf = {
        versions,
        shelf: { packs: packs.map((pack) => packSchema.parse(pack)), catalogs: catalogs.map((one) => catalogSchema.parse(one)) },
      };
    }
    return this.#shelf.shelf;
  }

  /** Adds the version after `version` of what the house mutes; undefined when that is not the newest, or somebody added it first. */
  async muteInHouse(version: number, muted: Readonly<Record<string, string>>): Promise<Pack | undefined> {
    const pack = mutingPack(version + 1, muted);
    const { rowCount } = await this.#database.query(
      `INSERT INTO packs (organisation_id, id, version, body) SELECT $1, $2, $3, $4
       WHERE $3::int - 1 = (SELECT coalesce(max(version), 0) FROM packs WHERE organisation_id = $1 AND id = $2) ON CONFLICT DO NOTHING`,
      [this.#organisation, pack.id, pack.version, JSON.stringify(pack)],
    );
    return rowCount ? pack : undefined;
  }

  /** A page of the jobs, the last saved first: those whose name has `search` in it, after the place `after` of an earlier page. */
  async listJobs({ search = '', after }: { search?: string; after?: readonly [string, string] } = {}): Promise<JobsPage> {
    const [moment, id] = after ?? [null, null];
    const { rows } = await this.#database.query<{
      id: string;
      name: string;
      version: number;
      updated_at: Date;
      exact: string;
      slope: string;
      slopes: number;
      walls: number;
      features: number;
      hash: string | null;
      known: boolean;
      leaks: number | null;
      breaks: number;
      looks: number;
      seals: number | null;
    }>(
      `SELECT id, version, updated_at, updated_at::text AS exact, COALESCE(name, '') AS name, COALESCE(slope, '') AS slope,
              COALESCE(slopes, 0) AS slopes, COALESCE(walls, 0) AS walls, COALESCE(features, 0) AS features,
              jobs.document_hash AS hash, found.document_hash IS NOT NULL AS known, leaks, breaks, looks, seals
       FROM jobs LEFT JOIN document_findings found ON found.document_hash = jobs.document_hash AND found.planner = $6
       WHERE organisation_id = $1 AND deleted_at IS NULL
         AND ($2 = '' OR strpos(lower(name), lower($2)) > 0)
         AND ($3::timestamptz IS NULL OR (updated_at, id) < ($3::timestamptz, $4::uuid))
       ORDER BY updated_at DESC, id DESC
       LIMIT $5`,
      [this.#organisation, search, moment, id, PAGE + 1, this.#findings?.planner ?? ''],
    );
    const page = rows.slice(0, PAGE);
    for (const { id, hash, known } of page) if (hash && !known) this.#findings?.want(this, { id, hash });
    const last = page.at(-1);
    return {
      jobs: page.map(({ id, name, version, updated_at, slope, slopes, walls, features, known, leaks, breaks, looks, seals }) => ({
        id,
        name,
        version,
        updatedAt: updated_at.toISOString(),
        slope,
        slopes,
        walls,
        features,
        findings: known ? (leaks === null ? ('cannot be planned' as const) : { leaks, breaks, seals: seals ?? 0, looks }) : null,
      })),
      next: last && rows.length > PAGE ? `${last.exact} ${last.id}` : null,
    };
  }

  async getJob(id: string): Promise<StoredJob | undefined> {
    const { rows } = await this.#database.query<JobRow>(CURRENT, [this.#organisation, id]);
    return rows[0] && toStored(rows[0]);
  }

  async addJob(job: Job): Promise<StoredJob> {
    const { id, savedAt } = await insertJob(this.#database, this.#organisation, job);
    return { id, version: 1, savedAt: savedAt.toISOString(), saveId: null, job };
  }

  /**
   * Appends a revision on top of `version`; when someone saved first, nothing is written and theirs comes back. A save sent again, because its answer
   * was lost, is known by its id and answered as it was.
   */
  async saveJob(id: string, version: number, job: Job, save?: string): Promise<SaveOutcome> {
    const next = await writeRevision(this.#database, { organisation: this.#organisation, id, on: version, job, save }).catch(
      // the very same save, sent twice at once: the other one made it
      (error: { code?: string; constraint?: string }) => {
        if (error.code === '23505' && error.constraint === 'job_saves') return undefined;
        throw error;
      },
    );
    if (next !== undefined) return { kind: 'saved', version: next };
    if (save !== undefined) {
      const made = await this.#database.query<{ version: number }>(
        `SELECT r.version FROM job_revisions r JOIN jobs j ON j.id = r.job_id
         WHERE r.organisation_id = $1 AND r.job_id = $2 AND r.save_id = $3 AND j.deleted_at IS NULL`,
        [this.#organisation, id, save],
      );
      if (made.rows[0]) return { kind: 'saved', version: made.rows[0].version };
    }
    const current = await this.getJob(id);
    return current ? { kind: 'stale', current } : { kind: 'missing' };
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
