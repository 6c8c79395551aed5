import { randomUUID } from 'node:crypto';
import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { type AccountDoc, CLINIC_ID, type ClinicDoc, type FieldDoc, type PayerDoc } from '@zaguan/contracts/setup';
import { replaceRows, upsertRow } from '../../platform/db/rows.ts';
import type { Stored } from './saving.ts';

const SOME = (id: string) => `(?::json is null or ${id} in (select x::uuid from json_array_elements_text(?::json) x))`;
const some = (ids: readonly string[] | null) => {
  const list = ids && JSON.stringify(ids);
  return [list, list];
};

export async function readClinic(em: SqlEntityManager, ids: readonly string[] | null): Promise<Stored<ClinicDoc>[]> {
  if (ids && !ids.includes(CLINIC_ID)) return [];
  const rows = await em.execute<{ doc: ClinicDoc }[]>(
    `select json_build_object('name', name, 'phone', phone, 'baseUnitMin', base_unit_min, 'density', density, 'asksPayerOnline', asks_payer_online, 'urgentAtNight', urgent_at_night, 'textCountries', text_countries, 'codesPerDay', codes_per_day) as doc from clinic`,
  );
  return rows.map(({ doc }) => ({ id: CLINIC_ID, active: true, doc }));
}

export async function writeClinic(em: SqlEntityManager, _id: string, doc: ClinicDoc): Promise<void> {
  await em.execute(
    `update clinic set name = ?, phone = ?, base_unit_min = ?, density = ?, asks_payer_online = ?, urgent_at_night = ?, text_countries = array(select json_array_elements_text(?::json)), codes_per_day = ?`,
    [
      doc.name,
      doc.phone,
      doc.baseUnitMin,
      doc.density,
      doc.asksPayerOnline,
      doc.urgentAtNight,
      JSON.stringify(doc.textCountries),
      doc.codesPerDay,
    ],
  );
}

export function readPayers(em: SqlEntityManager, ids: readonly string[] | null): Promise<Stored<PayerDoc>[]> {
  return em.execute(
    `select p.id, p.active, json_build_object('name', p.name, 'rules', coalesce((select json_agg(json_build_object('visitTypeId', r.visit_type_id, 'siteId', r.site_id, 'providerId', r.provider_id,
       'accepted', r.accepted, 'referral', r.needs_referral, 'authorization', r.needs_authorization) order by r.visit_type_id nulls first, r.site_id nulls first, r.provider_id nulls first)
       from payer_rule r where r.payer_id = p.id), '[]'), 'sortOrder', p.sort_order) as doc
     from payer p where ${SOME('p.id')} order by p.sort_order, p.name`,
    some(ids),
  );
}

export async function writePayer(em: SqlEntityManager, id: string, doc: PayerDoc): Promise<void> {
  await upsertRow(em, 'payer', 'id', { id, name: doc.name, sort_order: doc.sortOrder, active: true });
  await replaceRows(
    em,
    'payer_rule',
    { column: 'payer_id', id },
    doc.rules
      .filter((row) => row.accepted !== null || row.referral !== null || row.authorization !== null)
      .map((row) => ({
        id: randomUUID(),
        visit_type_id: row.visitTypeId,
        site_id: row.siteId,
        provider_id: row.providerId,
        accepted: row.accepted,
        needs_referral: row.referral,
        needs_authorization: row.authorization,
      })),
  );
}

export function readFields(em: SqlEntityManager, ids: readonly string[] | null): Promise<Stored<FieldDoc>[]> {
  return em.execute(
    `select f.id, f.active, json_build_object('of', f.of, 'kind', f.kind, 'labelEn', f.label_en, 'labelEs', f.label_es, 'required', f.required, 'choices', f.choices,
       'visitTypeIds', f.visit_type_ids, 'sortOrder', f.sort_order) as doc
     from custom_field f where ${SOME('f.id')} order by f.of desc, f.sort_order, f.label_en`,
    some(ids),
  );
}

export async function writeField(em: SqlEntityManager, id: string, doc: FieldDoc): Promise<void> {
  await upsertRow(em, 'custom_field', 'id', {
    id,
    of: doc.of,
    kind: doc.kind,
    label_en: doc.labelEn,
    label_es: doc.labelEs,
    required: doc.required,
    choices: doc.choices,
    visit_type_ids: doc.visitTypeIds,
    sort_order: doc.sortOrder,
    active: true,
  });
}

