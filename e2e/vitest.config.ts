import { defaultServerConditions } from 'vite';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  root: import.meta.dirname,
  resolve: { conditions: ['@ruvet/source', ...defaultServerConditions] },
  test: {
    include: ['*.test.ts'],
    globalSetup: './demo.setup.ts',
    testTimeout: 240_000,
    hookTimeout: 60_000,
    // one waits while the other plans; with more of them than processors they only wait for each other
    maxWorkers: 2,
  },
});
