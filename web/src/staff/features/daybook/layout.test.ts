import type { DaybookDay, Plate, SiteDay } from '@zaguan/contracts/daybook';
import { expect, it } from 'vitest';
import { lanesOf, shiftDate, shownOf, weekOf } from './layout.ts';
import { at, DAY_START, lane, plate, site } from './samples.ts';

it('shows the usual hours, and more where something lies outside them', () => {
  const day = (plates: Plate[]): DaybookDay => ({ date: '2026-12-01', now: DAY_START, sites: [site(plates)] });
  expect(shownOf(day([]).sites)).toEqual({ fromMin: 480, toMin: 1020 });
  expect(shownOf(day([plate('a', 425, 500), plate('b', 1000, 1025)]).sites)).toEqual({ fromMin: 420, toMin: 1080 });
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