/** Whether anybody has answered a field, whose kind must then stay. */
export async function fieldAnswered(em: SqlEntityManager, id: string): Promise<boolean> {
  const [row] = await em.execute<{ answered: boolean }[]>(
    'select exists (select 1 from patient where jsonb_exists(fields, ?)) or exists (select 1 from self_booking where jsonb_exists(answers, ?)) as answered',
    [id, id],
  );
  return row.answered;
}

export function readAccounts(em: SqlEntityManager, ids: readonly string[] | null): Promise<Stored<AccountDoc>[]> {
  return em.execute(
    `select a.id, a.active, json_build_object('name', a.name, 'email', a.email, 'role', a.role, 'resourceId', a.resource_id,
       'siteIds', (select json_agg(s.site_id order by s.site_id) from account_site s where s.account_id = a.id),
       'state', case when exists (select 1 from attempt t where t.key = sha256(convert_to('sign-in:' || a.email || ':', 'UTF8')) and t.locked_until > clock_timestamp()) then 'locked' when a.password_hash is null then 'invited' else 'in-use' end) as doc
     from account a where ${SOME('a.id')} order by a.name, a.id`,
    some(ids),
  );
}

/** Accounts belong to real time, like signing in. */
export async function writeAccount(em: SqlEntityManager, id: string, doc: AccountDoc): Promise<void> {
  await em.execute(
    `insert into account (id, email, name, role, resource_id, created_at) values (?, ?, ?, ?, ?, clock_timestamp())
     on conflict (id) do update set email = excluded.email, name = excluded.name, role = excluded.role, resource_id = excluded.resource_id`,
    [id, doc.email, doc.name, doc.role, doc.resourceId],
  );
  await replaceRows(
    em,
    'account_site',
    { column: 'account_id', id },
    (doc.siteIds ?? []).map((site_id) => ({ site_id })),
  );
}

export async function setActiveIn(
  em: SqlEntityManager,
  table: 'payer' | 'custom_field' | 'account' | 'site',
  ids: readonly string[],
  active: boolean,
): Promise<void> {
  await em.execute(
    `update ${table} set active = ? where id in (select x::uuid from json_array_elements_text(?::json) x)`,
    [active, JSON.stringify(ids)],
  );
}

/** Accounts that can sign in as managers, without one of them. */
export async function otherManagers(em: SqlEntityManager, id: string): Promise<number> {
  const [row] = await em.execute<{ n: number }[]>(
    `select count(*)::int as n from account where role = 'manager' and active and password_hash is not null and id <> ?`,
    [id],
  );
  return row.n;
}

export async function emailTaken(em: SqlEntityManager, email: string, otherThan: string): Promise<boolean> {
  const rows = await em.execute<unknown[]>('select 1 from account where email = ? and id <> ?', [email, otherThan]);
  return rows.length > 0;
}

/** Ends the sessions of an account: what it may do has changed. */
export async function endSessionsOf(em: SqlEntityManager, accountId: string): Promise<void> {
  await em.execute(`delete from web_session where sess->'actor'->>'accountId' = ?`, [accountId]);
}

export async function setInvitation(em: SqlEntityManager, id: string, hash: Buffer, until: Date): Promise<boolean> {
  const rows = await em.execute<unknown[]>(
    'update account set invite_hash = ?, invite_until = ? where id = ? and active returning 1',
    [hash, until, id],
  );
  return rows.length > 0;
}

export interface Invited {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly role: AccountDoc['role'];
}

export async function invitedBy(em: SqlEntityManager, hash: Buffer, at: Date): Promise<Invited | null> {
  const [row] = await em.execute<Invited[]>(
    'select id, name, email, role from account where invite_hash = ? and invite_until > ? and active',
    [hash, at],
  );
  return row ?? null;
}

/** Sets the password; the invitation is used up. Says whether it still was there. */
export async function useInvitation(
  em: SqlEntityManager,
  hash: Buffer,
  passwordHash: string,
  at: Date,
): Promise<string | null> {
  const [row] = await em.execute<{ id: string }[]>(
    `update account set password_hash = ?, invite_hash = null, invite_until = null
     where invite_hash = ? and invite_until > ? and active returning id`,
    [passwordHash, hash, at],
  );
  return row?.id ?? null;
}
