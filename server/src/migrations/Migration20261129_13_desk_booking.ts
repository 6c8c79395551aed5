import { Migration } from '@mikro-orm/migrations';

/** Booking at the desk: a visit's own parts, groups, holds of an account, overrides, requests, visits without a time, wishes. */
export class Migration20261129_13_desk_booking extends Migration {
  override up(): void {
    this.addSql(`create table booking_request (
      id uuid primary key,
      patient_id uuid not null references patient,
      visit_type_id uuid not null references visit_type,
      site_id uuid references site,
      provider_id uuid references resource,
      from_date date not null,
      due_date date not null,
      reason text not null default '' constraint booking_request_reason_check check (char_length(reason) <= 500),
      urgency text not null constraint booking_request_urgency_check check (urgency in ('routine','urgent','asap','stat')),
      state text not null constraint booking_request_state_check check (state in ('open','booked','completed','withdrawn')),
      appointment_id uuid references appointment,
      asked_by uuid not null references account,
      asked_at timestamptz not null,
      ended_at timestamptz,
      withdrawn_because text,
      version integer not null default 1,
      constraint booking_request_dates_in_order check (from_date <= due_date),
      constraint booking_request_booked_whole check (state <> 'booked' or appointment_id is not null),
      constraint booking_request_ended_whole check ((state in ('completed','withdrawn')) = (ended_at is not null)),
      constraint booking_request_withdrawn_whole check ((state = 'withdrawn') = (withdrawn_because is not null))
    )`);
    this.addSql("create index booking_request_due on booking_request (due_date) where state = 'open'");
    this.addSql('create index booking_request_of on booking_request (patient_id)');
    this.addSql(
      'create index booking_request_visit on booking_request (appointment_id) where appointment_id is not null',
    );

    this.addSql('alter table appointment drop column series_id');
    this.addSql('alter table appointment add column parts jsonb');
    this.addSql(
      `alter table appointment add column rules_waived text[] constraint appointment_rules_waived_check check (cardinality(rules_waived) > 0)`,
    );
    this.addSql('alter table appointment add column group_id uuid');
    this.addSql(
      `alter table appointment add column group_kind text constraint appointment_group_kind_check check (group_kind in ('household','series','linked'))`,
    );
    this.addSql('alter table appointment add column group_position smallint');
    this.addSql(
      'alter table appointment add constraint appointment_group_whole check (num_nonnulls(group_id, group_kind, group_position) in (0, 3))',
    );
    this.addSql('create index appointment_group on appointment (group_id) where group_id is not null');

    // A hold is a browser's, or an account's that books at the desk; of the latter, several belong to one booking.
    this.addSql('alter table hold alter column browser_hash drop not null');
    this.addSql('alter table hold add column account_id uuid references account');
    this.addSql('alter table hold add column flow_id uuid');
    this.addSql('alter table hold add column patient_id uuid references patient');
    this.addSql('alter table hold add column parts jsonb');
    this.addSql(
      'alter table hold add constraint hold_one_holder check (num_nonnulls(browser_hash, account_id) = 1 and (account_id is null) = (flow_id is null))',
    );
    this.addSql('create index hold_flow on hold (flow_id) where flow_id is not null');

    this.addSql(
      'alter table booking_override add column rules text[] not null constraint booking_override_rules_check check (cardinality(rules) > 0)',
    );
    this.addSql('create index booking_override_of on booking_override (appointment_id)');

    // The same call twice books once.
    this.addSql(`create table desk_booking (
      key uuid primary key,
      account_id uuid not null references account,
      content_hash bytea not null,
      appointment_ids uuid[] not null,
      undo_id uuid not null,
      at timestamptz not null
    )`);
    this.addSql('create index desk_booking_at on desk_booking (at)');

    this.addSql(`create table unplaced_visit (
      id uuid primary key,
      patient_id uuid not null references patient,
      visit_type_id uuid not null references visit_type,
      appointment_id uuid references appointment,
      parts jsonb,
      site_id uuid references site,
      provider_id uuid references resource,
      group_id uuid,
      request_id uuid references booking_request,
      owner_id uuid references account,
      reason_text text not null default '' constraint unplaced_visit_reason_text_check check (char_length(reason_text) <= 500),
      note text not null default '' constraint unplaced_visit_note_check check (char_length(note) <= 500),
      since timestamptz not null,
      added_by uuid not null references account,
      ended_at timestamptz,
      ended_how text constraint unplaced_visit_ended_how_check check (ended_how in ('booked','withdrawn')),
      version integer not null default 1,
      constraint unplaced_visit_ended_whole check ((ended_at is null) = (ended_how is null))
    )`);
    this.addSql('create index unplaced_visit_open on unplaced_visit (since) where ended_at is null');
    this.addSql('create index unplaced_visit_of on unplaced_visit (patient_id)');
    this.addSql(
      'create unique index unplaced_visit_of_appointment on unplaced_visit (appointment_id) where ended_at is null',
    );

    this.addSql(`create table waitlist_wish (
      id uuid primary key,
      patient_id uuid not null references patient,
      appointment_id uuid references appointment,
      visit_type_id uuid not null references visit_type,
      weekdays smallint[],
      from_minute smallint not null default 0,
      to_minute smallint not null default 1440,
      site_ids uuid[],
      provider_ids uuid[],
      from_date date,
      until_date date,
      notice_min integer not null default 0 constraint waitlist_wish_notice_min_check check (notice_min between 0 and 20160),
      created_by uuid not null references account,
      created_at timestamptz not null,
      ended_at timestamptz,
      constraint waitlist_wish_minutes_in_order check (0 <= from_minute and from_minute < to_minute and to_minute <= 1440),
      constraint waitlist_wish_dates_in_order check (from_date <= until_date),
      constraint waitlist_wish_weekdays_check check (weekdays is null or (cardinality(weekdays) > 0 and weekdays <@ array[1,2,3,4,5,6,7]::smallint[]))
    )`);
    this.addSql('create index waitlist_wish_open on waitlist_wish (patient_id) where ended_at is null');
    this.addSql(
      'create unique index waitlist_wish_of_appointment on waitlist_wish (appointment_id) where ended_at is null',
    );
  }
}
