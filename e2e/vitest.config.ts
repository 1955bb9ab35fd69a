import { defineConfig } from 'vitest/config';
import '../scripts/typescript.mjs';
import { loadedByNode } from '../vitest.config.ts';

export default defineConfig({
  root: import.meta.dirname,
  test: {
    ...loadedByNode,
    include: ['*.test.ts'],
    globalSetup: './demo.setup.ts',
    testTimeout: 240_000,
    hookTimeout: 60_000,
    // one waits while the other plans; with more of them than processors they only wait for each other
    maxWorkers: 2,
  },
});
