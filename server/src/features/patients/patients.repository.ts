import { findRow, findRows } from '../../platform/db/read.ts';
import { insertRow } from '../../platform/db/write.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import {
  AppointmentEntity,
  type Patient,
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

/** Writes the clinic's own fields if nobody wrote since; says whether it did. */
export async function setFields(
  em: SqlEntityManager,
  id: string,
  version: number,
  fields: Patient['fields'],
): Promise<boolean> {
  return (await em.nativeUpdate(PatientEntity, { id, version }, { fields, version: version + 1 })) > 0;
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
  }: Pick<Relationship, 'id' | 'patientId' | 'kind' | 'fromDate' | 'untilDate' | 'limits'> & {
    readonly name: string;
    readonly rights: readonly string[];
  },
): Promise<void> {
  await insertRow(em, RelationshipEntity, {
    ...row,
    relatedName: name,
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
