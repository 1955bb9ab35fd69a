import { readFileSync, readdirSync } from 'node:fs';
import { catalogSchema } from './catalog/index.ts';
import { type Job, type Library, jobSchema } from './job/index.ts';
import { packSchema } from './rules/index.ts';

const DEMO = new URL('../../demo/', import.meta.url);
const readJson = (path: string): unknown => JSON.parse(readFileSync(new URL(path, DEMO), 'utf8'));

/** The shipped packs and catalog, as the tests' library. */
export const demoLibrary: Library = {
  packs: readdirSync(new URL('packs/', DEMO)).map((file) => packSchema.parse(readJson(`packs/${file}`))),
  catalog: catalogSchema.parse(readJson('catalog.json')),
};

export const demoText = (): string => readFileSync(new URL('jobs/ringing-house-north.ruvet.json', DEMO), 'utf8');

/** The Ringing House's north plane, fresh each time. */
export const demoJob = (): Job => jobSchema.parse(JSON.parse(demoText()));

type Change = (job: Job) => void;

/** The demo job with a change made to it. */
export function changed(change: Change): Job {
  const job = structuredClone(demoJob());
  change(job);
  return job;
}
