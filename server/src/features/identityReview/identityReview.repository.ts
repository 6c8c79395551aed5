import { insertRow } from '../../platform/db/write.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import { ContactLedgerEntity } from '../../schema/index.ts';
import { addContactTo, contactPointIds } from '../people/index.ts';

/** Adds a number or an address to a record; one that was only typed, and never proved, may not be there. */
export async function addContact(em: SqlEntityManager, patientId: string, contact: string): Promise<void> {
  for (const contactPointId of await contactPointIds(em, contact)) await addContactTo(em, patientId, contactPointId);
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
