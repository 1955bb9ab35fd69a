import { setTimeout } from 'node:timers/promises';
import type { TestProject } from 'vitest/node';
import { ownDatabase } from '../server/fixtures/database.ts';
import { startServer } from '../server/fixtures/process.ts';

declare module 'vitest' {
  interface ProvidedContext {
    readonly demo: string;
  }
}

/**
 * The demo site's database as a server leaves it that has looked at every job on the list: each file of scenes begins on a copy of it. Other tests go on
 * meanwhile: a copy waits until the server has left.
 */
export default async function setup({ provide }: TestProject): Promise<() => Promise<void>> {
  const own = await ownDatabase();
  const server = await startServer(own.url);
  const isLookedAt = async (): Promise<boolean> => {
    const { jobs } = (await (await fetch(`${server.url}/api/jobs`)).json()) as { jobs: { findings: unknown }[] };
    return jobs.every(({ findings }) => findings !== null);
  };
  const lookAtAll = async (): Promise<void> => {
    while (!(await isLookedAt())) await setTimeout(200);
    server.child.kill('SIGTERM');
    await server.ended;
  };
  const lookedAt = lookAtAll();
  provide('demo', own.name);
  return async () => {
    await lookedAt;
    await own.drop();
  };
}
