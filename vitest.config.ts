import { defineConfig } from 'vitest/config';

const tests = (...folders: string[]) => ({
  name: folders.join(' and '),
  include: folders.map((folder) => `${folder}/src/**/*.test.ts`),
  setupFiles: ['core/fixtures/seeds.ts'],
  testTimeout: 240_000,
  hookTimeout: 60_000,
});

/** Node loads the modules itself: where every import is read through Vite's runner, core takes a fifth longer. A larger nursery is swept less often. */
export const loadedByNode = {
  experimental: { viteModuleRunner: false, nodeLoader: false },
  execArgv: [
    '--conditions=@ruvet/source',
    `--import=${import.meta.dirname}/scripts/typescript.mjs`,
    '--max-semi-space-size=64',
    '--min-semi-space-size=64',
  ],
};

export default defineConfig({
  test: {
    // on two processors one would otherwise be left idle
    maxWorkers: 2,
    ...loadedByNode,
    projects: [
      // nothing in core or the interface keeps anything from one test to the next: their files share a process, and are loaded once
      { extends: true, test: { ...tests('core', 'web'), isolate: false } },
      { extends: true, test: tests('server') },
    ],
  },
});
