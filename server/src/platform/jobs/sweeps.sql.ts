import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { rowsOf, statement } from '../db/statement.ts';

/** Rows of one table at a time: a sweep never holds up anybody. */
const BATCH = 2_000;

/** Rows that have had their day. Each feature names its own; the domain's present is given. */
export interface Sweep {
  readonly name: string;
  readonly run: (em: SqlEntityManager, now: Date) => Promise<void>;
}

/**
 * Deletes rows of a table that a condition holds for, a batch of them, leaving those that others are at.
 *
 * @param condition SQL, with `:now` for the domain's present where it asks for it
 */
export function sweepOf(name: string, table: string, key: string, condition: string): Sweep {
  const declared = statement<{ now: Date }, never>(
    'a batch, skipping what others have',
    `delete from ${table} where ${key} in (select ${key} from ${table} where ${condition} order by ${key} limit ${BATCH} for update skip locked)`,
  );
  return {
    name,
    run: async (em, now) => {
      await rowsOf(em, declared, { now });
    },
  };
}

/** What the platform keeps for limits, undo and events, in real time. */
export const PLATFORM_SWEEPS: readonly Sweep[] = [
  sweepOf('limits', 'rate_limit', 'key', "resets_at < clock_timestamp() - interval '1 hour'"),
  sweepOf('tries', 'attempt', 'key', "at < clock_timestamp() - interval '1 day'"),
  sweepOf('devices', 'known_device', 'token_hash', "last_used_at < clock_timestamp() - interval '200 days'"),
  sweepOf('undo', 'undo_entry', 'id', 'expires_at < :now'),
];
