import './scripts/typescript.mjs';
import { defineConfig } from 'vitest/config';

const tests = (...folders: string[]) => ({
  name: folders.join(' and '),
  include: folders.map((folder) => `${folder}/src/**/*.test.ts`),
  setupFiles: ['core/fixtures/seeds.ts'],
});

export default defineConfig({
  test: {
    // on two processors one would otherwise be left idle; with more of them they only wait for each other
    maxWorkers: 2,
    testTimeout: 240_000,
    hookTimeout: 120_000,
    // Node loads the modules itself: where every import is read through Vite's runner, core takes a fifth longer. A larger nursery is swept less often.
    experimental: { viteModuleRunner: false, nodeLoader: false },
    execArgv: [
      '--conditions=@ruvet/source',
      `--import=${import.meta.dirname}/scripts/typescript.mjs`,
      '--max-semi-space-size=64',
      '--min-semi-space-size=64',
    ],
    projects: [
      // files share a process, and what they import is loaded once: nothing in it is kept from one test to the next, but the stage and what planFor knows
      { extends: true, test: { ...tests('core', 'web'), isolate: false } },
      { extends: true, test: { ...tests('server'), isolate: false } },
      {
        extends: true,
        test: {
          name: 'scenes',
          include: ['e2e/*.test.ts'],
          globalSetup: 'e2e/demo.setup.ts',
          setupFiles: ['e2e/stage.setup.ts'],
          isolate: false,
        },
      },
    ],
  },
});
