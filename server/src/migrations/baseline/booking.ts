/** No patient was born before 1900; that nobody is born tomorrow is checked where a date comes in. */
const BIRTH_DATE = (table: string) =>
  `birth_date date not null constraint ${table}_birth_date_range check (birth_date >= '1900-01-01' and birth_date < '2200-01-01')`;

/** When a visit is, as a hold keeps it and an appointment takes it over. */
const TIMES = `starts_at timestamptz not null,
    ends_at timestamptz not null,
    provider_starts_at timestamptz not null,
    provider_ends_at timestamptz not null,
    before_min smallint not null,
    after_min smallint not null,
    site_date date not null`;

/** Patients, visits, holds, and what the database forbids about them. */
export const BOOKING = [
  'create table household (id uuid primary key, name text not null)',
  `create table patient (
    id uuid primary key,
    record_number text not null unique,
    given_name text not null default '',
    family_name text not null default '',
    preferred_name text,
    ${BIRTH_DATE('patient')},
    sex text check (sex in ('female','male','other','unknown')),
    language text not null default 'en' check (language in ('en','es')),
    status text not null default 'active' check (status in ('new','active','inactive','deceased','archived')),
    restricted boolean not null default false,
    household_id uuid references household,
    fields jsonb not null default '{}',
    version integer not null default 1,
    created_at timestamptz not null,
    constraint patient_has_a_name check (given_name <> '' or family_name <> '')
  )`,
  'create index patient_family_prefix on patient (lower(family_name) text_pattern_ops, lower(given_name), birth_date)',
  'create index patient_birth_date on patient (birth_date)',

  // One row per number or address, whoever shares it: an opt-out belongs to the number.
  `create table contact_point (
    id uuid primary key,
    kind text not null check (kind in ('phone','email')),
    value text not null,
    unique (kind, value)
  )`,
  `create table patient_contact (
    patient_id uuid not null references patient,
    contact_point_id uuid not null references contact_point,
    use text not null default 'mobile',
    rank smallint not null default 1,
    primary key (patient_id, contact_point_id)
  )`,
  `create table contact_ledger (
    id uuid primary key,
    contact_point_id uuid not null references contact_point,
    patient_id uuid references patient,
    event text not null check (event in ('verified','consented','revoked','wrong-number')),
    purpose text not null,
    wording text,
    wording_version text,
    how text not null,
    at timestamptz not null
  )`,
  'create index contact_ledger_point on contact_ledger (contact_point_id, at)',
  // A household gives no rights; these dated relationships do.
  `create table relationship (
    id uuid primary key,
    patient_id uuid not null references patient,
    related_patient_id uuid references patient,
    related_name text,
    kind text not null,
    may_book boolean not null default false,
    may_sign boolean not null default false,
    may_receive boolean not null default false,
    may_see boolean not null default false,
    from_date date not null,
    until_date date,
    limits text not null default '' check (length(limits) <= 200),
    constraint relationship_names_somebody check (related_patient_id is not null or related_name is not null),
    constraint relationship_dates_in_order check (until_date >= from_date),
    constraint relationship_to_another check (related_patient_id <> patient_id)
  )`,

  `create table appointment (
    id uuid primary key,
    site_id uuid not null references site,
    visit_type_id uuid not null references visit_type,
    provider_id uuid references resource,
    patient_id uuid references patient,
    patient_kind text not null check (patient_kind in ('new','established')),
    status text not null check (status in ('proposed','pending','booked','arrived','checked-in','fulfilled','cancelled','noshow','waitlist','entered-in-error')),
    identity text not null check (identity in ('sure','unknown')),
    approval text not null default 'not-needed' check (approval in ('not-needed','waiting','approved','declined')),
    origin text not null check (origin in ('desk','self','invitation','waitlist','import')),
    ${TIMES},
    reason_id uuid references visit_reason,
    reason_text text not null default '',
    staff_note text not null default '',
    confirmed_at timestamptz,
    arrived_at timestamptz,
    checked_in_at timestamptz,
    fulfilled_at timestamptz,
    noshow_at timestamptz,
    cancelled_at timestamptz,
    cancel_reason text,
    cancel_note text,
    series_id uuid,
    ical_sequence integer not null default 0,
    version integer not null default 1,
    created_at timestamptz not null,
    created_by uuid references account,
    constraint appointment_times_in_order check (starts_at < ends_at),
    constraint appointment_cancelled_whole check ((status = 'cancelled') = (cancelled_at is not null)),
    constraint appointment_cancel_reason check (status <> 'cancelled' or cancel_reason is not null),
    constraint appointment_known_person check (identity = 'unknown' or patient_id is not null)
  )`,
  'create index appointment_site_date on appointment (site_id, site_date)',
  'create index appointment_provider on appointment (provider_id, starts_at)',
  'create index appointment_patient on appointment (patient_id, starts_at)',
  "create index appointment_waiting on appointment (starts_at) where approval = 'waiting'",

  // Someone who booked for themselves, in their own words, until it is known who they are.
  `create table self_booking (
    appointment_id uuid primary key references appointment,
    given_name text not null default '',
    family_name text not null default '',
    ${BIRTH_DATE('self_booking')},
    phone text,
    email text,
    language text not null check (language in ('en','es')),
    kind_claimed text not null,
    answers jsonb not null default '{}',
    hold_id uuid not null unique,
    browser_hash bytea not null,
    content_hash bytea not null,
    address_hash bytea,
    booked_at timestamptz not null,
    constraint self_booking_has_a_name check (given_name <> '' or family_name <> ''),
    constraint self_booking_reachable check (num_nonnulls(phone, email) = 1)
  )`,
  'create index self_booking_person on self_booking (birth_date, lower(family_name), lower(given_name))',

  // Whose hold it is, as far as limits must know, and whether their number or address is proved.
  `create table hold (
    id uuid primary key,
    browser_hash bytea not null unique,
    site_id uuid not null references site,
    visit_type_id uuid not null references visit_type,
    provider_id uuid references resource,
    patient_kind text not null,
    ${TIMES},
    address_hash bytea,
    prefix_hash bytea,
    proved_at timestamptz,
    expires_at timestamptz not null,
    extensions smallint not null default 0 check (extensions >= 0),
    created_at timestamptz not null
  )`,
  'create index hold_expiry on hold (expires_at)',
  'create index hold_site_date on hold (site_id, site_date)',
  'create index hold_address on hold (address_hash)',
  'create index hold_prefix on hold (prefix_hash)',
  // A solved puzzle opens one hold; used ones are kept until they would have expired.
  'create table spent_proof (signature text primary key, expires_at timestamptz not null)',

  `create table booking_override (
    id uuid primary key,
    appointment_id uuid not null references appointment,
    account_id uuid not null references account,
    reason text not null check (reason <> ''),
    at timestamptz not null
  )`,

  // One row per time range in which a visit, a hold or an imported busy time takes one place of a resource.
  `create table occupancy (
    id bigint generated always as identity primary key,
    resource_id uuid not null references resource,
    place smallint not null check (place >= 0),
    places smallint not null check (places >= 1),
    during tstzrange not null check (not isempty(during) and lower_inc(during) and not upper_inc(during)),
    appointment_id uuid references appointment,
    hold_id uuid references hold on delete cascade,
    import_id uuid,
    part smallint not null default 0,
    need_key text not null default '',
    single_device boolean not null default false,
    override_id uuid references booking_override,
    constraint occupancy_one_owner check (num_nonnulls(appointment_id, hold_id, import_id) = 1),
    constraint occupancy_within_places check (place < places or (override_id is not null and not single_device)),
    constraint occupancy_no_double_booking exclude using gist (resource_id with =, place with =, during with &&)
  )`,
  'create index occupancy_appointment on occupancy (appointment_id)',
  'create index occupancy_hold on occupancy (hold_id)',
  'create index occupancy_start on occupancy (lower(during))',

  // What was said about paying when a visit was booked, until somebody has looked.
  `create table visit_coverage (
    appointment_id uuid primary key references appointment,
    payer_id uuid references payer,
    self_pay boolean not null default false,
    referral_said boolean,
    state text not null default 'to-verify' check (state in ('to-verify','verified','not-covered')),
    said_at timestamptz not null,
    settled_at timestamptz,
    settled_by uuid references account,
    constraint visit_coverage_who_pays check (self_pay = (payer_id is null))
  )`,
  "create index visit_coverage_open on visit_coverage (said_at) where state = 'to-verify'",

  // Booked visits that no longer fit the schedule wait on a list; somebody may leave one where it is, with a reason.
  `create table visit_to_move (
    appointment_id uuid primary key references appointment on delete cascade,
    since timestamptz not null,
    kept_at timestamptz,
    kept_by uuid references account,
    kept_reason text,
    call_outcome text check (call_outcome in ('no-answer','left-message','spoke')),
    called_at timestamptz,
    called_by uuid references account,
    constraint visit_to_move_kept_whole check ((kept_at is null) = (kept_reason is null)),
    constraint visit_to_move_call_whole check ((call_outcome is null) = (called_at is null) and (called_at is null) = (called_by is null))
  )`,
  'create index visit_to_move_open on visit_to_move (since) where kept_at is null',
];
