import type { Shelf, Tally } from '#core';
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { Worker } from 'node:worker_threads';
import type { Database } from './database.ts';

/** What the planner is: its own files. Another planner finds other things in the same document. */
export function plannerHash(): string {
  const core = dirname(createRequire(import.meta.url).resolve('#core'));
  const hash = createHash('sha256');
  for (const file of (readdirSync(core, { recursive: true }) as string[]).filter((name) => name.endsWith('.js')).sort())
    hash.update(file).update(readFileSync(join(core, file)));
  return hash.digest('hex');
}

/** Where the documents and what they are planned with come from. */
type Source = {
  getJob(id: string): Promise<{ readonly version: number; readonly job: unknown } | undefined>;
  shelfAnew(): Promise<Shelf>;
};

/** So many jobs are kept in mind. */
const MOST = 100;
/** A list that has asked for so long is looked at… */
const MOMENT_MS = 1000;
/** …if it went on asking: after so long without a word it was left, and is passed through anew. An open list asks twice as often. */
const LEFT_MS = 3000;

type Waiting = { readonly id: string; readonly hash: string };

/** Works out what planning finds in the jobs a list that stays shows, one after another in a thread of its own, so that no save waits for it. */
export class Findings {
  readonly planner = plannerHash();
  readonly #database: Database;
  readonly #waiting = new Map<string, Waiting>();
  /** Since when documents are asked for, and when they were last: a list that is only passed through on the way to a job does not go on asking. */
  readonly #asked = new Map<string, { readonly since: number; readonly last: number }>();
  #worker: Worker | undefined;
  #busy = false;

  constructor(database: Database) {
    this.#database = database;
  }

  /** Asks for a job whose document has not been looked at; it is once a list has gone on asking for it for a moment. */
  want(store: Source, job: Waiting): void {
    if (this.#waiting.size >= MOST || this.#waiting.has(job.hash)) return;
    const now = performance.now();
    const before = this.#asked.get(job.hash);
    const since = before && now - before.last < LEFT_MS ? before.since : now;
    if (!before && this.#asked.size >= MOST) this.#asked.clear();
    this.#asked.set(job.hash, { since, last: now });
    if (now - since < MOMENT_MS) return;
    this.#asked.delete(job.hash);
    this.#waiting.set(job.hash, job);
    if (!this.#busy) void this.#work(store);
  }

  async #work(store: Source): Promise<void> {
    this.#busy = true;
    for (let next = this.#first(); next; next = this.#first()) {
      try {
        const stored = await store.getJob(next.id);
        const tally = stored && (await this.#tally({ job: stored.job, shelf: await store.shelfAnew() }));
        if (stored)
          await this.#database.query(
            `INSERT INTO document_findings (document_hash, planner, leaks, breaks, looks, seals)
             SELECT document_hash, $2, $3, $4, $5, $7 FROM jobs WHERE id = $1 AND version = $6 AND document_hash IS NOT NULL
             ON CONFLICT DO NOTHING`,
            [
              next.id,
              this.planner,
              tally?.leaks ?? null,
              tally?.breaks ?? null,
              tally?.looks ?? null,
              stored.version,
              tally?.seals ?? null,
            ],
          );
      } catch {
        // it is asked for again by the next list that shows it
      }
      this.#waiting.delete(next.hash);
    }
    this.#busy = false;
  }

  #first(): Waiting | undefined {
    return this.#waiting.values().next().value;
  }

  #tally(ask: unknown): Promise<Tally | undefined> {
    const worker = (this.#worker ??= new Worker(new URL('./findingsWorker.js', import.meta.url)));
    worker.unref();
    return new Promise((resolve, reject) => {
      const answered = (tally: Tally | undefined): void => {
        worker.off('error', failed);
        resolve(tally);
      };
      const failed = (error: Error): void => {
        worker.off('message', answered);
        // the next question gets a thread of its own
        this.#worker = undefined;
        reject(error);
      };
      worker.once('message', answered);
      worker.once('error', failed);
      worker.postMessage(ask);
    });
  }

  async end(): Promise<void> {
    this.#waiting.clear();
    await this.#worker?.terminate();
  }
}
