import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { AuditEntry } from '../audit/audit.ts';
import { rowsOf, statement } from '../db/statement.ts';
import type { AuditWrite, DomainEvent } from '../endpoint/context.ts';

const WRITE_TRAIL = statement<
  {
    at: Date;
    command: string;
    actorKind: string;
    accountId: string | null;
    requestId: string;
    writes: string;
    events: string;
  },
  never
>(
  'the audit and the events of a use case, in one trip',
  `with audited as (insert into audit_entry (at, kind, command, actor_kind, account_id, request_id, subjects, before, after)
     select :at::timestamptz, 'write', :command::text, :actorKind::text, :accountId::uuid, :requestId::text, w.subjects, nullif(w.before, 'null'::jsonb), nullif(w.after, 'null'::jsonb)
     from jsonb_to_recordset(:writes::jsonb) as w (subjects jsonb, before jsonb, after jsonb))
   insert into domain_event (at, type, payload) select :at::timestamptz, e.value ->> 'type', e.value from jsonb_array_elements(:events::jsonb) with ordinality as e (value, n) order by e.n`,
);

/** What a use case leaves behind, written with what it did: who changed what, and what others are to be told of. */
export async function writeTrail(
  em: SqlEntityManager,
  { at, command, actor, requestId }: Omit<AuditEntry, 'kind' | 'subjects'>,
  writes: readonly AuditWrite[],
  events: readonly DomainEvent[],
): Promise<void> {
  if (!writes.length && !events.length) return;
  await rowsOf(em, WRITE_TRAIL, {
    ...{ at, command, requestId },
    actorKind: actor.kind,
    accountId: actor.kind === 'staff' ? actor.accountId : null,
    writes: JSON.stringify(writes),
    events: JSON.stringify(events),
  });
}
