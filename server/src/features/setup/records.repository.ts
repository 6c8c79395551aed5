import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { SetupKind } from '@zaguan/contracts/setup';

/** Set-up is saved one at a time: rules that look at several records then see what is there. */
export async function lockSetup(em: SqlEntityManager): Promise<void> {
  await em.execute("select pg_advisory_xact_lock(hashtextextended('zaguan.setup', 0))");
}

export interface Version {
  readonly version: number;
  readonly changedAt: string;
  readonly changedBy: string | null;
}

export async function versionsOf(em: SqlEntityManager, ids: readonly string[]): Promise<Map<string, Version>> {
  if (!ids.length) return new Map();
  const rows = await em.execute<(Version & { id: string })[]>(
    `select r.id, r.version, r.changed_at as "changedAt", a.name as "changedBy" from setup_record r
     left join account a on a.id = r.changed_by where r.id in (select x::uuid from json_array_elements_text(?::json) x)`,
    [JSON.stringify(ids)],
  );
  return new Map(rows.map((row) => [row.id, row]));
}

/** @param changed with `first` for what was not there before: what was loaded without a version counts as the first */
export async function bumpVersions(
  em: SqlEntityManager,
  kind: SetupKind,
  changed: readonly { readonly id: string; readonly first: boolean }[],
  { at, by }: { at: Date; by: string | null },
): Promise<void> {
  await em.execute(
    `insert into setup_record (id, kind, version, changed_at, changed_by)
       select x.id, ?, case when x.first then 1 else 2 end, ?, ?::uuid from json_to_recordset(?::json) as x(id uuid, first boolean)
     on conflict (id) do update set version = setup_record.version + 1, changed_at = excluded.changed_at, changed_by = excluded.changed_by`,
    [kind, at, by, JSON.stringify(changed)],
  );
}
