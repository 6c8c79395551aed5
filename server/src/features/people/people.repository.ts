import { fullName, NO_NEEDS, type Relationship, RIGHTS, type VisitNeeds } from '@zaguan/core/patients';
import { findRow, findRows } from '../../platform/db/read.ts';
import { insertIfNew, insertRow } from '../../platform/db/write.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import {
  type Appointment,
  AppointmentEntity,
  ContactPointEntity,
  type Patient,
  PatientContactEntity,
  PatientEntity,
  RelationshipEntity,
  RestrictedOpeningEntity,
} from '../../schema/index.ts';

/** What a record must have from its first day. */
export type NewPatient = Pick<
  Patient,
  'id' | 'recordNumber' | 'givenName' | 'familyName' | 'birthDate' | 'language' | 'createdAt'
> &
  Partial<
    Pick<
      Patient,
      'preferredName' | 'sex' | 'householdId' | 'street' | 'city' | 'region' | 'postalCode' | 'createdBy' | 'homeSiteId'
    >
  >;

/** Always a fresh record; never written over another one. */
export async function insertPatient(em: SqlEntityManager, patient: NewPatient): Promise<void> {
  await insertRow(em, PatientEntity, { ...patient, status: 'new' });
}

/** After the contacts that the record has already. */
export const LAST_RANK = 9;

/** The ids of a number or address; one that nobody ever proved or was told at may not be there yet. */
export async function contactPointIds(em: SqlEntityManager, contact: string): Promise<string[]> {
  const rows = await findRows(em, ContactPointEntity, { value: contact }, { fields: ['id'] });
  return rows.map(({ id }) => id);
}

/** Adds a known number or address to a record. */
export async function addContactTo(
  em: SqlEntityManager,
  patientId: string,
  contactPointId: string,
  { use = 'mobile', rank = LAST_RANK }: { use?: string; rank?: number } = {},
): Promise<boolean> {
  return insertIfNew(em, PatientContactEntity, { patientId, contactPointId, use, rank });
}

/**
 * A record that was made by mistake and has nothing else on it goes; otherwise it is archived.
 *
 * @returns whether nothing is left of it
 */
export async function takeBackPatient(em: SqlEntityManager, patientId: string): Promise<boolean> {
  if ((await em.count(AppointmentEntity, { patientId })) || (await em.count(RestrictedOpeningEntity, { patientId }))) {
    await em.nativeUpdate(PatientEntity, { id: patientId }, { status: 'archived' });
    return false;
  }
  await em.nativeDelete(RelationshipEntity, { $or: [{ patientId }, { relatedPatientId: patientId }] });
  await em.nativeDelete(PatientContactEntity, { patientId });
  await em.nativeDelete(PatientEntity, { id: patientId });
  return true;
}

/** What each of some patients needs with every visit, by their ids; who needs nothing may be left out. */
export async function needsOf(
  em: SqlEntityManager,
  patientIds: readonly string[],
): Promise<ReadonlyMap<string, VisitNeeds>> {
  if (!patientIds.length) return new Map();
  const rows = await findRows(
    em,
    PatientEntity,
    { id: { $in: [...patientIds] } },
    { fields: ['id', 'access', 'extraMin'] },
  );
  return new Map(rows.map(({ id, access, extraMin }) => [id, { access, extraMin }]));
}

/** What the patient of a visit needs; of a visit whose patient is not known, nothing. */
export async function needsOfVisit(em: SqlEntityManager, appointmentId: string): Promise<VisitNeeds> {
  const visit = await findRow(em, AppointmentEntity, { id: appointmentId }, { fields: ['patientId'] });
  if (!visit?.patientId) return NO_NEEDS;
  return (await needsOf(em, [visit.patientId])).get(visit.patientId) ?? NO_NEEDS;
}

/** The own parts of a visit; `null` where they are its type's. */
export async function partsOfVisit(em: SqlEntityManager, appointmentId: string): Promise<Appointment['parts']> {
  return (await findRow(em, AppointmentEntity, { id: appointmentId }))?.parts ?? null;
}

/** Who acts for a patient by relationship, with what they are allowed between which dates. */
export async function whoActsFor(
  em: SqlEntityManager,
  patientId: string,
): Promise<(Relationship & { readonly id: string; readonly name: string; readonly limits: string })[]> {
  const rows = await findRows(
    em,
    RelationshipEntity,
    { patientId },
    { populate: ['relatedPatient'], orderBy: { fromDate: 'asc', id: 'asc' } },
  );
  return rows.map((row) => {
    const has = { book: row.mayBook, sign: row.maySign, receive: row.mayReceive, see: row.maySee };
    return {
      id: row.id,
      name: row.relatedName ?? fullName(row.relatedPatient?.givenName ?? '', row.relatedPatient?.familyName ?? ''),
      kind: row.kind,
      rights: RIGHTS.filter((right) => has[right]),
      fromDate: row.fromDate,
      untilDate: row.untilDate,
      limits: row.limits,
    };
  });
}

/** Whether there is such a record that was not merged away. */
export async function patientExists(em: SqlEntityManager, id: string): Promise<boolean> {
  return (await findRow(em, PatientEntity, { id, status: { $ne: 'archived' } }, { fields: ['id'] })) !== null;
}

/** Everybody of a household, the oldest first. */
export function householdOf(em: SqlEntityManager, householdId: string): Promise<Patient[]> {
  return findRows(em, PatientEntity, { householdId }, { orderBy: { birthDate: 'asc', id: 'asc' } });
}

/** The first phone of a patient, E.164. */
export async function firstPhone(em: SqlEntityManager, patientId: string): Promise<string | null> {
  const where = { patientId, contactPoint: { kind: 'phone' as const } };
  const row = await findRow(em, PatientContactEntity, where, { populate: ['contactPoint'], orderBy: { rank: 'asc' } });
  return row?.contactPoint?.value ?? null;
}
