import { findRow, findRows } from '../../platform/db/read.ts';
import { insertRow } from '../../platform/db/write.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import { type RestrictedOpening, RestrictedOpeningEntity } from '../../schema/index.ts';

/** Until when an account has opened a restricted record; `null` if it has not, or not any more. */
export async function openedUntil(
  em: SqlEntityManager,
  patientId: string,
  accountId: string,
  now: Date,
): Promise<Date | null> {
  const row = await findRow(
    em,
    RestrictedOpeningEntity,
    { patientId, accountId, at: { $lte: now }, until: { $gt: now } },
    { fields: ['until'], orderBy: { until: 'desc' } },
  );
  return row?.until ?? null;
}

export async function insertOpening(
  em: SqlEntityManager,
  opening: Pick<RestrictedOpening, 'id' | 'patientId' | 'accountId' | 'reason' | 'at' | 'until'>,
): Promise<void> {
  await insertRow(em, RestrictedOpeningEntity, opening);
}

/** Openings of restricted records that no manager has seen, oldest first. */
export function unseenOpenings(em: SqlEntityManager) {
  return findRows(
    em,
    RestrictedOpeningEntity,
    { seenAt: null },
    {
      fields: ['id', 'patientId', 'reason', 'at', 'account.name', 'patient.recordNumber'],
      populate: ['account', 'patient'],
      orderBy: { at: 'asc', id: 'asc' },
      limit: 100,
    },
  );
}

/** Says that a manager has seen an opening; whether it waited. */
export async function setSeen(em: SqlEntityManager, id: string, accountId: string, now: Date): Promise<boolean> {
  return (await em.nativeUpdate(RestrictedOpeningEntity, { id, seenAt: null }, { seenAt: now, seenBy: accountId })) > 0;
}
