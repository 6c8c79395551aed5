import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { ROW_KINDS, type RowChanges, type RowKind, type RowOf, type ScheduleRows } from '@zaguan/core/schedule';
import type { LocalDate } from '@zaguan/core/time';
import { inside, loadPlan } from '../openings/index.ts';

/** Hours without an end are read to here. */
const FAR = '2190-01-01';

/** All rows of the schedule that hold on or after a date, as the transaction sees them. */
export async function loadSchedule(em: SqlEntityManager, from: LocalDate, now: Date): Promise<ScheduleRows> {
  const plan = await loadPlan(inside(em), { from, until: FAR }, now);
  const { workingHours, dateChanges, timeOff, keptFree, brush, closures } = plan;
  return { workingHours, dateChanges, timeOff, keptFree, brush, closures };
}

/**
 * One change of the schedule at a time, and no booking between what is judged and what is written: a booking holds the
 * same lock together with others (see `booking.sql.ts`).
 */
export async function lockSchedule(em: SqlEntityManager): Promise<void> {
  await em.execute("select pg_advisory_xact_lock(hashtextextended('zaguan.schedule', 0))");
}

/** The last date on which anything is booked, today or later; `null` if nothing is. */
export async function lastBookedDate(em: SqlEntityManager): Promise<LocalDate | null> {
  const [row] = await em.execute<{ last: LocalDate | null }[]>(
    "select max(site_date)::text as last from appointment where status in ('booked','pending')",
  );
  return row.last;
}

export async function versionsOf(em: SqlEntityManager, ids: readonly string[]): Promise<Map<string, number>> {
  if (!ids.length) return new Map();
  const rows = await em.execute<{ id: string; version: number }[]>(
    'select id, version from working_hours where id in (select json_array_elements_text(?::json)::uuid)',
    [JSON.stringify(ids)],
  );
  return new Map(rows.map((row) => [row.id, row.version]));
}

const TABLE: Record<RowKind, string> = {
  workingHours: 'working_hours',
  dateChanges: 'working_hours_change',
  timeOff: 'time_off',
  keptFree: 'kept_free',
  brush: 'brush_stroke',
  closures: 'closure',
};

type Columns = Record<string, unknown>;

function ofSubject({ of, id }: { of: 'resource' | 'pool'; id: string }): Columns {
  return { resource_id: of === 'resource' ? id : null, pool_id: of === 'pool' ? id : null };
}

function ofRule(rule: RowOf<'workingHours'>['rule']): Columns {
  return {
    weekdays: rule.weekdays,
    every_weeks: rule.everyWeeks,
    anchor_date: rule.anchorDate,
    effective_from: rule.effectiveFrom,
    effective_until: rule.effectiveUntil,
  };
}

function ofSpan(row: RowOf<'closures'> | RowOf<'timeOff'>): Columns {
  return {
    start_date: row.startDate,
    start_minute: row.startMinute,
    end_date: row.endDate,
    end_minute: row.endMinute,
    reason: row.reason ?? '',
  };
}

