import { findRows } from '../../platform/db/read.ts';
import { insertIfNew, insertRow } from '../../platform/db/write.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import { type ReadinessWaiver, ReadinessWaiverEntity, RedFlagClearingEntity } from '../../schema/index.ts';

/** A clinician's closing of a flag: a row of its own, for ever. */
export async function insertClearing(
  em: SqlEntityManager,
  { flagId, ...row }: { id: string; flagId: string; accountId: string; note: string; at: Date },
): Promise<void> {
  await insertRow(em, RedFlagClearingEntity, { ...row, redFlagId: flagId });
}

/** The clearing stays, marked as undone; the flag is open again. */
export async function undoClearing(
  em: SqlEntityManager,
  id: string,
  by: { accountId: string; at: Date },
): Promise<void> {
  await em.nativeUpdate(RedFlagClearingEntity, { id }, { undoneAt: by.at, undoneBy: by.accountId });
}

export type WaiverRow = Pick<ReadinessWaiver, 'appointmentId' | 'item' | 'reason'> & { readonly by: string };

export async function waiversOf(em: SqlEntityManager, ids: readonly string[]): Promise<WaiverRow[]> {
  const rows = await findRows(
    em,
    ReadinessWaiverEntity,
    { appointmentId: { $in: [...ids] } },
    { fields: ['appointmentId', 'item', 'reason', 'account.name'], populate: ['account'] },
  );
  return rows.map(({ appointmentId, item, reason, account }) => ({
    appointmentId,
    item,
    reason,
    by: account.name,
  }));
}

/** Says whether the item was not let through before. */
export function insertWaiver(em: SqlEntityManager, row: ReadinessWaiver): Promise<boolean> {
  return insertIfNew(em, ReadinessWaiverEntity, row);
}

export async function deleteWaiver(em: SqlEntityManager, appointmentId: string, item: string): Promise<boolean> {
  return (await em.nativeDelete(ReadinessWaiverEntity, { appointmentId, item })) > 0;
}
