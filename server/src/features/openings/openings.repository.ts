import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { findRow, findRows } from '../../platform/db/read.ts';
import { HoldEntity, type InvitationTemplate, InvitationTemplateEntity } from '../../schema/index.ts';

/** What a booking at the desk holds itself, if this account is at it. */
export async function heldIds(em: SqlEntityManager, flowId: string, accountId: string): Promise<string[]> {
  const rows = await findRows(em, HoldEntity, { flowId, accountId }, { fields: ['id'], orderBy: { id: 'asc' } });
  return rows.map(({ id }) => id);
}

/** What invitations of a template may book; `null`: there is no such template. */
export async function rulesOfTemplate(em: SqlEntityManager, id: string): Promise<InvitationTemplate['rules'] | null> {
  return (await findRow(em, InvitationTemplateEntity, { id }, { fields: ['rules'] }))?.rules ?? null;
}
