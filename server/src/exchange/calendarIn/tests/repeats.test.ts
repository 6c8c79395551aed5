import { addDays } from '@zaguan/core/time';
import fc from 'fast-check';
import ICAL from 'ical.js';
import { describe, expect, it } from 'vitest';
import { icalTime } from '../lines.ts';
import { readCalendars } from '../readCalendars.ts';
import { UTC } from '../wall.ts';
import { samples, shown, TODAY, whole, zoneBlock } from './sample.ts';

const NY = zoneBlock('America/New_York');

/* Worked out by hand; New York is 5 hours behind UTC in winter and 4 from 2027-03-14 to 2027-11-07. */
describe('events that repeat (RFC 5545 §3.3.10, §3.8.5)', () => {
  samples([
    {
      what: 'a web calendar: weekdays, three weeks, keeping the wall time over the change of clocks',
      file: `
${NY}
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=America/New_York:20270311T120000
      DTEND;TZID=America/New_York:20270311T130000
      RRULE:FREQ=WEEKLY;BYDAY=TH,FR,MO;COUNT=4
      END:VEVENT`,
      is: [
        '2027-03-11T17:00Z/2027-03-11T18:00Z',
        '2027-03-12T17:00Z/2027-03-12T18:00Z',
        '2027-03-15T16:00Z/2027-03-15T17:00Z',
        '2027-03-18T16:00Z/2027-03-18T17:00Z',
      ],
      peer: true,
    },
    {
      what: 'UNTIL in UTC under a zone: the last one begins at that very moment (§3.3.10)',
      file: `
${NY}
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=America/New_York:20261201T200000
      DTEND;TZID=America/New_York:20261201T210000
      RRULE:FREQ=DAILY;UNTIL=20261204T010000Z
      END:VEVENT`,
      is: [
        '2026-12-02T01:00Z/2026-12-02T02:00Z',
        '2026-12-03T01:00Z/2026-12-03T02:00Z',
        '2026-12-04T01:00Z/2026-12-04T02:00Z',
      ],
    },
    {
      what: 'UNTIL in UTC, east of Greenwich: not one too many',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=Asia/Kolkata:20261201T030000
      DTEND;TZID=Asia/Kolkata:20261201T040000
      RRULE:FREQ=DAILY;UNTIL=20261202T000000Z
      END:VEVENT`,
      is: ['2026-11-30T21:30Z/2026-11-30T22:30Z', '2026-12-01T21:30Z/2026-12-01T22:30Z'],
    },
    {
      what: 'UNTIL a day, under times: that day counts',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=America/New_York:20261201T200000
      DURATION:PT1H
      RRULE:FREQ=DAILY;UNTIL=20261202
      END:VEVENT`,
      is: ['2026-12-02T01:00Z/2026-12-02T02:00Z', '2026-12-03T01:00Z/2026-12-03T02:00Z'],
    },
    {
      what: 'whole days with UNTIL as a time, as some programs write it',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;VALUE=DATE:20261201
      DTEND;VALUE=DATE:20261202
      RRULE:FREQ=DAILY;UNTIL=20261203T000000Z
      END:VEVENT`,
      is: ['2026-12-01/2026-12-02', '2026-12-02/2026-12-03', '2026-12-03/2026-12-04'],
    },
    {
      what: 'a birthday on 29 February comes in leap years only (§3.3.10)',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;VALUE=DATE:20240229
      RRULE:FREQ=YEARLY
      END:VEVENT`,
      days: 730,
      is: ['2028-02-29/2028-03-01'],
    },
    {
      what: 'the same with its month told, and with a time',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART:20240229T150000Z
      DURATION:PT1H
      RRULE:FREQ=YEARLY;BYMONTH=2
      END:VEVENT`,
      days: 730,
      is: ['2028-02-29T15:00Z/2028-02-29T16:00Z'],
    },
    {
      what: 'the 31st of each month that has one',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;VALUE=DATE:20261031
      RRULE:FREQ=MONTHLY;COUNT=4
      END:VEVENT`,
      is: ['2026-12-31/2027-01-01', '2027-01-31/2027-02-01', '2027-03-31/2027-04-01'],
      peer: true,
    },
    {
      what: 'the last Friday of the month, and the first Monday by its position',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;VALUE=DATE:20261127
      RRULE:FREQ=MONTHLY;BYDAY=-1FR;COUNT=3
      END:VEVENT
      BEGIN:VEVENT
      UID:2
      DTSTART;VALUE=DATE:20261207
      RRULE:FREQ=MONTHLY;BYDAY=MO;BYSETPOS=1;COUNT=2
      END:VEVENT`,
      is: [
        '2026-11-27/2026-11-28',
        '2026-12-25/2026-12-26',
        '2027-01-29/2027-01-30',
        '2026-12-07/2026-12-08',
        '2027-01-04/2027-01-05',
      ],
      peer: true,
    },
    {
      what: 'Thanksgiving: the fourth Thursday of November',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;VALUE=DATE:20201126
      RRULE:FREQ=YEARLY;BYMONTH=11;BYDAY=4TH
      END:VEVENT`,
      is: ['2026-11-26/2026-11-27', '2027-11-25/2027-11-26'],
      peer: true,
    },
    {
      what: 'every other week since long ago, in step with its first week',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART:20100106T150000Z
      DTEND:20100106T160000Z
      RRULE:FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,WE
      END:VEVENT`,
      days: 30,
      is: [
        // 439 fortnights after Monday, January 4, 2010.
        '2026-11-02T15:00Z/2026-11-02T16:00Z',
        '2026-11-04T15:00Z/2026-11-04T16:00Z',
        '2026-11-16T15:00Z/2026-11-16T16:00Z',
        '2026-11-18T15:00Z/2026-11-18T16:00Z',
        '2026-11-30T15:00Z/2026-11-30T16:00Z',
      ],
      peer: true,
    },
    {
      what: 'every third day since long ago',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;VALUE=DATE:20000101
      RRULE:FREQ=DAILY;INTERVAL=3
      END:VEVENT`,
      days: 7,
      // 9,801 days after January 1, 2000.
      is: ['2026-11-01/2026-11-02', '2026-11-04/2026-11-05', '2026-11-07/2026-11-08'],
      peer: true,
    },
    {
      what: 'several days under way: a week that began before today, of a rule',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;VALUE=DATE:20251027
      DTEND;VALUE=DATE:20251106
      RRULE:FREQ=YEARLY
      END:VEVENT`,
      is: ['2026-10-27/2026-11-06', '2027-10-27/2027-11-06'],
      peer: true,
    },
    {
      what: 'a night under way, of a rule by days',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=America/Denver:20261030T220000
      DTEND;TZID=America/Denver:20261031T060000
      RRULE:FREQ=DAILY;COUNT=3
      END:VEVENT`,
      is: ['2026-11-01T04:00Z/2026-11-01T12:00Z', '2026-11-02T05:00Z/2026-11-02T13:00Z'],
    },
    {
      what: 'RDATE without a rule keeps the start (§3.8.5.2)',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART:20261203T150000Z
      DTEND:20261203T160000Z
      RDATE:20261208T150000Z,20261210T150000Z
      END:VEVENT`,
      is: [
        '2026-12-03T15:00Z/2026-12-03T16:00Z',
        '2026-12-08T15:00Z/2026-12-08T16:00Z',
        '2026-12-10T15:00Z/2026-12-10T16:00Z',
      ],
    },
    {
      what: 'RDATE in another zone than the start',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=America/Denver:20261203T080000
      DURATION:PT1H
      RDATE;TZID=America/New_York:20261208T080000
      END:VEVENT`,
      is: ['2026-12-03T15:00Z/2026-12-03T16:00Z', '2026-12-08T13:00Z/2026-12-08T14:00Z'],
    },
    {
      what: 'RDATE with ends of their own (VALUE=PERIOD)',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART:20261203T150000Z
      DTEND:20261203T160000Z
      RDATE;VALUE=PERIOD:20261208T150000Z/PT3H,20261210T150000Z/20261210T153000Z
      END:VEVENT`,
      is: [
        '2026-12-03T15:00Z/2026-12-03T16:00Z',
        '2026-12-08T15:00Z/2026-12-08T18:00Z',
        '2026-12-10T15:00Z/2026-12-10T15:30Z',
      ],
    },
    {
      what: 'RDATE as whole days',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;VALUE=DATE:20261224
      RDATE;VALUE=DATE:20261231,20270106
      END:VEVENT`,
      is: ['2026-12-24/2026-12-25', '2026-12-31/2027-01-01', '2027-01-06/2027-01-07'],
    },
    {
      what: 'an endless lunch on weekdays is read, two years of it',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=America/Denver:20190107T120000
      DTEND;TZID=America/Denver:20190107T130000
      RRULE:FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR
      END:VEVENT`,
      days: 4,
      is: [
        '2026-11-02T19:00Z/2026-11-02T20:00Z',
        '2026-11-03T19:00Z/2026-11-03T20:00Z',
        '2026-11-04T19:00Z/2026-11-04T20:00Z',
        '2026-11-05T19:00Z/2026-11-05T20:00Z',
      ],
    },
    {
      what: 'an occurrence in the skipped hour is shifted, and takes none of the others away',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=America/New_York:20270313T023000
      DTEND;TZID=America/New_York:20270313T033000
      RRULE:FREQ=DAILY;COUNT=3
      END:VEVENT`,
      is: [
        '2027-03-13T07:30Z/2027-03-13T08:30Z',
        '2027-03-14T07:30Z/2027-03-14T08:30Z',
        '2027-03-15T06:30Z/2027-03-15T07:30Z',
      ],
    },
    {
      what: 'a rule in small letters, with spaces around it in the file',
      file: `
      begin:vevent
      uid:1
      dtstart;value=date:20261201
      rrule:freq=daily;count=2
      end:vevent`,
      is: ['2026-12-01/2026-12-02', '2026-12-02/2026-12-03'],
    },
    {
      what: 'two rules of one event',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;VALUE=DATE:20261201
      RRULE:FREQ=DAILY;COUNT=2
      RRULE:FREQ=WEEKLY;COUNT=2
      END:VEVENT`,
      is: ['2026-12-01/2026-12-02', '2026-12-02/2026-12-03', '2026-12-08/2026-12-09'],
    },
    {
      what: 'a start that its rule does not give is an occurrence all the same',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;VALUE=DATE:20261201
      RRULE:FREQ=WEEKLY;BYDAY=FR;UNTIL=20261211
      END:VEVENT`,
      is: ['2026-12-01/2026-12-02', '2026-12-04/2026-12-05', '2026-12-11/2026-12-12'],
    },
  ]);
});

