import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { DomainEventEntity } from '../../schema/index.ts';
import { insertRows } from '../db/write.ts';
import type { DomainEvent } from '../endpoint/context.ts';

export interface StoredEvent {
  readonly id: string;
  readonly event: DomainEvent;
}

/** Handles an event once; it may run again after a crash, so it must not mind. */
export interface Subscriber {
  readonly name: string;
  readonly on: readonly DomainEvent['type'][];
  handle(em: SqlEntityManager, stored: StoredEvent): Promise<void>;
}

/** Writes events into the outbox, in the caller's transaction. */
export async function storeEvents(em: SqlEntityManager, events: readonly DomainEvent[], at: Date): Promise<void> {
  await insertRows(
    em,
    DomainEventEntity,
    events.map((event) => ({ at, type: event.type, payload: { ...event } })),
  );
}
