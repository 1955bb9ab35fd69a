import { defaultServerConditions } from 'vite';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  root: import.meta.dirname,
  resolve: { conditions: ['@ruvet/source', ...defaultServerConditions] },
  test: {
    include: ['*.test.ts'],
    testTimeout: 120_000,
    hookTimeout: 60_000,
    // planning and the water keep both processors busy: side by side they only wait for each other
    fileParallelism: false,
  },
});
