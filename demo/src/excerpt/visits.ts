import { lastOf } from '../lastOf.ts';
import { planVisit, type VisitPlan } from '@zaguan/core/booking';
import { ClinicIndex, type ClinicSnapshot, openStarts, providersToTry } from '@zaguan/core/openings';
import { addDays, cellsOf, datesFrom, epochOfCell, type LocalDate } from '@zaguan/core/time';
import type { AppointmentStatus, BookedVisit } from '@zaguan/core/visits';
import { loadSnapshot } from '@zaguan/server/features/openings/index';
import type { Orm } from '@zaguan/server/platform/db/orm';
import { SITES, TYPES } from './ids.ts';
import { insertRows } from '../rows.ts';
import type { DemoPatient } from './people.ts';
import { idOf, type Random } from '../random.ts';

const DAYS_BACK = 10;
const DAYS_AHEAD = 40;
const REASONS: Record<string, readonly string[]> = {
  [TYPES.follow]: ['Spring symptoms', 'Results of last test', 'New inhaler', 'Hives again', 'Medicine review'],
  [TYPES.consult]: ['Referred for food allergy', 'Wheezing at night', 'Bee sting last summer', 'Rash after antibiotic'],
  [TYPES.skin]: ['Tree and grass panel', 'Food panel', 'Cat and dust mite'],
};

interface DemoVisit {
  id: string;
  typeId: string;
  siteId: string;
  providerId: string | null;
  patient: DemoPatient;
  origin: 'desk' | 'self';
  reason: string;
  plan: VisitPlan;
  beforeMin: number;
  afterMin: number;
}

/** Fills the schedule through the same planning as a booking, so that the demo never holds a visit that breaks a rule. */
export async function loadVisits(
  orm: Orm,
  today: LocalDate,
  now: Date,
  patients: readonly DemoPatient[],
  random: Random,
): Promise<number> {
  const from = addDays(today, -DAYS_BACK);
  const until = addDays(today, DAYS_AHEAD);
  let snapshot: ClinicSnapshot = await loadSnapshot(orm.em.fork(), { from, until }, now);
  const booked: DemoVisit[] = [];
  for (const date of datesFrom(from, until)) {
    // The fuller the nearer: today about four fifths, in five weeks about a quarter.
    const ahead = Math.max(0, (Date.parse(date) - Date.parse(today)) / 86_400_000);
    const tries = Math.round(34 * Math.max(0.25, 1 - ahead / 45));
    for (let i = 0; i < tries; i++) {
      const visit = tryVisit(snapshot, date, patients, random, booked.length);
      if (!visit) continue;
      booked.push(visit);
      snapshot = withVisit(snapshot, visit);
    }
  }
  await write(orm, booked, now, random);
  return booked.length;
}

function tryVisit(
  snapshot: ClinicSnapshot,
  date: LocalDate,
  patients: readonly DemoPatient[],
  random: Random,
  n: number,
): DemoVisit | null {
  const typeId = random.pick([TYPES.follow, TYPES.follow, TYPES.follow, TYPES.consult, TYPES.skin]);
  const siteId = typeId === TYPES.skin ? SITES.canal : random.pick([SITES.canal, SITES.mesa]);
  const kind = typeId === TYPES.consult ? 'new' : 'established';
  const patient = random.pick(patients.filter((person) => person.kind === kind));
  const index = new ClinicIndex(snapshot, 0);
  const providerId = random.pick(providersToTry(index, typeId, null));
  const criteria = { visitTypeId: typeId, kind, channel: 'desk', patientId: patient.id } as const;
  const day = index.day(siteId, date);
  const starts = cellsOf(openStarts(index, criteria, siteId, providerId, date)).filter(
    (cell) => day.wallOfCell[cell] % (typeId === TYPES.consult ? 20 : 10) === 0,
  );
  if (!starts.length) return null;
  const planned = planVisit(index, criteria, siteId, providerId, epochOfCell(day, random.pick(starts)));
  if (!planned.ok) return null;
  const type = index.visitType(typeId);
  return {
    id: idOf(`visit ${n}`),
    typeId,
    siteId,
    providerId,
    patient,
    origin: random.chance(0.25) ? 'self' : 'desk',
    reason: random.chance(0.8) ? random.pick(REASONS[typeId]) : '',
    plan: planned.plan,
    beforeMin: type.beforeMin,
    afterMin: type.afterMin,
  };
}

