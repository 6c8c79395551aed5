import { Migration } from '@mikro-orm/migrations';

/** What must not be lost, and what keeps misuse small. */
export class Migration20261129_15_safety extends Migration {
  override up(): void {
    this.redFlags();
    this.handOver();
    this.birthDates();
    this.signIn();
    this.holds();
    this.slowCarrier();
    this.approval();
  }

  /** A message is claimed with a lease; quiet hours are asked again when it is handed over. */
  private handOver(): void {
    this.addSql(`alter table message add column lease uuid, add column lease_until timestamptz, add column held_code text,
      add column answers_patient boolean not null default false, add column comes_at timestamptz,
      add constraint message_lease_whole check ((lease is null) = (lease_until is null)),
      add constraint message_lease_planned check (lease is null or status = 'planned')`);
    // The next one of a channel, and what waits before it for the same number, without sorting all that waits.
    this.addSql('drop index message_due');
    this.addSql(`create index message_queue on message (channel, send_at, seq) where status = 'planned'`);
    this.addSql(
      `create index message_queue_of_contact on message (contact_point_id, send_at, seq) where status = 'planned'`,
    );
    this.addSql(
      `alter table clinic add column urgent_at_night text not null default 'send' check (urgent_at_night in ('send','call')),
        add column text_countries text[] not null default '{US}' check (cardinality(text_countries) > 0), add column codes_per_day integer not null default 500 check (codes_per_day >= 10)`,
    );
  }

  /**
   * Wrong passwords are counted for an e-mail address, whether or not there is an account, and apart for each device from
   * which the account was signed in before: a stranger can't lock anyone out of their own.
   */
  private signIn(): void {
    this.addSql(`create table attempt (
      key bytea primary key, failures integer not null, locked_until timestamptz, at timestamptz not null
    )`);
    this.addSql(`create table known_device (
      token_hash bytea primary key, account_id uuid not null references account on delete cascade, since timestamptz not null, last_used_at timestamptz not null
    )`);
    this.addSql('create index known_device_account on known_device (account_id)');
    this.addSql('alter table account drop column failed_sign_ins, drop column locked_until');
  }

  /** Whose hold it is, as far as limits must know, and whether their number or address is proved. */
  private holds(): void {
    this.addSql(`alter table hold add column address_hash bytea, add column prefix_hash bytea, add column proved_at timestamptz,
      add column extensions smallint not null default 0 check (extensions >= 0)`);
    this.addSql('alter table hold drop column extended');
    this.addSql('create index hold_address on hold (address_hash)');
    this.addSql('create index hold_prefix on hold (prefix_hash)');
    this.addSql('alter table self_booking add column address_hash bytea');
    this.addSql('create index message_verification on message (verification_id) where verification_id is not null');
    this.addSql('create index self_booking_person on self_booking (birth_date, lower(family_name), lower(given_name))');
  }

  /** Simulated carriers may be slow, which nobody must notice. */
  private slowCarrier(): void {
    this.addSql('alter table stand_in.carrier drop constraint carrier_mode_check');
    this.addSql(
      `alter table stand_in.carrier add constraint carrier_mode_check check (mode in ('works','down','slow','refuses','late','muddled','unreachable','bounces'))`,
    );
  }

  /** A self-booking may wait until the clinic agrees. */
  private approval(): void {
    this.addSql(`alter table message drop constraint message_kind_check,
      add constraint message_kind_check check (kind in ('confirmation','reminder','moved','displaced','cancellation','restored','requested','declined','reply','code'))`);
    this.addSql(`alter table work_claim drop constraint work_claim_kind_check,
      add constraint work_claim_kind_check check (kind in ('red-flag','inbox','failed','vestibule','approval','coverage','not-ready'))`);
    this.addSql(`create index appointment_waiting on appointment (starts_at) where approval = 'waiting'`);
    this.addSql('alter table online_policy drop column show_photo');
  }

  /** No patient was born before 1900; that nobody is born tomorrow is asked where a date comes in. */
  private birthDates(): void {
    for (const table of ['patient', 'self_booking'])
      this.addSql(
        `alter table ${table} add constraint ${table}_birth_date_range check (birth_date >= '1900-01-01' and birth_date < '2200-01-01')`,
      );
  }

  /** A flag belongs to the answer; each closing of it is a row of its own, and nothing of either is ever deleted. */
  private redFlags(): void {
    this.addSql(`alter table red_flag add column severity text not null default 'urgent' check (severity in ('emergency','urgent')),
      add column answer jsonb not null default 'true', add column advice jsonb not null default '{"en":"","es":""}'`);
    this.addSql(
      `alter table red_flag alter column severity drop default, alter column answer drop default, alter column advice drop default`,
    );
    this.addSql(`create table red_flag_clearing (
      id uuid primary key, red_flag_id uuid not null references red_flag, account_id uuid not null references account,
      note text not null check (note <> ''), at timestamptz not null, undone_at timestamptz, undone_by uuid references account,
      check ((undone_at is null) = (undone_by is null))
    )`);
    this.addSql(`insert into red_flag_clearing (id, red_flag_id, account_id, note, at)
      select gen_random_uuid(), id, cleared_by, coalesce(nullif(clear_note, ''), '-'), cleared_at from red_flag where cleared_at is not null`);
    this.addSql(
      'create unique index red_flag_clearing_stands on red_flag_clearing (red_flag_id) where undone_at is null',
    );
    this.addSql('drop index red_flag_open');
    this.addSql('alter table red_flag drop constraint red_flag_form_response_id_link_id_key');
    this.addSql('alter table red_flag drop column cleared_at, drop column cleared_by, drop column clear_note');
    this.addSql('create index red_flag_appointment on red_flag (appointment_id)');
    this.addSql('create index red_flag_response on red_flag (form_response_id, link_id)');
    this.addSql(`create function refuse_forgetting() returns trigger language plpgsql as $$
      begin raise exception 'What a clinician must see is never deleted.'; end $$`);
    for (const table of ['red_flag', 'red_flag_clearing'])
      this.addSql(
        `create trigger ${table}_kept before delete on ${table} for each row execute function refuse_forgetting()`,
      );
    this.addSql(`create function refuse_rewriting_clearing() returns trigger language plpgsql as $$
      begin
        if (new.id, new.red_flag_id, new.account_id, new.note, new.at) is distinct from (old.id, old.red_flag_id, old.account_id, old.note, old.at)
          or old.undone_at is not null
        then raise exception 'A clearing is only ever undone, never rewritten.'; end if;
        return new;
      end $$`);
    this.addSql(
      'create trigger red_flag_clearing_kept_as_written before update on red_flag_clearing for each row execute function refuse_rewriting_clearing()',
    );
  }
}
