/** Outside systems, played by us: each keeps its own store and discards a repeated id. */
export const SIMULATED_CARRIERS = [
  'create schema simulated',
  `create table simulated.carrier (
    channel text primary key,
    mode text not null default 'works' check (mode in ('works','down','slow','refuses','late','muddled','unreachable','bounces'))
  )`,
  "insert into simulated.carrier (channel) values ('sms'), ('email')",
  `create table simulated.sms (
    id text primary key,
    direction text not null check (direction in ('to-patient','from-patient')),
    number text not null,
    body text not null,
    at timestamptz not null,
    seq bigint generated always as identity
  )`,
  `create table simulated.mail (
    id text primary key,
    address text not null,
    subject text not null,
    body text not null,
    calendar text,
    raw bytea not null,
    at timestamptz not null,
    seq bigint generated always as identity
  )`,
  // What comes back: receipts of text messages, and mail to the clinic (answers and bounces).
  `create table simulated.receipt (
    id bigint generated always as identity primary key,
    message_id text not null,
    state text not null,
    reason text,
    at timestamptz not null,
    due_at timestamptz not null,
    taken_at timestamptz
  )`,
  `create table simulated.mail_back (
    id bigint generated always as identity primary key,
    raw bytea not null,
    address text not null,
    body text not null,
    at timestamptz not null,
    taken_at timestamptz
  )`,
];
