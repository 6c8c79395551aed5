import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { rowsOf, statement } from '../db/statement.ts';
import type { DomainEvent } from '../endpoint/context.ts';

const CLAIM = statement<{ size: number }, { id: string; payload: DomainEvent }>(
  'a claim that skips what others have',
  'select id::text, payload from domain_event where relayed_at is null order by id limit :size for update skip locked',
);

/** The oldest events that nobody has handed on, kept from the other processes until the transaction ends. */
export function claimEvents(em: SqlEntityManager, size: number): Promise<{ id: string; payload: DomainEvent }[]> {
  return rowsOf(em, CLAIM, { size });
}

const RELAYED = statement<{ ids: readonly string[] }, never>(
  'by the database’s clock',
  'update domain_event set relayed_at = clock_timestamp() where id = any(:ids::bigint[]) and relayed_at is null',
);

export async function markRelayed(em: SqlEntityManager, ids: readonly string[]): Promise<void> {
  await rowsOf(em, RELAYED, { ids });
}

const NOTIFY = statement<{ channel: string; payload: string }, never>(
  'PostgreSQL’s NOTIFY',
  'select pg_notify(:channel, :payload)',
);

export async function notify(em: SqlEntityManager, channel: string, payload: string): Promise<void> {
  await rowsOf(em, NOTIFY, { channel, payload });
}
