import type { SqlEntityManager } from '@mikro-orm/postgresql';

/** The encounter of a visit begins with check-in; checking in again after it was taken back begins it anew. */
export async function startEncounter(
  em: SqlEntityManager,
  encounter: {
    id: string;
    appointmentId: string;
    patientId: string;
    identifiers: readonly string[];
    accountId: string;
    at: Date;
  },
): Promise<void> {
  await em.execute(
    `insert into encounter (id, appointment_id, patient_id, status, identifiers, started_at, account_id) values (?, ?, ?, 'arrived', ?::text[], ?, ?)
     on conflict (appointment_id) do update set patient_id = excluded.patient_id, status = 'arrived', identifiers = excluded.identifiers, started_at = excluded.started_at, ended_at = null, account_id = excluded.account_id`,
    [
      encounter.id,
      encounter.appointmentId,
      encounter.patientId,
      `{${encounter.identifiers.join(',')}}`,
      encounter.at,
      encounter.accountId,
    ],
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
  await em.execute('update encounter set status = ?, ended_at = ? where appointment_id = ?', [
    next,
    next === 'finished' ? at : null,
    appointmentId,
  ]);
}
