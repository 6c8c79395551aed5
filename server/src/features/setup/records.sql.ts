import type { SetupKind } from '@zaguan/contracts/setup';
import { rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';

const LOCK = statement<Record<never, never>, never>(
  'an advisory lock',
  "select pg_advisory_xact_lock(hashtextextended('zaguan.setup', 0))",
);

/** Set-up is saved one at a time: rules that look at several records then see what is there. */
export async function lockSetup(em: SqlEntityManager): Promise<void> {
  await rowsOf(em, LOCK, {});
}

const BUMP = statement<{ kind: string; at: Date; by: string | null; changed: string }, never>(
  'counts on from the version that stands',
  `insert into setup_record (id, kind, version, changed_at, changed_by)
     select x.id, :kind, case when x.first then 1 else 2 end, :at, :by::uuid from json_to_recordset(:changed::json) as x(id uuid, first boolean)
   on conflict (id) do update set version = setup_record.version + 1, changed_at = excluded.changed_at, changed_by = excluded.changed_by`,
);

/** @param changed with `first` for what was not there before: what was loaded without a version counts as the first */
export async function bumpVersions(
  em: SqlEntityManager,
  kind: SetupKind,
  changed: readonly { readonly id: string; readonly first: boolean }[],
  { at, by }: { at: Date; by: string | null },
): Promise<void> {
  await rowsOf(em, BUMP, { kind, at, by, changed: JSON.stringify(changed) });
}
