import { defineConfig } from 'vitest/config';

declare module 'vitest' {
  export interface ProvidedContext {
    /** How many times as many comparisons with the naive twins are made. */
    twins: number;
  }
}

export default defineConfig({
  test: {
    coverage: {
      provider: 'v8',
      reporter: ['json-summary'],
      include: ['{core,contract,cli,server,web,demo}/**/*.{ts,tsx}'],
      exclude: ['**/*.test.{ts,tsx}', '**/testing/**', 'core/reference/**'],
    },
    provide: { twins: Number(process.env.OJO_TWINS ?? 1) },
    projects: [
      {
        test: {
          name: 'core',
          include: ['core/**/*.test.ts', 'contract/**/*.test.ts', 'cli/**/*.test.ts', 'web/**/*.test.{ts,tsx}'],
          environment: 'node',
          testTimeout: 30_000,
          expect: { poll: { timeout: 10_000 } },
        },
      },
      {
        test: {
          name: 'server',
          include: ['server/**/*.test.ts', 'demo/**/*.test.ts'],
          environment: 'node',
          globalSetup: 'server/testing/database.ts',
          fileParallelism: false,
          testTimeout: 30_000,
          hookTimeout: 60_000,
          expect: { poll: { timeout: 10_000 } },
        },
      },
    ],
  },
});
