import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      { test: { name: 'core', include: ['core/**/*.test.ts', 'contract/**/*.test.ts', 'cli/**/*.test.ts', 'web/**/*.test.ts'], environment: 'node' } },
      { test: { name: 'server', include: ['server/**/*.test.ts'], environment: 'node', globalSetup: 'server/testing/database.ts', fileParallelism: false, testTimeout: 30_000, hookTimeout: 60_000 } },
    ],
  },
});
