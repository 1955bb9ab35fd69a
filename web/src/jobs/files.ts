/** What begins, reads and writes jobs. The list of jobs is there without it, and loads it when it is first asked for. */
export { newJob, newestLibrary, readJob, readJobText, refuseSize, writeJobText } from '#core';
