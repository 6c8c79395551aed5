/** Whatever the openings search plans by. A change of a row is told as a whole: it is rare. */
const PLAN_TABLES = [
  ...['site', 'site_hours', 'closure', 'site_travel'],
  ...['resource', 'provider', 'resource_site', 'pool', 'pool_member'],
  ...['visit_type', 'visit_type_part', 'visit_type_need', 'visit_type_provider', 'visit_type_site'],
  ...['visit_type_spacing', 'visit_type_link', 'online_policy', 'booking_cap', 'payer', 'payer_rule'],
  ...['working_hours', 'working_hours_change', 'time_off', 'kept_free', 'brush_stroke'],
];

/** Visits and holds come and go all day: each is told by its id. */
const VISIT_TABLES = ['appointment', 'hold', 'occupancy'];

function visitTriggers(table: string): string[] {
  const note = table === 'occupancy' ? 'note_occupancy_change' : 'note_visit_change';
  const on = (event: string, rows: 'new' | 'old', name: string) =>
    `create trigger ${table}_${name} after ${event} on ${table} referencing ${rows} table as changed for each statement execute function ${note}()`;
  return [
    on('insert', 'new', 'noted_insert'),
    on('update', 'new', 'noted_update'),
    on('delete', 'old', 'noted_delete'),
    // A row may pass from a hold to its visit: both are told.
    ...(table === 'occupancy' ? [on('update', 'old', 'noted_passed')] : []),
  ];
}

/**
 * What changed, for processes that keep the clinic in memory: written by triggers with the change itself, so that no
 * program can forget it. A reader keeps the snapshot it read under and asks for what was not visible in it.
 */
export const CHANGES = [
  `create table openings_change (
    seq bigint generated always as identity primary key,
    xid xid8 not null default pg_current_xact_id(),
    kind text not null check (kind in ('plan','visit')),
    ref uuid,
    at timestamptz not null default clock_timestamp(),
    constraint openings_change_names_the_visit check ((kind = 'visit') = (ref is not null))
  )`,
  'create index openings_change_xid on openings_change (xid)',
  `create function note_plan_change() returns trigger language plpgsql as $$
    begin insert into openings_change (kind) values ('plan'); return null; end $$`,
  `create function note_visit_change() returns trigger language plpgsql as $$
    begin insert into openings_change (kind, ref) select distinct 'visit', id from changed; return null; end $$`,
  `create function note_occupancy_change() returns trigger language plpgsql as $$
    begin insert into openings_change (kind, ref) select distinct 'visit', coalesce(appointment_id, hold_id, import_id) from changed; return null; end $$`,
  ...PLAN_TABLES.map(
    (table) =>
      `create trigger ${table}_noted after insert or update or delete on ${table} for each statement execute function note_plan_change()`,
  ),
  ...VISIT_TABLES.flatMap(visitTriggers),
  // Emptied at once is told as a change of everything.
  ...[...PLAN_TABLES, ...VISIT_TABLES].map(
    (table) =>
      `create trigger ${table}_noted_truncate after truncate on ${table} for each statement execute function note_plan_change()`,
  ),
];
