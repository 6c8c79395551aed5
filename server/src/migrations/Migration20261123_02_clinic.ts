import { Migration } from '@mikro-orm/migrations';

const RULE = `
      weekdays smallint[] not null check (cardinality(weekdays) between 1 and 7 and weekdays <@ array[1,2,3,4,5,6,7]::smallint[]),
      every_weeks smallint not null default 1 check (every_weeks between 1 and 52),
      anchor_date date not null,
      effective_from date not null,
      effective_until date check (effective_until >= effective_from)`;

/** Wall-clock stretch of one day in multiples of five minutes; hours across midnight are two stretches. */
const STRETCH = `
      from_minute smallint not null check (from_minute between 0 and 1435 and from_minute % 5 = 0),
      to_minute smallint not null check (to_minute between 5 and 1440 and to_minute % 5 = 0),
      check (from_minute < to_minute)`;

const SPAN = `
      start_date date not null,
      start_minute smallint not null default 0 check (start_minute between 0 and 1435 and start_minute % 5 = 0),
      end_date date not null,
      end_minute smallint not null default 1440 check (end_minute between 0 and 1440 and end_minute % 5 = 0),
      check ((start_date, start_minute) < (end_date, end_minute))`;

const ACCEPTS = `
      accepts_type_ids uuid[],
      accepts_kinds text[] check (accepts_kinds <@ array['new','established']),
      invited_only boolean not null default false,
      online boolean not null default false,
      places smallint not null default 1 check (places between 1 and 50)`;

/** The clinic as it is set up: sites, resources, pools, visit types, policies, working hours. */
export class Migration20261123_02_clinic extends Migration {
  override up(): void {
    this.sites();
    this.resources();
    this.visitTypes();
    this.online();
    this.availability();
  }

  private sites(): void {
    this.addSql(`create table clinic (
      only_row boolean primary key default true check (only_row),
      name text not null, phone text not null, base_unit_min smallint not null default 5 check (base_unit_min in (5, 10, 15))
    )`);
    this.addSql(`create table site (
      id uuid primary key, code text not null unique, name text not null, public_name text not null,
      address_line text not null, city text not null, region text not null, postal_code text not null,
      phone text not null, email text, time_zone text not null, latitude double precision, longitude double precision,
      directions_en text not null default '', directions_es text not null default '',
      bookable_online boolean not null default true, sort_order smallint not null default 0
    )`);
    this.addSql(
      `create table site_hours (id uuid primary key, site_id uuid not null references site, ${RULE}, ${STRETCH})`,
    );
    this.addSql(
      `create table closure (id uuid primary key, site_id uuid not null references site, ${SPAN}, reason text not null default '')`,
    );
    this.addSql(`create table site_travel (
      from_site_id uuid not null references site, to_site_id uuid not null references site,
      minutes smallint not null check (minutes between 0 and 1440), primary key (from_site_id, to_site_id)
    )`);
    this.addSql(
      `create table account_site (account_id uuid not null references account, site_id uuid not null references site, primary key (account_id, site_id))`,
    );
  }

  private resources(): void {
    this.addSql(`create table resource (
      id uuid primary key, kind text not null check (kind in ('provider','staff','room','equipment')),
      name text not null, short_name text not null, home_site_id uuid references site,
      capabilities text[] not null default '{}', bookable_online boolean not null default true,
      shown_in_daybook boolean not null default true, left_out_of_messages boolean not null default false,
      single_device boolean not null default false, sort_order smallint not null default 0, active boolean not null default true
    )`);
    this.addSql(`alter table account add constraint account_resource foreign key (resource_id) references resource`);
    this.addSql(`create table provider (
      resource_id uuid primary key references resource, credentials text not null, specialty text not null default '',
      npi text check (npi ~ '^[0-9]{10}$'), licence text, languages text[] not null default '{en}', accepts_new boolean not null default true,
      bio_en text not null default '', bio_es text not null default '', home_room_id uuid references resource
    )`);
    this.addSql(
      `create table resource_site (resource_id uuid not null references resource, site_id uuid not null references site, primary key (resource_id, site_id))`,
    );
    this.addSql(`create table pool (
      id uuid primary key, site_id uuid not null references site, kind text not null, name text not null,
      shown_in_daybook boolean not null default true, sort_order smallint not null default 0, unique (site_id, kind)
    )`);
    this.addSql(`create table pool_member (
      pool_id uuid not null references pool, resource_id uuid not null references resource, number smallint not null default 1,
      primary key (pool_id, resource_id)
    )`);
  }

