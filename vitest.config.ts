import { defaultClientConditions, defaultServerConditions } from 'vite';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  resolve: { conditions: ['@ruvet/source', ...defaultClientConditions] },
  ssr: { resolve: { conditions: ['@ruvet/source', ...defaultServerConditions] } },
  test: {
    include: ['core/src/**/*.test.ts', 'server/src/**/*.test.ts', 'web/src/**/*.test.ts'],
    setupFiles: ['core/fixtures/seeds.ts'],
    // on two processors one would otherwise be left idle
    maxWorkers: 2,
    testTimeout: 240_000,
    hookTimeout: 60_000,
  },
});
