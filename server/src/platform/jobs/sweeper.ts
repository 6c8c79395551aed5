import { readClock } from '../clock/clock.ts';
import { isDatabaseAway } from '../db/failures.ts';
import type { Orm } from '../db/orm.ts';
import { describeError, type Logger } from '../log/log.ts';
import { Poller } from './poller.ts';
import type { Sweep } from './sweeps.sql.ts';

const EVERY_MS = 30_000;

/** Work that comes up with time alone, done in transactions of its own. */
export interface Round {
  readonly name: string;
  readonly run: () => Promise<void>;
}

/** Clears what has run out and does what has come up, now and then, in every process; two of them share the work and never wait for each other. */
export class Sweeper {
  private readonly poller = new Poller(EVERY_MS, () => this.sweep());

  constructor(
    private readonly orm: Orm,
    private readonly sweeps: readonly Sweep[],
    private readonly rounds: readonly Round[],
    private readonly log: Logger,
  ) {}

  start(): void {
    this.poller.start();
  }

  stop(): Promise<void> {
    return this.poller.stop();
  }

  /** Each in a transaction of its own: one that fails stops no other. */
  async sweep(): Promise<void> {
    for (const { name, run } of this.sweeps)
      await this.attempt(name, () => this.orm.em.fork().transactional(async (em) => run(em, await readClock(em))));
    for (const { name, run } of this.rounds) await this.attempt(name, run);
  }

  private async attempt(name: string, run: () => Promise<void>): Promise<void> {
    try {
      await run();
    } catch (error) {
      if (!isDatabaseAway(error)) this.log.error({ sweep: name, error: describeError(error) }, 'a sweep failed');
    }
  }
}
