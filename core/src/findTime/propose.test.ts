import { expect, it } from 'vitest';
import { DAY, HOURS, smallClinic, ZONE } from '../../tests/smallClinic.ts';
import { ClinicIndex, ClinicStore } from '../openings/index.ts';
import { addDays, epochToWall, type LocalDate, wallToEpoch } from '../time/index.ts';
import { habitsOf, type KnownVisit, proposeTimes, type Where } from './index.ts';

const CRITERIA = { visitTypeId: 'visit', kind: 'established', channel: 'desk' } as const;
const NOW = wallToEpoch(ZONE, DAY, 7 * 60);
const WHERE: Where = {
  ...{ siteIds: ['site'], providerIds: null, from: DAY, until: addDays(DAY, 28) },
  ...{ weekdays: null, fromMinute: 0, toMinute: 1440, language: null },
};
/** Two doctors, 8:00 to 12:00 every day; the first one is away on the first day. */
const STORE = new ClinicStore(
  smallClinic({
    resources: [
      { id: 'doctor', kind: 'provider', bookableOnline: true, capabilities: [] },
      { id: 'other', kind: 'provider', bookableOnline: true, capabilities: [] },
    ],
    workingHours: [HOURS, { ...HOURS, id: 'others', subject: { of: 'resource', id: 'other' } }],
    timeOff: [
      {
        id: 'away',
        resourceId: 'doctor',
        siteId: null,
        ...{ startDate: DAY, startMinute: 0, endDate: DAY, endMinute: 1440 },
      },
    ],
    policies: [],
  }),
);
const visit = (date: LocalDate, minute: number, providerId = 'doctor'): KnownVisit => {
  const start = wallToEpoch(ZONE, date, minute);
  return { siteId: 'site', providerId, start, end: start + 30 };
};
const propose = (past: readonly KnownVisit[], beside: readonly KnownVisit[] = []) =>
  proposeTimes(new ClinicIndex(STORE, NOW), CRITERIA, WHERE, habitsOf(STORE, past, beside)).map(({ time, why }) => {
    const wall = epochToWall(ZONE, time.start);
    return [wall.date, wall.minute, time.providerId, why.join(' ')];
  });

it('proposes who saw them last, their usual hour, and the soonest, each with why', () => {
  // Fridays about 10:00 with the first doctor: three of four, across the change of clocks in March 2026.
  const past = [
    visit('2026-05-29', 600),
    visit('2026-05-01', 630),
    visit('2026-03-06', 600),
    visit('2026-02-03', 480, 'other'),
  ];
  expect(propose(past)).toEqual([
    [DAY, 480, 'other', 'soonest'],
    [addDays(DAY, 1), 480, 'doctor', 'same-provider'],
    ['2026-06-12', 600, 'doctor', 'usual-time'],
  ]);
});

it('joins reasons of one time, and fills up with further days', () => {
  const past = [visit('2026-06-01', 480, 'other'), visit('2026-05-20', 480, 'other')];
  expect(propose(past)).toEqual([
    [DAY, 480, 'other', 'same-provider usual-time soonest'],
    [addDays(DAY, 1), 480, 'doctor', 'other-day'],
    [addDays(DAY, 2), 480, 'doctor', 'other-day'],
  ]);
});

it('proposes a time beside the visit of somebody of the household', () => {
  const child = visit('2026-06-16', 570);
  expect(propose([], [child])).toEqual([
    [DAY, 480, 'other', 'soonest'],
    ['2026-06-16', 510, 'doctor', 'beside-household'],
    [addDays(DAY, 1), 480, 'doctor', 'other-day'],
  ]);
});

it('knows no habit of one visit, and a usual hour without a usual day', () => {
  expect(habitsOf(STORE, [visit('2026-05-29', 600)], [])).toMatchObject({ lastProviderId: 'doctor', usual: null });
  const week = [visit('2026-05-25', 600), visit('2026-05-19', 610), visit('2026-05-13', 640), visit('2026-05-07', 720)];
  expect(habitsOf(STORE, week, []).usual).toEqual({ weekday: null, minute: 610 });
});
