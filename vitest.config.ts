import { defineConfig } from 'vitest/config';

/** Three suites: `unit` needs nothing, `integration` a PostgreSQL, `browser` that and Chromium. */
export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          // Some draw hundreds of random clinics, with another suite's work beside them on two cores.
          testTimeout: 30_000,
          include: [
            'core/src/**/*.test.ts',
            'contracts/src/**/*.test.ts',
            'server/src/**/*.test.ts',
            'web/src/**/*.test.ts',
            'scripts/**/*.test.ts',
          ],
        },
      },
      {
        test: {
          name: 'integration',
          include: ['e2e/src/api/**/*.test.ts'],
          globalSetup: ['e2e/src/fixtures/globalDatabase.ts'],
          // Each file has a database and servers of its own; two of them keep two cores busy.
          maxWorkers: 2,
          testTimeout: 60_000,
          hookTimeout: 120_000,
        },
      },
      {
        test: {
          name: 'browser',
          include: ['e2e/src/flows/**/*.test.ts'],
          globalSetup: ['e2e/src/fixtures/globalDatabase.ts'],
          fileParallelism: false,
          testTimeout: 120_000,
          hookTimeout: 180_000,
        },
      },
      // The README's start command, from a fresh clone to Ctrl-C.
      {
        test: {
          name: 'command',
          include: ['e2e/src/command/**/*.test.ts'],
          fileParallelism: false,
          testTimeout: 600_000,
          hookTimeout: 300_000,
        },
      },
    ],
  },
});
