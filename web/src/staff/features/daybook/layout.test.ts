import type { DaybookDay, Lane, Plate, SiteDay } from '@zaguan/contracts/daybook';
import { expect, it } from 'vitest';
import { lanesOf, MIN_PLATE_PX, placePlates, shiftDate, shownOf, weekOf } from './layout.ts';

const DAY_START = '2026-12-01T06:00:00.000Z';
const at = (minute: number) => new Date(Date.parse(DAY_START) + minute * 60_000).toISOString();
const plate = (id: string, from: number, to: number): Plate => ({
  id,
  kind: 'visit',
  resourceId: 'r',
  start: at(from),
  end: at(to),
  drawn: { start: at(from), end: at(to) },
  present: [],
  visitTypeId: 't',
  status: 'booked',
  confirmed: false,
  identity: 'sure',
  approval: 'not-needed',
  origin: 'desk',
  patientKind: 'new',
  patientId: null,
  name: 'A',
  initials: 'A',
  reason: '',
  cancelReason: null,
  readiness: null,
  version: 1,
});
const lane = (plates: Plate[]): Lane => ({
  id: 'l',
  resourceId: 'r',
  name: 'R',
  detail: '',
  kind: 'provider',
  hoursBands: [],
  away: [],
  keptFree: [],
  plates,
  booked: null,
});
const site = (plates: Plate[]): SiteDay => ({
  id: 's',
  name: 'S',
  timeZone: 'America/Chicago',
  dayStart: DAY_START,
  dayEnd: at(1440),
  closed: [],
  open: [],
  lanes: [lane(plates)],
});

it('shows the usual hours, and more where something lies outside them', () => {
  const day = (plates: Plate[]): DaybookDay => ({ date: '2026-12-01', now: DAY_START, sites: [site(plates)] });
  expect(shownOf(day([]).sites)).toEqual({ fromMin: 480, toMin: 1020 });
  expect(shownOf(day([plate('a', 425, 500), plate('b', 1000, 1025)]).sites)).toEqual({ fromMin: 420, toMin: 1080 });
});

it('puts visits at once into rows, and keeps a ten-minute visit wide enough to hit (WCAG 2.5.8: 24 px)', () => {
  const { placed, rows } = placePlates(
    site([]),
    lane([plate('a', 480, 535), plate('b', 490, 500), plate('c', 500, 510), plate('d', 540, 550)]),
    { fromMin: 480, toMin: 1020 },
    1.25,
  );
  expect(rows).toBe(3);
  expect(placed.map((row) => row.row)).toEqual([0, 1, 2, 0]);
  expect(Math.min(...placed.map((row) => row.width))).toBeGreaterThanOrEqual(MIN_PLATE_PX);
});

it('shows people or places, and leaves out on request who has neither hours nor visits', () => {
  const hoursBand = {
    start: at(480),
    end: at(720),
    hoursId: 'h',
    typeIds: null,
    kinds: null,
    invitedOnly: false,
    places: 1,
    online: [],
  };
  const day: SiteDay = {
    ...site([]),
    lanes: [
      { ...lane([]), id: 'idle' },
      { ...lane([]), id: 'works', hoursBands: [hoursBand] },
      { ...lane([plate('v', 480, 500)]), id: 'booked', kind: 'staff' },
      { ...lane([]), id: 'room', kind: 'room' },
      { ...lane([plate('w', 480, 500)]), id: 'device', kind: 'equipment' },
    ],
  };
  const ids = (set: 'people' | 'places', only: boolean) => lanesOf(day, set, only).map(({ id }) => id);
  expect(ids('people', false)).toEqual(['idle', 'works', 'booked']);
  expect(ids('people', true)).toEqual(['works', 'booked']);
  expect(ids('places', false)).toEqual(['room', 'device']);
  expect(ids('places', true)).toEqual(['device']);
});

it('draws a plate over what it takes of the lane, which may be less than the visit', () => {
  const short = { ...plate('v', 480, 520), drawn: { start: at(480), end: at(490) } };
  const next = { ...plate('w', 490, 530), drawn: { start: at(490), end: at(500) } };
  const { rows } = placePlates(site([]), lane([short, next]), { fromMin: 480, toMin: 1020 }, 4);
  expect(rows).toBe(1);
});

it.each([
  ['2026-12-01', '2026-11-30'],
  ['2026-11-30', '2026-11-30'],
  ['2026-12-06', '2026-11-30'],
  ['2027-01-01', '2026-12-28'],
  ['2028-03-01', '2028-02-28'],
])('puts %s into the week of Monday, %s', (date, monday) => {
  expect(weekOf(date)).toBe(monday);
});

it('counts days over months, years, leap days and clock changes', () => {
  expect(shiftDate('2026-12-31', 1)).toBe('2027-01-01');
  expect(shiftDate('2028-02-28', 1)).toBe('2028-02-29');
  expect(shiftDate('2026-03-09', -1)).toBe('2026-03-08');
  expect(shiftDate('2026-11-02', -1)).toBe('2026-11-01');
});
