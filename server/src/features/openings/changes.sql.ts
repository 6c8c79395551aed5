import { type Run, statement } from '../../platform/db/statement.ts';

/** What became visible since an earlier look. */
export interface ClinicChanges {
  /** To be given back at the next look (PostgreSQL's `pg_snapshot`). */
  readonly seen: string;
  /** Something planned changed: hours, rooms, visit types, rules. */
  readonly plan: boolean;
  /** Visits, holds and imported busy times that changed. */
  readonly visits: readonly string[];
}

const MARK = statement<Record<never, never>, { seen: string }>(
  'PostgreSQL’s own mark of what is visible',
  'select pg_current_snapshot()::text as seen',
);

/** The mark of everything that is visible now. */
export async function currentSnapshot(run: Run): Promise<string> {
  const [row] = await run(MARK, {});
  return row.seen;
}

const CHANGES = statement<{ seen: string }, { seen: string; plan: boolean; visits: string[] | null }>(
  'judged by what PostgreSQL could see then and sees now',
  `with news as (select kind, ref from openings_change where xid >= pg_snapshot_xmin(:seen::pg_snapshot) and not pg_visible_in_snapshot(xid, :seen::pg_snapshot))
   select pg_current_snapshot()::text as seen, exists (select from news where kind = 'plan') as plan,
     (select json_agg(distinct ref) from news where kind = 'visit') as visits`,
);

/**
 * What became visible since `seen`. A transaction that began before that look and was committed after it is among
 * them: what counts is whether its rows could be seen then, not when they were written.
 */
export async function changesSince(run: Run, seen: string): Promise<ClinicChanges> {
  const [row] = await run(CHANGES, { seen });
  return { ...row, visits: row.visits ?? [] };
}

const FORGET = statement<{ minutes: number }, never>(
  'by the database’s clock',
  'delete from openings_change where at < clock_timestamp() - make_interval(mins => :minutes::int)',
);

/** Throws away what every process has long seen (one that has not looked for so long reads everything anew). */
export async function forgetChanges(run: Run, olderThanMin: number): Promise<void> {
  await run(FORGET, { minutes: olderThanMin });
}
