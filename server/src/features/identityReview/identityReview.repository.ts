import { findRow, findRows } from '../../platform/db/read.ts';
import { insertIfNew, insertRow } from '../../platform/db/write.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import {
  AppointmentEntity,
  ContactLedgerEntity,
  ContactPointEntity,
  PatientContactEntity,
  PatientEntity,
} from '../../schema/index.ts';
import type { WaitingRow } from './identityReview.sql.ts';

/** After the contacts that the record has already. */
const LAST_RANK = 9;

export async function insertPatient(
  em: SqlEntityManager,
  patient: { id: string; recordNumber: string; typed: WaitingRow; now: Date },
): Promise<void> {
  const { typed } = patient;
  await insertRow(em, PatientEntity, {
    id: patient.id,
    recordNumber: patient.recordNumber,
    givenName: typed.givenName,
    familyName: typed.familyName,
    birthDate: typed.birthDate,
    language: typed.language,
    status: 'new',
    createdAt: patient.now,
  });
}

/** A proved number or address stands in the ledger, and so as a contact point; one that was only typed may not. */
async function contactPointIds(em: SqlEntityManager, contact: string): Promise<string[]> {
  const rows = await findRows(em, ContactPointEntity, { value: contact }, { fields: ['id'] });
  return rows.map(({ id }) => id);
}

/** Adds a number or an address to a record. */
export async function addContact(em: SqlEntityManager, patientId: string, contact: string): Promise<void> {
  for (const contactPointId of await contactPointIds(em, contact))
    await insertIfNew(em, PatientContactEntity, { patientId, contactPointId, rank: LAST_RANK });
}

/** A record that was made here and has nothing else on it goes; otherwise it is archived. */
export async function takeBackPatient(em: SqlEntityManager, patientId: string): Promise<void> {
  if (await em.count(AppointmentEntity, { patientId })) {
    await em.nativeUpdate(PatientEntity, { id: patientId }, { status: 'archived' });
    return;
  }
  await em.nativeDelete(PatientContactEntity, { patientId });
  await em.nativeDelete(PatientEntity, { id: patientId });
}

export async function patientExists(em: SqlEntityManager, id: string): Promise<boolean> {
  return (await findRow(em, PatientEntity, { id, status: { $ne: 'archived' } }, { fields: ['id'] })) !== null;
}

/** The number was proved by a code when this person booked; from now on it counts for the record. */
export async function recordVerifiedFor(
  em: SqlEntityManager,
  newId: string,
  patientId: string,
  contact: string,
  at: Date,
): Promise<void> {
  const [contactPointId] = await contactPointIds(em, contact);
  if (!contactPointId) return;
  await insertRow(em, ContactLedgerEntity, {
    id: newId,
    contactPointId,
    patientId,
    event: 'verified',
    purpose: 'identity',
    wording: 'The desk linked a booking made with a code to this number.',
    wordingVersion: '1',
    how: 'identity-review',
    at,
  });
}

/** Taking a decision back takes the proof back with it. */
export async function forgetVerifiedFor(em: SqlEntityManager, patientId: string, contact: string): Promise<void> {
  await em.nativeDelete(ContactLedgerEntity, {
    patientId,
    event: 'verified',
    contactPointId: { $in: await contactPointIds(em, contact) },
  });
}
