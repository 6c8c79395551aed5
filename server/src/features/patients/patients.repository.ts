import { findRow, findRows } from '../../platform/db/read.ts';
import { insertRow, replaceRows } from '../../platform/db/write.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import {
  AppointmentEntity,
  type FormerName,
  FormerNameEntity,
  type Household,
  HouseholdEntity,
  type Patient,
  type PatientCode,
  PatientCodeEntity,
  PatientEntity,
  type Relationship,
  RelationshipEntity,
} from '../../schema/index.ts';
import { lockRelationship } from './patients.sql.ts';

export type PatientRow = Patient;

export function patientRow(em: SqlEntityManager, id: string): Promise<Patient | null> {
  return findRow(em, PatientEntity, { id });
}

/** A patient's visits, newest first. */
export function visitRowsOf(em: SqlEntityManager, patientId: string) {
  return findRows(
    em,
    AppointmentEntity,
    { patientId },
    {
      fields: [
        ...(['id', 'siteDate', 'startsAt', 'endsAt', 'status', 'origin', 'reasonText'] as const),
        ...(['site.name', 'site.timeZone', 'visitType.name', 'provider.shortName'] as const),
      ],
      populate: ['site', 'visitType', 'provider'],
      orderBy: { startsAt: 'desc' },
      limit: 200,
    },
  );
}

/** What of a record may be written; its number, version and status as merged are not among it. */
export type PatientPatch = Partial<Omit<Patient, 'id' | 'recordNumber' | 'version' | 'createdAt' | 'isFindable'>>;

/** Writes columns if nobody wrote since; says whether it did. The version goes on in any case. */
export async function setPatient(
  em: SqlEntityManager,
  id: string,
  version: number,
  patch: PatientPatch,
): Promise<boolean> {
  return (await em.nativeUpdate(PatientEntity, { id, version }, { ...patch, version: version + 1 })) > 0;
}

/** Names a patient had before, newest first. */
export function formerNameRows(em: SqlEntityManager, patientId: string): Promise<FormerName[]> {
  return findRows(em, FormerNameEntity, { patientId }, { orderBy: { endedAt: 'desc', id: 'desc' } });
}

export async function insertFormerName(em: SqlEntityManager, name: FormerName): Promise<void> {
  await insertRow(em, FormerNameEntity, name);
}

export async function deleteFormerName(em: SqlEntityManager, id: string): Promise<void> {
  await em.nativeDelete(FormerNameEntity, { id });
}

export type CodeRow = PatientCode;

/** Conditions by their codes, in the order of the codes. */
export function codeRows(em: SqlEntityManager, patientId: string): Promise<PatientCode[]> {
  return findRows(em, PatientCodeEntity, { patientId }, { orderBy: { code: 'asc' } });
}

export function putCodes(em: SqlEntityManager, patientId: string, rows: readonly PatientCode[]): Promise<void> {
  return replaceRows(em, PatientCodeEntity, { patientId }, rows);
}

export async function insertHousehold(em: SqlEntityManager, household: Household): Promise<void> {
  await insertRow(em, HouseholdEntity, household);
}

/** A household that nobody is left in goes. */
export async function deleteHousehold(em: SqlEntityManager, id: string): Promise<void> {
  if ((await em.count(PatientEntity, { householdId: id })) === 0) await em.nativeDelete(HouseholdEntity, { id });
}

/** Everybody of a household, the oldest first. */
export function householdMembers(em: SqlEntityManager, householdId: string): Promise<Patient[]> {
  return findRows(
    em,
    PatientEntity,
    { householdId, status: { $ne: 'archived' } },
    { orderBy: { birthDate: 'asc', id: 'asc' } },
  );
}

export async function householdName(em: SqlEntityManager, id: string): Promise<string> {
  return (await findRow(em, HouseholdEntity, { id }))?.name ?? '';
}

/** Visits of a patient that are still to come or have not been seen, by id. */
export async function comingVisitIds(em: SqlEntityManager, patientId: string, now: Date): Promise<string[]> {
  const rows = await findRows(
    em,
    AppointmentEntity,
    { patientId, endsAt: { $gt: now }, status: { $in: ['proposed', 'pending', 'booked', 'arrived', 'waitlist'] } },
    { fields: ['id'], orderBy: { id: 'asc' } },
  );
  return rows.map(({ id }) => id);
}

export function relationshipRows(em: SqlEntityManager, patientId: string) {
  return findRows(
    em,
    RelationshipEntity,
    { patientId },
    { populate: ['relatedPatient'], orderBy: { fromDate: 'desc', id: 'asc' } },
  );
}

export async function insertRelationship(
  em: SqlEntityManager,
  {
    name,
    rights,
    ...row
  }: Pick<Relationship, 'id' | 'patientId' | 'kind' | 'fromDate' | 'untilDate' | 'limits'> &
    Partial<Pick<Relationship, 'relatedPatientId'>> & {
      readonly name: string;
      readonly rights: readonly string[];
    },
): Promise<void> {
  await insertRow(em, RelationshipEntity, {
    ...row,
    relatedName: row.relatedPatientId ? null : name,
    mayBook: rights.includes('book'),
    maySign: rights.includes('sign'),
    mayReceive: rights.includes('receive'),
    maySee: rights.includes('see'),
  });
}

/** Sets the last date; gives the one before, or `null` if there is no such relationship. */
export async function setUntil(
  em: SqlEntityManager,
  patientId: string,
  id: string,
  until: string | null,
): Promise<{ from: string; until: string | null } | null> {
  const before = await lockRelationship(em, patientId, id);
  if (before && (until === null || until >= before.from))
    await em.nativeUpdate(RelationshipEntity, { id }, { untilDate: until });
  return before;
}

/** An addition taken back leaves nothing. */
export async function deleteRelationship(em: SqlEntityManager, id: string): Promise<void> {
  await em.nativeDelete(RelationshipEntity, { id });
}
