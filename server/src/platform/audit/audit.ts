import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { Actor, AuditWrite } from '../endpoint/context.ts';

export interface AuditEntry extends AuditWrite {
  readonly kind: 'write' | 'read';
  readonly command: string;
  readonly actor: Actor;
  readonly requestId: string;
  readonly at: Date;
}

/** Appends to the audit, in the caller's transaction. The table refuses changes and deletions. */
export async function appendAudit(em: SqlEntityManager, entry: AuditEntry): Promise<void> {
  await em.execute(
    'insert into audit_entry (at, kind, command, actor_kind, account_id, request_id, subjects, before, after) values (?, ?, ?, ?, ?, ?, ?::jsonb, ?::jsonb, ?::jsonb)',
    [
      entry.at,
      entry.kind,
      entry.command,
      entry.actor.kind,
      entry.actor.kind === 'staff' ? entry.actor.accountId : null,
      entry.requestId,
      JSON.stringify(entry.subjects),
      entry.before ? JSON.stringify(entry.before) : null,
      entry.after ? JSON.stringify(entry.after) : null,
    ],
  );
}
