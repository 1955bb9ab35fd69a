import { defaultServerConditions } from 'vite';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  root: import.meta.dirname,
  resolve: { conditions: ['@ruvet/source', ...defaultServerConditions] },
  test: {
    include: ['*.test.ts'],
    testTimeout: 120_000,
    hookTimeout: 60_000,
    // on two processors one would otherwise be left idle
    maxWorkers: 2,
  },
});
