import { randomUUID } from 'node:crypto';
import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { type AccountDoc, CLINIC_ID, type ClinicDoc, type FieldDoc, type PayerDoc } from '@zaguan/contracts/setup';
import { findRow, findRows } from '../../platform/db/read.ts';
import { putRows, replaceRows } from '../../platform/db/write.ts';
import {
  type Account,
  AccountEntity,
  AccountSiteEntity,
  ClinicEntity,
  CustomFieldEntity,
  PayerEntity,
  PayerRuleEntity,
  SiteEntity,
} from '../../schema/index.ts';
import { putAccount } from './others.sql.ts';
import type { Stored } from './saving.ts';

export async function readClinic(em: SqlEntityManager, ids: readonly string[] | null): Promise<Stored<ClinicDoc>[]> {
  if (ids && !ids.includes(CLINIC_ID)) return [];
  const rows = await findRows(em, ClinicEntity, {});
  return rows.map(({ onlyRow: _, ...row }) => ({ id: CLINIC_ID, active: true, doc: row as ClinicDoc }));
}

export async function writeClinic(em: SqlEntityManager, _id: string, doc: ClinicDoc): Promise<void> {
  await em.nativeUpdate(ClinicEntity, { onlyRow: true }, doc);
}

export async function writePayer(em: SqlEntityManager, id: string, doc: PayerDoc): Promise<void> {
  await putRows(em, PayerEntity, [{ id, name: doc.name, sortOrder: doc.sortOrder, active: true }]);
  await replaceRows(
    em,
    PayerRuleEntity,
    { payerId: id },
    doc.rules
      .filter((row) => row.accepted !== null || row.referral !== null || row.authorization !== null)
      .map(({ referral, authorization, ...row }) => ({
        ...{ ...row, id: randomUUID(), payerId: id },
        ...{ needsReferral: referral, needsAuthorization: authorization },
      })),
  );
}

export async function readFields(em: SqlEntityManager, ids: readonly string[] | null): Promise<Stored<FieldDoc>[]> {
  const rows = await findRows(em, CustomFieldEntity, ids ? { id: { $in: [...ids] } } : {}, {
    orderBy: { of: 'desc', sortOrder: 'asc', labelEn: 'asc' },
  });
  return rows.map(({ id, active, ...doc }) => ({ id, active, doc: doc as FieldDoc }));
}

export function writeField(em: SqlEntityManager, id: string, doc: FieldDoc): Promise<void> {
  return putRows(em, CustomFieldEntity, [{ ...doc, id, active: true }]);
}

export async function writeAccount(em: SqlEntityManager, id: string, doc: AccountDoc): Promise<void> {
  await putAccount(em, id, doc);
  await replaceRows(
    em,
    AccountSiteEntity,
    { accountId: id },
    (doc.siteIds ?? []).map((siteId) => ({ accountId: id, siteId })),
  );
}

const ARCHIVED = { payer: PayerEntity, custom_field: CustomFieldEntity, account: AccountEntity, site: SiteEntity };

export async function setActiveIn(
  em: SqlEntityManager,
  table: keyof typeof ARCHIVED,
  ids: readonly string[],
  active: boolean,
): Promise<void> {
  await em.nativeUpdate<{ id: string; active: boolean }>(
    ARCHIVED[table].meta.className,
    { id: { $in: [...ids] } },
    { active },
  );
}

/** Accounts that can sign in as managers, without one of them. */
export function otherManagers(em: SqlEntityManager, id: string): Promise<number> {
  return em.count(AccountEntity, { role: 'manager', active: true, passwordHash: { $ne: null }, id: { $ne: id } });
}

export async function emailTaken(em: SqlEntityManager, email: string, otherThan: string): Promise<boolean> {
  return (await em.count(AccountEntity, { email, id: { $ne: otherThan } })) > 0;
}

export async function setInvitation(em: SqlEntityManager, id: string, hash: Buffer, until: Date): Promise<boolean> {
  const changed = await em.nativeUpdate(AccountEntity, { id, active: true }, { inviteHash: hash, inviteUntil: until });
  return changed > 0;
}

export type Invited = Pick<Account, 'id' | 'name' | 'email' | 'role'>;

export function invitedBy(em: SqlEntityManager, hash: Buffer, at: Date): Promise<Invited | null> {
  return findRow(
    em,
    AccountEntity,
    { inviteHash: hash, inviteUntil: { $gt: at }, active: true },
    { fields: ['id', 'name', 'email', 'role'] },
  );
}

/** Sets the password; the invitation is used up. Gives whose it was, if it still was there. */
export async function useInvitation(
  em: SqlEntityManager,
  hash: Buffer,
  passwordHash: string,
  at: Date,
): Promise<string | null> {
  const invited = await invitedBy(em, hash, at);
  if (!invited) return null;
  // The invitation is among the conditions: of two who use it at once only one finds it.
  const used = await em.nativeUpdate(
    AccountEntity,
    { id: invited.id, inviteHash: hash },
    { passwordHash, inviteHash: null, inviteUntil: null },
  );
  return used ? invited.id : null;
}
