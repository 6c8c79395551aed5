import { expect, it } from 'vitest';
import { firstOverlap, type HoursToPlace } from './index.ts';

const hours = (id: string, siteId: string, fromMinute: number, toMinute: number, rule: object = {}): HoursToPlace => ({
  id,
  siteId,
  fromMinute,
  toMinute,
  rule: {
    weekdays: [3],
    everyWeeks: 1,
    anchorDate: '2026-12-02',
    effectiveFrom: '2026-12-02',
    effectiveUntil: null,
    ...rule,
  },
});
const zones: Record<string, string> = {
  chicago: 'America/Chicago',
  denver: 'America/Denver',
  phoenix: 'America/Phoenix',
};
const find = (mine: HoursToPlace, ...others: HoursToPlace[]) => firstOverlap(mine, others, (siteId) => zones[siteId]);

it('lets hours touch, and not share a minute', () => {
  expect(find(hours('a', 'chicago', 480, 720), hours('b', 'chicago', 720, 900))).toBeNull();
  expect(find(hours('a', 'chicago', 480, 725), hours('b', 'chicago', 720, 900))).toEqual({
    otherId: 'b',
    otherSiteId: 'chicago',
    date: '2026-12-02',
  });
});

it('compares two sites by instants: 8:00 in Denver is 9:00 in Chicago', () => {
  expect(find(hours('a', 'chicago', 480, 540), hours('b', 'denver', 480, 600))).toBeNull();
  expect(find(hours('a', 'chicago', 480, 545), hours('b', 'denver', 480, 600))?.date).toBe('2026-12-02');
});

it('finds the date on which alternating weeks meet, and none where they never do', () => {
  const odd = { everyWeeks: 2, anchorDate: '2026-12-09' };
  expect(find(hours('a', 'chicago', 480, 540, { everyWeeks: 2 }), hours('b', 'chicago', 480, 540, odd))).toBeNull();
  expect(find(hours('a', 'chicago', 480, 540, { everyWeeks: 3 }), hours('b', 'chicago', 480, 540, odd))?.date).toBe(
    '2026-12-23',
  );
});

it('sees an overlap that only daylight saving brings: Phoenix and Denver in summer', () => {
  expect(find(hours('a', 'phoenix', 480, 540), hours('b', 'denver', 540, 600))?.date).toBe('2027-03-17');
});
