import { Migration } from '@mikro-orm/migrations';

/** E-mail beside text messages, receipts that come when they like, visits that move, and a proof of work before a hold. */
export class Migration20261123_06_mail extends Migration {
  override up(): void {
    // A number or an address, proved by a code.
    this.addSql('alter table phone_verification rename to contact_verification');
    this.addSql('alter table contact_verification rename column phone to contact');
    this.addSql('alter table self_booking alter column phone drop not null');
    this.addSql(
      'alter table self_booking add constraint self_booking_reachable check (num_nonnulls(phone, email) = 1)',
    );

    this.addSql('alter table message drop constraint message_channel_check, drop constraint message_kind_check');
    this.addSql(`alter table message add constraint message_channel_check check (channel in ('sms','email')),
      add constraint message_kind_check check (kind in ('confirmation','reminder','moved','cancellation','restored','reply','code'))`);
    // The dispatcher asks for the next one due, and whether an earlier one to the same contact still waits.
    this.addSql(`create index message_next on message (send_at, seq) where status = 'planned'`);
    this.addSql(`create index message_before on message (contact_point_id, send_at, seq) where status = 'planned'`);
    // What the carrier said last about it, by the carrier's own clock.
    this.addSql('alter table message add column receipt_at timestamptz');

    // A solved puzzle opens one hold; used ones are kept until they would have run out.
    this.addSql('create table spent_proof (signature text primary key, expires_at timestamptz not null)');

    this.addSql('alter table stand_in.carrier drop constraint carrier_mode_check');
    this.addSql(
      `alter table stand_in.carrier add constraint carrier_mode_check check (mode in ('works','down','refuses','late','muddled','unreachable','bounces'))`,
    );
    this.addSql(`insert into stand_in.carrier (channel) values ('email')`);
    this.addSql(`create table stand_in.mail (
      id text primary key, address text not null, subject text not null, body text not null, calendar text, raw bytea not null, at timestamptz not null, seq bigint generated always as identity
    )`);
    // What comes back: receipts of text messages, and mail to the clinic (answers and bounces).
    this.addSql(`create table stand_in.receipt (
      id bigint generated always as identity primary key, message_id text not null, state text not null, reason text, at timestamptz not null, due_at timestamptz not null, taken_at timestamptz
    )`);
    this.addSql(
      `create table stand_in.mail_back (id bigint generated always as identity primary key, raw bytea not null, address text not null, body text not null, at timestamptz not null, taken_at timestamptz)`,
    );
  }
}
