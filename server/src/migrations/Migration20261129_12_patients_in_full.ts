import { Migration } from '@mikro-orm/migrations';

/** What a patient's record holds beyond a name: address, needs, home, notes, conditions, why it is restricted, lists of patients. */
export class Migration20261129_12_patients_in_full extends Migration {
  override up(): void {
    const texts: readonly (readonly [string, number])[] = [
      ...([
        ['street', 120],
        ['city', 80],
        ['region', 40],
        ['postal_code', 20],
      ] as const),
      ...([
        ['referral_source', 120],
        ['companion', 120],
        ['staff_notes', 2000],
        ['alert', 200],
      ] as const),
    ];
    for (const [name, most] of texts)
      this.addSql(
        `alter table patient add column ${name} text not null default '' constraint patient_${name}_check check (char_length(${name}) <= ${most})`,
      );
    this.addSql(
      `alter table patient add column interpreter text constraint patient_interpreter_check check (interpreter ~ '^[a-z]{2,3}(-[A-Za-z0-9]+)*$')`,
    );
    this.addSql(`alter table patient add column access text[] not null default '{}'`);
    this.addSql(
      'alter table patient add column extra_min smallint not null default 0 constraint patient_extra_min_check check (extra_min between 0 and 120 and extra_min % 5 = 0)',
    );
    this.addSql('alter table patient add column home_site_id uuid references site');
    this.addSql('alter table patient add column home_provider_id uuid references resource');
    this.addSql(
      `alter table patient add column deceased_on date constraint patient_deceased_check check (deceased_on is null or status = 'deceased')`,
    );
    this.addSql(
      `alter table patient add column restricted_because text not null default '' constraint patient_restricted_because_check check (restricted or restricted_because = '')`,
    );
    this.addSql('alter table patient add column created_by uuid references account');
    this.addSql('create index patient_household on patient (household_id) where household_id is not null');
    this.addSql('create index patient_home_site on patient (home_site_id) where home_site_id is not null');

    this.addSql(`create table patient_code (
      id uuid primary key,
      patient_id uuid not null references patient on delete cascade,
      system text not null,
      code text not null,
      words text not null default '' constraint patient_code_words_check check (char_length(words) <= 120),
      added_at timestamptz not null,
      constraint patient_code_icd check (system <> 'http://hl7.org/fhir/sid/icd-10-cm' or code ~ '^[A-Z][0-9][0-9A-Z](\\.[0-9A-Z]{1,4})?$'),
      unique (patient_id, system, code)
    )`);
    this.addSql('create index patient_code_of_register on patient_code (system, code collate "C")');

    // Somebody who may not open restricted records has opened this one, and said why. Rows are only added.
    this.addSql(`create table restricted_opening (
      id uuid primary key,
      patient_id uuid not null references patient,
      account_id uuid not null references account,
      reason text not null constraint restricted_opening_reason_check check (char_length(trim(reason)) between 3 and 200),
      at timestamptz not null,
      until timestamptz not null,
      seen_at timestamptz,
      seen_by uuid references account,
      constraint restricted_opening_times_in_order check (at < until),
      constraint restricted_opening_seen_whole check ((seen_at is null) = (seen_by is null))
    )`);
    this.addSql('create index restricted_opening_of on restricted_opening (patient_id, account_id, until)');
    this.addSql('create index restricted_opening_unseen on restricted_opening (at) where seen_at is null');

    this.addSql(`create table patient_list (
      id uuid primary key,
      account_id uuid not null references account,
      name text not null constraint patient_list_name_check check (name = trim(name) and char_length(name) between 1 and 60),
      query jsonb not null,
      created_at timestamptz not null,
      unique (account_id, name)
    )`);
  }
}
