/** A weekly rule: which weekdays (ISO, Monday is 1), every how many weeks counted from a date, in force from when to when. */
export const RULE = `
    weekdays smallint[] not null check (cardinality(weekdays) between 1 and 7 and weekdays <@ array[1,2,3,4,5,6,7]::smallint[]),
    every_weeks smallint not null default 1 check (every_weeks between 1 and 52),
    anchor_date date not null,
    effective_from date not null,
    effective_until date check (effective_until >= effective_from)`;

/** Wall-clock minutes of one day in multiples of five; hours across midnight are two rows. */
export const MINUTES = (table: string) => `
    from_minute smallint not null check (from_minute between 0 and 1435 and from_minute % 5 = 0),
    to_minute smallint not null check (to_minute between 5 and 1440 and to_minute % 5 = 0),
    constraint ${table}_minutes_in_order check (from_minute < to_minute)`;

/** From a minute of one date to a minute of another, on the site's clock. */
export const SPAN = (table: string) => `
    start_date date not null,
    start_minute smallint not null default 0 check (start_minute between 0 and 1435 and start_minute % 5 = 0),
    end_date date not null,
    end_minute smallint not null default 1440 check (end_minute between 0 and 1440 and end_minute % 5 = 0),
    constraint ${table}_span_in_order check ((start_date, start_minute) < (end_date, end_minute))`;

/** What working hours accept, and whether patients see them. */
export const ACCEPTS = `
    accepts_type_ids uuid[],
    accepts_kinds text[] check (accepts_kinds <@ array['new','established']),
    invited_only boolean not null default false,
    online boolean not null default false,
    places smallint not null default 1 check (places between 1 and 50)`;

/** What a site or a room has for people who could not come otherwise. */
export const ACCESS_KNOWN = `access <@ array['step-free','wide-door','adjustable-table','patient-lift','hearing-loop','quiet-room']`;
