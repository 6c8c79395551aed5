import { ACCESS_KNOWN, MINUTES, RULE, SPAN } from './columns.ts';

/** The clinic as it is set up: sites, resources, pools, visit types, online policies, payers, custom fields. */
export const CLINIC = [
  // Versions of what is set up, so that two people who edit one record overwrite nothing. No row: as it was loaded.
  `create table setup_record (
    id uuid primary key,
    kind text not null,
    version integer not null check (version >= 1),
    changed_at timestamptz not null,
    changed_by uuid references account
  )`,
  `create table clinic (
    only_row boolean primary key default true check (only_row),
    name text not null,
    phone text not null,
    base_unit_min smallint not null default 5 check (base_unit_min in (5, 10, 15)),
    density text not null default 'roomy' check (density in ('roomy','dense')),
    asks_payer_online boolean not null default false,
    urgent_at_night text not null default 'send' check (urgent_at_night in ('send','call')),
    text_countries text[] not null default '{US}' check (cardinality(text_countries) > 0),
    codes_per_day integer not null default 500 check (codes_per_day >= 10)
  )`,
  `create table site (
    id uuid primary key,
    code text not null unique,
    name text not null,
    public_name text not null,
    address_line text not null,
    city text not null,
    region text not null,
    postal_code text not null,
    phone text not null,
    more_phones jsonb not null default '[]',
    email text,
    time_zone text not null,
    latitude double precision,
    longitude double precision,
    directions_en text not null default '',
    directions_es text not null default '',
    access text[] not null default '{}' constraint site_access_known check (${ACCESS_KNOWN}),
    bookable_online boolean not null default true,
    active boolean not null default true,
    sort_order smallint not null default 0
  )`,
  `create table site_hours (id uuid primary key, site_id uuid not null references site, ${RULE}, ${MINUTES('site_hours')})`,
  `create table closure (
    id uuid primary key,
    site_id uuid not null references site,
    ${SPAN('closure')},
    reason text not null default '',
    uid text
  )`,
  'create unique index closure_uid on closure (site_id, uid, start_date)',
  `create table site_travel (
    from_site_id uuid not null references site,
    to_site_id uuid not null references site,
    minutes smallint not null check (minutes between 0 and 1440),
    primary key (from_site_id, to_site_id)
  )`,
  `create table account_site (
    account_id uuid not null references account,
    site_id uuid not null references site,
    primary key (account_id, site_id)
  )`,

  `create table resource (
    id uuid primary key,
    kind text not null check (kind in ('provider','staff','room','equipment')),
    name text not null,
    short_name text not null,
    home_site_id uuid references site,
    color text,
    capabilities text[] not null default '{}',
    access text[] not null default '{}' constraint resource_access_known check (${ACCESS_KNOWN}),
    places smallint not null default 1 check (places between 1 and 50),
    bookable_online boolean not null default true,
    shown_in_daybook boolean not null default true,
    left_out_of_messages boolean not null default false,
    single_device boolean not null default false,
    may_edit_own_hours boolean not null default true,
    active boolean not null default true,
    sort_order smallint not null default 0,
    constraint resource_single_device check (places = 1 or not single_device)
  )`,
  'alter table account add constraint account_resource_id_fkey foreign key (resource_id) references resource',
  `create table provider (
    resource_id uuid primary key references resource,
    credentials text not null,
    specialty text not null default '',
    npi text check (npi ~ '^[0-9]{10}$'),
    licenses jsonb not null default '[]',
    languages text[] not null default '{en}',
    accepts_new boolean not null default true,
    bio_en text not null default '',
    bio_es text not null default ''
  )`,
  `create table resource_site (
    resource_id uuid not null references resource,
    site_id uuid not null references site,
    primary key (resource_id, site_id)
  )`,
  `create table pool (
    id uuid primary key,
    site_id uuid not null references site,
    kind text not null,
    name text not null,
    shown_in_daybook boolean not null default true,
    active boolean not null default true,
    sort_order smallint not null default 0,
    unique (site_id, kind)
  )`,
  `create table pool_member (
    pool_id uuid not null references pool,
    resource_id uuid not null references resource,
    number smallint not null default 1,
    primary key (pool_id, resource_id)
  )`,

  `create table visit_type (
    id uuid primary key,
    code text not null unique,
    name text not null,
    public_name_en text not null,
    public_name_es text not null,
    description_en text not null default '',
    description_es text not null default '',
    preparation_en text not null default '',
    preparation_es text not null default '',
    price_note_en text not null default '',
    price_note_es text not null default '',
    color text not null default 'clay',
    mode text not null default 'in-person' check (mode in ('in-person','video','phone')),
    before_min smallint not null default 0 check (before_min between 0 and 240 and before_min % 5 = 0),
    after_min smallint not null default 0 check (after_min between 0 and 240 and after_min % 5 = 0),
    cancel_until_hours smallint not null default 24 check (cancel_until_hours between 0 and 336),
    asks_to_confirm boolean not null default true,
    active boolean not null default true,
    sort_order smallint not null default 0
  )`,
  `create table visit_type_part (
    id uuid primary key,
    visit_type_id uuid not null references visit_type,
    position smallint not null,
    name text not null default '',
    length_min smallint not null check (length_min between 5 and 720 and length_min % 5 = 0),
    unique (visit_type_id, position)
  )`,
  `create table visit_type_need (
    id uuid primary key,
    visit_type_id uuid not null references visit_type,
    part_id uuid not null references visit_type_part,
    key text not null,
    what text not null check (what in ('provider','resource','pool','present')),
    resource_id uuid references resource,
    pool_kind text,
    capability text,
    same_as text,
    different_from text,
    turnaround_min smallint not null default 0 check (turnaround_min between 0 and 120 and turnaround_min % 5 = 0),
    unique (visit_type_id, key),
    constraint visit_type_need_whole check (
      (what = 'resource') = (resource_id is not null) and (what = 'pool') = (pool_kind is not null) and (what = 'present') = (capability is not null)
    ),
    foreign key (visit_type_id, same_as) references visit_type_need (visit_type_id, key),
    foreign key (visit_type_id, different_from) references visit_type_need (visit_type_id, key)
  )`,
  // Without any row: anyone, and anywhere.
  `create table visit_type_provider (
    visit_type_id uuid not null references visit_type,
    provider_id uuid not null references resource,
    primary key (visit_type_id, provider_id)
  )`,
  `create table visit_type_site (
    visit_type_id uuid not null references visit_type,
    site_id uuid not null references site,
    primary key (visit_type_id, site_id)
  )`,
  `create table visit_type_spacing (
    visit_type_id uuid not null references visit_type,
    other_type_id uuid not null references visit_type,
    min_days smallint,
    max_days smallint,
    primary key (visit_type_id, other_type_id),
    constraint visit_type_spacing_some check (min_days is not null or max_days is not null)
  )`,
  `create table visit_type_link (
    visit_type_id uuid not null references visit_type,
    follow_type_id uuid not null references visit_type,
    offset_min integer not null check (offset_min > 0),
    primary key (visit_type_id, offset_min)
  )`,
  `create table visit_reason (
    id uuid primary key,
    visit_type_id uuid references visit_type,
    label_en text not null,
    label_es text not null,
    active boolean not null default true,
    sort_order smallint not null default 0
  )`,

  `create table online_policy (
    id uuid primary key,
    visit_type_id uuid not null references visit_type,
    site_id uuid references site,
    provider_id uuid references resource,
    offered boolean,
    kinds text[] check (kinds <@ array['new','established']),
    lead_min integer check (lead_min >= 0),
    lead_working_days smallint check (lead_working_days >= 1),
    lead_by_minute smallint check (lead_by_minute between 0 and 1435),
    window_days smallint check (window_days between 0 and 730),
    grid_min smallint check (grid_min in (5, 10, 15, 20, 30, 60)),
    approval text check (approval in ('none','new','all')),
    show_length boolean,
    unique nulls not distinct (visit_type_id, site_id, provider_id),
    constraint online_policy_lead_whole check ((lead_working_days is null) = (lead_by_minute is null))
  )`,
  `create table booking_cap (
    id uuid primary key,
    bucket text not null check (bucket in ('provider-day','provider-type-day','site-type-day','provider-self-day')),
    provider_id uuid references resource,
    site_id uuid references site,
    visit_type_id uuid references visit_type,
    max smallint not null check (max >= 0)
  )`,

  `create table payer (
    id uuid primary key,
    name text not null,
    active boolean not null default true,
    sort_order smallint not null default 0
  )`,
  // The narrowest row that says something decides: payer < type < site < provider.
  `create table payer_rule (
    id uuid primary key,
    payer_id uuid not null references payer,
    visit_type_id uuid references visit_type,
    site_id uuid references site,
    provider_id uuid references resource,
    accepted boolean,
    needs_referral boolean,
    needs_authorization boolean,
    unique nulls not distinct (payer_id, visit_type_id, site_id, provider_id),
    constraint payer_rule_says_something check (num_nonnulls(accepted, needs_referral, needs_authorization) >= 1)
  )`,
  `create table custom_field (
    id uuid primary key,
    of text not null check (of in ('patient','booking')),
    kind text not null check (kind in ('text','choice','date','number','yes-no')),
    label_en text not null,
    label_es text not null,
    required boolean not null default false,
    choices jsonb not null default '[]',
    visit_type_ids uuid[],
    active boolean not null default true,
    sort_order smallint not null default 0
  )`,
];
