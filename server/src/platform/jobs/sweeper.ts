import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { readClock } from '../clock/clock.ts';
import { isDatabaseAway } from '../db/failures.ts';
import type { Orm } from '../db/orm.ts';
import { describeError, type Logger } from '../log/log.ts';

const EVERY_MS = 30_000;
/** Rows of one table at a time: a sweep never holds up anybody. */
const BATCH = 2_000;

/** Rows that have had their day. Each feature names its own; the domain's present is given. */
export interface Sweep {
  readonly name: string;
  readonly run: (em: SqlEntityManager, now: Date) => Promise<void>;
}

/** Deletes rows of a table that a condition holds for, a batch of them, leaving those that others are at. */
export async function sweepRows(
  em: SqlEntityManager,
  table: string,
  key: string,
  condition: string,
  values: readonly unknown[] = [],
): Promise<void> {
  await em.execute(
    `delete from ${table} where ${key} in (select ${key} from ${table} where ${condition} order by ${key} limit ${BATCH} for update skip locked)`,
    [...values],
  );
}

/** What the platform keeps for limits, undo and events, in real time. */
export const PLATFORM_SWEEPS: readonly Sweep[] = [
  {
    name: 'limits',
    run: (em) => sweepRows(em, 'rate_limit', 'key', "resets_at < clock_timestamp() - interval '1 hour'"),
  },
  { name: 'tries', run: (em) => sweepRows(em, 'attempt', 'key', "at < clock_timestamp() - interval '1 day'") },
  {
    name: 'devices',
    run: (em) => sweepRows(em, 'known_device', 'token_hash', "last_used_at < clock_timestamp() - interval '200 days'"),
  },
  { name: 'undo', run: (em, now) => sweepRows(em, 'undo_entry', 'id', 'expires_at < ?', [now]) },
];

/** Clears what has run out, now and then, in every process; two of them share the work and never wait for each other. */
export class Sweeper {
  private timer: NodeJS.Timeout | null = null;
  private running: Promise<void> = Promise.resolve();

  constructor(
    private readonly orm: Orm,
    private readonly sweeps: readonly Sweep[],
    private readonly log: Logger,
  ) {}

  start(): void {
    this.timer = setInterval(() => {
      this.running = this.running.then(() => this.sweep());
    }, EVERY_MS);
  }

  async stop(): Promise<void> {
    if (this.timer) clearInterval(this.timer);
    await this.running;
  }

  /** Each in a transaction of its own: one that fails stops no other. */
  async sweep(): Promise<void> {
    for (const { name, run } of this.sweeps) {
      try {
        await this.orm.em.fork().transactional(async (em) => run(em, await readClock(em)));
      } catch (error) {
        if (!isDatabaseAway(error)) this.log.error({ sweep: name, error: describeError(error) }, 'a sweep failed');
      }
    }
  }
}
