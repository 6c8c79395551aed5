import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { clockOf, ianaClock } from '../clocks.ts';
import { calendarsIn } from '../lines.ts';
import { samples, whole, zoneBlock } from './sample.ts';

/*
 * Offsets by hand, from the IANA database: New York is 5 hours behind UTC in winter and 4 from 2027-03-14 to 2027-11-07;
 * Denver 7 and 6; Berlin 1 ahead, and 2 from 2027-03-28; Kolkata 5:30 ahead; Phoenix 7 behind all year.
 */
describe('times in calendars, whatever names their zones (RFC 5545 §3.2.19, §3.3.5, §3.6.5)', () => {
  samples([
    {
      what: 'a web calendar: an IANA name, with its rules beside it',
      file: `
      X-WR-TIMEZONE:America/New_York
${zoneBlock('America/New_York')}
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=America/New_York:20261203T120000
      DTEND;TZID=America/New_York:20261203T170000
      END:VEVENT`,
      is: ['2026-12-03T17:00Z/2026-12-03T22:00Z'],
      peer: true,
    },
    {
      what: 'a web calendar: single events in UTC',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART:20261204T200000Z
      DTEND:20261204T220000Z
      END:VEVENT`,
      is: ['2026-12-04T20:00Z/2026-12-04T22:00Z'],
      peer: true,
    },
    {
      what: 'a phone: floating times, by the site’s clock',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART:20261205T080000
      DTEND:20261205T100000
      END:VEVENT`,
      is: ['2026-12-05T15:00Z/2026-12-05T17:00Z'],
    },
    {
      what: 'an office program: a Windows name with its rules from 1601',
      file: `
${zoneBlock(
  'Eastern Standard Time',
  `
      BEGIN:STANDARD
      DTSTART:16011104T020000
      RRULE:FREQ=YEARLY;BYDAY=1SU;BYMONTH=11
      TZOFFSETFROM:-0400
      TZOFFSETTO:-0500
      END:STANDARD
      BEGIN:DAYLIGHT
      DTSTART:16010311T020000
      RRULE:FREQ=YEARLY;BYDAY=2SU;BYMONTH=3
      TZOFFSETFROM:-0500
      TZOFFSETTO:-0400
      END:DAYLIGHT`,
)}
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=Eastern Standard Time:20270310T090000
      DTEND;TZID=Eastern Standard Time:20270310T100000
      RRULE:FREQ=WEEKLY;COUNT=2
      END:VEVENT`,
      is: ['2027-03-10T14:00Z/2027-03-10T15:00Z', '2027-03-17T13:00Z/2027-03-17T14:00Z'],
      peer: true,
    },
    {
      what: 'a mail server: a Windows name and no rules (CLDR windowsZones: Central European time)',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=W. Europe Standard Time:20270405T090000
      DTEND;TZID=W. Europe Standard Time:20270405T100000
      END:VEVENT`,
      is: ['2027-04-05T07:00Z/2027-04-05T08:00Z'],
    },
    {
      what: 'a mail server: India by its Windows name (half an hour off)',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID="India Standard Time":20261203T093000
      DURATION:PT45M
      END:VEVENT`,
      is: ['2026-12-03T04:00Z/2026-12-03T04:45Z'],
    },
    {
      what: 'an office program: a name of its own in quotes, explained by its rules',
      file: `
${zoneBlock('(UTC-05:00) Eastern Time (US & Canada)')}
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID="(UTC-05:00) Eastern Time (US & Canada)":20270614T090000
      DTEND;TZID="(UTC-05:00) Eastern Time (US & Canada)":20270614T100000
      END:VEVENT`,
      is: ['2027-06-14T13:00Z/2027-06-14T14:00Z'],
      peer: true,
    },
    {
      what: 'an office program: “Customized Time Zone”, which is Phoenix here',
      file: `
${zoneBlock(
  'Customized Time Zone',
  `
      BEGIN:STANDARD
      DTSTART:16010101T000000
      TZOFFSETFROM:-0700
      TZOFFSETTO:-0700
      END:STANDARD`,
)}
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=Customized Time Zone:20270704T090000
      DTEND;TZID=Customized Time Zone:20270704T100000
      END:VEVENT`,
      is: ['2027-07-04T16:00Z/2027-07-04T17:00Z'],
      peer: true,
    },
    {
      what: 'a desktop program: a path that ends in an IANA name',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=/example.org/20260101_1/Europe/Berlin:20261203T090000
      DTEND;TZID=/example.org/20260101_1/Europe/Berlin:20261203T100000
      END:VEVENT`,
      is: ['2026-12-03T08:00Z/2026-12-03T09:00Z'],
    },
    {
      what: 'a desktop program: a number for a name, with the location it stands for',
      file: `
${zoneBlock(
  'zone-7',
  `
      X-LIC-LOCATION:Asia/Kolkata
      BEGIN:STANDARD
      DTSTART:19700101T000000
      TZOFFSETFROM:+0530
      TZOFFSETTO:+0530
      END:STANDARD`,
)}
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=zone-7:20261203T093000
      DURATION:PT1H
      END:VEVENT`,
      is: ['2026-12-03T04:00Z/2026-12-03T05:00Z'],
      peer: true,
    },
    {
      what: 'a flight: it ends in another zone than it starts in',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=America/New_York:20261203T180000
      DTEND;TZID=Europe/Berlin:20261204T080000
      END:VEVENT`,
      is: ['2026-12-03T23:00Z/2026-12-04T07:00Z'],
    },
    {
      what: 'an exporter of shifts: starts in UTC, ends with a zone',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART:20261203T160000Z
      DTEND;TZID=America/Denver:20261203T120000
      END:VEVENT`,
      is: ['2026-12-03T16:00Z/2026-12-03T19:00Z'],
    },
    {
      what: 'a start in the skipped hour counts by the offset before the gap (§3.3.5): 2:30 is 3:30',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=America/New_York:20270314T023000
      DURATION:PT30M
      END:VEVENT`,
      is: ['2027-03-14T07:30Z/2027-03-14T08:00Z'],
    },
    {
      what: 'a start in the hour that comes twice is the first one (§3.3.5), by a zone of the file’s own too',
      file: `
${zoneBlock('My zone')}
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=America/New_York:20271107T013000
      DURATION:PT30M
      END:VEVENT
      BEGIN:VEVENT
      UID:2
      DTSTART;TZID=My zone:20271107T013000
      DURATION:PT1H
      END:VEVENT`,
      is: ['2027-11-07T05:30Z/2027-11-07T06:00Z', '2027-11-07T05:30Z/2027-11-07T06:30Z'],
    },
    {
      what: 'a zone that nobody explains is named, and the rest is read',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=Mars/Olympus:20261203T120000
      DTEND;TZID=Mars/Olympus:20261203T130000
      END:VEVENT
      BEGIN:VEVENT
      UID:2
      DTSTART:20261203T190000Z
      DTEND:20261203T200000Z
      END:VEVENT`,
      is: ['2026-12-03T19:00Z/2026-12-03T20:00Z'],
      refused: ['1 unknown-zone Mars/Olympus'],
    },
    {
      what: 'a zone whose own rules can’t be read takes away only what is in it',
      file: `
${zoneBlock(
  'Odd',
  `
      BEGIN:STANDARD
      DTSTART:19700101T000000
      RRULE:FREQ=SOMETIMES
      TZOFFSETFROM:+0100
      TZOFFSETTO:+0100
      END:STANDARD`,
)}
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=Odd:20261203T120000
      DURATION:PT1H
      END:VEVENT
      BEGIN:VEVENT
      UID:2
      DTSTART:20261203T190000Z
      DURATION:PT1H
      END:VEVENT`,
      is: ['2026-12-03T19:00Z/2026-12-03T20:00Z'],
      refused: ['1 unknown-zone Odd'],
    },
    {
      what: 'two calendars mean two things by one name',
      file: `
      BEGIN:VCALENDAR
${zoneBlock('Home')}
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=Home:20261203T120000
      DURATION:PT1H
      END:VEVENT
      END:VCALENDAR
      BEGIN:VCALENDAR
${zoneBlock(
  'Home',
  `
      BEGIN:STANDARD
      DTSTART:19700101T000000
      TZOFFSETFROM:+0100
      TZOFFSETTO:+0100
      END:STANDARD`,
)}
      BEGIN:VEVENT
      UID:2
      DTSTART;TZID=Home:20261203T120000
      DURATION:PT1H
      END:VEVENT
      END:VCALENDAR`,
      is: ['2026-12-03T17:00Z/2026-12-03T18:00Z', '2026-12-03T11:00Z/2026-12-03T12:00Z'],
    },
  ]);

  // Peer: the IANA database as the runtime has it.
  it('a zone of the file’s own agrees with the database at every time of ten years', () => {
    const own = clockOf('Mine', calendarsIn(whole(zoneBlock('Mine')))[0].parts);
    const iana = ianaClock('America/New_York');
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 10 * 366 * 1440 }), (minute) => {
        const wall = Date.UTC(2024, 0, 1) / 1000 + minute * 60;
        expect(own?.instantOf(wall)).toBe(iana.instantOf(wall));
        expect(own?.wallOf(wall)).toBe(iana.wallOf(wall));
      }),
      { numRuns: 3000 },
    );
    for (const day of ['2027-03-14', '2027-11-07'])
      for (let minute = 0; minute < 360; minute += 5) {
        const wall = Date.parse(`${day}T00:00Z`) / 1000 + minute * 60;
        expect(own?.instantOf(wall)).toBe(iana.instantOf(wall));
      }
  });
});
