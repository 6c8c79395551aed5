import type { FhirPatient } from '../../exchange/fhir/patientToFhir.ts';
import { findRows } from '../../platform/db/read.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import { HoldEntity, PatientContactEntity, PatientEntity } from '../../schema/index.ts';

/** What is only held. */
export async function holdIds(em: SqlEntityManager, now: Date): Promise<Set<string>> {
  const rows = await findRows(em, HoldEntity, { expiresAt: { $gt: now } }, { fields: ['id'] });
  return new Set(rows.map(({ id }) => id));
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
  return rows.map((row) => ({
    ...row,
    contacts: contacts.flatMap(({ patientId, contactPoint }) =>
      patientId === row.id && contactPoint ? [{ kind: contactPoint.kind, value: contactPoint.value }] : [],
    ),
  }));
}
