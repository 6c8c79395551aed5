import type { DaybookDay, Plate, SiteDay } from '@zaguan/contracts/daybook';
import { expect, it } from 'vitest';
import { lanesOf, shownOf } from './layout.ts';
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
