import { findRows } from '../../platform/db/read.ts';
import { insertRow } from '../../platform/db/write.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import {
  type ContactLedger,
  ContactLedgerEntity,
  type PatientContact,
  PatientContactEntity,
} from '../../schema/index.ts';

export type PatientContactRow = PatientContact;

/** A patient's numbers and addresses in the order in which they are tried. */
export function contactsOf(em: SqlEntityManager, patientId: string) {
  return findRows(
    em,
    PatientContactEntity,
    { patientId },
    { populate: ['contactPoint'], orderBy: { rank: 'asc', contactPoint: { kind: 'desc', value: 'asc' } } },
  );
}

/** What is known of each of some numbers or addresses, newest first. */
export function ledgerOf(em: SqlEntityManager, contactPointIds: readonly string[]) {
  return findRows(
    em,
    ContactLedgerEntity,
    { contactPointId: { $in: [...contactPointIds] } },
    { orderBy: { at: 'desc', id: 'desc' }, limit: 400 },
  );
}

/** How many patients have each of some numbers or addresses. */
export async function sharers(em: SqlEntityManager, contactPointIds: readonly string[]): Promise<Map<string, number>> {
  const rows = await findRows(
    em,
    PatientContactEntity,
    { contactPointId: { $in: [...contactPointIds] } },
    { fields: ['contactPointId', 'patientId'] },
  );
  const counts = new Map<string, number>();
  for (const { contactPointId } of rows) counts.set(contactPointId, (counts.get(contactPointId) ?? 0) + 1);
  return counts;
}

/** Puts contacts in order, by place. */
export async function setContactRanks(
  em: SqlEntityManager,
  patientId: string,
  contactPointIds: readonly string[],
): Promise<void> {
  for (const [rank, contactPointId] of contactPointIds.entries())
    await em.nativeUpdate(PatientContactEntity, { patientId, contactPointId }, { rank: rank + 1 });
}

export async function deleteContact(em: SqlEntityManager, patientId: string, contactPointId: string): Promise<void> {
  await em.nativeDelete(PatientContactEntity, { patientId, contactPointId });
}

export async function insertLedgerEntry(
  em: SqlEntityManager,
  entry: Pick<ContactLedger, 'id' | 'contactPointId' | 'patientId' | 'event' | 'purpose' | 'wording' | 'how' | 'at'>,
): Promise<void> {
  await insertRow(em, ContactLedgerEntity, { ...entry, wordingVersion: '1' });
}

/** A note that was made by mistake and taken back at once leaves nothing. */
export async function deleteLedgerEntry(em: SqlEntityManager, id: string): Promise<void> {
  await em.nativeDelete(ContactLedgerEntity, { id });
}
