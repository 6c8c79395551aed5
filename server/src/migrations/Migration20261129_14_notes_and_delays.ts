import { Migration } from '@mikro-orm/migrations';

/** Notes on a day; providers who run late, what holds for patients who come late; who has a visit open. */
export class Migration20261129_14_notes_and_delays extends Migration {
  override up(): void {
    this.addSql(`create table day_note (
      id uuid primary key,
      site_id uuid not null references site,
      resource_id uuid references resource,
      site_date date not null,
      from_minute smallint,
      to_minute smallint,
      text text not null constraint day_note_text_check check (char_length(text) between 1 and 200),
      written_by uuid not null references account,
      written_at timestamptz not null,
      removed_at timestamptz,
      version integer not null default 1,
      constraint day_note_minutes_in_order check ((from_minute is null) = (to_minute is null) and 0 <= from_minute and from_minute < to_minute and to_minute <= 1440)
    )`);
    this.addSql('create index day_note_of_day on day_note (site_date) where removed_at is null');

    this.addSql(`create table provider_delay (
      id uuid primary key,
      site_id uuid not null references site,
      resource_id uuid not null references resource,
      site_date date not null,
      minutes smallint not null constraint provider_delay_minutes_check check (minutes between 5 and 240),
      since timestamptz not null,
      said_by uuid not null references account,
      ended_at timestamptz,
      constraint provider_delay_in_order check (since <= ended_at)
    )`);
    // One word holds at a time, however many desks say one.
    this.addSql(
      'create unique index provider_delay_holds on provider_delay (site_date, resource_id, site_id) where ended_at is null',
    );

    this.addSql(`create table visit_looking (
      appointment_id uuid not null references appointment,
      account_id uuid not null references account,
      seen_at timestamptz not null,
      primary key (appointment_id, account_id)
    )`);

    this.addSql('alter table message drop constraint message_kind_check');
    this.addSql(
      `alter table message add constraint message_kind_check check (kind in ('confirmation','reminder','moved','must-move','cancellation','restored','requested','declined','reply','code','delay','on-time'))`,
    );

    this.addSql(
      'alter table clinic add column late_after_min smallint default 15 constraint clinic_late_after_min_check check (late_after_min between 5 and 120)',
    );
    this.addSql(
      `alter table clinic add column late_rule text not null default '' constraint clinic_late_rule_check check (char_length(late_rule) <= 300)`,
    );
  }
}
