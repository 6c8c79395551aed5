/** What every feature stands on: clock, accounts, sessions, limits, audit, events, undo. */
export const PLATFORM = [
  'create extension if not exists btree_gist',

  // The domain clock: real time plus this offset, always 0 outside the demo.
  `create table domain_clock (
    only_row boolean primary key default true check (only_row),
    offset_ms bigint not null default 0
  )`,
  'insert into domain_clock default values',

  // Someone who was invited has no password until they choose one; only the hash of the link's token is kept.
  `create table account (
    id uuid primary key,
    email text not null unique check (email = lower(email)),
    name text not null,
    role text not null check (role in ('manager','coordinator','front-desk','provider','read-only')),
    password_hash text,
    resource_id uuid,
    demo boolean not null default false,
    active boolean not null default true,
    invite_hash bytea unique,
    invite_until timestamptz,
    created_at timestamptz not null
  )`,

  // The table connect-pg-simple expects.
  `create table web_session (sid varchar primary key, sess json not null, expire timestamp(6) not null)`,
  'create index web_session_expire on web_session (expire)',

  `create table rate_limit (key text primary key, hits integer not null, resets_at timestamptz not null)`,

  // Wrong passwords are counted for an e-mail address, whether or not there is an account, and separately for each
  // device from which the account was signed in before: a stranger can't lock anyone out of their own account.
  `create table attempt (key bytea primary key, failures integer not null, locked_until timestamptz, at timestamptz not null)`,
  `create table known_device (
    token_hash bytea primary key,
    account_id uuid not null references account on delete cascade,
    since timestamptz not null,
    last_used_at timestamptz not null
  )`,
  'create index known_device_account on known_device (account_id)',

  `create table undo_entry (
    id uuid primary key,
    account_id uuid not null references account,
    command text not null,
    input jsonb not null,
    label jsonb not null,
    created_at timestamptz not null,
    expires_at timestamptz not null,
    undone_at timestamptz
  )`,
  'create index undo_entry_account on undo_entry (account_id, created_at desc)',

  // Append-only, by month. Writes carry before and after; reads of a person's record carry ids only.
  `create table audit_entry (
    id bigint generated always as identity,
    at timestamptz not null,
    kind text not null check (kind in ('write','read')),
    command text not null,
    actor_kind text not null check (actor_kind in ('staff','patient','system')),
    account_id uuid,
    request_id text not null,
    subjects jsonb not null,
    before jsonb,
    after jsonb,
    primary key (id, at)
  ) partition by range (at)`,
  'create table audit_entry_default partition of audit_entry default',
  // "Who saw and changed this record?" is asked by subject.
  'create index audit_entry_subjects on audit_entry using gin (subjects jsonb_path_ops)',
  `create function refuse_change() returns trigger language plpgsql as $$
    begin raise exception 'The audit is append-only.'; end $$`,
  'create trigger audit_entry_append_only before update or delete on audit_entry for each row execute function refuse_change()',
  'create trigger audit_entry_no_truncate before truncate on audit_entry for each statement execute function refuse_change()',

  `create table domain_event (
    id bigint generated always as identity,
    at timestamptz not null,
    type text not null,
    payload jsonb not null,
    relayed_at timestamptz,
    primary key (id, at)
  ) partition by range (at)`,
  'create table domain_event_default partition of domain_event default',
  'create index domain_event_waiting on domain_event (id) where relayed_at is null',
  'create table event_delivery (event_id bigint not null, subscriber text not null, primary key (event_id, subscriber))',

  // Makes the partitions of a month; called at start and daily, so that the default partitions stay empty.
  `create function ensure_month(day date) returns void language plpgsql as $$
    declare
      first date := date_trunc('month', day);
      parent text;
      part text;
    begin
      foreach parent in array array['audit_entry','domain_event'] loop
        part := parent || '_' || to_char(first, 'YYYY_MM');
        if to_regclass(part) is null then
          execute format('create table %I partition of %I for values from (%L) to (%L)', part, parent, first, first + interval '1 month');
        end if;
      end loop;
    end $$`,
];
