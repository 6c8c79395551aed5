import { workerData } from 'node:worker_threads';
import pg from 'pg';
import { SESSION } from './platform/db/orm.ts';
import { readCalendarTask } from './exchange/readCalendarTask.ts';
import { templateFindsTask } from './features/invitations/finds.ts';
import { findTimesTask } from './features/openings/findTimes.ts';
import { ResidentClinic } from './features/openings/residentClinic.ts';
import type { Handed, HeavyTask, ThreadScope } from './platform/heavy/heavyTask.ts';

/** The program of a thread for heavy work: it knows every task by name, and keeps a clinic of its own once one asks. */
const TASKS = new Map<string, HeavyTask<never, unknown>>(
  [readCalendarTask, findTimesTask, templateFindsTask].map((task) => [task.name, task as HeavyTask<never, unknown>]),
);

const { databaseUrl } = workerData as { databaseUrl: string };
let clinic: ResidentClinic | null = null;

function clinicOfThread(): ResidentClinic {
  if (!clinic) {
    const pool = new pg.Pool({ connectionString: databaseUrl, options: SESSION, max: 1, idleTimeoutMillis: 0 });
    pool.on('error', () => undefined);
    clinic = new ResidentClinic(pool);
  }
  return clinic;
}

export default function run({ task, input, shared }: Handed): unknown {
  const flags = new Int32Array(shared);
  Atomics.store(flags, 2, 1);
  const scope: ThreadScope = {
    clinic: { keptStore: (dates, now) => clinicOfThread().keptStore(dates, now) },
    stop: () => Atomics.load(flags, 0) === 1,
    progress: (n) => {
      Atomics.store(flags, 1, n);
      // A sign of life, also where the number is the same.
      Atomics.add(flags, 2, 1);
    },
  };
  const found = TASKS.get(task);
  if (!found) throw new Error(`There is no heavy task ${task}.`);
  return found.run(input as never, scope);
}
