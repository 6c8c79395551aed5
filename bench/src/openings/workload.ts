import type { Occupied, WorkingHours } from '@zaguan/core/availability';
import type { ClinicSnapshot, SearchCriteria } from '@zaguan/core/openings';
import { addDays, datesFrom, type LocalDate, wallToEpoch, weekdayOf } from '@zaguan/core/time';
import type { BookedVisit } from '@zaguan/core/visits';
import { makeRandom, type Random } from '@zaguan/demo/random';

export interface Workload {
  readonly snapshot: ClinicSnapshot;
  readonly from: LocalDate;
  readonly until: LocalDate;
  readonly now: number;
  readonly criteria: SearchCriteria;
}

/** Holds the end of summer time (November 1) in both zones, whatever the number of days. */
const FROM = '2026-10-26';
const SITES = [
  { id: 'site-0', zone: 'America/Chicago', bookableOnline: true },
  { id: 'site-1', zone: 'America/Denver', bookableOnline: true },
];
const STRETCHES = [
  [480, 720],
  [780, 1020],
] as const;
const WEEKDAYS = [1, 2, 3, 4, 5] as const;
const ROOM_SHARE = 0.8;
const BOOKED_SHARE = 0.75;
/** The others are on the phone; with all of them the rooms would be full, for they take ten minutes longer. */
const WITH_ROOM_OF_TEN = 9;
export const AROUND_MIN = 5;
export const VISIT_MIN = 30;
export const GRID_MIN = 10;

/**
 * P providers over D days: weekdays 08:00–12:00 and 13:00–17:00 at one or two sites in two zones across the end of
 * summer time, days off, rooms in pools by site, two pieces of equipment a site, three quarters booked; asked for:
 * a provider for 30 minutes inside a room for 40, on a ten-minute grid.
 */
export function workload(providers: number, days: number): Workload {
  const random = makeRandom(providers * 1000 + days);
  const until = addDays(FROM, days - 1);
  const clinic = setUp(providers, until, random);
  const booked = bookDays(clinic, until, random);
  return {
    snapshot: { ...clinic, ...booked },
    from: FROM,
    until,
    now: wallToEpoch('America/Chicago', addDays(FROM, -2), 600),
    criteria: { visitTypeId: 'visit', kind: 'established', channel: 'online' },
  };
}

type Clinic = Omit<ClinicSnapshot, 'occupied' | 'visits'>;

function setUp(providers: number, until: LocalDate, random: Random): Clinic {
  const ids = Array.from({ length: providers }, (_, i) => `provider-${i}`);
  const rooms = Array.from({ length: Math.round(providers * ROOM_SHARE) }, (_, i) => `room-${i}`);
  const equipment = SITES.flatMap((_, site) => [`device-${site}-0`, `device-${site}-1`]);
  const workingHours = ids.flatMap((id, i) => hoursOf(id, i));
  const room = { what: 'pool', poolKind: 'room' } as const;
  return {
    sites: SITES,
    workingHours,
    siteHours: SITES.map(({ id }) => ({
      id: `open-${id}`,
      siteId: id,
      rule: rule([1, 2, 3, 4, 5, 6, 7]),
      fromMinute: 420,
      toMinute: 1080,
    })),
    closures: [],
    resources: [
      ...ids.map((id) => ({ id, kind: 'provider' as const, bookableOnline: true, capabilities: [] })),
      ...rooms.map((id) => ({ id, kind: 'room' as const, bookableOnline: true, capabilities: [] })),
      ...equipment.map((id) => ({ id, kind: 'equipment' as const, bookableOnline: true, capabilities: [] })),
    ],
    pools: SITES.map(({ id }, site) => ({
      id: `rooms-${site}`,
      siteId: id,
      kind: 'room',
      memberIds: rooms.filter((_, i) => i % 2 === site),
    })),
    dateChanges: [],
    timeOff: ids.flatMap((resourceId) =>
      Array.from({ length: 2 }, (_, i) => {
        const date = random.pick(datesFrom(FROM, until));
        return {
          id: `off-${resourceId}-${i}`,
          resourceId,
          siteId: null,
          startDate: date,
          startMinute: 0,
          endDate: date,
          endMinute: 1440,
        };
      }),
    ),
    keptFree: [],
    brush: [],
    visitTypes: [
      {
        id: 'visit',
        beforeMin: 0,
        afterMin: 0,
        providerIds: null,
        siteIds: null,
        spacing: [],
        parts: [
          { lengthMin: AROUND_MIN, needs: [{ key: 'room', ...room }] },
          {
            lengthMin: VISIT_MIN,
            needs: [
              { key: 'doctor', what: 'provider' },
              { key: 'room-2', ...room, sameAs: 'room' },
            ],
          },
          { lengthMin: AROUND_MIN, needs: [{ key: 'room-3', ...room, sameAs: 'room' }] },
        ],
      },
    ],
    policies: [
      {
        id: 'policy',
        visitTypeId: 'visit',
        siteId: null,
        providerId: null,
        offered: true,
        kinds: null,
        leadMin: 60,
        leadWorkingDays: null,
        leadByMinute: null,
        windowDays: 365,
        gridMin: GRID_MIN,
      },
    ],
    caps: [],
    travel: [],
    payerRules: [],
  };
}

