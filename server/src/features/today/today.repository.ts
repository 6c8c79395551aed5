import type { EntitySchema } from '@mikro-orm/postgresql';
import type { WorkKind } from '@zaguan/core/work';
import { findRow, findRows } from '../../platform/db/read.ts';
import { insertIfNew } from '../../platform/db/write.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import {
  AppointmentEntity,
  InboxMessageEntity,
  MessageEntity,
  RedFlagEntity,
  type WorkItem,
  WorkItemEntity,
} from '../../schema/index.ts';

/** Work that is marked as done where it is kept. */
const HANDLED_IN = { inbox: InboxMessageEntity, failed: MessageEntity } as const;
export type HandledKind = keyof typeof HANDLED_IN;

/** Marks work as done, or open again. Says whether that changed anything, or `null` if there is no such work. */
export async function setHandled(
  em: SqlEntityManager,
  kind: HandledKind,
  id: string,
  by: { at: Date; accountId: string } | null,
): Promise<boolean | null> {
  const entity = HANDLED_IN[kind] as EntitySchema<{ id: string; handledAt: Date | null; handledBy: string | null }>;
  const changed = await em.nativeUpdate(
    entity,
    { id, handledAt: by ? null : { $ne: null } },
    { handledAt: by?.at ?? null, handledBy: by?.accountId ?? null },
  );
  if (changed) return true;
  return (await em.count(entity, { id })) ? false : null;
}

/** Work about a visit: the visit's own, or kept beside it. */
const ABOUT_VISIT = { inbox: InboxMessageEntity, failed: MessageEntity, 'red-flag': RedFlagEntity } as const;

/** The site of a piece of work (`null`: about no visit), or nothing if there is no such work. */
export async function siteOfWork(
  em: SqlEntityManager,
  kind: WorkKind,
  id: string,
): Promise<{ siteId: string | null } | null> {
  if (kind === 'inbox' || kind === 'failed' || kind === 'red-flag') {
    const entity = ABOUT_VISIT[kind] as EntitySchema<{ id: string; appointment: { siteId: string } | null }>;
    const row = await findRow(em, entity, { id }, { populate: ['appointment'] });
    return row && { siteId: row.appointment?.siteId ?? null };
  }
  return findRow(em, AppointmentEntity, { id }, { fields: ['siteId'] });
}

export type ClaimRow = Pick<WorkItem, 'kind' | 'subjectId' | 'ownerId'> & { readonly name: string };

async function owned(em: SqlEntityManager, where: Partial<Pick<WorkItem, 'kind' | 'subjectId'>>): Promise<ClaimRow[]> {
  const rows = await findRows(em, WorkItemEntity, where, { populate: ['owner'] });
  return rows.map(({ kind, subjectId, ownerId, owner }) => ({ kind, subjectId, ownerId, name: owner.name }));
}

export function claims(em: SqlEntityManager): Promise<ClaimRow[]> {
  return owned(em, {});
}

/** Takes work unless someone has it; gives the name of who has it now. */
export async function claimWorkFor(
  em: SqlEntityManager,
  kind: WorkKind,
  id: string,
  by: { accountId: string; at: Date },
): Promise<{ accountId: string; name: string }> {
  await insertIfNew(em, WorkItemEntity, { kind, subjectId: id, ownerId: by.accountId, ownedAt: by.at });
  const [{ ownerId, name }] = await owned(em, { kind, subjectId: id });
  return { accountId: ownerId, name };
}

export async function releaseWork(em: SqlEntityManager, kind: WorkKind, id: string, accountId: string): Promise<void> {
  await em.nativeDelete(WorkItemEntity, { kind, subjectId: id, ownerId: accountId });
}
