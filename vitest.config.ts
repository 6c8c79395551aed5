import { defineConfig } from 'vitest/config';
import { BaseSequencer, type TestSpecification } from 'vitest/node';

/** The longest files of each suite: begun last, one of them would keep one core busy and the other waiting. */
const LONG_FILES =
  /\/(openings\/search|impact\/setup|killed|running|fuzz|noDoubleBooking|load|fullDemo|fullClinic|messages|setup|intake|patientTrouble|availability|restrictedPages)\.test\.ts$/;

const TIMED = 'e2e/src/api/heavyWork.test.ts';

class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const sorted = await super.sort(files);
    const isLong = ({ moduleId }: TestSpecification) => LONG_FILES.test(moduleId);
    return [...sorted.filter(isLong), ...sorted.filter((file) => !isLong(file))];
  }
}

/** `unit` needs nothing, `integration` and `timed` a PostgreSQL, `browser` that and Chromium. */
export default defineConfig({
  test: {
    sequence: { sequencer: LongestFirst },
    projects: [
      {
        test: {
          name: 'unit',
          maxWorkers: 2,
          // Some draw hundreds of random clinics, with another suite's work beside them on two cores.
          testTimeout: 120_000,
          include: [
            'core/src/**/*.test.ts',
            'contracts/src/**/*.test.ts',
            'server/src/**/*.test.ts',
            'web/src/**/*.test.{ts,tsx}',
            'scripts/**/*.test.ts',
          ],
        },
      },
      {
        test: {
          name: 'integration',
          include: ['e2e/src/api/**/*.test.ts'],
          exclude: [TIMED],
          globalSetup: ['e2e/src/fixtures/globalDatabase.ts'],
          // Each file has a database and servers of its own. Two of them keep two cores busy.
          maxWorkers: 2,
          // What a file keeps is in its own database: the modules are read once for all.
          isolate: false,
          testTimeout: 60_000,
          hookTimeout: 120_000,
        },
      },
      // What measures how long others wait has the machine to itself.
      {
        test: {
          name: 'timed',
          include: [TIMED],
          globalSetup: ['e2e/src/fixtures/globalDatabase.ts'],
          maxWorkers: 1,
          testTimeout: 60_000,
          hookTimeout: 120_000,
        },
      },
      {
        test: {
          name: 'browser',
          include: ['e2e/src/flows/**/*.test.ts'],
          globalSetup: ['e2e/src/fixtures/globalDatabase.ts'],
          maxWorkers: 2,
          isolate: false,
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
