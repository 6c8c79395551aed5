import type { Accepts, DateChange, PatientKind, Release, WorkingHours } from '../src/availability/index.ts';
import type { InvitationLimits, PayerRule } from '../src/openings/index.ts';
import { addDays, type LocalDate, wallToEpoch, type Weekday, weekdayOf } from '../src/time/index.ts';
import type { BookedVisit, Need, Part } from '../src/visits/index.ts';

/** Draws from fast-check's generator, so that a failure shrinks and prints its seed. */
export interface Draw {
  int(min: number, max: number): number;
  pick<T>(from: readonly T[]): T;
  chance(percent: number): boolean;
}

/** Ordinary days, both US clock changes of 2026 and 2027 (Energy Policy Act of 2005), and days around a year's end. */
export const DATES: readonly LocalDate[] = [
  '2026-03-08',
  '2026-11-01',
  '2027-03-14',
  '2027-11-07',
  '2026-06-10',
  '2026-12-31',
  '2026-11-24',
];
export const ZONES = ['America/Chicago', 'America/Denver', 'America/Phoenix'] as const;
export const PROVIDERS = ['p1', 'p2'] as const;
export const ROOMS = ['r1', 'r2', 'r3'] as const;
export const NURSES = ['n1', 'n2'] as const;

/** Times lie on 5-minute marks; now and then in the small hours, where the clocks change. */
export function stretch(draw: Draw): { fromMinute: number; toMinute: number } {
  const fromMinute = draw.chance(40) ? draw.int(6, 30) * 5 : draw.int(90, 200) * 5;
  return { fromMinute, toMinute: Math.min(1440, fromMinute + draw.int(3, 90) * 5) };
}

export function accepts(draw: Draw): Accepts {
  return {
    visitTypeIds: draw.chance(75) ? null : draw.pick([['t1'], ['t2'], ['t1', 't2']]),
    kinds: draw.chance(75) ? null : draw.pick<PatientKind[]>([['new'], ['established']]),
    invitedOnly: draw.chance(10),
  };
}

export function release(draw: Draw): Release | null {
  return draw.chance(75) ? null : { beforeMin: draw.int(0, 400) * 5, accepts: accepts(draw), online: draw.chance(70) };
}

export function rule(draw: Draw, date: LocalDate) {
  const weekdays: Weekday[] = draw.chance(85) ? [weekdayOf(date)] : [draw.int(1, 7) as Weekday];
  return {
    weekdays,
    everyWeeks: draw.pick([1, 1, 1, 2]),
    anchorDate: addDays(date, draw.pick([0, 0, -7, -14])),
    effectiveFrom: addDays(date, draw.chance(95) ? -30 : 1),
    effectiveUntil: draw.chance(80) ? null : addDays(date, draw.int(-1, 20)),
  };
}

export function workingHours(draw: Draw, date: LocalDate): WorkingHours[] {
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
            max: draw.int(0, 2),
          },
        ],
  }));
}

export function dateChanges(draw: Draw, date: LocalDate, all: readonly WorkingHours[]): DateChange[] {
  const changes: DateChange[] = [];
  const hours = () => ({
    siteId: draw.chance(85) ? 'a' : 'b',
    ...stretch(draw),
    places: 1,
    accepts: accepts(draw),
    online: draw.chance(80),
  });
  for (const hoursRow of all) {
    if (draw.chance(15))
      changes.push({
        id: `c-${hoursRow.id}`,
        subject: hoursRow.subject,
        workingHoursId: hoursRow.id,
        date,
        hours: draw.chance(50) ? null : hours(),
      });
  }
  for (const id of PROVIDERS)
    if (draw.chance(25))
      changes.push({ id: `x-${id}`, subject: { of: 'resource', id }, workingHoursId: null, date, hours: hours() });
  return changes;
}

export function parts(draw: Draw): Part[] {
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

export function payerRule(draw: Draw): PayerRule {
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

export function visits(draw: Draw, date: LocalDate, zone: string): BookedVisit[] {
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

/** What an invitation may book: mostly with nothing said, sometimes just beside what is asked. */
export function limits(draw: Draw, date: LocalDate): InvitationLimits {
  const maybe = <T>(value: () => T): T | null => (draw.chance(40) ? value() : null);
  return {
    typeIds: draw.pick([['t1'], ['t1', 't2'], ['t2']]),
    siteIds: maybe(() => draw.pick([['a'], ['b'], ['a', 'b']])),
    providerIds: maybe(() => [draw.pick(PROVIDERS)]),
    hours: maybe(() =>
      [stretch(draw), stretch(draw)].map(({ fromMinute, toMinute }) => ({
        weekdays: draw.pick<readonly Weekday[]>([
          [1, 2, 3, 4, 5, 6, 7],
          [1, 3, 5, 7],
          [2, 4, 6],
        ]),
        fromMinute,
        toMinute,
      })),
    ),
    fromDate: maybe(() => addDays(date, draw.pick([-1, 0, 1]))),
    untilDate: maybe(() => addDays(date, draw.pick([-1, 0, 1]))),
  };
}
