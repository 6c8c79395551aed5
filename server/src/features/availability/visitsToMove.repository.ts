import { LockMode, type SqlEntityManager } from '@mikro-orm/postgresql';
import { findRow, findRows } from '../../platform/db/read.ts';
import { AppointmentEntity, type VisitToMove, VisitToMoveEntity } from '../../schema/index.ts';

/**
 * Puts visits on the list; one that was left where it is before is looked at again.
 *
 * @param accountId whose change it was; `null` where no account of the staff made it
 */
export async function addVisitsToMove(
  em: SqlEntityManager,
  ids: readonly string[],
  { at, accountId }: { at: Date; accountId: string | null },
): Promise<void> {
  if (!ids.length) return;
  // Holds and imported times are judged too, and are nobody's to move.
  const visits = await findRows(em, AppointmentEntity, { id: { $in: [...ids] } }, { fields: ['id'] });
  if (!visits.length) return;
  await em.upsertMany(
    VisitToMoveEntity,
    visits.map(({ id }) => ({
      appointmentId: id,
      since: at,
      foundBy: accountId,
      keptAt: null,
      keptBy: null,
      keptReason: null,
      callOutcome: null,
      calledAt: null,
      calledBy: null,
    })),
  );
}

export async function removeFittingAgain(em: SqlEntityManager, ids: readonly string[]): Promise<void> {
  if (ids.length) await em.nativeDelete(VisitToMoveEntity, { appointmentId: { $in: [...ids] } });
}

export type CallOutcome = NonNullable<VisitToMove['callOutcome']>;

/** Leaves a visit where it is, or takes that back. Says whether it was so before. */
export async function setKept(
  em: SqlEntityManager,
  id: string,
  kept: { at: Date; accountId: string; reason: string } | null,
): Promise<boolean> {
  const changed = await em.nativeUpdate(
    VisitToMoveEntity,
    { appointmentId: id, keptAt: kept ? null : { $ne: null } },
    { keptAt: kept?.at ?? null, keptBy: kept?.accountId ?? null, keptReason: kept?.reason ?? null },
  );
  return changed > 0;
}

export interface Call {
  readonly outcome: CallOutcome;
  readonly at: Date;
  readonly accountId: string;
}

/** Notes the last call about a visit on the list, or takes it away; gives the one before, or nothing if it is not there. */
export async function setCall(
  em: SqlEntityManager,
  id: string,
  call: Call | null,
): Promise<{ before: Call | null } | null> {
  const row = await findRow(em, VisitToMoveEntity, { appointmentId: id }, { lockMode: LockMode.PESSIMISTIC_WRITE });
  if (!row) return null;
  await em.nativeUpdate(
    VisitToMoveEntity,
    { appointmentId: id },
    { callOutcome: call?.outcome ?? null, calledAt: call?.at ?? null, calledBy: call?.accountId ?? null },
  );
  const { callOutcome: outcome, calledAt: at, calledBy: accountId } = row;
  return { before: outcome && at && accountId ? { outcome, at, accountId } : null };
}
