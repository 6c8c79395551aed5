import type { Run } from './openings.repository.ts';

/** What became visible since an earlier look. */
export interface ClinicChanges {
  /** To be given back at the next look (PostgreSQL's `pg_snapshot`). */
  readonly seen: string;
  /** Something planned changed: hours, rooms, visit types, rules. */
  readonly plan: boolean;
  /** Visits, holds and imported busy times that changed. */
  readonly visits: readonly string[];
}

/** The mark of everything that is visible now. */
export async function currentSnapshot(run: Run): Promise<string> {
  const [row] = await run<{ seen: string }>('select pg_current_snapshot()::text as seen', {});
  return row.seen;
}

/**
 * What became visible since `seen`. A transaction that began before that look and was committed after it is among
 * them: what counts is whether its rows could be seen then, not when they were written.
 */
export async function changesSince(run: Run, seen: string): Promise<ClinicChanges> {
  const [row] = await run<{ seen: string; plan: boolean; visits: string[] | null }>(
    `with news as (select kind, ref from openings_change where xid >= pg_snapshot_xmin(:seen::pg_snapshot) and not pg_visible_in_snapshot(xid, :seen::pg_snapshot))
     select pg_current_snapshot()::text as seen, exists (select from news where kind = 'plan') as plan,
       (select json_agg(distinct ref) from news where kind = 'visit') as visits`,
    { seen },
  );
  return { ...row, visits: row.visits ?? [] };
}

/** Throws away what every process has long seen (one that has not looked for so long reads everything anew). */
export async function forgetChanges(run: Run, olderThanMin: number): Promise<void> {
  await run(`delete from openings_change where at < clock_timestamp() - make_interval(mins => :olderThanMin)`, {
    olderThanMin,
  });
}