  private visitTypes(): void {
    this.addSql(`create table visit_type (
      id uuid primary key, code text not null unique, name text not null, public_name_en text not null, public_name_es text not null,
      description_en text not null default '', description_es text not null default '', colour text not null default 'clay',
      mode text not null default 'in-person' check (mode in ('in-person','video','phone')),
      before_min smallint not null default 0 check (before_min between 0 and 240 and before_min % 5 = 0),
      after_min smallint not null default 0 check (after_min between 0 and 240 and after_min % 5 = 0),
      active boolean not null default true, sort_order smallint not null default 0
    )`);
    this.addSql(`create table visit_type_part (
      id uuid primary key, visit_type_id uuid not null references visit_type, position smallint not null, name text not null default '',
      length_min smallint not null check (length_min between 5 and 720 and length_min % 5 = 0), unique (visit_type_id, position)
    )`);
    this.addSql(`create table visit_type_need (
      id uuid primary key, visit_type_id uuid not null references visit_type, part_id uuid not null references visit_type_part, key text not null,
      what text not null check (what in ('provider','resource','pool','present')),
      resource_id uuid references resource, pool_kind text, capability text,
      same_as text, different_from text, turnaround_min smallint not null default 0 check (turnaround_min between 0 and 120 and turnaround_min % 5 = 0),
      unique (visit_type_id, key),
      check ((what = 'resource') = (resource_id is not null) and (what = 'pool') = (pool_kind is not null) and (what = 'present') = (capability is not null)),
      foreign key (visit_type_id, same_as) references visit_type_need (visit_type_id, key),
      foreign key (visit_type_id, different_from) references visit_type_need (visit_type_id, key)
    )`);
    for (const [table, target, column] of [
      ['visit_type_provider', 'resource', 'provider_id'],
      ['visit_type_site', 'site', 'site_id'],
    ]) {
      // No row at all: any.
      this.addSql(
        `create table ${table} (visit_type_id uuid not null references visit_type, ${column} uuid not null references ${target}, primary key (visit_type_id, ${column}))`,
      );
    }
    this.addSql(`create table visit_type_spacing (
      visit_type_id uuid not null references visit_type, other_type_id uuid not null references visit_type,
      least_days smallint, most_days smallint, primary key (visit_type_id, other_type_id), check (least_days is not null or most_days is not null)
    )`);
    this.addSql(`create table visit_type_link (
      visit_type_id uuid not null references visit_type, follow_type_id uuid not null references visit_type,
      offset_min integer not null check (offset_min > 0), primary key (visit_type_id, offset_min)
    )`);
    this.addSql(`create table visit_reason (
      id uuid primary key, visit_type_id uuid references visit_type, label_en text not null, label_es text not null, sort_order smallint not null default 0
    )`);
  }

  private online(): void {
    this.addSql(`create table online_policy (
      id uuid primary key, visit_type_id uuid not null references visit_type, site_id uuid references site, provider_id uuid references resource,
      offered boolean, kinds text[] check (kinds <@ array['new','established']),
      lead_min integer check (lead_min >= 0), lead_working_days smallint check (lead_working_days >= 1), lead_by_minute smallint check (lead_by_minute between 0 and 1435),
      window_days smallint check (window_days between 0 and 730), grid_min smallint check (grid_min in (5, 10, 15, 20, 30, 60)),
      approval text check (approval in ('none','new','all')), show_length boolean, show_photo boolean,
      unique nulls not distinct (visit_type_id, site_id, provider_id), check ((lead_working_days is null) = (lead_by_minute is null))
    )`);
    this.addSql(`create table booking_cap (
      id uuid primary key, bucket text not null check (bucket in ('provider-day','provider-type-day','site-type-day','provider-self-day')),
      provider_id uuid references resource, site_id uuid references site, visit_type_id uuid references visit_type, most smallint not null check (most >= 0)
    )`);
  }

  private availability(): void {
    const subject =
      'resource_id uuid references resource, pool_id uuid references pool, check (num_nonnulls(resource_id, pool_id) = 1)';
    this.addSql(`create table working_hours (
      id uuid primary key, ${subject}, site_id uuid not null references site, ${RULE}, ${STRETCH}, ${ACCEPTS},
      follows_site_hours boolean not null default false, preferred_room_ids uuid[] not null default '{}',
      release_before_min integer check (release_before_min >= 0), release_type_ids uuid[], release_kinds text[],
      release_invited_only boolean not null default false, release_online boolean not null default true,
      caps jsonb not null default '[]', version integer not null default 1, created_at timestamptz not null, created_by uuid references account
    )`);
    this.addSql('create index working_hours_resource on working_hours (resource_id)');
    // Single-date changes, keyed by (hours, original date). Without hours: an extra stretch.
    this.addSql(`create table working_hours_change (
      id uuid primary key, ${subject}, working_hours_id uuid references working_hours, date date not null,
      cancelled boolean not null default false, site_id uuid references site, from_minute smallint, to_minute smallint, ${ACCEPTS},
      unique (working_hours_id, date),
      check (cancelled or (site_id is not null and from_minute between 0 and 1435 and to_minute between 5 and 1440 and from_minute < to_minute and from_minute % 5 = 0 and to_minute % 5 = 0)),
      check (not cancelled or working_hours_id is not null)
    )`);
    this.addSql(`create table time_off (
      id uuid primary key, resource_id uuid not null references resource, site_id uuid references site, ${SPAN},
      reason text not null default '', status text not null default 'approved' check (status in ('asked','approved','declined'))
    )`);
    this.addSql(
      `create table kept_free (id uuid primary key, resource_id uuid not null references resource, site_id uuid references site, ${RULE}, ${STRETCH}, note text not null default '')`,
    );
    this.addSql(`create table brush_stroke (
      id uuid primary key, painted bigint generated always as identity, resource_id uuid not null references resource, site_id uuid not null references site,
      date date not null, ${STRETCH}, value text not null check (value in ('shown','desk-only','by-rule'))
    )`);
    this.addSql('create index brush_stroke_date on brush_stroke (date, resource_id)');
  }
}
