import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { Answer, CustomQuestion } from '@zaguan/core/setup';

export interface QuestionRow {
  readonly id: string;
  readonly kind: CustomQuestion['kind'];
  readonly label_en: string;
  readonly label_es: string;
  readonly required: boolean;
  readonly choices: readonly { en: string; es: string }[];
  readonly visit_type_ids: string[] | null;
}

/** The clinic's own fields: of patients, or asked before a booking. */
export function fieldRows(em: SqlEntityManager, of: 'patient' | 'booking'): Promise<QuestionRow[]> {
  return em.execute(
    'select id, kind, label_en, label_es, required, choices, visit_type_ids from custom_field where of = ? and active order by sort_order, label_en',
    [of],
  );
}

export function payerRows(em: SqlEntityManager): Promise<{ id: string; name: string }[]> {
  return em.execute('select id, name from payer where active order by sort_order, name');
}

export async function asksPayer(em: SqlEntityManager): Promise<boolean> {
  const [row] = await em.execute<{ asks: boolean }[]>('select asks_payer_online as asks from clinic');
  return row.asks;
}

export async function insertCoverage(
  em: SqlEntityManager,
  row: { appointmentId: string; payerId: string | null; referral: boolean | null; at: Date },
): Promise<void> {
  await em.execute(
    `insert into visit_coverage (appointment_id, payer_id, self_pay, referral_said, state, said_at) values (?, ?, ?, ?, ?, ?)`,
    [
      row.appointmentId,
      row.payerId,
      row.payerId === null,
      row.referral,
      row.payerId ? 'to-verify' : 'verified',
      row.at,
    ],
  );
}

export async function keepAnswers(
  em: SqlEntityManager,
  appointmentId: string,
  answers: Readonly<Record<string, Answer>>,
): Promise<void> {
  await em.execute('update self_booking set answers = ?::jsonb where appointment_id = ?', [
    JSON.stringify(answers),
    appointmentId,
  ]);
}

export interface ExtrasRow {
  readonly site_id: string;
  readonly patient_id: string | null;
  readonly answers: Record<string, Answer> | null;
  readonly said: boolean;
  readonly payer: string | null;
  readonly referral_said: boolean | null;
  readonly state: 'to-verify' | 'verified' | 'not-covered' | null;
}

export async function extrasOf(em: SqlEntityManager, id: string): Promise<ExtrasRow | null> {
  const [row] = await em.execute<ExtrasRow[]>(
    `select a.site_id, a.patient_id, b.answers, c.appointment_id is not null as said, p.name as payer, c.referral_said, c.state
     from appointment a left join self_booking b on b.appointment_id = a.id left join visit_coverage c on c.appointment_id = a.id
       left join payer p on p.id = c.payer_id where a.id = ?`,
    [id],
  );
  return row ?? null;
}

/** All fields, archived ones too: what was answered keeps its words. */
export function labelsOf(em: SqlEntityManager): Promise<{ id: string; label_en: string }[]> {
  return em.execute('select id, label_en from custom_field order by sort_order, label_en');
}

/** Sets the state unless it is that already; says which it was, or `null` where nothing was said about paying. */
export async function setCoverage(
  em: SqlEntityManager,
  id: string,
  state: string,
  by: { at: Date; accountId: string | null },
): Promise<string | null> {
  const [row] = await em.execute<{ state: string }[]>(
    'select state from visit_coverage where appointment_id = ? and payer_id is not null for update',
    [id],
  );
  if (!row) return null;
  if (row.state !== state)
    await em.execute('update visit_coverage set state = ?, settled_at = ?, settled_by = ? where appointment_id = ?', [
      state,
      state === 'to-verify' ? null : by.at,
      state === 'to-verify' ? null : by.accountId,
      id,
    ]);
  return row.state;
}
