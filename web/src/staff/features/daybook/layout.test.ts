import { type DaybookDay, type Plate, type SiteDay, STANDARD_VIEW, type ViewSettings } from '@zaguan/contracts/daybook';
import { expect, it } from 'vitest';
import { lanesOf, outsideOf, shownOf } from './layout.ts';
import { at, DAY_START, lane, plate, site } from './samples.ts';

const view = (more: Partial<ViewSettings>): ViewSettings => ({ ...STANDARD_VIEW, ...more });
const hoursBand = (from: number, to: number) => ({
  ...{ start: at(from), end: at(to), hoursId: 'h', typeIds: null, kinds: null },
  ...{ invitedOnly: false, places: 1, online: [] },
});

it('shows the usual hours and what lies outside of them, the day’s own hours, or always the same', () => {
  const day = (plates: Plate[]): DaybookDay => ({ date: '2026-12-01', now: DAY_START, sites: [site(plates)] });
  const early = day([plate('a', 425, 500), plate('b', 1000, 1025)]).sites;
  expect(shownOf(day([]).sites, view({}))).toEqual({ fromMin: 480, toMin: 1020 });
  expect(shownOf(early, view({}))).toEqual({ fromMin: 420, toMin: 1080 });
  expect(shownOf(day([plate('c', 605, 700)]).sites, view({ hours: 'first' }))).toEqual({ fromMin: 600, toMin: 720 });
  expect(shownOf(day([]).sites, view({ hours: 'first' }))).toEqual({ fromMin: 480, toMin: 1020 });
  const morning = view({ hours: 'fixed', fromMinute: 450, toMinute: 720 });
  expect(shownOf(early, morning)).toEqual({ fromMin: 420, toMin: 720 });
  expect(outsideOf(early, shownOf(early, morning))).toBe(1);
  expect(outsideOf(early, shownOf(early, view({})))).toBe(0);
});

it('keeps an hour more at either end of fixed hours on a day on which clocks change', () => {
  const short = [{ ...site([]), dayEnd: at(23 * 60) }];
  expect(shownOf(short, view({ hours: 'fixed', fromMinute: 480, toMinute: 720 }))).toEqual({
    fromMin: 420,
    toMin: 780,
  });
});

const day: SiteDay = {
  ...site([]),
  lanes: [
    { ...lane([]), id: 'room', resourceId: 'room', name: 'Room 10', kind: 'room' },
    { ...lane([]), id: 'idle', resourceId: 'idle', name: 'Ines' },
    { ...lane([]), id: 'works', resourceId: 'works', name: 'Vera', hoursBands: [hoursBand(480, 720)] },
    { ...lane([plate('v', 480, 500)]), id: 'booked', resourceId: 'booked', name: 'Ada', kind: 'staff' },
    { ...lane([plate('w', 480, 500)]), id: 'device', resourceId: 'device', name: 'Room 9', kind: 'equipment' },
    { ...lane([]), id: 'early', resourceId: 'early', name: 'Zoe', hoursBands: [hoursBand(420, 720)] },
  ],
};
const ids = (more: Partial<ViewSettings>) => lanesOf(day, view(more)).map(({ id }) => id);

it('shows people, places or both, and leaves out on request who has neither hours nor visits', () => {
  expect(ids({ inUseOnly: false })).toEqual(['idle', 'works', 'booked', 'early']);
  expect(ids({})).toEqual(['works', 'booked', 'early']);
  expect(ids({ lanes: 'places', inUseOnly: false })).toEqual(['room', 'device']);
  expect(ids({ lanes: 'places' })).toEqual(['device']);
  expect(ids({ lanes: 'both' })).toEqual(['works', 'booked', 'early', 'device']);
});

it('lists them by name, by whose hours begin first, or those alone that were chosen, in their order', () => {
  expect(ids({ order: 'name', lanes: 'both', inUseOnly: false })).toEqual([
    ...['booked', 'idle', 'works', 'early', 'device', 'room'],
  ]);
  expect(ids({ order: 'first-hours' })).toEqual(['early', 'works', 'booked']);
  // Who has left since, or works elsewhere, has no lane.
  const only = ['device', 'left', 'works'] as never;
  expect(ids({ only })).toEqual(['device', 'works']);
});
