import type { Accepts, DateChange, PatientKind, Release, Session } from '../src/availability/index.ts';
import type { Channel, ClinicSnapshot, PayerRule, Wish } from '../src/openings/index.ts';
import { addDays, type EpochMinute, type LocalDate, wallToEpoch, type Weekday, weekdayOf } from '../src/time/index.ts';
import type { BookedVisit, Need, Part } from '../src/visits/index.ts';

/** Draws from fast-check's generator, so that a failure shrinks and prints its seed. */
export interface Draw {
  int(min: number, max: number): number;
  pick<T>(from: readonly T[]): T;
  chance(percent: number): boolean;
}

export interface RandomCase {
  readonly snapshot: ClinicSnapshot;
  readonly now: EpochMinute;
  readonly wish: Wish;
  readonly siteId: string;
  readonly providerId: string | null;
  readonly date: LocalDate;
}

/** Ordinary days, both US clock changes of 2026 and 2027 (Energy Policy Act of 2005), and days around a year's end. */
const DATES: readonly LocalDate[] = [
  '2026-03-08',
  '2026-11-01',
  '2027-03-14',
  '2027-11-07',
  '2026-06-10',
  '2026-12-31',
  '2026-11-24',
];
const ZONES = ['America/Chicago', 'America/Denver', 'America/Phoenix'] as const;
const PROVIDERS = ['p1', 'p2'] as const;
const ROOMS = ['r1', 'r2', 'r3'] as const;
const NURSES = ['n1', 'n2'] as const;

/** Times lie on 5-minute marks; now and then in the small hours, where the clocks change. */
function stretch(draw: Draw): { fromMinute: number; toMinute: number } {
  const fromMinute = draw.chance(40) ? draw.int(6, 30) * 5 : draw.int(90, 200) * 5;
  return { fromMinute, toMinute: Math.min(1440, fromMinute + draw.int(3, 90) * 5) };
}

function accepts(draw: Draw): Accepts {
  return {
    visitTypeIds: draw.chance(75) ? null : draw.pick([['t1'], ['t2'], ['t1', 't2']]),
    kinds: draw.chance(75) ? null : draw.pick<PatientKind[]>([['new'], ['established']]),
    invitedOnly: draw.chance(10),
  };
}

function release(draw: Draw): Release | null {
  return draw.chance(75) ? null : { beforeMin: draw.int(0, 400) * 5, accepts: accepts(draw), online: draw.chance(70) };
}

function rule(draw: Draw, date: LocalDate) {
  const weekdays: Weekday[] = draw.chance(85) ? [weekdayOf(date)] : [draw.int(1, 7) as Weekday];
  return {
    weekdays,
    everyWeeks: draw.pick([1, 1, 1, 2]),
    anchorDate: addDays(date, draw.pick([0, 0, -7, -14])),
    effectiveFrom: addDays(date, draw.chance(95) ? -30 : 1),
    effectiveUntil: draw.chance(80) ? null : addDays(date, draw.int(-1, 20)),
  };
}

function sessions(draw: Draw, date: LocalDate): Session[] {
  const people = [...PROVIDERS, ...NURSES].flatMap((id) =>
    Array.from({ length: draw.int(0, 3) }, () => ({ of: 'resource' as const, id })),
  );
  const subjects = [
    ...people,
    ...(draw.chance(20) ? [{ of: 'pool' as const, id: 'nurses' }] : []),
    ...(draw.chance(15) ? [{ of: 'resource' as const, id: 'r1' }] : []),
  ];
  return subjects.map((subject, i) => ({
    id: `s${i}`,
    subject,
    siteId: draw.chance(90) ? 'a' : 'b',
    rule: rule(draw, date),
    followsSiteHours: draw.chance(10),
    ...stretch(draw),
    places: draw.pick([1, 1, 1, 2]),
    accepts: accepts(draw),
    online: draw.chance(80),
    release: release(draw),
    caps: draw.chance(90)
      ? []
      : [
          {
            visitTypeId: draw.pick([null, 't1']),
            kind: draw.pick<PatientKind | null>([null, 'new']),
            most: draw.int(0, 2),
          },
        ],
  }));
}

function dateChanges(draw: Draw, date: LocalDate, all: readonly Session[]): DateChange[] {
  const changes: DateChange[] = [];
  const hours = () => ({
    siteId: draw.chance(85) ? 'a' : 'b',
    ...stretch(draw),
    places: 1,
    accepts: accepts(draw),
    online: draw.chance(80),
  });
  for (const session of all) {
    if (draw.chance(15))
      changes.push({
        id: `c-${session.id}`,
        subject: session.subject,
        sessionId: session.id,
        date,
        hours: draw.chance(50) ? null : hours(),
      });
  }
  for (const id of PROVIDERS)
    if (draw.chance(25))
      changes.push({ id: `x-${id}`, subject: { of: 'resource', id }, sessionId: null, date, hours: hours() });
  return changes;
}

