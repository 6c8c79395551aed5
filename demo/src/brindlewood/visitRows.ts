import { lastOf } from '../lastOf.ts';
import type { AppointmentStatus, CancelReason } from '@zaguan/core/visits';
import type { Orm } from '@zaguan/server/platform/db/orm';
import { idOf, type Random } from '../random.ts';
import { insertRows, type Row } from '../rows.ts';
import type { DemoVisit } from './demoVisit.ts';
import { TYPE, type TypeKey } from './visitTypeData.ts';

const REASONS: Partial<Record<TypeKey, readonly string[]>> = {
  follow: ['Spring symptoms', 'Results of last test', 'New inhaler', 'Hives again', 'Medicine review'],
  consult: ['Referred for food allergy', 'Wheezing at night', 'Bee sting last summer', 'Rash after antibiotic'],
  skin: ['Tree and grass panel', 'Food panel', 'Cat and dust mite'],
  asthma: ['Half-yearly review', 'Cough at night', 'Inhaler finished early'],
  challenge: ['Peanut', 'Egg, baked', 'Cow’s milk', 'Hazelnut'],
  video: ['Results', 'Medicine review', 'Side effects'],
  school: ['Inhaler at school', 'Camp forms', 'Auto-injector at school'],
};
/** Types that patients book for themselves now and then. */
const SELF_BOOKED = new Set<TypeKey>([
  'follow',
  'consult',
  'asthma',
  'skin',
  'injection',
  'video',
  'dietitian',
  'school',
]);
const CANCELLED_SHARE = 0.07;
const CANCEL_REASONS: readonly CancelReason[] = [
  'patient-asked',
  'patient-asked',
  'patient-asked',
  'provider-away',
  'site-closed',
];

const iso = (minute: number) => new Date(minute * 60_000).toISOString();
export const visitId = (n: number) => idOf(`visit ${n}`);

function statusAt({ plan, outcome }: DemoVisit, nowMin: number, random: Random): AppointmentStatus {
  if (plan.end <= nowMin) return outcome;
  if (plan.start <= nowMin) return random.chance(0.7) ? 'checked-in' : 'arrived';
  return plan.start - nowMin < 25 && random.chance(0.6) ? 'arrived' : 'booked';
}

/** Writes the visits with their statuses and times, what they take, and those that were cancelled on the way. */
export async function writeVisits(orm: Orm, visits: readonly DemoVisit[], now: Date, random: Random): Promise<void> {
  const nowMin = now.getTime() / 60_000;
  const rows = visits.map((visit) => appointment(visit, statusAt(visit, nowMin, random), nowMin, random));
  const cancelled = visits
    .filter(() => random.chance(CANCELLED_SHARE))
    .map((visit) => cancelledBefore(appointment(visit, 'booked', nowMin, random), visit, nowMin, random));
  const visitRows = [...rows, ...cancelled].map((row) => ({ ...row, changed_at: lastOf(row) }));
  await insertRows(orm, 'appointment', visitRows);
  await insertRows(orm, 'occupancy', visits.flatMap(occupancyOf), OCCUPANCY);
  await insertRows(orm, 'encounter', rows.filter((row) => row.checked_in_at !== null).map(encounter));
}

function appointment(visit: DemoVisit, status: AppointmentStatus, nowMin: number, random: Random) {
  const { plan, type, patient, leadDays } = visit;
  const came = status === 'arrived' || status === 'checked-in' || status === 'fulfilled';
  const reasons = REASONS[type];
  const arrived = Math.min(nowMin, plan.start - random.int(2, 18));
  return {
    id: visitId(visit.n),
    site_id: visit.siteId,
    visit_type_id: TYPE[type],
    provider_id: visit.providerId,
    patient_id: patient.id,
    patient_kind: visit.kind,
    status: status as string,
    identity: 'sure',
    approval: 'not-needed',
    origin: SELF_BOOKED.has(type) && random.chance(0.3) ? 'self' : random.chance(0.06) ? 'invitation' : 'desk',
    starts_at: iso(plan.start),
    ends_at: iso(plan.end),
    provider_starts_at: iso(plan.providerStart),
    provider_ends_at: iso(plan.providerEnd),
    before_min: 0,
    after_min: visit.afterMin,
    site_date: plan.date,
    reason_text: reasons && random.chance(0.8) ? random.pick(reasons) : '',
    staff_note: '',
    confirmed_at: random.chance(0.6) && plan.start - 1500 < nowMin ? iso(plan.start - 1500) : null,
    arrived_at: came ? iso(arrived) : null,
    checked_in_at: came && status !== 'arrived' ? iso(Math.min(nowMin, plan.start)) : null,
    fulfilled_at: status === 'fulfilled' ? iso(plan.end) : null,
    noshow_at: status === 'noshow' ? iso(plan.end) : null,
    cancelled_at: null as string | null,
    cancel_reason: null as string | null,
    ical_sequence: 0,
    version: 1,
    created_at: iso(Math.min(plan.start, nowMin) - leadDays * 1440 - random.int(60, 600)),
  };
}

type AppointmentRow = ReturnType<typeof appointment>;

/** The same person had a time a week earlier first, and gave it up. */
function cancelledBefore(row: AppointmentRow, { n, plan }: DemoVisit, nowMin: number, random: Random): AppointmentRow {
  const WEEK = 7 * 1440;
  const earlier = (at: string) => new Date(new Date(at).getTime() - WEEK * 60_000).toISOString();
  const start = plan.start - WEEK;
  return {
    ...row,
    id: idOf(`cancelled ${n}`),
    status: 'cancelled',
    starts_at: earlier(row.starts_at),
    ends_at: earlier(row.ends_at),
    provider_starts_at: earlier(row.provider_starts_at),
    provider_ends_at: earlier(row.provider_ends_at),
    site_date: new Date(Date.parse(row.site_date) - WEEK * 60_000).toISOString().slice(0, 10),
    confirmed_at: null,
    cancelled_at: iso(Math.min(nowMin, start) - random.int(30, 4000)),
    cancel_reason: random.pick(CANCEL_REASONS),
    created_at: iso(Math.min(nowMin, start) - random.int(5000, 40_000)),
  };
}

const OCCUPANCY =
  'resource_id uuid, place smallint, places smallint, during tstzrange, appointment_id uuid, part smallint, need_key text, single_device boolean';

function occupancyOf({ n, plan }: DemoVisit): Row[] {
  return plan.occupancy.map((o) => ({
    resource_id: o.resourceId,
    // Nothing here takes several at once; the database would refuse it.
    place: 0,
    places: o.places,
    during: `[${iso(o.start)},${iso(o.end)})`,
    appointment_id: visitId(n),
    part: o.part,
    need_key: o.needKey,
    single_device: o.needKey === 'spirometer',
  }));
}

function encounter(row: AppointmentRow): Row {
  return {
    id: idOf(`encounter ${row.id}`),
    appointment_id: row.id,
    patient_id: row.patient_id,
    status: row.status === 'fulfilled' ? 'finished' : 'arrived',
    identifiers: ['name', 'birth-date'],
    started_at: row.checked_in_at,
    ended_at: row.fulfilled_at,
    account_id: idOf('account front-desk'),
  };
}
