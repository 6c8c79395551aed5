import { describe } from 'vitest';
import { samples, zoneBlock } from './sample.ts';

/** Noon in New York on four Thursdays: the 3rd to the 24th of December. */
const SERIES = `
      BEGIN:VEVENT
      UID:s
      DTSTART;TZID=America/New_York:20261203T120000
      DTEND;TZID=America/New_York:20261203T130000
      RRULE:FREQ=WEEKLY;COUNT=4`;
const DEC = (day: string, from = '17:00', to = '18:00') => `2026-12-${day}T${from}Z/2026-12-${day}T${to}Z`;

describe('exceptions of what repeats (RFC 5545 §3.8.4.4, §3.8.5.1, §3.8.1.11, §3.8.2.7; RFC 5546 §3.2.5)', () => {
  samples([
    {
      what: 'EXDATE in the zone of the event',
      file: `
${zoneBlock('America/New_York')}${SERIES}
      EXDATE;TZID=America/New_York:20261210T120000
      END:VEVENT`,
      is: [DEC('03'), DEC('17'), DEC('24')],
      peer: true,
    },
    {
      what: 'EXDATE in UTC under a zone',
      file: `${SERIES}
      EXDATE:20261210T170000Z
      END:VEVENT`,
      is: [DEC('03'), DEC('17'), DEC('24')],
    },
    {
      what: 'EXDATE in a third zone, several on one line and on several lines',
      file: `${SERIES}
      EXDATE;TZID=Europe/Berlin:20261203T180000,20261210T180000
      EXDATE:20261224T170000Z
      END:VEVENT`,
      is: [DEC('17')],
    },
    {
      what: 'EXDATE as a day, under times',
      file: `${SERIES}
      EXDATE;VALUE=DATE:20261210
      END:VEVENT`,
      is: [DEC('03'), DEC('17'), DEC('24')],
    },
    {
      what: 'EXDATE without a zone counts in the event’s',
      file: `${SERIES}
      EXDATE:20261210T120000
      END:VEVENT`,
      is: [DEC('03'), DEC('17'), DEC('24')],
    },
    {
      what: 'EXDATE as a time, under whole days',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;VALUE=DATE:20261201
      RRULE:FREQ=DAILY;COUNT=3
      EXDATE:20261202T000000Z
      END:VEVENT`,
      is: ['2026-12-01/2026-12-02', '2026-12-03/2026-12-04'],
    },
    {
      what: 'an EXDATE that can’t be read is named; the series stays',
      file: `${SERIES}
      EXDATE;TZID=Mars/Olympus:20261210T120000
      END:VEVENT`,
      is: [DEC('03'), DEC('10'), DEC('17'), DEC('24')],
      refused: ['1 part-not-read EXDATE: Mars/Olympus'],
    },
    {
      what: 'an empty EXDATE is none',
      file: `${SERIES}
      EXDATE:
      END:VEVENT`,
      is: [DEC('03'), DEC('10'), DEC('17'), DEC('24')],
    },
    {
      what: 'one occurrence moved, RECURRENCE-ID in the event’s zone',
      file: `
${zoneBlock('America/New_York')}${SERIES}
      END:VEVENT
      BEGIN:VEVENT
      UID:s
      RECURRENCE-ID;TZID=America/New_York:20261210T120000
      DTSTART;TZID=America/New_York:20261211T150000
      DTEND;TZID=America/New_York:20261211T160000
      END:VEVENT`,
      is: [DEC('03'), DEC('11', '20:00', '21:00'), DEC('17'), DEC('24')],
      peer: true,
    },
    {
      what: 'one occurrence moved, RECURRENCE-ID in UTC, and its new time in a third zone',
      file: `${SERIES}
      END:VEVENT
      BEGIN:VEVENT
      UID:s
      RECURRENCE-ID:20261210T170000Z
      DTSTART;TZID=America/Denver:20261211T080000
      DTEND;TZID=America/Denver:20261211T093000
      END:VEVENT`,
      is: [DEC('03'), DEC('11', '15:00', '16:30'), DEC('17'), DEC('24')],
    },
    {
      what: 'RECURRENCE-ID as a day, under times',
      file: `${SERIES}
      END:VEVENT
      BEGIN:VEVENT
      UID:s
      RECURRENCE-ID;VALUE=DATE:20261210
      DTSTART:20261211T150000Z
      DTEND:20261211T160000Z
      END:VEVENT`,
      is: [DEC('03'), DEC('11', '15:00', '16:00'), DEC('17'), DEC('24')],
    },
    {
      what: 'the moved one stands before its series in the file',
      file: `
      BEGIN:VEVENT
      UID:s
      RECURRENCE-ID:20261210T170000Z
      DTSTART:20261211T150000Z
      DTEND:20261211T160000Z
      END:VEVENT${SERIES}
      END:VEVENT`,
      is: [DEC('03'), DEC('11', '15:00', '16:00'), DEC('17'), DEC('24')],
    },
    {
      what: 'one occurrence cancelled (STATUS)',
      file: `${SERIES}
      END:VEVENT
      BEGIN:VEVENT
      UID:s
      RECURRENCE-ID:20261210T170000Z
      DTSTART:20261210T170000Z
      DTEND:20261210T180000Z
      STATUS:CANCELLED
      END:VEVENT`,
      is: [DEC('03'), DEC('17'), DEC('24')],
    },
    {
      what: 'one occurrence marked as free',
      file: `${SERIES}
      END:VEVENT
      BEGIN:VEVENT
      UID:s
      RECURRENCE-ID:20261210T170000Z
      DTSTART:20261210T170000Z
      DTEND:20261210T180000Z
      TRANSP:TRANSPARENT
      END:VEVENT`,
      is: [DEC('03'), DEC('17'), DEC('24')],
    },
    {
      what: 'a free series of which one occurrence is busy',
      file: `${SERIES}
      TRANSP:TRANSPARENT
      END:VEVENT
      BEGIN:VEVENT
      UID:s
      RECURRENCE-ID:20261210T170000Z
      DTSTART:20261210T170000Z
      DTEND:20261210T180000Z
      TRANSP:OPAQUE
      END:VEVENT`,
      is: [DEC('10')],
    },
    {
      what: 'all later ones half an hour later and longer (RANGE=THISANDFUTURE)',
      file: `${SERIES}
      END:VEVENT
      BEGIN:VEVENT
      UID:s
      RECURRENCE-ID;RANGE=THISANDFUTURE:20261217T170000Z
      DTSTART;TZID=America/New_York:20261217T123000
      DTEND;TZID=America/New_York:20261217T143000
      END:VEVENT`,
      is: [DEC('03'), DEC('10'), DEC('17', '17:30', '19:30'), DEC('24', '17:30', '19:30')],
    },
    {
      what: 'all later ones cancelled',
      file: `${SERIES}
      END:VEVENT
      BEGIN:VEVENT
      UID:s
      RECURRENCE-ID;RANGE=THISANDFUTURE:20261217T170000Z
      DTSTART:20261217T170000Z
      STATUS:CANCELLED
      END:VEVENT`,
      is: [DEC('03'), DEC('10')],
    },
    {
      what: 'a moved occurrence without its series stands for itself',
      file: `
      BEGIN:VEVENT
      UID:s
      RECURRENCE-ID:20261210T170000Z
      DTSTART:20261211T150000Z
      DTEND:20261211T160000Z
      END:VEVENT`,
      is: [DEC('11', '15:00', '16:00')],
    },
    {
      what: 'a cancelled event, and one marked as free, take no time',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART:20261203T170000Z
      DURATION:PT1H
      STATUS:CANCELLED
      END:VEVENT
      BEGIN:VEVENT
      UID:2
      DTSTART:20261204T170000Z
      DURATION:PT1H
      TRANSP:TRANSPARENT
      END:VEVENT`,
      is: [],
      refused: ['1 not-busy', '2 not-busy'],
    },
    {
      what: 'read as closures, a holiday marked as free is one, and a cancelled one is not',
      all: true,
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;VALUE=DATE:20261225
      TRANSP:TRANSPARENT
      END:VEVENT
      BEGIN:VEVENT
      UID:2
      DTSTART;VALUE=DATE:20261226
      STATUS:CANCELLED
      END:VEVENT`,
      is: ['2026-12-25/2026-12-26'],
      refused: ['2 not-busy'],
    },
    {
      what: 'a calendar that cancels (METHOD:CANCEL) makes nobody busy',
      file: `
      METHOD:CANCEL
      BEGIN:VEVENT
      UID:1
      SEQUENCE:1
      DTSTART:20261203T170000Z
      DTEND:20261203T180000Z
      END:VEVENT`,
      is: [],
      refused: ['1 not-busy'],
    },
    {
      what: 'an invitation and its cancellation in one file, in any order of versions',
      file: `
      BEGIN:VCALENDAR
      METHOD:CANCEL
      BEGIN:VEVENT
      UID:1
      SEQUENCE:2
      END:VEVENT
      END:VCALENDAR
      BEGIN:VCALENDAR
      METHOD:REQUEST
      BEGIN:VEVENT
      UID:1
      SEQUENCE:1
      DTSTART:20261203T170000Z
      DTEND:20261203T180000Z
      END:VEVENT
      BEGIN:VEVENT
      UID:2
      DTSTART:20261204T170000Z
      DTEND:20261204T180000Z
      END:VEVENT
      END:VCALENDAR`,
      is: [DEC('04')],
      refused: ['1 not-busy', '2 not-busy'],
    },
    {
      what: 'a cancellation of one occurrence (METHOD:CANCEL)',
      file: `
      BEGIN:VCALENDAR
      METHOD:PUBLISH${SERIES}
      END:VEVENT
      END:VCALENDAR
      BEGIN:VCALENDAR
      METHOD:CANCEL
      BEGIN:VEVENT
      UID:s
      RECURRENCE-ID:20261210T170000Z
      SEQUENCE:1
      END:VEVENT
      END:VCALENDAR`,
      is: [DEC('03'), DEC('17'), DEC('24')],
    },
    {
      what: 'an event invited again after it was cancelled is busy',
      file: `
      BEGIN:VEVENT
      UID:1
      SEQUENCE:1
      DTSTART:20261203T170000Z
      STATUS:CANCELLED
      END:VEVENT
      BEGIN:VEVENT
      UID:1
      SEQUENCE:2
      DTSTART:20261203T170000Z
      DTEND:20261203T180000Z
      END:VEVENT`,
      is: [DEC('03')],
      refused: ['1 not-busy'],
    },
  ]);
});
