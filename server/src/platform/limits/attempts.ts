import { createHash } from 'node:crypto';
import type { SqlEntityManager } from '@mikro-orm/postgresql';

/** What tries are counted for, such as an e-mail address or a number; kept as a hash. */
export function attemptKey(what: 'sign-in' | 'code' | 'code-sending', of: string): Buffer {
  return createHash('sha256').update(`${what}:${of}`).digest();
}

/**
 * Counts a try before it is judged, so that many at once are counted one after the other: each waits for the row. Times are real ones.
 *
 * @returns how many have failed with this one, and until when the key is locked
 */
export async function countAttempt(
  em: SqlEntityManager,
  key: Buffer,
): Promise<{ failures: number; until: Date | null }> {
  const [row] = await em.execute<{ failures: number; locked_until: string | null }[]>(
    `insert into attempt as a (key, failures, at) values (?, 1, clock_timestamp())
     on conflict (key) do update set
       failures = case when a.locked_until > clock_timestamp() then a.failures when a.locked_until is not null then 1 else a.failures + 1 end,
       locked_until = case when a.locked_until > clock_timestamp() then a.locked_until end, at = clock_timestamp()
     returning failures, locked_until`,
    [key],
  );
  return { failures: row.failures, until: row.locked_until ? new Date(row.locked_until) : null };
}

export async function lockKey(em: SqlEntityManager, key: Buffer, until: Date): Promise<void> {
  await em.execute('update attempt set locked_until = ? where key = ?', [until, key]);
}

export async function clearAttempts(em: SqlEntityManager, key: Buffer): Promise<void> {
  await em.execute('delete from attempt where key = ?', [key]);
}

/** How many so far within a window that begins with the first of them; counts this one. */
export async function countWithin(em: SqlEntityManager, key: Buffer, minutes: number): Promise<number> {
  const [row] = await em.execute<{ failures: number }[]>(
    `insert into attempt as a (key, failures, locked_until, at) values (?, 1, clock_timestamp() + ? * interval '1 minute', clock_timestamp())
     on conflict (key) do update set
       failures = case when a.locked_until > clock_timestamp() then a.failures + 1 else 1 end,
       locked_until = case when a.locked_until > clock_timestamp() then a.locked_until else excluded.locked_until end, at = clock_timestamp()
     returning failures`,
    [key, minutes],
  );
  return row.failures;
}
