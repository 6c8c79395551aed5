import { LockMode, type SqlEntityManager } from '@mikro-orm/postgresql';
import { findRow } from '../../platform/db/read.ts';
import { insertIfNew } from '../../platform/db/write.ts';
import { ClinicEntity, type ContactVerification, ContactVerificationEntity } from '../../schema/index.ts';

/** The row of this browser and number, made if it is new and kept from a second call at the same time. */
export async function verificationFor(
  em: SqlEntityManager,
  newId: string,
  browserHash: Buffer,
  contact: string,
): Promise<ContactVerification> {
  await insertIfNew(em, ContactVerificationEntity, { id: newId, browserHash, contact });
  const row = await findRow(
    em,
    ContactVerificationEntity,
    { browserHash, contact },
    { lockMode: LockMode.PESSIMISTIC_WRITE },
  );
  if (!row) throw new Error('A verification that was just made is gone.');
  return row;
}

export async function saveVerification(
  em: SqlEntityManager,
  { id, ...row }: Omit<ContactVerification, 'browserHash' | 'contact'>,
): Promise<void> {
  await em.nativeUpdate(ContactVerificationEntity, { id }, row);
}

/** Other numbers and addresses that a browser had codes sent to since an instant. */
export function numbersOfBrowser(
  em: SqlEntityManager,
  browserHash: Buffer,
  since: Date,
  otherThan: string,
): Promise<number> {
  return em.count(ContactVerificationEntity, { browserHash, sentAt: { $gt: since }, contact: { $ne: otherThan } });
}

export async function textSettings(em: SqlEntityManager): Promise<{ countries: string[]; budget: number }> {
  const clinic = await findRow(em, ClinicEntity, {}, { fields: ['textCountries', 'codesPerDay'] });
  return { countries: clinic?.textCountries ?? [], budget: clinic?.codesPerDay ?? 0 };
}
