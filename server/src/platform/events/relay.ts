import type { Orm } from '../db/orm.ts';
import type { DomainEvent } from '../endpoint/context.ts';
import { isDatabaseAway } from '../db/failures.ts';
import { describeError, type Logger } from '../log/log.ts';
import type { Subscriber } from './events.ts';

/** Other processes' events are looked for this often; one's own are sent at once. */
const POLL_MS = 400;
const BATCH = 100;

/**
 * Hands events on after their transaction has committed. Several processes may run it: rows are claimed with
 * `SKIP LOCKED`, and each (event, subscriber) pair is handled once.
 */
export class Relay {
  private timer: NodeJS.Timeout | null = null;
  private running: Promise<void> = Promise.resolve();
  private stopped = false;

  constructor(
    private readonly orm: Orm,
    private readonly subscribers: readonly Subscriber[],
    private readonly log: Logger,
  ) {}

  start(): void {
    this.timer = setInterval(() => this.kick(), POLL_MS);
  }

  async stop(): Promise<void> {
    this.stopped = true;
    if (this.timer) clearInterval(this.timer);
    await this.running;
  }

  private waiting = false;

  /** Looks for events now, after any look that is under way. */
  kick(): void {
    if (this.waiting || this.stopped) return;
    this.waiting = true;
    this.running = this.running.then(() => {
      this.waiting = false;
      return this.drain();
    });
  }

  private async drain(): Promise<void> {
    try {
      while (!this.stopped && (await this.handBatch()) === BATCH);
    } catch (error) {
      if (!isDatabaseAway(error))
        this.log.error({ error: describeError(error) }, 'relay failed; the events stay and are tried again');
    }
  }

  private handBatch(): Promise<number> {
    return this.orm.em.fork().transactional(async (em) => {
      const rows = await em.execute<{ id: string; at: Date; payload: DomainEvent }[]>(
        'select id::text, at, payload from domain_event where relayed_at is null order by id limit ? for update skip locked',
        [BATCH],
      );
      for (const { id, payload } of rows) {
        for (const subscriber of this.subscribers) {
          if (!subscriber.on.includes(payload.type)) continue;
          const fresh = await em.execute<unknown[]>(
            'insert into event_delivery (event_id, subscriber) values (?, ?) on conflict do nothing returning 1',
            [id, subscriber.name],
          );
          if (fresh.length) await subscriber.handle(em, { id, event: payload });
        }
      }
      if (rows.length)
        await em.execute(
          `update domain_event set relayed_at = clock_timestamp() where id in (${rows.map(() => '?').join(',')}) and relayed_at is null`,
          rows.map((row) => row.id),
        );
      return rows.length;
    });
  }
}