function parts(draw: Draw): Part[] {
  const provider: Need = { key: 'doctor', what: 'provider' };
  const room = (key: string, extra: Partial<Need> = {}): Need =>
    ({ key, what: 'pool', poolKind: 'room', turnaroundMin: draw.pick([0, 0, 10]), ...extra }) as Need;
  const nurse = (key: string, extra: Partial<Need> = {}): Need =>
    ({ key, what: 'pool', poolKind: 'nurse', ...extra }) as Need;
  const watcher: Need = { key: 'watcher', what: 'present', capability: 'treats' };
  const length = () => draw.int(1, 6) * 5;
  return draw.pick<() => Part[]>([
    () => [{ lengthMin: length(), needs: [provider] }],
    () => [{ lengthMin: length(), needs: [provider, room('room')] }],
    () => [
      { lengthMin: length(), needs: [nurse('nurse'), room('room')] },
      { lengthMin: length(), needs: [room('wait', { sameAs: 'room' }), watcher] },
      { lengthMin: length(), needs: [provider, room('end', { sameAs: 'room' })] },
    ],
    () => [
      { lengthMin: length(), needs: [provider, nurse('nurse')] },
      { lengthMin: length(), needs: [] },
      { lengthMin: length(), needs: [provider] },
    ],
    () => [
      { lengthMin: length(), needs: [nurse('one')] },
      { lengthMin: length(), needs: [nurse('two', { differentFrom: 'one' }), watcher] },
    ],
    () => [{ lengthMin: length(), needs: [room('left'), room('right')] }],
    () => [{ lengthMin: length(), needs: [nurse('nurse'), { key: 'device', what: 'resource', resourceId: 'e1' }] }],
  ])();
}

function payerRule(draw: Draw): PayerRule {
  return {
    payerId: draw.pick(['pay', 'pay', 'other']),
    visitTypeId: draw.pick([null, 't1', 't2']),
    siteId: draw.pick([null, 'a', 'b']),
    providerId: draw.pick([null, 'p1', 'p2']),
    accepted: draw.pick([null, true, true, false]),
    referral: draw.pick([null, null, true, false]),
    authorization: draw.pick([null, null, true, false]),
  };
}

function visits(draw: Draw, date: LocalDate, zone: string): BookedVisit[] {
  return Array.from({ length: draw.int(0, 5) }, (_, i) => {
    const start = wallToEpoch(zone, date, draw.int(4, 250) * 5);
    const end = start + draw.int(2, 12) * 5;
    return {
      id: `v${i}`,
      visitTypeId: draw.pick(['t1', 't2']),
      siteId: draw.chance(80) ? 'a' : 'b',
      providerId: draw.pick([null, ...PROVIDERS]),
      patientId: draw.pick([null, 'me', 'other']),
      kind: draw.pick<PatientKind>(['new', 'established']),
      selfBooked: draw.chance(50),
      start,
      end,
      providerStart: start,
      providerEnd: end,
      beforeMin: draw.pick([0, 5, 15]),
      afterMin: draw.pick([0, 10]),
      date,
    };
  });
}

