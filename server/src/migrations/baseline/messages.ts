/** The one outbox, codes, the patient's links, what comes in, and work that somebody has taken. */
export const MESSAGES = [
  // A number or address is verified for one browser; times are real time. The code itself is stored nowhere.
  `create table contact_verification (
    id uuid primary key,
    browser_hash bytea not null,
    contact text not null,
    sends smallint not null default 0,
    wrong_tries smallint not null default 0,
    sent_at timestamptz,
    verified_at timestamptz,
    locked_until timestamptz,
    unique (browser_hash, contact)
  )`,
  'create index contact_verification_contact on contact_verification (contact, sent_at)',

  // A plan and what became of it in one row: planned, then handed to a carrier under a lease, or dropped with the rule
  // that dropped it. Body and address stay as they were handed over.
  `create table message (
    id uuid primary key,
    seq bigint generated always as identity,
    appointment_id uuid references appointment,
    contact_point_id uuid references contact_point,
    verification_id uuid references contact_verification,
    channel text not null check (channel in ('sms','email')),
    kind text not null check (kind in ('confirmation','reminder','moved','must-move','cancellation','restored','requested','declined','reply','code')),
    step text,
    language text not null check (language in ('en','es')),
    body text not null default '',
    address text,
    answers_patient boolean not null default false,
    comes_at timestamptz,
    send_at timestamptz not null,
    not_after timestamptz not null,
    status text not null check (status in ('planned','sent','delivered','failed','withdrawn','dropped')),
    dropped_code text,
    held_code text,
    fail_reason text,
    attempts integer not null default 0,
    next_attempt_at timestamptz not null,
    lease uuid,
    lease_until timestamptz,
    sent_at timestamptz,
    receipt_at timestamptz,
    settled_at timestamptz,
    handled_at timestamptz,
    handled_by uuid references account,
    created_at timestamptz not null,
    constraint message_dropped_whole check ((status = 'dropped') = (dropped_code is not null)),
    constraint message_has_a_contact check (status in ('dropped','withdrawn') or contact_point_id is not null),
    constraint message_keeps_its_address check (status not in ('sent','delivered') or address is not null),
    constraint message_lease_whole check ((lease is null) = (lease_until is null)),
    constraint message_lease_planned check (lease is null or status = 'planned')
  )`,
  'create index message_appointment on message (appointment_id)',
  'create index message_contact on message (contact_point_id, seq)',
  'create index message_verification on message (verification_id) where verification_id is not null',
  // The next one of a channel, and what waits before it for the same number, without sorting all that waits.
  "create index message_queue on message (channel, send_at, seq) where status = 'planned'",
  "create index message_queue_of_contact on message (contact_point_id, send_at, seq) where status = 'planned'",

  // A link that a patient holds: for a visit until its end and 24 hours more. Only the token's hash is kept; the token
  // is made again from the id when it is needed.
  `create table link_token (
    id uuid primary key,
    kind text not null check (kind in ('visit')),
    subject_id uuid not null,
    token_hash bytea not null unique,
    expires_at timestamptz not null,
    wrong_tries smallint not null default 0,
    locked_until timestamptz,
    unique (kind, subject_id)
  )`,

  `create table inbox_message (
    id uuid primary key,
    contact_point_id uuid references contact_point,
    channel text not null,
    body text not null,
    meaning text not null check (meaning in ('confirm','stop','other')),
    appointment_id uuid references appointment,
    received_at timestamptz not null,
    handled_at timestamptz,
    handled_by uuid references account
  )`,

  // Work has one owner at a time; taking it twice is impossible.
  `create table work_item (
    kind text not null check (kind in ('red-flag','inbox','failed','identity-review','approval','coverage','not-ready')),
    subject_id uuid not null,
    owner_id uuid not null references account,
    owned_at timestamptz not null,
    primary key (kind, subject_id)
  )`,
];
