import fc from 'fast-check';
import ICAL from 'ical.js';
import { RRuleTemporal } from 'rrule-temporal';
import { describe, expect, it } from 'vitest';
import { addDays, dateOfDay, dayNumber, type Weekday } from '../time/index.ts';
import { expandWeekly, occursOn, onceOn, type WeeklyRule } from './index.ts';

const rule = (weekdays: Weekday[], from: string, more: Partial<WeeklyRule> = {}): WeeklyRule => ({
  weekdays,
  everyWeeks: 1,
  anchorDate: from,
  effectiveFrom: from,
  effectiveUntil: null,
  ...more,
});

/** The examples of RFC 5545 section 3.8.5.3 that use WEEKLY, INTERVAL, BYDAY, UNTIL and WKST=MO; COUNT becomes the first n. */
describe('RFC 5545 section 3.8.5.3', () => {
  it('Weekly for 10 occurrences (Tuesdays from September 2, 1997)', () => {
    expect(expandWeekly(rule([2], '1997-09-02'), '1997-09-02', '1997-12-31').slice(0, 10)).toEqual([
      '1997-09-02',
      '1997-09-09',
      '1997-09-16',
      '1997-09-23',
      '1997-09-30',
      '1997-10-07',
      '1997-10-14',
      '1997-10-21',
      '1997-10-28',
      '1997-11-04',
    ]);
  });
  it('Weekly until December 24, 1997', () => {
    const dates = expandWeekly(rule([2], '1997-09-02', { effectiveUntil: '1997-12-24' }), '1997-09-01', '1998-12-31');
    expect(dates).toHaveLength(17);
    expect(dates.at(-1)).toBe('1997-12-23');
  });
  it('Every other week - forever', () => {
    expect(expandWeekly(rule([2], '1997-09-02', { everyWeeks: 2 }), '1997-09-01', '1998-02-17')).toEqual([
      '1997-09-02',
      '1997-09-16',
      '1997-09-30',
      '1997-10-14',
      '1997-10-28',
      '1997-11-11',
      '1997-11-25',
      '1997-12-09',
      '1997-12-23',
      '1998-01-06',
      '1998-01-20',
      '1998-02-03',
      '1998-02-17',
    ]);
  });
  it('Weekly on Tuesday and Thursday for five weeks', () => {
    expect(
      expandWeekly(rule([2, 4], '1997-09-02', { effectiveUntil: '1997-10-06' }), '1997-09-01', '1997-12-31'),
    ).toEqual([
      '1997-09-02',
      '1997-09-04',
      '1997-09-09',
      '1997-09-11',
      '1997-09-16',
      '1997-09-18',
      '1997-09-23',
      '1997-09-25',
      '1997-09-30',
      '1997-10-02',
    ]);
  });
  it('Every other week on Monday, Wednesday, and Friday until December 24, 1997, starting on Monday, September 1', () => {
    const dates = expandWeekly(
      rule([1, 3, 5], '1997-09-01', { everyWeeks: 2, effectiveUntil: '1997-12-24' }),
      '1997-09-01',
      '1998-01-31',
    );
    expect(dates).toEqual([
      '1997-09-01',
      '1997-09-03',
      '1997-09-05',
      '1997-09-15',
      '1997-09-17',
      '1997-09-19',
      '1997-09-29',
      '1997-10-01',
      '1997-10-03',
      '1997-10-13',
      '1997-10-15',
      '1997-10-17',
      '1997-10-27',
      '1997-10-29',
      '1997-10-31',
      '1997-11-10',
      '1997-11-12',
      '1997-11-14',
      '1997-11-24',
      '1997-11-26',
      '1997-11-28',
      '1997-12-08',
      '1997-12-10',
      '1997-12-12',
      '1997-12-22',
      '1997-12-24',
    ]);
  });
  it('Every other week on Tuesday and Thursday, for 8 occurrences', () => {
    expect(expandWeekly(rule([2, 4], '1997-09-02', { everyWeeks: 2 }), '1997-09-02', '1997-12-31').slice(0, 8)).toEqual(
      ['1997-09-02', '1997-09-04', '1997-09-16', '1997-09-18', '1997-09-30', '1997-10-02', '1997-10-14', '1997-10-16'],
    );
  });
  it('An example where the days generated makes a difference because of WKST: WKST=MO', () => {
    expect(expandWeekly(rule([2, 7], '1997-08-05', { everyWeeks: 2 }), '1997-08-05', '1997-12-31').slice(0, 4)).toEqual(
      ['1997-08-05', '1997-08-10', '1997-08-19', '1997-08-24'],
    );
  });
});

const BYDAY = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];
const rules = fc.record({
  weekdays: fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { minLength: 1, maxLength: 7 }),
  everyWeeks: fc.integer({ min: 1, max: 8 }),
  start: fc.integer({ min: dayNumber('2020-01-01'), max: dayNumber('2030-01-01') }),
  length: fc.integer({ min: 0, max: 700 }),
});

describe('random rules', () => {
  it('agree with rrule-temporal and ical.js over two years', () => {
    fc.assert(
      fc.property(rules, ({ weekdays, everyWeeks, start, length }) => {
        const from = dateOfDay(start);
        const until = dateOfDay(start + length);
        const ours = expandWeekly(
          rule(weekdays as Weekday[], from, { everyWeeks, effectiveUntil: until }),
          from,
          addDays(from, 730),
        );
        const byDay = weekdays.map((day) => BYDAY[day - 1]);
        const text = `FREQ=WEEKLY;INTERVAL=${everyWeeks};WKST=MO;BYDAY=${byDay.join(',')};UNTIL=${until.replaceAll('-', '')}T235959Z`;
        const temporal = new RRuleTemporal({
          rruleString: `DTSTART:${from.replaceAll('-', '')}T120000Z\nRRULE:${text}`,
        });
        expect(ours).toEqual(temporal.all().map((date) => date.toPlainDate().toString()));
        const iterator = ICAL.Recur.fromString(text.replace(/UNTIL=(\d{8}).*/, 'UNTIL=$1')).iterator(
          ICAL.Time.fromDateString(from),
        );
        const second: string[] = [];
        for (let next = iterator.next(); next && second.length < 3000; next = iterator.next())
          second.push(next.toString());
        // ical.js starts at DTSTART even where the rule does not hold on it; RFC 5545 leaves that undefined.
        expect(ours).toEqual(second.filter((date) => weekdays.includes(((dayNumber(date) + 3) % 7) + 1)));
      }),
      { numRuns: 300 },
    );
  }, 60_000);

  it('keep their parity when they are split at any date', () => {
    fc.assert(
      fc.property(rules, fc.integer({ min: 1, max: 300 }), ({ weekdays, everyWeeks, start }, offset) => {
        const from = dateOfDay(start);
        const split = dateOfDay(start + offset);
        const whole = rule(weekdays as Weekday[], from, { everyWeeks });
        const before = { ...whole, effectiveUntil: addDays(split, -1) };
        const after = { ...whole, effectiveFrom: split };
        const end = addDays(from, 400);
        expect([...expandWeekly(before, from, end), ...expandWeekly(after, from, end)]).toEqual(
          expandWeekly(whole, from, end),
        );
      }),
    );
  });
});

it('once means on that date only', () => {
  expect(occursOn(onceOn('2026-11-26'), '2026-11-26')).toBe(true);
  expect(occursOn(onceOn('2026-11-26'), '2026-12-03')).toBe(false);
});
