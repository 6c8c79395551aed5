import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { rowsOf, statement } from '../db/statement.ts';

const APPEND_READ = statement<
  {
    at: Date;
    hour: Date;
    command: string;
    accountId: string;
    requestId: string;
    patientIds: readonly string[];
  },
  never
>(
  'whom the audit does not name yet is found and written in one trip',
  `insert into audit_entry (at, kind, command, actor_kind, account_id, request_id, subjects)
   select :at::timestamptz, 'read', :command::text, 'staff', :accountId::uuid, :requestId::text, new.subjects
   from (select jsonb_agg(jsonb_build_object('kind', 'patient', 'id', v.id) order by v.n) as subjects
     from unnest(:patientIds::text[]) with ordinality as v (id, n)
     where not exists (select 1 from audit_entry e where e.kind = 'read' and e.account_id = :accountId::uuid and e.command = :command::text and e.at >= :hour::timestamptz
       and e.subjects @> jsonb_build_array(jsonb_build_object('kind', 'patient', 'id', v.id)))) new
   where new.subjects is not null`,
);

/**
 * Notes whose records an account has read by one question, each once an hour (by the domain's clock): a page that
 * fetches again whenever something changes would else bury who saw what. Two reads at the same moment may both be noted.
 */
export async function appendRead(
  em: SqlEntityManager,
  read: { at: Date; command: string; accountId: string; requestId: string; patientIds: readonly string[] },
): Promise<void> {
  const hour = new Date(read.at);
  hour.setUTCMinutes(0, 0, 0);
  await rowsOf(em, APPEND_READ, { ...read, hour });
}
