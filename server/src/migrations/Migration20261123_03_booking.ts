import { Migration } from '@mikro-orm/migrations';

/** Patients, visits, holds, and what the database forbids about them. */
export class Migration20261123_03_booking extends Migration {
  override up(): void {
    this.patients();
    this.appointments();
    this.occupancy();
  }

  private patients(): void {
    this.addSql('create table household (id uuid primary key, name text not null)');
    this.addSql(`create table patient (
      id uuid primary key, record_number text not null unique, given_name text not null default '', family_name text not null default '', preferred_name text,
      birth_date date not null, sex text check (sex in ('female','male','other','unknown')), language text not null default 'en' check (language in ('en','es')),
      status text not null default 'active' check (status in ('new','active','inactive','deceased','archived')), restricted boolean not null default false,
      household_id uuid references household, version integer not null default 1, created_at timestamptz not null,
      check (given_name <> '' or family_name <> '')
    )`);
    this.addSql(
      'create index patient_family_prefix on patient (lower(family_name) text_pattern_ops, lower(given_name), birth_date)',
    );
    this.addSql('create index patient_birth_date on patient (birth_date)');

    // One row per number or address, whoever shares it: an opt-out belongs to the number.
    this.addSql(`create table contact_point (
      id uuid primary key, kind text not null check (kind in ('phone','email')), value text not null, unique (kind, value)
    )`);
    this.addSql(`create table patient_contact (
      patient_id uuid not null references patient, contact_point_id uuid not null references contact_point, use text not null default 'mobile',
      rank smallint not null default 1, primary key (patient_id, contact_point_id)
    )`);
    this.addSql(`create table contact_ledger (
      id uuid primary key, contact_point_id uuid not null references contact_point, patient_id uuid references patient,
      event text not null check (event in ('verified','consented','revoked','wrong-number')), purpose text not null,
      wording text, wording_version text, how text not null, at timestamptz not null
    )`);
    this.addSql('create index contact_ledger_point on contact_ledger (contact_point_id, at)');
    // A household gives no rights; these dated relationships do.
    this.addSql(`create table relationship (
      id uuid primary key, patient_id uuid not null references patient, related_patient_id uuid references patient, related_name text,
      kind text not null, may_book boolean not null default false, may_sign boolean not null default false,
      may_receive boolean not null default false, may_see boolean not null default false,
      from_date date not null, until_date date, check (related_patient_id is not null or related_name is not null), check (until_date >= from_date)
    )`);
  }

  private appointments(): void {
    this.addSql(`create table appointment (
      id uuid primary key, site_id uuid not null references site, visit_type_id uuid not null references visit_type, provider_id uuid references resource,
      patient_id uuid references patient, patient_kind text not null check (patient_kind in ('new','established')),
      status text not null check (status in ('proposed','pending','booked','arrived','checked-in','fulfilled','cancelled','noshow','waitlist','entered-in-error')),
      identity text not null check (identity in ('sure','unknown')), approval text not null default 'not-needed' check (approval in ('not-needed','waiting','approved','declined')),
      origin text not null check (origin in ('desk','self','invitation','waitlist','import')),
      starts_at timestamptz not null, ends_at timestamptz not null, provider_starts_at timestamptz not null, provider_ends_at timestamptz not null,
      before_min smallint not null, after_min smallint not null, site_date date not null,
      reason_id uuid references visit_reason, reason_text text not null default '', staff_note text not null default '',
      confirmed_at timestamptz, arrived_at timestamptz, checked_in_at timestamptz, fulfilled_at timestamptz, noshow_at timestamptz, cancelled_at timestamptz,
      cancel_reason text, cancel_note text, series_id uuid, ical_sequence integer not null default 0, version integer not null default 1,
      created_at timestamptz not null, created_by uuid references account,
      check (starts_at < ends_at), check ((status = 'cancelled') = (cancelled_at is not null)), check (status <> 'cancelled' or cancel_reason is not null),
      check (identity = 'unknown' or patient_id is not null)
    )`);
    this.addSql('create index appointment_site_date on appointment (site_id, site_date)');
    this.addSql('create index appointment_provider on appointment (provider_id, starts_at)');
    this.addSql('create index appointment_patient on appointment (patient_id, starts_at)');
    // Who booked for themselves, in their own words, until it is known who they are.
    this.addSql(`create table self_booking (
      appointment_id uuid primary key references appointment, given_name text not null default '', family_name text not null default '', birth_date date not null,
      phone text not null, email text, language text not null check (language in ('en','es')), kind_claimed text not null,
      hold_id uuid not null unique, browser_hash bytea not null, content_hash bytea not null, booked_at timestamptz not null,
      check (given_name <> '' or family_name <> '')
    )`);
    this.addSql(`create table hold (
      id uuid primary key, browser_hash bytea not null unique, site_id uuid not null references site, visit_type_id uuid not null references visit_type,
      provider_id uuid references resource, patient_kind text not null, starts_at timestamptz not null, ends_at timestamptz not null,
      provider_starts_at timestamptz not null, provider_ends_at timestamptz not null, before_min smallint not null, after_min smallint not null,
      site_date date not null, expires_at timestamptz not null, extended boolean not null default false, created_at timestamptz not null
    )`);
    this.addSql('create index hold_expiry on hold (expires_at)');
    this.addSql('create index hold_site_date on hold (site_id, site_date)');
    this.addSql(`create table booking_override (
      id uuid primary key, appointment_id uuid not null references appointment, account_id uuid not null references account, reason text not null check (reason <> ''), at timestamptz not null
    )`);
  }

  private occupancy(): void {
    // One row per stretch in which a visit, a hold or an imported busy time takes one place of a resource.
    this.addSql(`create table occupancy (
      id bigint generated always as identity primary key, resource_id uuid not null references resource, place smallint not null check (place >= 0), places smallint not null check (places >= 1),
      during tstzrange not null check (not isempty(during) and lower_inc(during) and not upper_inc(during)),
      appointment_id uuid references appointment, hold_id uuid references hold on delete cascade, import_id uuid, part smallint not null default 0, need_key text not null default '',
      single_device boolean not null default false, override_id uuid references booking_override,
      check (num_nonnulls(appointment_id, hold_id, import_id) = 1),
      constraint occupancy_within_places check (place < places or (override_id is not null and not single_device)),
      constraint occupancy_no_double_booking exclude using gist (resource_id with =, place with =, during with &&)
    )`);
    this.addSql('create index occupancy_appointment on occupancy (appointment_id)');
    this.addSql('create index occupancy_hold on occupancy (hold_id)');
    this.addSql('create index occupancy_start on occupancy (lower(during))');
  }
}
