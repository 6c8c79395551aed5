import type { FhirPatient } from '../../exchange/fhir/patientToFhir.ts';
import { findRows } from '../../platform/db/read.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import {
  BookingRequestEntity,
  FormerNameEntity,
  HoldEntity,
  PatientContactEntity,
  PatientEntity,
  RelationshipEntity,
} from '../../schema/index.ts';

/** What is only held. */
export async function holdIds(em: SqlEntityManager, now: Date): Promise<Set<string>> {
  const rows = await findRows(em, HoldEntity, { expiresAt: { $gt: now } }, { fields: ['id'] });
  return new Set(rows.map(({ id }) => id));
}

/** Requests to book with what they name, the newest first; `null`: any. */
export function requestRows(
  em: SqlEntityManager,
  { ids, patientIds }: { readonly ids: readonly string[] | null; readonly patientIds: readonly string[] | null },
) {
  return findRows(
    em,
    BookingRequestEntity,
    { ...(ids && { id: { $in: [...ids] } }), ...(patientIds && { patientId: { $in: [...patientIds] } }) },
    {
      populate: ['patient', 'visitType', 'site', 'provider', 'askedByAccount'],
      orderBy: { askedAt: 'desc', id: 'asc' },
    },
  );
}

/** Records by their ids, in the order of their numbers. */
export async function fhirPatients(
  em: SqlEntityManager,
  ids: readonly string[],
  restrictedToo: boolean,
): Promise<FhirPatient[]> {
  const rows = await findRows(
    em,
    PatientEntity,
    { id: { $in: [...ids] }, ...(!restrictedToo && { restricted: false }) },
    { orderBy: { recordNumber: 'asc' } },
  );
  const contacts = await findRows(
    em,
    PatientContactEntity,
    { patientId: { $in: rows.map(({ id }) => id) } },
    { populate: ['contactPoint'], orderBy: { rank: 'asc' } },
  );
  const former = await findRows(em, FormerNameEntity, { patientId: { $in: rows.map(({ id }) => id) } });
  return rows.map((row) => ({
    ...row,
    formerNames: former.filter(({ patientId }) => patientId === row.id),
    contacts: contacts.flatMap(({ patientId, contactPoint }) =>
      patientId === row.id && contactPoint ? [{ kind: contactPoint.kind, value: contactPoint.value }] : [],
    ),
  }));
}

/** What records are looked for by; `null`: by nothing of the kind. */
export interface PatientFilter {
  readonly ids: readonly string[] | null;
  readonly recordNumbers: readonly string[] | null;
  /** Numbers and addresses, each with its kind if one was said. */
  readonly contacts: readonly { readonly kind: 'phone' | 'email' | null; readonly value: string }[] | null;
  readonly bornFrom: string | null;
  /** Not included. */
  readonly bornUntil: string | null;
}

/** Ids of records that meet all of a filter, in the order of their numbers, so many at most. */
export async function patientIdsBy(em: SqlEntityManager, filter: PatientFilter, most: number): Promise<string[]> {
  const byContact = filter.contacts && (await withContacts(em, filter.contacts));
  const ids = [filter.ids, byContact].filter((list) => list !== null);
  const { recordNumbers, bornFrom, bornUntil } = filter;
  const rows = await findRows(
    em,
    PatientEntity,
    {
      $and: ids.map((list) => ({ id: { $in: [...list] } })),
      ...(recordNumbers && { recordNumber: { $in: [...recordNumbers] } }),
      ...((bornFrom || bornUntil) && {
        birthDate: { ...(bornFrom && { $gte: bornFrom }), ...(bornUntil && { $lt: bornUntil }) },
      }),
    },
    { fields: ['id'], orderBy: { recordNumber: 'asc' }, limit: most },
  );
  return rows.map(({ id }) => id);
}

async function withContacts(em: SqlEntityManager, contacts: NonNullable<PatientFilter['contacts']>): Promise<string[]> {
  const rows = await findRows(
    em,
    PatientContactEntity,
    { $or: contacts.map(({ kind, value }) => ({ contactPoint: { value, ...(kind && { kind }) } })) },
    { fields: ['patientId'], limit: 1000 },
  );
  return rows.map(({ patientId }) => patientId);
}

/** Relationships by their ids, or by those for whom somebody may act. */
export function relatedPersonRows(
  em: SqlEntityManager,
  { ids, patientIds }: { readonly ids: readonly string[] | null; readonly patientIds: readonly string[] | null },
) {
  return findRows(
    em,
    RelationshipEntity,
    { ...(ids && { id: { $in: [...ids] } }), ...(patientIds && { patientId: { $in: [...patientIds] } }) },
    { populate: ['patient', 'relatedPatient'], orderBy: { id: 'asc' }, limit: 1000 },
  );
}
