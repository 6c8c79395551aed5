import { Migration } from '@mikro-orm/migrations';

/** What every feature stands on: clock, accounts, sessions, limits, audit, events, undo. */
export class Migration20261123_01_platform extends Migration {
  override up(): void {
    this.addSql('create extension if not exists btree_gist');

    // The domain clock: real time plus this offset, always 0 outside the demo.
    this.addSql(`create table domain_clock (
      only_row boolean primary key default true check (only_row),
      offset_ms bigint not null default 0
    )`);
    this.addSql('insert into domain_clock default values');

    this.addSql(`create table account (
      id uuid primary key,
      email text not null check (email = lower(email)),
      name text not null,
      role text not null check (role in ('manager','coordinator','front-desk','provider','read-only')),
      password_hash text not null,
      resource_id uuid,
      demo boolean not null default false,
      active boolean not null default true,
      failed_sign_ins integer not null default 0,
      locked_until timestamptz,
      created_at timestamptz not null
    )`);
    this.addSql('create unique index account_email_unique on account (email)');

    // The table connect-pg-simple expects.
    this.addSql(`create table web_session (
      sid varchar primary key,
      sess json not null,
      expire timestamp(6) not null
    )`);
    this.addSql('create index web_session_expire on web_session (expire)');

    this.addSql(`create table rate_limit (
      key text primary key,
      hits integer not null,
      resets_at timestamptz not null
    )`);

    this.addSql(`create table undo_entry (
      id uuid primary key,
      account_id uuid not null references account,
      command text not null,
      input jsonb not null,
      label jsonb not null,
      created_at timestamptz not null,
      expires_at timestamptz not null,
      undone_at timestamptz
    )`);
    this.addSql('create index undo_entry_account on undo_entry (account_id, created_at desc)');

    // Append-only, by month. Writes carry before and after; reads of a person's record carry ids only.
    this.addSql(`create table audit_entry (
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
    ) partition by range (at)`);
    this.addSql('create table audit_entry_default partition of audit_entry default');
    this.addSql(`create function refuse_change() returns trigger language plpgsql as $$
      begin raise exception 'The audit is append-only.'; end $$`);
    this.addSql(
      'create trigger audit_entry_append_only before update or delete on audit_entry for each row execute function refuse_change()',
    );
    this.addSql(
      'create trigger audit_entry_no_truncate before truncate on audit_entry for each statement execute function refuse_change()',
    );

    this.addSql(`create table domain_event (
      id bigint generated always as identity,
      at timestamptz not null,
      type text not null,
      payload jsonb not null,
      relayed_at timestamptz,
      primary key (id, at)
    ) partition by range (at)`);
    this.addSql('create table domain_event_default partition of domain_event default');
    this.addSql('create index domain_event_waiting on domain_event (id) where relayed_at is null');
    this.addSql(`create table event_delivery (
      event_id bigint not null,
      subscriber text not null,
      primary key (event_id, subscriber)
    )`);

    // Makes the partitions of a month; called at start and daily, so that the default partitions stay empty.
    this.addSql(`create function ensure_month(day date) returns void language plpgsql as $$
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
      end $$`);
  }
}
