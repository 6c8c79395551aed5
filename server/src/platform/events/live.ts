import type { LiveEvent } from '@zaguan/contracts/daybook';
import pg from 'pg';
import type { Logger } from '../log/log.ts';
import type { DomainEvent } from '../endpoint/context.ts';
import type { Subscriber } from './events.ts';
import { notify } from './events.sql.ts';

const CHANNEL = 'zaguan_live';
const RECONNECT_MS = 1000;

export type LiveListener = (event: LiveEvent) => void;

/** Tells every server process, by NOTIFY in the relay's transaction (never in the booking's: it would serialize commits). */
export const liveSubscriber: Subscriber = {
  name: 'live',
  on: [
    'visit-changed',
    'hold-changed',
    'hours-changed',
    'work-changed',
    'setup-changed',
    'views-changed',
    'recalls-changed',
  ],
  async handle(em, { event }) {
    await notify(em, CHANNEL, JSON.stringify(toLive(event)));
  },
};

function toLive(event: DomainEvent): LiveEvent {
  return 'siteId' in event ? { type: 'day-changed', siteId: event.siteId, date: event.date } : { type: event.type };
}

/** One listening connection per process, spreading what it hears to the open pages; after a break all fetch again. */
export class LiveHub {
  private readonly listeners = new Set<LiveListener>();
  private readonly ends = new Set<() => void>();
  private client: pg.Client | null = null;
  private stopped = false;

  constructor(
    private readonly url: string,
    private readonly log: Logger,
  ) {}

  async start(): Promise<void> {
    await this.connect(false);
  }

  async stop(): Promise<void> {
    this.stopped = true;
    await this.client?.end().catch(() => undefined);
  }

  /** @param end called when the server stops */
  listen(listener: LiveListener, end: () => void): () => void {
    this.listeners.add(listener);
    this.ends.add(end);
    return () => {
      this.listeners.delete(listener);
      this.ends.delete(end);
    };
  }

  endLines(): void {
    for (const end of [...this.ends]) end();
  }

  private spread(event: LiveEvent): void {
    for (const listener of this.listeners) listener(event);
  }

  private async connect(again: boolean): Promise<void> {
    const client = new pg.Client({ connectionString: this.url });
    let retried = false;
    const retry = () => {
      if (retried || this.stopped) return;
      retried = true;
      setTimeout(() => void this.connect(true), RECONNECT_MS).unref();
    };
    client.on('error', retry);
    client.on('end', retry);
    client.on('notification', (message) => {
      if (message.payload) this.spread(JSON.parse(message.payload) as LiveEvent);
    });
    try {
      await client.connect();
      await client.query(`listen ${CHANNEL}`);
      this.client = client;
      if (again) {
        this.log.info('live updates are back');
        this.spread({ type: 'resync' });
      }
    } catch {
      retry();
    }
  }
}
