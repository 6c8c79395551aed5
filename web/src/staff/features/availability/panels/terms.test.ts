import { expect, it } from 'vitest';
import { readTerms, typedFrom, USUAL } from './terms.ts';

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
