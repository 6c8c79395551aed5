import { LockMode, type SqlEntityManager } from '@mikro-orm/postgresql';
import type { Answer } from '@zaguan/core/setup';
import { findRow, findRows } from '../../platform/db/read.ts';
import { insertRow } from '../../platform/db/write.ts';
import {
  ClinicEntity,
  type CustomField,
  CustomFieldEntity,
  type Payer,
  PayerEntity,
  SelfBookingEntity,
  type VisitCoverage,
  VisitCoverageEntity,
} from '../../schema/index.ts';

const IN_ORDER = { sortOrder: 'asc', labelEn: 'asc' } as const;

/** The clinic's own fields: of patients, or asked before a booking. */
export function fieldRows(em: SqlEntityManager, of: CustomField['of']): Promise<CustomField[]> {
  return findRows(em, CustomFieldEntity, { of, active: true }, { orderBy: IN_ORDER });
}

export function payerRows(em: SqlEntityManager): Promise<Pick<Payer, 'id' | 'name'>[]> {
  return findRows(
    em,
    PayerEntity,
    { active: true },
    { fields: ['id', 'name'], orderBy: { sortOrder: 'asc', name: 'asc' } },
  );
}

export async function asksPayer(em: SqlEntityManager): Promise<boolean> {
  return (await findRow(em, ClinicEntity, {}, { fields: ['asksPayerOnline'] }))?.asksPayerOnline ?? false;
}

export function insertCoverage(
  em: SqlEntityManager,
  row: { appointmentId: string; payerId: string | null; referral: boolean | null; at: Date },
): Promise<void> {
  const { appointmentId, payerId, referral, at } = row;
  return insertRow(em, VisitCoverageEntity, {
    appointmentId,
    payerId,
    selfPay: payerId === null,
    referralSaid: referral,
    state: payerId ? 'to-verify' : 'verified',
    saidAt: at,
  });
}

export async function keepAnswers(
  em: SqlEntityManager,
  appointmentId: string,
  answers: Readonly<Record<string, Answer>>,
): Promise<void> {
  await em.nativeUpdate(SelfBookingEntity, { appointmentId }, { answers: { ...answers } });
}

/** All fields, archived ones too: what was answered keeps its words. */
export function labelsOf(em: SqlEntityManager): Promise<Pick<CustomField, 'id' | 'labelEn'>[]> {
  return findRows(em, CustomFieldEntity, {}, { fields: ['id', 'labelEn'], orderBy: IN_ORDER });
}

/** Sets the state unless it is that already; says which it was, or `null` where nothing was said about paying. */
export async function setCoverage(
  em: SqlEntityManager,
  id: string,
  state: VisitCoverage['state'],
  by: { at: Date; accountId: string | null },
): Promise<VisitCoverage['state'] | null> {
  const row = await findRow(
    em,
    VisitCoverageEntity,
    { appointmentId: id, payerId: { $ne: null } },
    { lockMode: LockMode.PESSIMISTIC_WRITE },
  );
  if (!row) return null;
  const settled =
    state === 'to-verify' ? { settledAt: null, settledBy: null } : { settledAt: by.at, settledBy: by.accountId };
  if (row.state !== state) await em.nativeUpdate(VisitCoverageEntity, { appointmentId: id }, { state, ...settled });
  return row.state;
}
