import { ACCEPTS, MINUTES, RULE, SPAN } from './columns.ts';

/** Whose hours: a resource's or a pool's. */
const SUBJECT = (table: string) => `
    resource_id uuid references resource,
    pool_id uuid references pool,
    constraint ${table}_one_subject check (num_nonnulls(resource_id, pool_id) = 1)`;

/** The schedule: working hours and their changes, time off, kept-free times, the brush, drafts, calendar feeds. */
export const SCHEDULE = [
  `create table working_hours (
    id uuid primary key,
    ${SUBJECT('working_hours')},
    site_id uuid not null references site,
    ${RULE},
    ${MINUTES('working_hours')},
    ${ACCEPTS},
    follows_site_hours boolean not null default false,
    preferred_room_ids uuid[] not null default '{}',
    release_before_min integer check (release_before_min >= 0),
    release_type_ids uuid[],
    release_kinds text[],
    release_invited_only boolean not null default false,
    release_online boolean not null default true,
    caps jsonb not null default '[]',
    version integer not null default 1,
    created_at timestamptz not null,
    created_by uuid references account
  )`,
  'create index working_hours_resource on working_hours (resource_id)',
  // Single-date changes, keyed by (hours, original date); without hours: extra hours. The key is checked at commit,
  // because a date's change may follow hours that are split in the same transaction.
  `create table working_hours_change (
    id uuid primary key,
    ${SUBJECT('working_hours_change')},
    working_hours_id uuid constraint working_hours_change_working_hours_id_fkey references working_hours deferrable initially deferred,
    date date not null,
    cancelled boolean not null default false,
    site_id uuid references site,
    from_minute smallint,
    to_minute smallint,
    ${ACCEPTS},
    unique (working_hours_id, date),
    constraint working_hours_change_whole check (
      cancelled or (site_id is not null and from_minute between 0 and 1435 and to_minute between 5 and 1440
        and from_minute < to_minute and from_minute % 5 = 0 and to_minute % 5 = 0)
    ),
    constraint working_hours_change_cancels_hours check (not cancelled or working_hours_id is not null)
  )`,
  `create table time_off (
    id uuid primary key,
    resource_id uuid not null references resource,
    site_id uuid references site,
    ${SPAN('time_off')},
    reason text not null default '',
    status text not null default 'approved' check (status in ('requested','approved','declined')),
    requested_at timestamptz,
    requested_by uuid references account,
    decided_at timestamptz,
    decided_by uuid references account,
    answer text not null default '' check (length(answer) <= 200),
    cover_id uuid references resource,
    constraint time_off_cover_other check (cover_id is null or cover_id <> resource_id)
  )`,
  "create index time_off_requested on time_off (start_date) where status = 'requested'",
  `create table kept_free (
    id uuid primary key,
    resource_id uuid not null references resource,
    site_id uuid references site,
    ${RULE},
    ${MINUTES('kept_free')},
    note text not null default ''
  )`,
  `create table brush_stroke (
    id uuid primary key,
    painted bigint generated always as identity,
    resource_id uuid not null references resource,
    site_id uuid not null references site,
    date date not null,
    ${MINUTES('brush_stroke')},
    value text not null check (value in ('shown','desk-only','by-rule'))
  )`,
  'create index brush_stroke_date on brush_stroke (date, resource_id)',

  // Schedules that are planned and not in force.
  `create table schedule_draft (
    id uuid primary key,
    name text not null check (length(trim(name)) between 1 and 80),
    edits jsonb not null default '[]',
    version integer not null default 1,
    created_at timestamptz not null,
    created_by uuid not null references account,
    published_at timestamptz,
    published_by uuid references account
  )`,

  // Private addresses under which a calendar program follows a schedule. Only the token's hash is kept.
  `create table calendar_feed (
    id uuid primary key,
    resource_id uuid not null references resource,
    token_hash bytea not null unique,
    detailed boolean not null,
    created_at timestamptz not null,
    created_by uuid not null references account,
    last_read_at timestamptz,
    revoked_at timestamptz
  )`,
  'create index calendar_feed_resource on calendar_feed (resource_id) where revoked_at is null',
];
