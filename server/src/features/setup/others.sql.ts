import type { AccountDoc, PayerDoc } from '@zaguan/contracts/setup';
import { rowOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Stored } from './saving.ts';

const PAYERS = statement<{ ids: readonly string[] | null }, Stored<PayerDoc>>(
  'one document of a payer and its rules',
  `select p.id, p.active, json_build_object('name', p.name, 'rules', coalesce((select json_agg(json_build_object('visitTypeId', r.visit_type_id, 'siteId', r.site_id, 'providerId', r.provider_id,
     'accepted', r.accepted, 'referral', r.needs_referral, 'authorization', r.needs_authorization) order by r.visit_type_id nulls first, r.site_id nulls first, r.provider_id nulls first)
     from payer_rule r where r.payer_id = p.id), '[]'), 'sortOrder', p.sort_order) as doc
   from payer p where :ids::uuid[] is null or p.id = any(:ids::uuid[]) order by p.sort_order, p.name`,
);

export function readPayers(em: SqlEntityManager, ids: readonly string[] | null): Promise<Stored<PayerDoc>[]> {
  return rowsOf(em, PAYERS, { ids });
}

const ANSWERED = statement<{ id: string }, { answered: boolean }>(
  'looks into documents for a key',
  'select exists (select 1 from patient where jsonb_exists(fields, :id)) or exists (select 1 from self_booking where jsonb_exists(answers, :id)) as answered',
);

/** Whether anybody has answered a field, whose kind must then stay. */
export async function fieldAnswered(em: SqlEntityManager, id: string): Promise<boolean> {
  return (await rowOf(em, ANSWERED, { id }))?.answered ?? false;
}

const ACCOUNTS = statement<{ ids: readonly string[] | null }, Stored<AccountDoc>>(
  'one document of an account, its sites, and whether it is locked now',
  `select a.id, a.active, json_build_object('name', a.name, 'email', a.email, 'role', a.role, 'resourceId', a.resource_id,
     'siteIds', (select json_agg(s.site_id order by s.site_id) from account_site s where s.account_id = a.id),
     'state', case when exists (select 1 from attempt t where t.key = sha256(convert_to('sign-in:' || a.email || ':', 'UTF8')) and t.locked_until > clock_timestamp()) then 'locked' when a.password_hash is null then 'invited' else 'in-use' end) as doc
   from account a where :ids::uuid[] is null or a.id = any(:ids::uuid[]) order by a.name, a.id`,
);

export function readAccounts(em: SqlEntityManager, ids: readonly string[] | null): Promise<Stored<AccountDoc>[]> {
  return rowsOf(em, ACCOUNTS, { ids });
}

const PUT_ACCOUNT = statement<
  { id: string; email: string; name: string; role: string; resourceId: string | null },
  never
>(
  'made at the database’s own time: accounts belong to real time, like signing in',
  `insert into account (id, email, name, role, resource_id, created_at) values (:id, :email, :name, :role, :resourceId, clock_timestamp())
   on conflict (id) do update set email = excluded.email, name = excluded.name, role = excluded.role, resource_id = excluded.resource_id`,
);

export async function putAccount(em: SqlEntityManager, id: string, doc: AccountDoc): Promise<void> {
  const { email, name, role, resourceId } = doc;
  await rowsOf(em, PUT_ACCOUNT, { id, email, name, role, resourceId });
}

const END_SESSIONS = statement<{ accountId: string }, never>(
  'the session store is another program’s table',
  `delete from web_session where sess->'actor'->>'accountId' = :accountId`,
);

/** Ends the sessions of an account: what it may do has changed. */
export async function endSessionsOf(em: SqlEntityManager, accountId: string): Promise<void> {
  await rowsOf(em, END_SESSIONS, { accountId });
}