function withVisit(snapshot: ClinicSnapshot, visit: DemoVisit): ClinicSnapshot {
  const { plan } = visit;
  const row: BookedVisit = {
    id: visit.id,
    visitTypeId: visit.typeId,
    siteId: visit.siteId,
    providerId: visit.providerId,
    patientId: visit.patient.id,
    kind: visit.patient.kind,
    selfBooked: visit.origin === 'self',
    start: plan.start,
    end: plan.end,
    providerStart: plan.providerStart,
    providerEnd: plan.providerEnd,
    beforeMin: visit.beforeMin,
    afterMin: visit.afterMin,
    date: plan.date,
  };
  return {
    ...snapshot,
    visits: [...snapshot.visits, row],
    occupied: [...snapshot.occupied, ...plan.occupancy.map((o) => ({ ...o, visitId: visit.id }))],
  };
}

function statusAt(plan: VisitPlan, nowMin: number, random: Random): AppointmentStatus {
  if (plan.end <= nowMin) return random.chance(0.06) ? 'noshow' : 'fulfilled';
  if (plan.start <= nowMin) return random.chance(0.7) ? 'checked-in' : 'arrived';
  return plan.start - nowMin < 25 && random.chance(0.6) ? 'arrived' : 'booked';
}

const iso = (minute: number) => new Date(minute * 60_000).toISOString();

/** Each status brings the times at which it and those before it were reached. */
function timesOf(status: AppointmentStatus, plan: VisitPlan, random: Random) {
  const came = ['arrived', 'checked-in', 'fulfilled'].includes(status);
  return {
    confirmed_at: random.chance(0.6) ? iso(plan.start - 1500) : null,
    arrived_at: came ? iso(plan.start - random.int(2, 18)) : null,
    checked_in_at: came && status !== 'arrived' ? iso(plan.start) : null,
    fulfilled_at: status === 'fulfilled' ? iso(plan.end) : null,
    noshow_at: status === 'noshow' ? iso(plan.end) : null,
  };
}

async function write(orm: Orm, booked: readonly DemoVisit[], now: Date, random: Random): Promise<void> {
  const nowMin = now.getTime() / 60_000;
  await insertRows(
    orm,
    'appointment',
    booked.map(({ id, plan, ...visit }) => {
      const status = statusAt(plan, nowMin, random);
      const row = {
        id,
        site_id: visit.siteId,
        visit_type_id: visit.typeId,
        provider_id: visit.providerId,
        patient_id: visit.patient.id,
        patient_kind: visit.patient.kind,
        status,
        identity: 'sure',
        approval: 'not-needed',
        origin: visit.origin,
        starts_at: iso(plan.start),
        ends_at: iso(plan.end),
        provider_starts_at: iso(plan.providerStart),
        provider_ends_at: iso(plan.providerEnd),
        before_min: visit.beforeMin,
        after_min: visit.afterMin,
        site_date: plan.date,
        reason_text: visit.reason,
        staff_note: '',
        ...timesOf(status, plan, random),
        ical_sequence: 0,
        version: 1,
        created_at: iso(Math.min(plan.start, nowMin) - random.int(60, 20_000)),
      };
      return { ...row, changed_at: lastOf(row) };
    }),
  );
  const rows = booked.flatMap(({ id, plan }) =>
    plan.occupancy.map((o) => ({
      resource_id: o.resourceId,
      // Nothing here takes several at once; the database would refuse it.
      place: 0,
      places: o.places,
      during: `[${iso(o.start)},${iso(o.end)})`,
      appointment_id: id,
      part: o.part,
      need_key: o.needKey,
      single_device: false,
    })),
  );
  const BATCH = 1000;
  for (let i = 0; i < rows.length; i += BATCH) {
    await orm.em.getConnection().execute(
      `insert into occupancy (resource_id, place, places, during, appointment_id, part, need_key, single_device)
       select resource_id, place, places, during, appointment_id, part, need_key, single_device from json_to_recordset(?::json) as r(resource_id uuid, place smallint, places smallint, during tstzrange, appointment_id uuid, part smallint, need_key text, single_device boolean)`,
      [JSON.stringify(rows.slice(i, i + BATCH))],
    );
  }
}
