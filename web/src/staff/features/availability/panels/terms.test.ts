import { expect, it } from 'vitest';
import { keepUntouched, readTerms, typedFrom, USUAL } from './terms.ts';

const SITE = '00000000-0000-4000-8000-000000000001';

it('makes one set of hours for each stretch that is typed', () => {
  const read = readTerms({ ...USUAL, siteId: SITE });
  expect(read.ok && read.each.map(({ fromMinute, toMinute }) => [fromMinute, toMinute])).toEqual([
    [480, 720],
    [780, 1020],
  ]);
});

it('names each field that can’t be read', () => {
  const read = readTerms({ ...USUAL, weekdays: [], times: '8 to', typeIds: [], releaseHours: '-1', capMost: '1.5' });
  expect(read).toEqual({
    ok: false,
    faults: {
      siteId: 'needed',
      weekdays: 'no-weekday',
      times: 'stretches',
      typeIds: 'no-type',
      releaseHours: 'number',
      capMost: 'number',
    },
  });
});

it('reads back what stands, and writes it as it was', () => {
  const terms = {
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
    caps: [{ visitTypeId: null, kind: 'new' as const, most: 2 }],
    preferredRoomIds: [],
    effectiveUntil: '2027-06-30',
  };
  const subject = { of: 'resource' as const, id: SITE };
  const read = readTerms(typedFrom({ ...terms, id: SITE, version: 1, subject, effectiveFrom: '2026-01-01' }));
  expect(read).toEqual({ ok: true, each: [terms] });
});

it('keeps limits and releases that the form does not show whole, unless they are typed over', () => {
  const everyone = { visitTypeIds: null, kinds: null, invitedOnly: false };
  const hours = {
    ...{
      id: SITE,
      version: 1,
      subject: { of: 'resource' as const, id: SITE },
      siteId: SITE,
      effectiveFrom: '2026-01-01',
    },
    ...{ weekdays: [1], everyWeeks: 1, effectiveUntil: null, followsSiteHours: false, fromMinute: 480, toMinute: 720 },
    ...{ places: 1, accepts: everyone, online: true, preferredRoomIds: [] },
    release: { beforeMin: 60, accepts: { ...everyone, kinds: ['new' as const] }, online: false },
    caps: [
      { visitTypeId: null, kind: 'new' as const, most: 2 },
      { visitTypeId: SITE, kind: null, most: 1 },
    ],
  };
  const typed = typedFrom(hours);
  const after = (change: object) => {
    const read = readTerms({ ...typed, ...change });
    return read.ok ? keepUntouched(read.each[0], { ...typed, ...change }, hours) : null;
  };
  expect(after({ times: '8-11' })).toMatchObject({ toMinute: 660, release: hours.release, caps: hours.caps });
  expect(after({ capMost: '3' })?.caps).toEqual([{ visitTypeId: null, kind: 'new', most: 3 }]);
  expect(after({ releaseHours: '' })?.release).toBeNull();
});
