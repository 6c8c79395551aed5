import { LOOKS_SECONDS } from '@zaguan/contracts/booking';
import { rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';

const LOOK = statement<{ id: string; accountId: string }, { name: string }>(
  'noted and asked in one trip, by the database’s own clock: the demo’s may be moved',
  `with mine as (insert into visit_looking (appointment_id, account_id, seen_at) values (:id, :accountId, clock_timestamp())
     on conflict (appointment_id, account_id) do update set seen_at = excluded.seen_at)
   select a.name from visit_looking l join account a on a.id = l.account_id
   where l.appointment_id = :id and l.account_id <> :accountId and l.seen_at > clock_timestamp() - interval '${LOOKS_SECONDS} seconds'
   order by a.name`,
);

/** Notes that an account has a visit open. @returns the names of the others who have */
export async function lookAt(em: SqlEntityManager, id: string, accountId: string): Promise<string[]> {
  return (await rowsOf(em, LOOK, { id, accountId })).map(({ name }) => name);
}