/** How each kind of row stands in its table. Leaving one out does not compile. */
const COLUMNS: { readonly [K in RowKind]: (row: RowOf<K>) => Columns } = {
  workingHours: ({ subject, siteId, rule, fromMinute, toMinute, accepts, release, ...row }) => ({
    ...ofSubject(subject),
    ...ofRule(rule),
    site_id: siteId,
    from_minute: fromMinute,
    to_minute: toMinute,
    accepts_type_ids: accepts.visitTypeIds,
    accepts_kinds: accepts.kinds,
    invited_only: accepts.invitedOnly,
    online: row.online,
    places: row.places,
    follows_site_hours: row.followsSiteHours,
    preferred_room_ids: row.preferredRoomIds ?? [],
    release_before_min: release?.beforeMin ?? null,
    release_type_ids: release?.accepts.visitTypeIds ?? null,
    release_kinds: release?.accepts.kinds ?? null,
    release_invited_only: release?.accepts.invitedOnly ?? false,
    release_online: release?.online ?? true,
    caps: row.caps,
  }),
  dateChanges: ({ subject, workingHoursId, date, hours }) => ({
    ...ofSubject(subject),
    working_hours_id: workingHoursId,
    date,
    cancelled: hours === null,
    site_id: hours?.siteId ?? null,
    from_minute: hours?.fromMinute ?? null,
    to_minute: hours?.toMinute ?? null,
    accepts_type_ids: hours?.accepts.visitTypeIds ?? null,
    accepts_kinds: hours?.accepts.kinds ?? null,
    invited_only: hours?.accepts.invitedOnly ?? false,
    online: hours?.online ?? false,
    places: hours?.places ?? 1,
  }),
  timeOff: (row) => ({
    resource_id: row.resourceId,
    site_id: row.siteId,
    cover_id: row.coverId ?? null,
    ...ofSpan(row),
  }),
  keptFree: ({ resourceId, siteId, rule, fromMinute, toMinute, note }) => ({
    resource_id: resourceId,
    site_id: siteId,
    ...ofRule(rule),
    from_minute: fromMinute,
    to_minute: toMinute,
    note: note ?? '',
  }),
  brush: ({ resourceId, siteId, date, fromMinute, toMinute, value }) => ({
    resource_id: resourceId,
    site_id: siteId,
    date,
    from_minute: fromMinute,
    to_minute: toMinute,
    value,
  }),
  closures: (row) => ({ site_id: row.siteId, ...ofSpan(row) }),
};

/** Hours are put before the changes of their dates, and taken away after them. */
export async function writeChanges(
  em: SqlEntityManager,
  changes: RowChanges,
  by: { at: Date; accountId: string | null; restores: boolean },
): Promise<void> {
  for (const kind of [...ROW_KINDS].reverse()) {
    const ids = changes[kind]?.drop ?? [];
    if (ids.length)
      await em.execute(`delete from ${TABLE[kind]} where id in (select json_array_elements_text(?::json)::uuid)`, [
        JSON.stringify(ids),
      ]);
  }
  for (const kind of ROW_KINDS) for (const row of changes[kind]?.put ?? []) await putRow(em, kind, row, by);
}

async function putRow<K extends RowKind>(
  em: SqlEntityManager,
  kind: K,
  row: RowOf<K>,
  by: { at: Date; accountId: string | null; restores: boolean },
): Promise<void> {
  const columns: Columns = { id: row.id, ...COLUMNS[kind](row) };
  // Strokes lie in the order in which they were painted; one that comes back takes its old place again.
  const keepsOrder = kind === 'brush' && by.restores;
  if (keepsOrder) columns.painted = (row as RowOf<'brush'>).order;
  const added: Columns = kind === 'workingHours' ? { created_at: by.at, created_by: by.accountId } : {};
  const names = Object.keys({ ...columns, ...added }).join(', ');
  const sets = Object.keys(columns).filter((name) => name !== 'id' && name !== 'painted');
  const version = kind === 'workingHours' ? ', version = working_hours.version + 1' : '';
  await em.execute(
    `insert into ${TABLE[kind]} (${names}) ${keepsOrder ? 'overriding system value' : ''}
     select ${names} from json_populate_record(null::${TABLE[kind]}, ?::json)
     on conflict (id) do update set ${sets.map((name) => `${name} = excluded.${name}`).join(', ')}${version}`,
    [JSON.stringify({ ...columns, ...added })],
  );
  const at = 'subject' in row && row.subject.of === 'resource' ? siteOf(row) : null;
  // Whoever has hours at a site has a lane there.
  if (at && 'subject' in row)
    await em.execute('insert into resource_site (resource_id, site_id) values (?, ?) on conflict do nothing', [
      row.subject.id,
      at,
    ]);
}

function siteOf(row: RowOf<'workingHours'> | RowOf<'dateChanges'>): string | null {
  return 'siteId' in row ? row.siteId : (row.hours?.siteId ?? null);
}
