import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { AuditEntryEntity } from '../../schema/index.ts';
import { insertRows } from '../db/write.ts';
import type { Actor, AuditWrite } from '../endpoint/context.ts';

export interface AuditEntry extends AuditWrite {
  readonly kind: 'write' | 'read';
  readonly command: string;
  readonly actor: Actor;
  readonly requestId: string;
  readonly at: Date;
}

/** Appends to the audit, in the caller's transaction. The table refuses changes and deletions. */
export async function appendAudit(em: SqlEntityManager, entries: readonly AuditEntry[]): Promise<void> {
  await insertRows(
    em,
    AuditEntryEntity,
    entries.map((entry) => ({
      at: entry.at,
      kind: entry.kind,
      command: entry.command,
      actorKind: entry.actor.kind,
      accountId: entry.actor.kind === 'staff' ? entry.actor.accountId : null,
      requestId: entry.requestId,
      subjects: [...entry.subjects],
      before: entry.before ?? null,
      after: entry.after ?? null,
    })),
  );
}
