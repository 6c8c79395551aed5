import type { Accepts, Occupied, Release, WorkingHours } from '@zaguan/core/availability';
import type { ClinicPlan, ClinicSnapshot } from '@zaguan/core/openings';
import { addDays, type LocalDate } from '@zaguan/core/time';
import type { BookedVisit, Need, VisitType } from '@zaguan/core/visits';
import { inside, type Run, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';

interface AcceptColumns {
  typeIds: string[] | null;
  kinds: Accepts['kinds'];
  invitedOnly: boolean;
}

interface HoursRow extends AcceptColumns {
  id: string;
  resourceId: string | null;
  poolId: string | null;
  siteId: string;
  rule: WorkingHours['rule'];
  followsSiteHours: boolean;
  fromMinute: number;
  toMinute: number;
  places: number;
  online: boolean;
  release: (AcceptColumns & { beforeMin: number; online: boolean }) | null;
  caps: WorkingHours['caps'];
  preferredRoomIds: string[];
}

interface ChangeRow extends AcceptColumns {
  id: string;
  resourceId: string | null;
  poolId: string | null;
  workingHoursId: string | null;
  date: string;
  cancelled: boolean;
  siteId: string;
  fromMinute: number;
  toMinute: number;
  places: number;
  online: boolean;
}

interface NeedRow {
  key: string;
  what: Need['what'];
  resourceId: string | null;
  poolKind: string | null;
  capability: string | null;
  sameAs: string | null;
  differentFrom: string | null;
  turnaroundMin: number;
}

interface TypeRow extends Omit<VisitType, 'parts'> {
  parts: { lengthMin: number; needs: NeedRow[] }[];
}

interface PlanRows extends Omit<ClinicPlan, 'workingHours' | 'dateChanges' | 'visitTypes'> {
  workingHours: HoursRow[];
  dateChanges: ChangeRow[];
  visitTypes: TypeRow[];
}

const RULE = (t: string) =>
  `json_build_object('weekdays', ${t}.weekdays, 'everyWeeks', ${t}.every_weeks, 'anchorDate', ${t}.anchor_date, 'effectiveFrom', ${t}.effective_from, 'effectiveUntil', ${t}.effective_until)`;
const ROWS = (columns: string, from: string) =>
  `coalesce((select json_agg(json_build_object(${columns})) from ${from}), '[]')`;
const EPOCH_MIN = (instant: string) => `(extract(epoch from ${instant}) / 60)::float8`;
const SPAN = `'startDate', x.start_date, 'startMinute', x.start_minute, 'endDate', x.end_date, 'endMinute', x.end_minute`;
const STRETCH = `'fromMinute', x.from_minute, 'toMinute', x.to_minute`;
const ACCEPTS = `'typeIds', x.accepts_type_ids, 'kinds', x.accepts_kinds, 'invitedOnly', x.invited_only, 'online', x.online, 'places', x.places`;

/** What is read for dates at any site; instants as PostgreSQL reads them. */
type Bounds = { from: LocalDate; until: LocalDate; fromInstant: string; untilInstant: string; now: Date };

const planSql = `select json_build_object(
  'sites', ${ROWS(`'id', x.id, 'zone', x.time_zone, 'bookableOnline', x.bookable_online, 'access', x.access`, 'site x')},
  'siteHours', ${ROWS(`'id', x.id, 'siteId', x.site_id, 'rule', ${RULE('x')}, ${STRETCH}`, 'site_hours x')},
  'closures', ${ROWS(`'id', x.id, 'siteId', x.site_id, 'reason', x.reason, ${SPAN}`, 'closure x where x.end_date >= :from and x.start_date <= :until')},
  'resources', ${ROWS(`'id', x.id, 'kind', x.kind, 'bookableOnline', x.bookable_online, 'capabilities', x.capabilities, 'places', x.places, 'access', x.access, 'acceptsNew', coalesce(pr.accepts_new, true), 'languages', coalesce(pr.languages, '{}')`, 'resource x left join provider pr on pr.resource_id = x.id where x.active')},
  'pools', ${ROWS(`'id', x.id, 'siteId', x.site_id, 'kind', x.kind, 'memberIds', (select coalesce(json_agg(m.resource_id order by m.number), '[]') from pool_member m join resource r on r.id = m.resource_id and r.active where m.pool_id = x.id)`, 'pool x where x.active')},
  'workingHours', ${ROWS(
    `'id', x.id, 'resourceId', x.resource_id, 'poolId', x.pool_id, 'siteId', x.site_id, 'rule', ${RULE('x')}, 'followsSiteHours', x.follows_site_hours, ${STRETCH}, ${ACCEPTS}, 'caps', x.caps, 'preferredRoomIds', x.preferred_room_ids,
     'release', case when x.release_before_min is not null then json_build_object('beforeMin', x.release_before_min, 'typeIds', x.release_type_ids, 'kinds', x.release_kinds, 'invitedOnly', x.release_invited_only, 'online', x.release_online) end`,
    'working_hours x where x.effective_from <= :until and (x.effective_until is null or x.effective_until >= :from)',
  )},
  'dateChanges', ${ROWS(`'id', x.id, 'resourceId', x.resource_id, 'poolId', x.pool_id, 'workingHoursId', x.working_hours_id, 'date', x.date, 'cancelled', x.cancelled, 'siteId', x.site_id, ${STRETCH}, ${ACCEPTS}`, 'working_hours_change x where x.date between :from and :until')},
  'timeOff', ${ROWS(`'id', x.id, 'resourceId', x.resource_id, 'siteId', x.site_id, 'reason', x.reason, 'coverId', x.cover_id, ${SPAN}`, "time_off x where x.status = 'approved' and x.end_date >= :from and x.start_date <= :until")},
  'keptFree', ${ROWS(`'id', x.id, 'resourceId', x.resource_id, 'siteId', x.site_id, 'rule', ${RULE('x')}, 'note', x.note, ${STRETCH}`, 'kept_free x where x.effective_from <= :until and (x.effective_until is null or x.effective_until >= :from)')},
  'brush', ${ROWS(`'id', x.id, 'resourceId', x.resource_id, 'siteId', x.site_id, 'date', x.date, ${STRETCH}, 'value', x.value, 'order', x.painted`, 'brush_stroke x where x.date between :from and :until')},
  'visitTypes', ${ROWS(
    `'id', x.id, 'beforeMin', x.before_min, 'afterMin', x.after_min,
     'providerIds', (select json_agg(p.provider_id order by r.sort_order) from visit_type_provider p join resource r on r.id = p.provider_id where p.visit_type_id = x.id),
     'siteIds', (select json_agg(s.site_id) from visit_type_site s where s.visit_type_id = x.id),
     'links', ${ROWS(`'followTypeId', l.follow_type_id, 'offsetMin', l.offset_min`, 'visit_type_link l where l.visit_type_id = x.id')},
     'spacing', ${ROWS(`'otherTypeId', g.other_type_id, 'minDays', g.min_days, 'maxDays', g.max_days`, 'visit_type_spacing g where g.visit_type_id = x.id')},
     'parts', (select coalesce(json_agg(json_build_object('lengthMin', p.length_min, 'needs',
        ${ROWS(`'key', n.key, 'what', n.what, 'resourceId', n.resource_id, 'poolKind', n.pool_kind, 'capability', n.capability, 'sameAs', n.same_as, 'differentFrom', n.different_from, 'turnaroundMin', n.turnaround_min`, 'visit_type_need n where n.part_id = p.id')}) order by p.position), '[]') from visit_type_part p where p.visit_type_id = x.id)`,
    'visit_type x where x.active',
  )},
  'policies', ${ROWS(`'id', x.id, 'visitTypeId', x.visit_type_id, 'siteId', x.site_id, 'providerId', x.provider_id, 'offered', x.offered, 'kinds', x.kinds, 'leadMin', x.lead_min, 'leadWorkingDays', x.lead_working_days, 'leadByMinute', x.lead_by_minute, 'windowDays', x.window_days, 'approval', x.approval, 'showLength', x.show_length, 'gridMin', x.grid_min`, 'online_policy x')},
  'caps', ${ROWS(`'id', x.id, 'bucket', x.bucket, 'providerId', x.provider_id, 'siteId', x.site_id, 'visitTypeId', x.visit_type_id, 'max', x.max`, 'booking_cap x')},
  'payerRules', ${ROWS(`'payerId', x.payer_id, 'visitTypeId', x.visit_type_id, 'siteId', x.site_id, 'providerId', x.provider_id, 'accepted', x.accepted, 'referral', x.needs_referral, 'authorization', x.needs_authorization`, 'payer_rule x join payer y on y.id = x.payer_id and y.active')},
  'travel', ${ROWS(`'fromSiteId', x.from_site_id, 'toSiteId', x.to_site_id, 'minutes', x.minutes`, 'site_travel x')}
) as plan`;

const VISIT = (
  self: string,
) => `'id', x.id, 'visitTypeId', x.visit_type_id, 'siteId', x.site_id, 'providerId', x.provider_id, 'kind', x.patient_kind, 'selfBooked', ${self},
  'start', ${EPOCH_MIN('x.starts_at')}, 'end', ${EPOCH_MIN('x.ends_at')}, 'providerStart', ${EPOCH_MIN('x.provider_starts_at')}, 'providerEnd', ${EPOCH_MIN('x.provider_ends_at')},
  'beforeMin', x.before_min, 'afterMin', x.after_min, 'date', x.site_date, 'parts', x.parts`;

/** What is taken, by visits and by holds that have not run out; of some of them only, if any are named. */
const takenSql = (only: boolean) => {
  const one = (of: string) => (only ? `and ${of} = any(:ids::uuid[])` : '');
  const ofAny = only
    ? 'and (x.appointment_id = any(:ids::uuid[]) or x.hold_id = any(:ids::uuid[]) or x.import_id = any(:ids::uuid[]))'
    : '';
  return `select json_build_object(
  'occupied', ${ROWS(
    `'resourceId', x.resource_id, 'start', ${EPOCH_MIN('lower(x.during)')}, 'end', ${EPOCH_MIN('upper(x.during)')}, 'visitId', coalesce(x.appointment_id, x.hold_id, x.import_id)`,
    `occupancy x left join hold h on h.id = x.hold_id where x.during && tstzrange(:fromInstant, :untilInstant) and (h.id is null or h.expires_at > :now) ${ofAny}`,
  )},
  'visits', ${ROWS(`'patientId', x.patient_id, 'waived', x.rules_waived, ${VISIT(`x.origin in ('self','invitation')`)}`, `appointment x where x.site_date between :from and :until and x.status not in ('cancelled','entered-in-error') ${one('x.id')}`)},
  'holds', ${ROWS(`'patientId', x.patient_id, 'expiresAt', floor(extract(epoch from x.expires_at) * 1000), ${VISIT('x.account_id is null')}`, `hold x where x.site_date between :from and :until and x.expires_at > :now ${one('x.id')}`)}
) as taken`;
};
const PLAN = statement<Pick<Bounds, 'from' | 'until'>, { plan: PlanRows }>(
  'everything that is planned, as one JSON document: one round trip instead of sixteen',
  planSql,
);
const AS_ONE = 'visits, holds and what they take, as one JSON document in one trip';
const TAKEN = statement<Bounds, { taken: TakenRows }>(AS_ONE, takenSql(false));
const ALL = statement<Bounds, { plan: PlanRows; taken: TakenRows }>(
  'what is planned and what is taken, in one trip',
  `select * from (${planSql}) as planned, (${takenSql(false)}) as taken`,
);
const TAKEN_OF = statement<Bounds & { ids: readonly string[] }, { taken: TakenRows }>(AS_ONE, takenSql(true));

export interface DateRange {
  readonly from: LocalDate;
  readonly until: LocalDate;
}

/** A hold, as a visit that is there until it lapses (epoch milliseconds). */
export type HoldRow = BookedVisit & { readonly expiresAt: number };

export interface TakenRows {
  readonly occupied: Occupied[];
  readonly visits: BookedVisit[];
  readonly holds: HoldRow[];
}

function accepts(row: AcceptColumns): Accepts {
  return { visitTypeIds: row.typeIds, kinds: row.kinds, invitedOnly: row.invitedOnly };
}

function subject(row: { resourceId: string | null; poolId: string | null }): WorkingHours['subject'] {
  return row.resourceId ? { of: 'resource', id: row.resourceId } : { of: 'pool', id: row.poolId as string };
}

function toWorkingHours(row: HoursRow): WorkingHours {
  const release: Release | null = row.release
    ? { beforeMin: row.release.beforeMin, accepts: accepts(row.release), online: row.release.online }
    : null;
  const { id, siteId, rule, followsSiteHours, fromMinute, toMinute, places, online, caps, preferredRoomIds } = row;
  return {
    id,
    subject: subject(row),
    siteId,
    rule,
    followsSiteHours,
    fromMinute,
    toMinute,
    places,
    accepts: accepts(row),
    online,
    release,
    caps,
    preferredRoomIds,
  };
}

function toNeed(row: NeedRow): Need {
  const bound = { key: row.key, sameAs: row.sameAs, differentFrom: row.differentFrom };
  if (row.what === 'provider') return { ...bound, what: 'provider' };
  if (row.what === 'resource') return { ...bound, what: 'resource', resourceId: row.resourceId as string };
  if (row.what === 'pool')
    return { ...bound, what: 'pool', poolKind: row.poolKind as string, turnaroundMin: row.turnaroundMin };
  return { ...bound, what: 'present', capability: row.capability as string };
}

/** Hours between dates at the outermost zones and UTC: a day on each side covers every site. */
const SLACK_DAYS = 1;

function padded(dates: DateRange): DateRange {
  return { from: addDays(dates.from, -SLACK_DAYS), until: addDays(dates.until, SLACK_DAYS) };
}

function bounds(dates: DateRange, now: Date): Bounds {
  const { from, until } = padded(dates);
  return {
    from,
    until,
    now,
    fromInstant: `${addDays(from, -1)}T00:00:00Z`,
    untilInstant: `${addDays(until, 2)}T00:00:00Z`,
  };
}

/** Everything that is planned for the dates from `from` to `until` at any site. */
export async function loadPlan(run: Run, dates: DateRange): Promise<ClinicPlan> {
  const { from, until } = padded(dates);
  const [{ plan }] = await run(PLAN, { from, until });
  return toPlan(plan);
}

function toPlan(p: PlanRows): ClinicPlan {
  return {
    ...p,
    workingHours: p.workingHours.map(toWorkingHours),
    dateChanges: p.dateChanges.map((row) => ({
      id: row.id,
      subject: subject(row),
      workingHoursId: row.workingHoursId,
      date: row.date,
      hours: row.cancelled
        ? null
        : {
            siteId: row.siteId,
            fromMinute: row.fromMinute,
            toMinute: row.toMinute,
            places: row.places,
            accepts: accepts(row),
            online: row.online,
          },
    })),
    visitTypes: p.visitTypes.map((row) => ({
      ...row,
      parts: row.parts.map((part) => ({ lengthMin: part.lengthMin, needs: part.needs.map(toNeed) })),
    })),
  };
}

/** What is taken on these dates; of the named visits, holds and imports alone if `ids` are given. */
export async function loadTaken(run: Run, dates: DateRange, now: Date, ids?: readonly string[]): Promise<TakenRows> {
  const values = bounds(dates, now);
  const [{ taken }] = await (ids ? run(TAKEN_OF, { ...values, ids }) : run(TAKEN, values));
  return taken;
}

/**
 * Everything the openings search may know for the dates from `from` to `until` (at any site), complete, as the
 * transaction of `em` sees it. Who only looks asks the context's `clinic` instead, which need not read it all.
 *
 * @param now the domain's present: holds that ran out before it are left out
 */
export function loadSnapshot(em: SqlEntityManager, dates: DateRange, now: Date): Promise<ClinicSnapshot> {
  return readSnapshot(inside(em), dates, now);
}

/** The same on any connection. */
export async function readSnapshot(run: Run, dates: DateRange, now: Date): Promise<ClinicSnapshot> {
  const [{ plan, taken }] = await run(ALL, bounds(dates, now));
  const { occupied, visits, holds } = taken;
  return { ...toPlan(plan), occupied, visits: [...visits, ...holds] };
}

const OF_PATIENTS = statement<
  { patientIds: readonly string[]; from: LocalDate; until: LocalDate },
  { visits: BookedVisit[] }
>(
  'visits as the search knows them, as one JSON document',
  `select ${ROWS(`'patientId', x.patient_id, 'waived', x.rules_waived, ${VISIT(`x.origin in ('self','invitation')`)}`, `appointment x where x.patient_id = any(:patientIds::uuid[]) and x.site_date between :from and :until and x.status not in ('cancelled','entered-in-error')`)} as visits`,
);

/** All visits of some patients between two dates, both included: what spacing is judged by. */
export async function visitsOfPatients(
  em: SqlEntityManager,
  patientIds: readonly string[],
  { from, until }: DateRange,
): Promise<BookedVisit[]> {
  const [{ visits }] = await rowsOf(em, OF_PATIENTS, { patientIds, from, until });
  return visits;
}

const LONGEST_WINDOW = statement<{ visitTypeId: string }, { days: number }>(
  'the longest of several, 90 days at least',
  'select greatest(coalesce(max(window_days), 0), 90)::int as days from online_policy where visit_type_id = :visitTypeId',
);

/** The longest booking window any level of a visit type's policy gives, in days. */
export async function longestWindowDays(em: SqlEntityManager, visitTypeId: string): Promise<number> {
  const [{ days }] = await rowsOf(em, LONGEST_WINDOW, { visitTypeId });
  return days;
}

const NAMES = statement<Record<never, never>, { id: string; name: string }>(
  'four tables as one list',
  'select id, name from resource union all select id, name from site union all select id, name from visit_type union all select id, name from payer',
);

/** Staff-facing names of everything a rule's facts may point to, by id. */
export async function namesById(em: SqlEntityManager): Promise<Record<string, string>> {
  const rows = await rowsOf(em, NAMES, {});
  return Object.fromEntries(rows.map((row) => [row.id, row.name]));
}
