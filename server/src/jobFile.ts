import { readFile, stat } from 'node:fs/promises';
import { type Job, type Library, libraryFor, readJobText, refuseSize } from '#core';
import { readShippedShelf } from './demo.ts';

/** Reads a job file with what is shipped. @throws Error whose message is the sentence to show. */
export async function readJobFile(file: string): Promise<{ job: Job; library: Library }> {
  const found = await stat(file).catch(() => undefined);
  if (!found?.isFile()) throw new Error(`Job file: there is no file ${file}.`);
  // a huge file is measured, not read
  const tooLarge = refuseSize(found.size);
  if (tooLarge) throw new Error(tooLarge.message);
  const shelf = await readShippedShelf();
  const read = readJobText(await readFile(file, 'utf8'), shelf);
  if (!read.ok) throw new Error(read.issues.map(({ message }) => message).join('\n'));
  return { job: read.job, library: libraryFor(shelf, read.job.catalog)! };
}
