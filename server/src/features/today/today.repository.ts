import { type EntitySchema, LockMode } from '@mikro-orm/postgresql';
import { scopeOf } from '@zaguan/contracts';
import type { WorkKind, WorkOutcome } from '@zaguan/core/work';
import { findRow, findRows } from '../../platform/db/read.ts';
import { insertIfNew } from '../../platform/db/write.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import {
  AccountEntity,
  AppointmentEntity,
  type InboxMessage,
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
  by: { at: Date; accountId: string; outcome: WorkOutcome } | null,
): Promise<boolean | null> {
  const entity = HANDLED_IN[kind] as EntitySchema<
    { id: string } & Pick<InboxMessage, 'handledAt' | 'handledBy' | 'handledAs'>
  >;
  const changed = await em.nativeUpdate(
    entity,
    { id, handledAt: by ? null : { $ne: null } },
    { handledAt: by?.at ?? null, handledBy: by?.accountId ?? null, handledAs: by?.outcome ?? null },
  );
  if (changed) return true;
  return (await em.count(entity, { id })) ? false : null;
}

/** Work about a visit: the visit's own, or kept beside it. */
const ABOUT_VISIT = { inbox: InboxMessageEntity, failed: MessageEntity, 'red-flag': RedFlagEntity } as const;

/** The visit and the site of a piece of work (`null`: about no visit), or nothing if there is no such work. */
export async function siteOfWork(
  em: SqlEntityManager,
  kind: WorkKind,
  id: string,
): Promise<{ siteId: string | null; appointmentId: string | null } | null> {
  if (kind === 'inbox' || kind === 'failed' || kind === 'red-flag') {
    const entity = ABOUT_VISIT[kind] as EntitySchema<{
      id: string;
      appointmentId: string | null;
      appointment: { siteId: string } | null;
    }>;
    const row = await findRow(em, entity, { id }, { populate: ['appointment'] });
    return row && { siteId: row.appointment?.siteId ?? null, appointmentId: row.appointmentId };
  }
  const row = await findRow(em, AppointmentEntity, { id }, { fields: ['siteId'] });
  return row && { ...row, appointmentId: id };
}

export type ClaimRow = Pick<WorkItem, 'kind' | 'subjectId' | 'ownerId' | 'ownedAt' | 'assignedBy'> & {
  readonly name: string;
};

async function owned(em: SqlEntityManager, where: Partial<Pick<WorkItem, 'kind' | 'subjectId'>>): Promise<ClaimRow[]> {
  const rows = await findRows(em, WorkItemEntity, where, { populate: ['owner'] });
  return rows.map(({ owner, ...row }) => ({ ...row, name: owner.name }));
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

/** Who has a red flag, kept from being changed until the transaction ends; `null` if nobody has. */
export async function flagOwnerForUpdate(em: SqlEntityManager, id: string): Promise<ClaimRow | null> {
  await findRow(
    em,
    WorkItemEntity,
    { kind: 'red-flag', subjectId: id },
    { fields: ['ownerId'], lockMode: LockMode.PESSIMISTIC_WRITE },
  );
  return (await owned(em, { kind: 'red-flag', subjectId: id }))[0] ?? null;
}

/** Gives a red flag to a clinician in the place of whoever has it; gives who has it then: two may give it at once. */
export async function assignFlagTo(
  em: SqlEntityManager,
  id: string,
  to: { accountId: string; by: string; at: Date; from: string | null },
): Promise<{ accountId: string; name: string }> {
  if (to.from) await em.nativeDelete(WorkItemEntity, { kind: 'red-flag', subjectId: id, ownerId: to.from });
  const row = { kind: 'red-flag' as const, subjectId: id, ownerId: to.accountId, ownedAt: to.at, assignedBy: to.by };
  await insertIfNew(em, WorkItemEntity, row);
  const [{ ownerId, name }] = await owned(em, { kind: 'red-flag', subjectId: id });
  return { accountId: ownerId, name };
}

/** Takes an assignment back, if the clinician still has it from this account. */
export async function unassignFlag(em: SqlEntityManager, id: string, by: string): Promise<boolean> {
  return (await em.nativeDelete(WorkItemEntity, { kind: 'red-flag', subjectId: id, assignedBy: by })) > 0;
}

/** Accounts in use whose role may clear red flags. */
export async function clinicians(em: SqlEntityManager): Promise<{ accountId: string; name: string }[]> {
  const rows = await findRows(
    em,
    AccountEntity,
    { active: true },
    { fields: ['id', 'name', 'role'], orderBy: { name: 'asc' } },
  );
  return rows
    .filter(({ role }) => scopeOf(role, 'red-flag.clear') !== 'no')
    .map(({ id, name }) => ({ accountId: id, name }));
}

export async function releaseWork(em: SqlEntityManager, kind: WorkKind, id: string, accountId: string): Promise<void> {
  await em.nativeDelete(WorkItemEntity, { kind, subjectId: id, ownerId: accountId });
}
