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
      // nothing in core or the interface keeps anything from one test to the next: their files share a process, and are loaded once
      { extends: true, test: { ...tests('core', 'web'), isolate: false } },
      { extends: true, test: tests('server') },
    ],
  },
});
