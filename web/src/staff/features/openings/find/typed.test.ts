import { expect, it } from 'vitest';
import { EVERY_DAY, givenUp, toWanted, type TypedSearch } from './typed.ts';

const search: TypedSearch = {
  members: [{ visitTypeId: 't', kind: 'new', patientId: null }],
  channel: 'online',
  siteIds: [],
  providerIds: ['p'],
  from: '2026-12-01',
  days: 14,
  weekdays: [1],
  hours: 'morning',
  language: 'es',
  access: ['step-free'],
  how: 'back-to-back',
  mostWaitMin: 0,
  repeats: true,
  everyWeeks: 4,
  count: 3,
  toleranceDays: 1,
  sameProvider: true,
};

it('asks for every site where none is chosen, and for no day of the week where all are', () => {
  expect(toWanted({ ...search, weekdays: EVERY_DAY }, ['a', 'b'])).toMatchObject({
    siteIds: ['a', 'b'],
    providerIds: ['p'],
    weekdays: null,
    fromMinute: 0,
    toMinute: 720,
    series: { everyWeeks: 4, count: 3 },
  });
  expect(toWanted({ ...search, members: [...search.members, ...search.members] }, ['a'])?.series).toBeNull();
});

it('asks nothing while something needed is missing', () => {
  expect(toWanted({ ...search, members: [{ visitTypeId: '', kind: 'new', patientId: null }] }, ['a'])).toBeNull();
  expect([toWanted({ ...search, weekdays: [] }, ['a']), toWanted(search, [])]).toEqual([null, null]);
});

it('gives up exactly the criteria that are named', () => {
  expect(givenUp(search, ['hour', 'language'])).toEqual({ ...search, hours: 'any', language: '' });
  expect(givenUp(search, ['weekday', 'provider', 'site', 'later', 'desk'])).toEqual({
    ...search,
    weekdays: EVERY_DAY,
    providerIds: [],
    siteIds: [],
    days: 74,
    channel: 'desk',
  });
});
