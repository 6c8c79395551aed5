import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { type Encounter, EncounterEntity } from '../../schema/index.ts';

/** The encounter of a visit begins with check-in; checking in again after it was taken back begins it anew. */
export async function startEncounter(
  em: SqlEntityManager,
  encounter: Pick<Encounter, 'id' | 'appointmentId' | 'patientId' | 'accountId'> & {
    identifiers: readonly string[];
    at: Date;
  },
): Promise<void> {
  const { at, identifiers, ...row } = encounter;
  await em.upsertMany(
    EncounterEntity,
    [{ ...row, identifiers: [...identifiers], status: 'arrived', startedAt: at, endedAt: null }],
    { onConflictFields: ['appointmentId'], onConflictExcludeFields: ['id'] },
  );
}

/** Follows the visit's status: fulfilled ends it, taking check-in back cancels it. */
export async function syncEncounter(
  em: SqlEntityManager,
  appointmentId: string,
  status: string,
  at: Date,
): Promise<void> {
  const next = status === 'fulfilled' ? 'finished' : status === 'checked-in' ? 'arrived' : 'cancelled';
  await em.nativeUpdate(EncounterEntity, { appointmentId }, { status: next, endedAt: next === 'finished' ? at : null });
}
