import type { ScheduleWeek } from '@zaguan/contracts/availability';
import { describe, expect, it } from 'vitest';
import { alike } from './OthersField.tsx';
import type { Read } from './checkEdits.ts';
import { NO_LIMIT, readHoursForm, typedFrom, DEFAULT_TERMS } from './hoursForm.ts';

const SITE = '00000000-0000-4000-8000-000000000001';

it('makes one set of hours for each stretch that is typed', () => {
  const read = readHoursForm({ ...DEFAULT_TERMS, siteId: SITE });
  expect(read.each.map(({ fromMinute, toMinute }) => [fromMinute, toMinute])).toEqual([
    [480, 720],
    [780, 1020],
  ]);
});

it('names each field that can’t be read', () => {
  const read = readHoursForm({
    ...DEFAULT_TERMS,
    times: '8 to',
    releaseHours: 'soon',
    limits: [{ ...NO_LIMIT, max: '' }],
  });
  expect(read.unread).toEqual({ times: 'stretches', releaseHours: 'number', 'limits.0': 'number' });
});

it('reads back what stands, and writes it as it was', () => {
  const pattern = {
    siteId: SITE,
    weekdays: [1, 3] as (1 | 3)[],
    everyWeeks: 2,
    followsSiteHours: false,
    fromMinute: 510,
    toMinute: 735,
    places: 2,
    accepts: { visitTypeIds: null, kinds: ['new' as const], invitedOnly: false },
    online: false,
    release: { beforeMin: 90, accepts: { visitTypeIds: null, kinds: null, invitedOnly: false }, online: true },
    caps: [{ visitTypeId: null, kind: 'new' as const, max: 2 }],
    preferredRoomIds: [],
    effectiveUntil: '2027-06-30',
  };
  const subject = { of: 'resource' as const, id: SITE };
  const read = readHoursForm(typedFrom({ ...pattern, id: SITE, version: 1, subject, effectiveFrom: '2026-01-01' }));
  expect(read).toEqual({ each: [pattern], unread: {} });
});

it('holds any limits and any release, each field by itself', () => {
  const typed = {
    ...DEFAULT_TERMS,
    siteId: SITE,
    times: '8-12',
    releaseHours: '1.5',
    releaseTo: { kinds: 'new' as const, typeIds: [SITE], online: false },
    limits: [
      { max: '2', kind: 'new' as const, typeId: '' },
      { max: '0', kind: 'any' as const, typeId: SITE },
    ],
  };
  const read = readHoursForm(typed);
  expect(read.each[0]).toMatchObject({
    release: { beforeMin: 90, accepts: { visitTypeIds: [SITE], kinds: ['new'], invitedOnly: false }, online: false },
    caps: [
      { visitTypeId: null, kind: 'new', max: 2 },
      { visitTypeId: SITE, kind: null, max: 0 },
    ],
  });
  const bad = readHoursForm({ ...typed, limits: [typed.limits[0], { ...typed.limits[1], max: ' ' }] });
  expect(bad.unread).toEqual({ 'limits.1': 'number' });
});

describe('the same change for others', () => {
  const everyone = { visitTypeIds: null, kinds: null, invitedOnly: false };
  const row = (id: string, change: object = {}) => ({
    ...{ id, version: 4, subject: { of: 'resource' as const, id: `person ${id}` }, siteId: SITE, weekdays: [1, 2] },
    ...{ everyWeeks: 1, effectiveFrom: '2026-01-01', effectiveUntil: null, followsSiteHours: false, fromMinute: 480 },
    ...{ toMinute: 720, places: 1, accepts: everyone, online: true, release: null, caps: [], preferredRoomIds: [] },
    ...change,
  });
  const hours = [row('a'), row('b', { toMinute: 660, online: false }), row('c')];
  const week = { hours } as unknown as ScheduleWeek;
  const untouched = readHoursForm(typedFrom(hours[0]));
  const readEdit = (to: object, reach: object = { of: 'all' }): Read => ({
    edits: [
      {
        do: 'change-hours',
        hoursId: 'a' as never,
        version: 4,
        reach: reach as never,
        to: { ...untouched.each[0], ...to } as never,
      },
    ],
  });
  const made = (read: Read, others: string[]) => {
    return alike(read, hours[0], others, week).edits.slice(1);
  };

  it('takes over only what was changed, with each one’s own version', () => {
    expect(made(readEdit({ fromMinute: 540 }), ['b', 'c'])).toEqual([
      { do: 'change-hours', hoursId: 'b', version: 4, reach: { of: 'all' }, to: { fromMinute: 540 } },
      { do: 'change-hours', hoursId: 'c', version: 4, reach: { of: 'all' }, to: { fromMinute: 540 } },
    ]);
    expect(made(readEdit({ caps: [{ visitTypeId: null, kind: null, max: 3 }] }), ['b'])).toMatchObject([
      { to: { caps: [{ max: 3 }] } },
    ]);
  });

  it('ends others too, and is not offered for one date or weekday', () => {
    const end: Read = {
      edits: [{ do: 'end-hours', hoursId: 'a' as never, version: 4, reach: { of: 'from', date: '2027-01-04' } }],
    };
    expect(made(end, ['c'])).toEqual([
      { do: 'end-hours', hoursId: 'c', version: 4, reach: { of: 'from', date: '2027-01-04' } },
    ]);
    expect(made(readEdit({ places: 2 }, { of: 'date', date: '2027-01-04' }), ['b'])).toEqual([]);
    expect(made(readEdit({ places: 2 }, { of: 'from', date: '2027-01-04', weekdays: [1] }), ['b'])).toEqual([]);
    const unread = { times: 'stretches' as const };
    expect(alike({ edits: [], unread }, hours[0], ['b'], week)).toEqual({ edits: [], unread });
  });
});