/** A clinic of two sites with one random question about one day. Visits may overlap: the search must not care. */
export function randomCase(draw: Draw): RandomCase {
  const date = draw.pick(DATES);
  const zone = draw.pick(ZONES);
  const all = sessions(draw, date);
  const booked = visits(draw, date, zone);
  const type1 = parts(draw);
  const withProvider = type1.some((part) => part.needs.some((need) => need.what === 'provider'));
  const some = <T>(percent: number, make: () => T): T[] => (draw.chance(percent) ? [make()] : []);
  const day = { startDate: date, endDate: date };
  const span = () => {
    const s = stretch(draw);
    return { ...day, startMinute: s.fromMinute, endMinute: s.toMinute };
  };
  const busy = [...PROVIDERS, ...NURSES, ...ROOMS, 'e1'].flatMap((resourceId) =>
    Array.from({ length: draw.int(0, 3) }, (_, i) => {
      const start = wallToEpoch(zone, date, draw.int(4, 250) * 5) + draw.pick([0, 0, 2]);
      return {
        resourceId,
        place: draw.pick([0, 0, 1]),
        start,
        end: start + draw.int(1, 60),
        visitId: draw.pick([`b${i}`, 'v0']),
      };
    }),
  );
  const snapshot: ClinicSnapshot = {
    sites: [
      { id: 'a', zone, bookableOnline: draw.chance(95) },
      { id: 'b', zone: 'America/Denver', bookableOnline: true },
    ],
    siteHours: some(92, () => ({
      id: 'h',
      siteId: 'a',
      rule: {
        weekdays: [1, 2, 3, 4, 5, 6, 7],
        everyWeeks: 1,
        anchorDate: date,
        effectiveFrom: addDays(date, -100),
        effectiveUntil: null,
      },
      fromMinute: draw.int(0, 90) * 5,
      toMinute: draw.int(200, 288) * 5,
    })),
    closures: some(12, () => ({ id: 'cl', siteId: 'a', ...span() })),
    resources: [
      ...PROVIDERS.map((id) => ({
        id,
        kind: 'provider' as const,
        bookableOnline: draw.chance(92),
        acceptsNew: draw.chance(92),
        capabilities: draw.chance(60) ? ['treats'] : [],
      })),
      ...NURSES.map((id) => ({ id, kind: 'staff' as const, bookableOnline: true, capabilities: [] })),
      ...ROOMS.map((id) => ({
        id,
        kind: 'room' as const,
        bookableOnline: true,
        capabilities: [],
        places: draw.pick([1, 1, 2]),
      })),
      { id: 'e1', kind: 'equipment', bookableOnline: true, capabilities: [] },
    ],
    pools: [
      { id: 'rooms', siteId: 'a', kind: 'room', memberIds: ROOMS.slice(0, draw.int(1, 3)) },
      ...some(92, () => ({
        id: 'nurses',
        siteId: 'a',
        kind: 'nurse',
        memberIds: draw.chance(20) ? [...NURSES, 'p1'] : [...NURSES],
      })),
    ],
    sessions: all,
    dateChanges: dateChanges(draw, date, all),
    timeOff: PROVIDERS.flatMap((resourceId) =>
      some(15, () => ({ id: `o-${resourceId}`, resourceId, siteId: draw.pick([null, 'a', 'b']), ...span() })),
    ),
    keptFree: [...PROVIDERS, ...NURSES].flatMap((resourceId) =>
      some(15, () => ({
        id: `k-${resourceId}`,
        resourceId,
        siteId: draw.pick([null, 'a']),
        rule: rule(draw, date),
        ...stretch(draw),
      })),
    ),
    brush: Array.from({ length: draw.int(0, 3) }, (_, i) => ({
      id: `br${i}`,
      resourceId: draw.pick([...PROVIDERS, ...NURSES]),
      siteId: 'a',
      date,
      ...stretch(draw),
      value: draw.pick(['shown', 'desk-only', 'by-rule'] as const),
      order: i,
    })),
    visitTypes: [
      {
        id: 't1',
        parts: type1,
        beforeMin: draw.pick([0, 10]),
        afterMin: draw.pick([0, 5, 20]),
        providerIds: draw.pick([null, null, ['p1']]),
        siteIds: draw.chance(95) ? null : ['b'],
        spacing: some(15, () => ({
          otherTypeId: draw.pick(['t1', 't2']),
          leastDays: draw.pick([null, 1, 3]),
          mostDays: null,
        })),
      },
      {
        id: 't2',
        parts: [{ lengthMin: 20, needs: [{ key: 'doctor', what: 'provider' }] }],
        beforeMin: 0,
        afterMin: 0,
        providerIds: null,
        siteIds: null,
        spacing: [],
      },
    ],
    policies: [
      ...some(95, () => ({
        id: 'po',
        visitTypeId: 't1',
        siteId: null,
        providerId: null,
        offered: draw.chance(95),
        kinds: draw.pick<PatientKind[] | null>([null, null, ['new']]),
        leadMin: draw.pick([null, 60, 600]),
        leadWorkingDays: draw.pick([null, null, 1, 2]),
        leadByMinute: 1020,
        windowDays: draw.pick([null, 0, 3]),
        gridMin: draw.pick([null, 5, 15, 20]),
      })),
      ...some(30, () => ({
        id: 'pn',
        visitTypeId: 't1',
        siteId: draw.pick([null, 'a']),
        providerId: draw.pick([null, 'p1']),
        offered: draw.pick([null, true, false]),
        kinds: null,
        leadMin: draw.pick([null, 0]),
        leadWorkingDays: null,
        leadByMinute: null,
        windowDays: draw.pick([null, 30]),
        gridMin: null,
      })),
    ],
    caps: some(20, () => ({
      id: 'cap',
      bucket: draw.pick(['provider-day', 'provider-type-day', 'site-type-day', 'provider-self-day'] as const),
      providerId: null,
      siteId: draw.pick([null, 'a']),
      visitTypeId: draw.pick([null, 't1']),
      most: draw.int(0, 3),
    })),
    travel: [
      { fromSiteId: 'a', toSiteId: 'b', minutes: 40 },
      { fromSiteId: 'b', toSiteId: 'a', minutes: 30 },
    ],
    payerRules: some(30, () => payerRule(draw)).concat(some(30, () => payerRule(draw))),
    occupied: busy,
    visits: booked,
  };
  const wish: Wish = {
    visitTypeId: 't1',
    kind: draw.pick<PatientKind>(['new', 'established']),
    channel: draw.pick<Channel>(['online', 'online', 'desk', 'invited']),
    deskTimesToo: draw.chance(30),
    patientId: draw.pick([null, 'me']),
    notBefore: draw.pick([null, null, null, addDays(date, 1)]),
    ignoreVisitId: draw.pick([null, null, 'v0']),
    payerId: draw.pick([null, null, null, null, 'pay']),
    hasReferral: draw.chance(50),
    hasAuthorization: draw.chance(50),
  };
  const now =
    wallToEpoch(zone, addDays(date, draw.pick([0, 0, -1, -2, -5])), draw.int(0, 200) * 5) + draw.pick([0, 0, 3]);
  return { snapshot, now, wish, siteId: 'a', providerId: withProvider ? draw.pick(PROVIDERS) : null, date };
}
