import type { Orm } from '../db/orm.ts';
import { insertIfNew } from '../db/write.ts';
import { isDatabaseAway } from '../db/failures.ts';
import { describeError, type Logger } from '../log/log.ts';
import { Poller } from '../jobs/poller.ts';
import { EventDeliveryEntity } from '../../schema/index.ts';
import type { Subscriber } from './events.ts';
import { claimEvents, markRelayed } from './events.sql.ts';

/** Other processes' events are looked for this often; one's own are sent at once. */
const POLL_MS = 400;
const BATCH = 100;

/**
 * Hands events on after their transaction has committed. Several processes may run it: rows are claimed with
 * `SKIP LOCKED`, and each (event, subscriber) pair is handled once.
 */
export class Relay {
  private readonly poller = new Poller(POLL_MS, () => this.drain());

  constructor(
    private readonly orm: Orm,
    private readonly subscribers: readonly Subscriber[],
    private readonly log: Logger,
  ) {}

  start(): void {
    this.poller.start();
  }

  stop(): Promise<void> {
    return this.poller.stop();
  }

  /** Looks for events now, after any look that is under way. */
  kick(): void {
    this.poller.kick();
  }

  private async drain(): Promise<void> {
    try {
      while (!this.poller.isStopped && (await this.handBatch()) === BATCH);
    } catch (error) {
      if (!isDatabaseAway(error))
        this.log.error({ error: describeError(error) }, 'relay failed; the events stay and are tried again');
    }
  }

  private handBatch(): Promise<number> {
    return this.orm.em.fork().transactional(async (em) => {
      const rows = await claimEvents(em, BATCH);
      for (const { id, payload } of rows) {
        for (const subscriber of this.subscribers) {
          if (!subscriber.on.includes(payload.type)) continue;
          const fresh = await insertIfNew(em, EventDeliveryEntity, {
            eventId: Number(id),
            subscriber: subscriber.name,
          });
          if (fresh) await subscriber.handle(em, { id, event: payload });
        }
      }
      if (rows.length)
        await markRelayed(
          em,
          rows.map((row) => row.id),
        );
      return rows.length;
    });
  }
}
