import { parentPort } from 'node:worker_threads';
import { type Shelf, type Tally, libraryFor, planJob, readJob, tallyOf } from '#core';

/** Plans a document and counts what is found; undefined when it cannot be planned. */
function tally({ job, shelf }: { job: unknown; shelf: Shelf }): Tally | undefined {
  const read = readJob(job, shelf);
  const library = read.ok ? libraryFor(shelf, read.job.catalog) : undefined;
  if (!read.ok || !library) return undefined;
  try {
    return tallyOf(planJob(read.job, library));
  } catch {
    return undefined;
  }
}

parentPort!.on('message', (ask: { job: unknown; shelf: Shelf }) => parentPort!.postMessage(tally(ask)));
