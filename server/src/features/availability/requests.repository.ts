import { LockMode, type SqlEntityManager } from '@mikro-orm/postgresql';
import { findRow, findRows } from '../../platform/db/read.ts';
import { insertRow } from '../../platform/db/write.ts';
import { type TimeOff, TimeOffEntity } from '../../schema/index.ts';

/** Time off that somebody asked for, with who it is for. */
export type RequestRow = TimeOff & { readonly name: string };

const IN_ORDER = { startDate: 'asc', requestedAt: 'asc' } as const;

/** Open ones of everybody, or all of one person's that are not over. */
export async function requestsOf(em: SqlEntityManager, resourceId: string | null, from: string): Promise<RequestRow[]> {
  const whose = resourceId === null ? { status: 'requested' as const } : { resourceId, endDate: { $gte: from } };
  const rows = await findRows(
    em,
    TimeOffEntity,
    { requestedAt: { $ne: null }, ...whose },
    { populate: ['resource'], orderBy: IN_ORDER },
  );
  return rows.map((row) => ({ ...row, name: row.resource.name }));
}

/** A request, kept from a second decision at the same time. */
export function requestForUpdate(em: SqlEntityManager, id: string): Promise<TimeOff | null> {
  return findRow(em, TimeOffEntity, { id, requestedAt: { $ne: null } }, { lockMode: LockMode.PESSIMISTIC_WRITE });
}

export function insertRequest(
  em: SqlEntityManager,
  row: Pick<
    TimeOff,
    'id' | 'resourceId' | 'siteId' | 'startDate' | 'startMinute' | 'endDate' | 'endMinute' | 'reason' | 'coverId'
  > & { at: Date; accountId: string },
): Promise<void> {
  const { at, accountId, ...columns } = row;
  return insertRow(em, TimeOffEntity, { ...columns, status: 'requested', requestedAt: at, requestedBy: accountId });
}

/** Decides, or opens again (`requested`). Says whether the request was as expected. */
export async function setDecided(
  em: SqlEntityManager,
  id: string,
  from: TimeOff['status'],
  to: {
    status: TimeOff['status'];
    at: Date | null;
    accountId: string | null;
    answer: string;
    coverId: string | null;
  },
): Promise<boolean> {
  const { at, accountId, ...columns } = to;
  const changed = await em.nativeUpdate(
    TimeOffEntity,
    { id, status: from },
    { ...columns, decidedAt: at, decidedBy: accountId },
  );
  return changed > 0;
}

/** Takes a request back that nobody has decided. */
export async function deleteRequest(em: SqlEntityManager, id: string): Promise<boolean> {
  return (await em.nativeDelete(TimeOffEntity, { id, status: 'requested' })) > 0;
}
