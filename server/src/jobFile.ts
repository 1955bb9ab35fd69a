import { readFile, stat } from 'node:fs/promises';
import { type Job, type Library, readJobText, refuseSize } from '@ruvet/core';
import { readShippedLibrary } from './demo.ts';

/** Reads a job file with the shipped library. @throws Error whose message is the sentence to show. */
export async function readJobFile(file: string): Promise<{ job: Job; library: Library }> {
  const found = await stat(file).catch(() => undefined);
  if (!found?.isFile()) throw new Error(`Job file: there is no file ${file}.`);
  // a huge file is measured, not read
  const tooLarge = refuseSize(found.size);
  if (tooLarge) throw new Error(tooLarge.message);
  const library = await readShippedLibrary();
  const read = readJobText(await readFile(file, 'utf8'), library);
  if (!read.ok) throw new Error(read.issues.map(({ message }) => message).join('\n'));
  return { job: read.job, library };
}
