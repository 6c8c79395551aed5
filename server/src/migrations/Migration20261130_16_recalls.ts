import { Migration } from '@mikro-orm/migrations';

/** Whoever a change of these rows is about is looked at again: by which column their patient is named. */
const OF_PATIENT = {
  appointment: 'patient_id',
  patient: 'id',
  patient_code: 'patient_id',
  patient_contact: 'patient_id',
  register_member: 'patient_id',
  recall_choice: 'patient_id',
} as const;

/**
 * Recall plans, registers, and the kept list of who is what to which plan. Triggers note whom a change is about, with
 * the change itself, so that no program can forget it; a job works them out anew.
 */
export class Migration20261130_16_recalls extends Migration {
  override up(): void {
    this.addSql(`create table register (
      id uuid primary key,
      name text not null constraint register_name_check check (char_length(name) between 1 and 80),
      note text not null default '',
      rule jsonb,
      sort_order smallint not null default 0,
      active boolean not null default true
    )`);
    this.addSql(`create table register_member (
      id uuid primary key,
      register_id uuid not null references register,
      patient_id uuid not null references patient on delete cascade,
      from_date date not null,
      until_date date,
      how text not null constraint register_member_how_check check (how in ('rule','hand')),
      added_by uuid references account,
      ended_by uuid references account,
      constraint register_member_from_until check (until_date >= from_date)
    )`);
    this.addSql(
      'create unique index register_member_open_once on register_member (register_id, patient_id) where until_date is null',
    );
    this.addSql('create index register_member_patient on register_member (patient_id)');
    this.addSql(`create table recall_plan (
      id uuid primary key,
      name text not null constraint recall_plan_name_check check (char_length(name) between 1 and 80),
      is_on boolean not null default false,
      rules jsonb not null,
      sort_order smallint not null default 0,
      active boolean not null default true
    )`);
    this.addSql(`create table recall_choice (
      id uuid primary key,
      plan_id uuid not null references recall_plan,
      patient_id uuid not null references patient on delete cascade,
      kind text not null constraint recall_choice_kind_check check (kind in ('later','declined','done-elsewhere')),
      date date,
      note text not null default '',
      said_on date not null,
      said_by text not null constraint recall_choice_said_by_check check (said_by in ('patient','desk')),
      account_id uuid references account,
      at timestamptz not null,
      ended_at timestamptz,
      version integer not null default 1,
      constraint recall_choice_has_its_date check ((kind = 'declined') = (date is null)),
      constraint recall_choice_by_whom check ((said_by = 'desk') = (account_id is not null))
    )`);
    this.addSql('create index recall_choice_patient on recall_choice (patient_id) where ended_at is null');
    this.addSql(`create table recall_state (
      plan_id uuid not null references recall_plan,
      patient_id uuid not null references patient on delete cascade,
      state text not null constraint recall_state_is_asked_for check (state <> 'not-asked-for'),
      by_code text,
      facts jsonb not null,
      due_on date,
      last_on date,
      last_type_id uuid references visit_type,
      count integer,
      plan_version integer not null,
      at timestamptz not null,
      primary key (plan_id, patient_id),
      constraint recall_state_due_by_none check ((state = 'due') = (by_code is null)),
      constraint recall_state_due_has_its_date check (state <> 'due' or due_on is not null)
    )`);
    this.addSql('create index recall_state_listed on recall_state (plan_id, state, due_on, patient_id)');
    this.addSql('create index recall_state_patient on recall_state (patient_id)');
    // Dates alone change what somebody is: a birthday, a due date, the end of a season.
    this.addSql(`create table recall_look (
      patient_id uuid primary key references patient on delete cascade,
      look_on date not null
    )`);
    this.addSql('create index recall_look_on on recall_look (look_on)');
    // Rows are only added and taken away, so that nobody who writes waits for who reads.
    this.addSql(`create table recall_stale (
      seq bigint generated always as identity primary key,
      patient_id uuid not null
    )`);
    this.addSql('create index recall_stale_patient on recall_stale (patient_id)');
    // A plan or a register changed: everybody is looked at again. How far that has come.
    this.addSql(`create table recall_rebuild (
      id smallint primary key constraint recall_rebuild_is_one check (id = 1),
      after_patient_id uuid
    )`);
    for (const [table, column] of Object.entries(OF_PATIENT)) {
      this.addSql(`create function note_recalls_of_${table}() returns trigger language plpgsql as $$
        begin insert into recall_stale (patient_id) select distinct ${column} from changed where ${column} is not null; return null; end $$`);
      for (const [event, rows] of [
        ['insert', 'new'],
        ['update', 'new'],
        ['delete', 'old'],
      ] as const)
        this.addSql(
          `create trigger ${table}_recalls_${event} after ${event} on ${table} referencing ${rows} table as changed for each statement execute function note_recalls_of_${table}()`,
        );
    }
    // A visit that was put under another record is about both of them.
    this.addSql(
      'create trigger appointment_recalls_left after update on appointment referencing old table as changed for each statement execute function note_recalls_of_appointment()',
    );
    // A number's word is about whoever has it.
    this.addSql(`create function note_recalls_of_contact() returns trigger language plpgsql as $$
      begin insert into recall_stale (patient_id) select distinct pc.patient_id from changed c join patient_contact pc using (contact_point_id); return null; end $$`);
    this.addSql(
      'create trigger contact_ledger_recalls_insert after insert on contact_ledger referencing new table as changed for each statement execute function note_recalls_of_contact()',
    );
    /* The latest word of a number's ledger about a purpose: an opt-out of recalls leaves messages about visits alone; one
       of messages, and a wrong number, ends both. */
    this.addSql(`create function opted_out(contact uuid, for_recalls boolean) returns boolean language sql stable as $$
      select coalesce((select l.event <> 'consented' from contact_ledger l where l.contact_point_id = contact and l.purpose <> 'recalls'
          and l.event in ('consented','revoked','wrong-number') order by l.at desc, l.id desc limit 1), false)
        or for_recalls and coalesce((select l.event <> 'consented' from contact_ledger l where l.contact_point_id = contact and l.purpose = 'recalls'
          and l.event in ('consented','revoked') order by l.at desc, l.id desc limit 1), false) $$`);
  }
}