describe('rules that began long ago start anew near the window', () => {
  // Peer: ical.js, from the first occurrence on.
  it('and give what following them from their start gives, on random rules', () => {
    let seen = 0;
    fc.assert(
      fc.property(
        fc.constantFrom('DAILY', 'WEEKLY', 'MONTHLY'),
        fc.integer({ min: 1, max: 5 }),
        fc.subarray(['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU']),
        fc.integer({ min: 0, max: 9000 }),
        fc.constantFrom('MO', 'SU'),
        fc.integer({ min: 30, max: 3000 }),
        (freq, interval, days, daysAgo, weekStart, minutes) => {
          const start = new Date(Date.parse(`${TODAY}T15:00Z`) - daysAgo * 86_400_000);
          const text = start.toISOString().replace(/[-:]|\.000/g, '');
          const by = days.length ? `;BYDAY=${days.join(',')}` : '';
          const rule = `FREQ=${freq};INTERVAL=${interval}${by};WKST=${weekStart}`;
          const file = whole(`BEGIN:VEVENT\nUID:1\nDTSTART:${text}\nDURATION:PT${minutes}M\nRRULE:${rule}\nEND:VEVENT`);
          const last = addDays(TODAY, 60);
          const asked = { zone: 'UTC', today: TODAY, last, busyOnly: true, leaveOut: [], onEvent: () => undefined };
          const found = (readCalendars(file, asked)?.occurrences ?? []).map((each) => shown(each.start));
          const iterator = ICAL.Recur.fromString(rule).iterator(icalTime(start.toISOString().slice(0, 19)));
          const expected: string[] = [];
          for (let next = iterator.next(); next && next.toString().slice(0, 10) <= last; next = iterator.next()) {
            const at = Date.parse(`${next.toString()}Z`);
            if (at + minutes * 60_000 > Date.parse(TODAY))
              expected.push(new Date(at).toISOString().replace(':00.000', ''));
          }
          // The start counts, though its rule may not give it.
          const withStart = new Set(found).has(shown({ instant: start.getTime() / 1000, wall: 0, clock: UTC }));
          const own = withStart && !expected.includes(found[0]) ? found.slice(1) : found;
          expect(own).toEqual(expected);
          seen += expected.length;
        },
      ),
      { numRuns: 120 },
    );
    expect(seen).toBeGreaterThan(300);
  });
});
