/** Forms, consents, red flags, what was waived, and check-in. */
export const INTAKE = [
  `create table intake_form (
    id uuid primary key,
    code text not null,
    version smallint not null check (version >= 1),
    title_en text not null,
    title_es text not null,
    items jsonb not null,
    created_at timestamptz not null,
    unique (code, version)
  )`,
  `create table consent_form (
    id uuid primary key,
    code text not null,
    version smallint not null check (version >= 1),
    title_en text not null,
    title_es text not null,
    body_en text not null,
    body_es text not null,
    valid_months smallint check (valid_months between 1 and 120),
    created_at timestamptz not null,
    unique (code, version)
  )`,
  // Which visits ask for it. Without types or kinds: any.
  `create table packet_rule (
    id uuid primary key,
    form_id uuid references intake_form,
    consent_id uuid references consent_form,
    visit_type_ids uuid[],
    kinds text[] check (kinds <@ array['new','established']),
    position smallint not null default 0,
    constraint packet_rule_one_document check (num_nonnulls(form_id, consent_id) = 1)
  )`,

  // Answers by question, each with the saving it came from: { linkId: { value: [], rev: n } }.
  `create table form_response (
    id uuid primary key,
    appointment_id uuid not null references appointment,
    form_id uuid not null references intake_form,
    answers jsonb not null default '{}',
    rev integer not null default 0,
    status text not null default 'in-progress' check (status in ('in-progress','completed')),
    language text not null check (language in ('en','es')),
    started_at timestamptz not null,
    saved_at timestamptz not null,
    completed_at timestamptz,
    unique (appointment_id, form_id),
    constraint form_response_completed_whole check ((status = 'completed') = (completed_at is not null))
  )`,
  `create table signed_consent (
    id uuid primary key,
    appointment_id uuid not null references appointment,
    consent_id uuid not null references consent_form,
    signer text not null check (signer in ('self','parent','guardian','representative')),
    signer_name text not null check (signer_name <> ''),
    language text not null check (language in ('en','es')),
    signature jsonb not null,
    signed_at timestamptz not null,
    pdf bytea not null,
    pdf_sha256 bytea not null,
    unique (appointment_id, consent_id),
    constraint signed_consent_pdf_unaltered check (pdf_sha256 = sha256(pdf))
  )`,
  'create trigger signed_consent_append_only before update or delete on signed_consent for each row execute function refuse_change()',
  // A version that somebody has filled in or signed says forever what it said then.
  `create function refuse_used_version() returns trigger language plpgsql as $$
    begin
      if (tg_table_name = 'intake_form' and exists (select 1 from form_response where form_id = old.id))
        or (tg_table_name = 'consent_form' and exists (select 1 from signed_consent where consent_id = old.id))
      then raise exception 'A version in use never changes; make a new one.'; end if;
      return case tg_op when 'DELETE' then old else new end;
    end $$`,
  'create trigger intake_form_used before update or delete on intake_form for each row execute function refuse_used_version()',
  'create trigger consent_form_used before update or delete on consent_form for each row execute function refuse_used_version()',

  // A flag belongs to the answer; each closing of it is a row of its own, and nothing of either is ever deleted.
  `create table red_flag (
    id uuid primary key,
    appointment_id uuid not null references appointment,
    form_response_id uuid not null references form_response,
    link_id text not null,
    severity text not null check (severity in ('emergency','urgent')),
    answer jsonb not null,
    advice jsonb not null,
    raised_at timestamptz not null
  )`,
  'create index red_flag_appointment on red_flag (appointment_id)',
  'create index red_flag_response on red_flag (form_response_id, link_id)',
  `create table red_flag_clearing (
    id uuid primary key,
    red_flag_id uuid not null references red_flag,
    account_id uuid not null references account,
    note text not null check (note <> ''),
    at timestamptz not null,
    undone_at timestamptz,
    undone_by uuid references account,
    constraint red_flag_clearing_undone_whole check ((undone_at is null) = (undone_by is null))
  )`,
  'create unique index red_flag_clearing_stands on red_flag_clearing (red_flag_id) where undone_at is null',
  `create function refuse_forgetting() returns trigger language plpgsql as $$
    begin raise exception 'What a clinician must see is never deleted.'; end $$`,
  'create trigger red_flag_kept before delete on red_flag for each row execute function refuse_forgetting()',
  'create trigger red_flag_clearing_kept before delete on red_flag_clearing for each row execute function refuse_forgetting()',
  `create function refuse_rewriting_clearing() returns trigger language plpgsql as $$
    begin
      if (new.id, new.red_flag_id, new.account_id, new.note, new.at) is distinct from (old.id, old.red_flag_id, old.account_id, old.note, old.at)
        or old.undone_at is not null
      then raise exception 'A clearing is only ever undone, never rewritten.'; end if;
      return new;
    end $$`,
  'create trigger red_flag_clearing_kept_as_written before update on red_flag_clearing for each row execute function refuse_rewriting_clearing()',

  // An unknown person and a red flag can't be waived.
  `create table readiness_waiver (
    appointment_id uuid not null references appointment,
    item text not null check (item !~ '^(red-flag|person)'),
    reason text not null check (reason <> ''),
    account_id uuid not null references account,
    at timestamptz not null,
    primary key (appointment_id, item)
  )`,
  `create table encounter (
    id uuid primary key,
    appointment_id uuid not null unique references appointment,
    patient_id uuid not null references patient,
    status text not null check (status in ('arrived','finished','cancelled')),
    identifiers text[] not null check (cardinality(identifiers) >= 2),
    started_at timestamptz not null,
    ended_at timestamptz,
    account_id uuid not null references account,
    constraint encounter_finished_ends check (status <> 'finished' or ended_at is not null)
  )`,
];
