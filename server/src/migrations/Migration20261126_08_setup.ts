import { Migration } from '@mikro-orm/migrations';

/** What set-up keeps beside what the search already plans by. */
export class Migration20261126_08_setup extends Migration {
  override up(): void {
    // Versions of what is set up, so that two people editing one thing overwrite nothing. No row: as it was loaded.
    this.addSql(`create table setup_record (
      id uuid primary key, kind text not null, version integer not null check (version >= 1),
      changed_at timestamptz not null, changed_by uuid references account
    )`);
    this.addSql(`alter table clinic add column density text not null default 'roomy' check (density in ('roomy','dense')),
      add column asks_payer_online boolean not null default false`);
    this.addSql(
      `alter table site add column active boolean not null default true, add column more_phones jsonb not null default '[]'`,
    );
    this.addSql('alter table closure add column uid text');
    this.addSql('create unique index closure_uid on closure (site_id, uid, start_date)');
    this.addSql(`alter table resource add column colour text, add column places smallint not null default 1 check (places between 1 and 50),
      add column may_edit_own_hours boolean not null default true, add check (places = 1 or not single_device)`);
    this.addSql(`alter table provider add column licences jsonb not null default '[]'`);
    this.addSql('alter table provider drop column licence');
    this.addSql('alter table pool add column active boolean not null default true');
    this.addSql(`alter table visit_type add column preparation_en text not null default '', add column preparation_es text not null default '',
      add column price_note_en text not null default '', add column price_note_es text not null default '',
      add column cancel_until_hours smallint not null default 24 check (cancel_until_hours between 0 and 336),
      add column asks_to_confirm boolean not null default true`);
    this.addSql(`alter table relationship add column limits text not null default '' check (length(limits) <= 200),
      add check (related_patient_id <> patient_id)`);
    this.addSql('alter table visit_reason add column active boolean not null default true');
    this.addSql('alter table work_claim drop constraint work_claim_kind_check');
    this.addSql(
      `alter table work_claim add constraint work_claim_kind_check check (kind in ('red-flag','inbox','failed','vestibule','coverage','not-ready'))`,
    );
    this.payers();
    this.fields();
    this.accounts();
    for (const table of ['payer', 'payer_rule'])
      this.addSql(
        `create trigger ${table}_noted after insert or update or delete on ${table} for each statement execute function note_plan_change()`,
      );
  }

  private payers(): void {
    this.addSql(
      `create table payer (id uuid primary key, name text not null, active boolean not null default true, sort_order smallint not null default 0)`,
    );
    // The narrowest row that says something decides: payer < type < site < provider.
    this.addSql(`create table payer_rule (
      id uuid primary key, payer_id uuid not null references payer, visit_type_id uuid references visit_type, site_id uuid references site, provider_id uuid references resource,
      accepted boolean, needs_referral boolean, needs_authorization boolean,
      unique nulls not distinct (payer_id, visit_type_id, site_id, provider_id), check (num_nonnulls(accepted, needs_referral, needs_authorization) >= 1)
    )`);
    // What was said about paying when a visit was booked, until somebody has looked.
    this.addSql(`create table visit_coverage (
      appointment_id uuid primary key references appointment, payer_id uuid references payer, self_pay boolean not null default false,
      referral_said boolean, state text not null default 'to-verify' check (state in ('to-verify','verified','not-covered')),
      said_at timestamptz not null, settled_at timestamptz, settled_by uuid references account, check (self_pay = (payer_id is null))
    )`);
    this.addSql(`create index visit_coverage_open on visit_coverage (said_at) where state = 'to-verify'`);
  }

  private fields(): void {
    this.addSql(`create table custom_field (
      id uuid primary key, of text not null check (of in ('patient','booking')), kind text not null check (kind in ('text','choice','date','number','yes-no')),
      label_en text not null, label_es text not null, required boolean not null default false, choices jsonb not null default '[]',
      visit_type_ids uuid[], active boolean not null default true, sort_order smallint not null default 0
    )`);
    this.addSql(`alter table patient add column fields jsonb not null default '{}'`);
    this.addSql(`alter table self_booking add column answers jsonb not null default '{}'`);
  }

  private accounts(): void {
    // Whoever was invited has no password until they choose one; only the hash of the link's token is kept.
    this.addSql(`alter table account alter column password_hash drop not null,
      add column invite_hash bytea unique, add column invite_until timestamptz`);
  }
}
