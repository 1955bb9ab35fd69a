import { defaultClientConditions, defaultServerConditions } from 'vite';
import { defineConfig } from 'vitest/config';

const tests = (...folders: string[]) => ({
  name: folders.join(' and '),
  include: folders.map((folder) => `${folder}/src/**/*.test.ts`),
  setupFiles: ['core/fixtures/seeds.ts'],
  testTimeout: 240_000,
  hookTimeout: 60_000,
});

export default defineConfig({
  resolve: { conditions: ['@ruvet/source', ...defaultClientConditions] },
  ssr: { resolve: { conditions: ['@ruvet/source', ...defaultServerConditions] } },
  test: {
    // on two processors one would otherwise be left idle
    maxWorkers: 2,
    projects: [
      {
        extends: true,
        // nothing in core keeps anything from one test to the next: its files share a process, and are loaded once
        test: { ...tests('core'), isolate: false },
      },
      { extends: true, test: tests('server', 'web') },
    ],
  },
});