function rule(weekdays: WorkingHours['rule']['weekdays']): WorkingHours['rule'] {
  return { weekdays, everyWeeks: 1, anchorDate: FROM, effectiveFrom: '2026-01-01', effectiveUntil: null };
}

/** Every second provider works at both sites, by weekday. */
function hoursOf(resourceId: string, i: number): WorkingHours[] {
  const home = i % 2;
  const split = i % 4 >= 2;
  const days = split ? [WEEKDAYS.filter((day) => day <= 3), WEEKDAYS.filter((day) => day > 3)] : [WEEKDAYS];
  return days.flatMap((weekdays, at) =>
    STRETCHES.map(([fromMinute, toMinute]) => ({
      id: `hours-${resourceId}-${at}-${fromMinute}`,
      subject: { of: 'resource' as const, id: resourceId },
      siteId: SITES[(home + at) % 2].id,
      rule: rule(weekdays),
      followsSiteHours: false,
      fromMinute,
      toMinute,
      places: 1,
      accepts: { visitTypeIds: null, kinds: null, invitedOnly: false },
      online: true,
      release: null,
      caps: [],
    })),
  );
}

function bookDays(clinic: Clinic, until: LocalDate, random: Random): Pick<ClinicSnapshot, 'occupied' | 'visits'> {
  const occupied: Occupied[] = [];
  const visits: BookedVisit[] = [];
  const zones = new Map(clinic.sites.map((site) => [site.id, site.zone]));
  const off = new Set(clinic.timeOff.map((row) => `${row.resourceId}|${row.startDate}`));
  for (const date of datesFrom(FROM, until)) {
    const today: BookedVisit[] = [];
    for (const hoursRow of clinic.workingHours) {
      const providerId = hoursRow.subject.id;
      if (!hoursRow.rule.weekdays.includes(weekdayOf(date)) || off.has(`${providerId}|${date}`)) continue;
      for (let minute = hoursRow.fromMinute; minute < hoursRow.toMinute; ) {
        const length = Math.min(random.int(3, 12) * 5, hoursRow.toMinute - minute);
        const start = wallToEpoch(zones.get(hoursRow.siteId) ?? '', date, minute);
        const end = start + length;
        minute += length;
        if (!random.chance(BOOKED_SHARE)) continue;
        const id = `visit-${visits.length + today.length}`;
        const span = { start, end, providerStart: start, providerEnd: end };
        today.push({ ...VISIT, ...span, id, siteId: hoursRow.siteId, providerId, date });
      }
    }
    visits.push(...today);
    occupied.push(...today.map(({ id, providerId, start, end }) => taken(providerId ?? '', start, end, id)));
    occupied.push(...roomsFor(clinic, today));
  }
  return { occupied, visits };
}

function taken(resourceId: string, start: number, end: number, visitId: string): Occupied {
  return { resourceId, start, end, visitId };
}

/** Rooms given out in order of time, first free first; a visit for which none is left goes without. */
function roomsFor(clinic: Clinic, visits: readonly BookedVisit[]): Occupied[] {
  const freeFrom = new Map<string, number>();
  return visits
    .filter((_, i) => i % 10 < WITH_ROOM_OF_TEN)
    .sort((a, b) => a.start - b.start)
    .flatMap(({ id, siteId, start, end }) => {
      const pool = clinic.pools.find((row) => row.siteId === siteId);
      const room = pool?.memberIds.find((each) => (freeFrom.get(each) ?? 0) <= start - AROUND_MIN);
      if (!room) return [];
      freeFrom.set(room, end + AROUND_MIN);
      return [taken(room, start - AROUND_MIN, end + AROUND_MIN, id)];
    });
}

const VISIT = {
  visitTypeId: 'visit',
  patientId: null,
  kind: 'established' as const,
  selfBooked: false,
  beforeMin: 0,
  afterMin: 0,
};
