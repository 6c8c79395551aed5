import { Migration } from '@mikro-orm/migrations';

/** Forms, consents, red flags, what was let through, check-in, and who takes which work. */
export class Migration20261123_05_intake extends Migration {
  override up(): void {
    this.documents();
    this.answers();
    this.checkIn();
    // Work has one owner at a time; taking it twice is impossible.
    this.addSql(`create table work_claim (
      kind text not null check (kind in ('red-flag','inbox','failed','vestibule','not-ready')), ref uuid not null,
      account_id uuid not null references account, at timestamptz not null, primary key (kind, ref)
    )`);
  }

  private documents(): void {
    this.addSql(`create table intake_form (
      id uuid primary key, code text not null, version smallint not null check (version >= 1), title_en text not null, title_es text not null,
      items jsonb not null, created_at timestamptz not null, unique (code, version)
    )`);
    this.addSql(`create table consent_form (
      id uuid primary key, code text not null, version smallint not null check (version >= 1), title_en text not null, title_es text not null,
      body_en text not null, body_es text not null, valid_months smallint check (valid_months between 1 and 120), created_at timestamptz not null, unique (code, version)
    )`);
    // Which visits ask for it. No types or kinds: any.
    this.addSql(`create table packet_rule (
      id uuid primary key, form_id uuid references intake_form, consent_id uuid references consent_form, visit_type_ids uuid[],
      kinds text[] check (kinds <@ array['new','established']), position smallint not null default 0, check (num_nonnulls(form_id, consent_id) = 1)
    )`);
  }

  private answers(): void {
    // Answers by question, each with the saving it came from: { linkId: { value: [], rev: n } }.
    this.addSql(`create table form_response (
      id uuid primary key, appointment_id uuid not null references appointment, form_id uuid not null references intake_form,
      answers jsonb not null default '{}', rev integer not null default 0, status text not null default 'in-progress' check (status in ('in-progress','completed')),
      language text not null check (language in ('en','es')), started_at timestamptz not null, saved_at timestamptz not null, completed_at timestamptz,
      unique (appointment_id, form_id), check ((status = 'completed') = (completed_at is not null))
    )`);
    this.addSql(`create table signed_consent (
      id uuid primary key, appointment_id uuid not null references appointment, consent_id uuid not null references consent_form,
      signer text not null check (signer in ('self','parent','guardian','representative')), signer_name text not null check (signer_name <> ''),
      language text not null check (language in ('en','es')), signature jsonb not null, signed_at timestamptz not null,
      pdf bytea not null, pdf_sha256 bytea not null check (pdf_sha256 = sha256(pdf)), unique (appointment_id, consent_id)
    )`);
    this.addSql(
      'create trigger signed_consent_append_only before update or delete on signed_consent for each row execute function refuse_change()',
    );
    // A version that somebody has filled in or signed says for ever what it said then.
    this.addSql(`create function refuse_used_version() returns trigger language plpgsql as $$
      begin
        if (tg_table_name = 'intake_form' and exists (select 1 from form_response where form_id = old.id))
          or (tg_table_name = 'consent_form' and exists (select 1 from signed_consent where consent_id = old.id))
        then raise exception 'A version in use never changes; make a new one.'; end if;
        return case tg_op when 'DELETE' then old else new end;
      end $$`);
    for (const table of ['intake_form', 'consent_form'])
      this.addSql(
        `create trigger ${table}_used before update or delete on ${table} for each row execute function refuse_used_version()`,
      );
    this.addSql(`create table red_flag (
      id uuid primary key, appointment_id uuid not null references appointment, form_response_id uuid not null references form_response, link_id text not null,
      raised_at timestamptz not null, cleared_at timestamptz, cleared_by uuid references account, clear_note text,
      unique (form_response_id, link_id), check ((cleared_at is null) = (cleared_by is null))
    )`);
    this.addSql('create index red_flag_open on red_flag (appointment_id) where cleared_at is null');
  }

  private checkIn(): void {
    // An unknown person and a red flag can't be let through.
    this.addSql(`create table readiness_waiver (
      appointment_id uuid not null references appointment, item text not null check (item !~ '^(red-flag|person)'), reason text not null check (reason <> ''),
      account_id uuid not null references account, at timestamptz not null, primary key (appointment_id, item)
    )`);
    this.addSql(`create table encounter (
      id uuid primary key, appointment_id uuid not null unique references appointment, patient_id uuid not null references patient,
      status text not null check (status in ('arrived','finished','cancelled')), identifiers text[] not null check (cardinality(identifiers) >= 2),
      started_at timestamptz not null, ended_at timestamptz, account_id uuid not null references account, check (status <> 'finished' or ended_at is not null)
    )`);
  }
}
