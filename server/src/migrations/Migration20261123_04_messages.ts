import { Migration } from '@mikro-orm/migrations';

/** The one outbox, the patient's links, and the stores of the simulated carriers. */
export class Migration20261123_04_messages extends Migration {
  override up(): void {
    // A number is verified for one browser; times are real time. The code itself is stored nowhere.
    this.addSql(`create table phone_verification (
      id uuid primary key, browser_hash bytea not null, phone text not null, sends smallint not null default 0, wrong_tries smallint not null default 0,
      sent_at timestamptz, verified_at timestamptz, locked_until timestamptz, unique (browser_hash, phone)
    )`);
    this.addSql('create index phone_verification_phone on phone_verification (phone, sent_at)');

    // A plan and its fate in one row: planned, then handed to a carrier, or dropped with the rule that dropped it.
    this.addSql(`create table message (
      id uuid primary key, appointment_id uuid references appointment, contact_point_id uuid references contact_point,
      channel text not null check (channel in ('sms')), kind text not null check (kind in ('confirmation','reminder','cancellation','restored','reply','code')),
      step text, language text not null check (language in ('en','es')), body text not null default '',
      send_at timestamptz not null, not_after timestamptz not null,
      status text not null check (status in ('planned','sent','delivered','failed','withdrawn','dropped')),
      dropped_code text, fail_reason text, attempts integer not null default 0, next_attempt_at timestamptz not null,
      sent_at timestamptz, settled_at timestamptz, handled_at timestamptz, handled_by uuid references account, verification_id uuid references phone_verification, created_at timestamptz not null, seq bigint generated always as identity,
      check ((status = 'dropped') = (dropped_code is not null)), check (status in ('dropped','withdrawn') or contact_point_id is not null)
    )`);
    this.addSql(`create index message_due on message (next_attempt_at) where status = 'planned'`);
    this.addSql('create index message_appointment on message (appointment_id)');
    this.addSql('create index message_contact on message (contact_point_id, seq)');

    // Many uses, until the visit's end + 24 h. Only the token's hash is kept; the token is made again from the id when it is needed.
    this.addSql(`create table visit_link (
      id uuid primary key, appointment_id uuid not null unique references appointment, token_hash bytea not null unique,
      expires_at timestamptz not null, wrong_tries smallint not null default 0, locked_until timestamptz
    )`);

    this.addSql(`create table inbox_message (
      id uuid primary key, contact_point_id uuid references contact_point, channel text not null, body text not null, meaning text not null check (meaning in ('confirm','stop','other')),
      appointment_id uuid references appointment, received_at timestamptz not null, handled_at timestamptz, handled_by uuid references account
    )`);

    // "Who saw and changed this record?" is asked by subject.
    this.addSql('create index audit_entry_subjects on audit_entry using gin (subjects jsonb_path_ops)');

    // Outside systems, played by us: each keeps its own store and discards a repeated id.
    this.addSql('create schema stand_in');
    this.addSql(
      `create table stand_in.carrier (channel text primary key, mode text not null default 'works' check (mode in ('works','down','refuses')))`,
    );
    this.addSql(`insert into stand_in.carrier (channel) values ('sms')`);
    this.addSql(`create table stand_in.sms (
      id text primary key, direction text not null check (direction in ('to-patient','from-patient')), number text not null, body text not null, at timestamptz not null, seq bigint generated always as identity
    )`);
  }
}
