import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { Attempt } from '../../schema/index.ts';
import { type ColumnsOf, rowsOf, statement } from '../db/statement.ts';

const COUNT = statement<{ key: Buffer }, Pick<ColumnsOf<Attempt>, 'failures' | 'lockedUntil'>>(
  'counted and judged in one statement, by the database’s clock',
  `insert into attempt as a (key, failures, at) values (:key, 1, clock_timestamp())
   on conflict (key) do update set
     failures = case when a.locked_until > clock_timestamp() then a.failures when a.locked_until is not null then 1 else a.failures + 1 end,
     locked_until = case when a.locked_until > clock_timestamp() then a.locked_until end, at = clock_timestamp()
   returning failures, locked_until`,
);

/**
 * Counts a try before it is judged, so that many at once are counted one after the other: each waits for the row. Times are real ones.
 *
 * @returns how many have failed with this one, and until when the key is locked
 */
export async function countAttempt(
  em: SqlEntityManager,
  key: Buffer,
): Promise<{ failures: number; until: Date | null }> {
  const [row] = await rowsOf(em, COUNT, { key });
  return { failures: row.failures, until: row.lockedUntil ? new Date(row.lockedUntil) : null };
}

const COUNT_WITHIN = statement<{ key: Buffer; minutes: number }, Pick<ColumnsOf<Attempt>, 'failures'>>(
  'counted and judged in one statement, by the database’s clock',
  `insert into attempt as a (key, failures, locked_until, at) values (:key, 1, clock_timestamp() + :minutes::int * interval '1 minute', clock_timestamp())
   on conflict (key) do update set
     failures = case when a.locked_until > clock_timestamp() then a.failures + 1 else 1 end,
     locked_until = case when a.locked_until > clock_timestamp() then a.locked_until else excluded.locked_until end, at = clock_timestamp()
   returning failures`,
);

/** How many so far within a window that begins with the first of them; counts this one. */
export async function countWithin(em: SqlEntityManager, key: Buffer, minutes: number): Promise<number> {
  const [row] = await rowsOf(em, COUNT_WITHIN, { key, minutes });
  return row.failures;
}
