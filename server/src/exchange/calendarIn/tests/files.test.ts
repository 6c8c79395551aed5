import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readCalendars } from '../readCalendars.ts';
import { samples, TODAY, whole, zoneBlock } from './sample.ts';

const LUNCH = `
      BEGIN:VEVENT
      UID:lunch
      DTSTART:20261203T190000Z
      DTEND:20261203T200000Z
      END:VEVENT`;
const AT_LUNCH = '2026-12-03T19:00Z/2026-12-03T20:00Z';

describe('lengths (RFC 5545 §3.3.6, §3.6.1, §3.8.2.5)', () => {
  samples([
    {
      what: 'PT24H over a change of clocks is 24 hours, P1D is the same time tomorrow',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=America/New_York:20270313T120000
      DURATION:PT24H
      END:VEVENT
      BEGIN:VEVENT
      UID:2
      DTSTART;TZID=America/New_York:20270313T120000
      DURATION:P1D
      END:VEVENT`,
      is: ['2027-03-13T17:00Z/2027-03-14T17:00Z', '2027-03-13T17:00Z/2027-03-14T16:00Z'],
    },
    {
      what: 'days and hours together: the days first',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=America/New_York:20270313T120000
      DURATION:P1DT2H30M
      END:VEVENT`,
      is: ['2027-03-13T17:00Z/2027-03-14T18:30Z'],
    },
    {
      what: 'a night told by DTEND is as long after the change of clocks (§3.8.5.3)',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;TZID=America/New_York:20270312T220000
      DTEND;TZID=America/New_York:20270313T060000
      RRULE:FREQ=DAILY;COUNT=2
      END:VEVENT`,
      is: ['2027-03-13T03:00Z/2027-03-13T11:00Z', '2027-03-14T03:00Z/2027-03-14T11:00Z'],
    },
    {
      what: 'weeks of whole days',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;VALUE=DATE:20261221
      DURATION:P2W
      END:VEVENT`,
      is: ['2026-12-21/2027-01-04'],
      peer: true,
    },
    {
      what: 'a day without an end is one day; so is one that ends on itself, as some programs write it',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;VALUE=DATE:20270101
      END:VEVENT
      BEGIN:VEVENT
      UID:2
      DTSTART;VALUE=DATE:20270106
      DTEND;VALUE=DATE:20270106
      END:VEVENT`,
      is: ['2027-01-01/2027-01-02', '2027-01-06/2027-01-07'],
    },
    {
      what: 'a day written without saying that it is one',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART:20270101
      DTEND:20270103
      END:VEVENT`,
      is: ['2027-01-01/2027-01-03'],
    },
    {
      what: 'seconds are kept',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART:20261203T190030Z
      DTEND:20261203T195930Z
      END:VEVENT`,
      is: ['2026-12-03T19:00:30Z/2026-12-03T19:59:30Z'],
      peer: true,
    },
    {
      what: 'a moment takes no time, and an end before the start is named',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART:20261203T190000Z
      END:VEVENT
      BEGIN:VEVENT
      UID:2
      DTSTART:20261203T190000Z
      DTEND:20261203T180000Z
      END:VEVENT
      BEGIN:VEVENT
      UID:3
      DTSTART:20261203T190000Z
      DURATION:-PT1H
      END:VEVENT`,
      is: [],
      refused: ['1 takes-no-time', '2 end-before-start', '3 end-before-start'],
    },
  ]);
});

describe('blocks of busy times (RFC 5545 §3.6.4, §3.8.2.6)', () => {
  const BLOCKS = `
      BEGIN:VFREEBUSY
      DTSTART:20261201T000000Z
      DTEND:20261231T000000Z
      FREEBUSY:20261203T150000Z/PT1H,20261204T150000Z/20261204T163000Z
      FREEBUSY;FBTYPE=BUSY-TENTATIVE:20261207T150000Z/PT1H
      FREEBUSY;FBTYPE=FREE:20261208T150000Z/PT8H
      END:VFREEBUSY`;
  samples([
    {
      what: 'a mail server’s answer: busy, tentative, and free',
      file: BLOCKS,
      is: [
        '2026-12-03T15:00Z/2026-12-03T16:00Z',
        '2026-12-04T15:00Z/2026-12-04T16:30Z',
        '2026-12-07T15:00Z/2026-12-07T16:00Z',
      ],
    },
    { what: 'are no closures', all: true, file: BLOCKS, is: [], refused: ['1 only-busy-times'] },
    {
      what: 'a block that can’t be read is named, the event beside it is read',
      file: `
      BEGIN:VFREEBUSY
      FREEBUSY:tomorrow/PT1H
      END:VFREEBUSY${LUNCH}`,
      is: [AT_LUNCH],
      refused: ['1 not-readable FREEBUSY'],
    },
  ]);
});

describe('files as people have them', () => {
  const BROKEN: readonly [what: string, lines: string, refused: string][] = [
    ['no such date', 'DTSTART:20261345T990000', '1 not-readable 2026-13-45T99:00:00'],
    ['no seconds', 'DTSTART:20261203T1900', '1 not-readable DTSTART'],
    ['no start', 'SUMMARY:When?', '1 no-start'],
    ['a rule without how often', 'DTSTART:20261203T190000Z\n      RRULE:COUNT=3', '1 rule-not-read RRULE'],
    [
      'a rule that contradicts itself',
      'DTSTART:20261203T190000Z\n      RRULE:FREQ=WEEKLY;BYMONTHDAY=3',
      '1 rule-not-read RRULE',
    ],
    ['a rule that is none', 'DTSTART:20261203T190000Z\n      RRULE:FREQ=SOMETIMES', '1 rule-not-read RRULE'],
    ['a day that ends at a time', 'DTSTART;VALUE=DATE:20261203\n      DTEND:20261203T120000', '1 not-readable DTEND'],
    ['a length that is none', 'DTSTART:20261203T190000Z\n      DURATION:a while', '1 not-readable DURATION'],
    ['four years at once', 'DTSTART;VALUE=DATE:20261203\n      DURATION:P200W', '1 too-many-days'],
    [
      'by the minute',
      'DTSTART:20261203T190000Z\n      DURATION:PT1M\n      RRULE:FREQ=MINUTELY',
      '1 too-many-repeats 800',
    ],
  ];
  samples([
    ...BROKEN.map(([what, lines, refused]) => ({
      what: `one bad event takes none of the others away: ${what}`,
      file: `
      BEGIN:VEVENT
      UID:bad
      ${lines}
      END:VEVENT${LUNCH}`,
      is: [AT_LUNCH],
      refused: [refused],
    })),
    {
      what: 'a line that is none, folded by a careless program',
      file: `
      BEGIN:VEVENT
      UID:1
      DESCRIPTION:Bring the chart
      and the referral
      DTSTART:20261203T190000Z
      DTEND:20261203T200000Z
      END:VEVENT`,
      is: [AT_LUNCH],
    },
    {
      what: 'an alarm inside an event is not its time',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART:20261203T190000Z
      DTEND:20261203T200000Z
      BEGIN:VALARM
      TRIGGER:-PT15M
      DURATION:PT5M
      ACTION:DISPLAY
      END:VALARM
      END:VEVENT`,
      is: [AT_LUNCH],
      peer: true,
    },
    {
      what: 'tasks and notes are named together',
      file: `
      BEGIN:VTODO
      UID:1
      SUMMARY:Call
      END:VTODO
      BEGIN:VJOURNAL
      UID:2
      END:VJOURNAL
      BEGIN:VTODO
      UID:3
      END:VTODO${LUNCH}`,
      is: [AT_LUNCH],
      refused: ['1 not-an-event 2 VTODO', '2 not-an-event 1 VJOURNAL'],
    },
    {
      what: 'two calendars in one file, one event in both',
      file: `
      BEGIN:VCALENDAR${LUNCH}
      END:VCALENDAR
      BEGIN:VCALENDAR
      BEGIN:VEVENT
      UID:2
      DTSTART:20261204T190000Z
      DTEND:20261204T200000Z
      END:VEVENT
      END:VCALENDAR`,
      is: [AT_LUNCH, '2026-12-04T19:00Z/2026-12-04T20:00Z'],
    },
    {
      what: 'a file cut off in the middle',
      file: `
      BEGIN:VCALENDAR${LUNCH}
      BEGIN:VEVENT
      UID:2
      DTSTART:20261204T190000Z`,
      is: [AT_LUNCH],
      refused: ['2 cut-off'],
    },
    {
      what: 'an event that is over, of a rule',
      file: `
      BEGIN:VEVENT
      UID:1
      DTSTART;VALUE=DATE:20200101
      RRULE:FREQ=DAILY;COUNT=9
      END:VEVENT`,
      is: [],
      refused: ['1 rule-over'],
    },
    {
      what: 'events without an identifier do not stand for each other',
      file: `
      BEGIN:VEVENT
      DTSTART;VALUE=DATE:20261203
      END:VEVENT
      BEGIN:VEVENT
      DTSTART;VALUE=DATE:20261204
      STATUS:CANCELLED
      END:VEVENT`,
      is: ['2026-12-03/2026-12-04'],
      refused: ['2 not-busy'],
    },
    {
      what: 'two events under one identifier, as a careless program writes them, are both read',
      file: `
      BEGIN:VEVENT
      UID:x
      DTSTART;VALUE=DATE:20261203
      END:VEVENT
      BEGIN:VEVENT
      UID:x
      DTSTART;VALUE=DATE:20261210
      END:VEVENT`,
      is: ['2026-12-03/2026-12-04', '2026-12-10/2026-12-11'],
    },
  ]);

  const read = (text: string) =>
    readCalendars(text, {
      ...{ zone: 'America/Denver', today: TODAY, last: '2027-11-01', busyOnly: true, leaveOut: [] },
      onEvent: () => undefined,
    });
  it.each([
    ['a byte order mark', (text: string) => `\uFEFF${text}`],
    ['line feeds alone', (text: string) => text.replaceAll('\r\n', '\n')],
    ['carriage returns alone', (text: string) => text.replaceAll('\r\n', '\r')],
    ['lines folded in the middle of a word', (text: string) => text.replace('DTSTART:2026', 'DTST\r\n ART:20\r\n\t26')],
    ['blank lines between', (text: string) => text.replaceAll('\r\n', '\r\n\r\n')],
    ['no line end at its end', (text: string) => text.trimEnd()],
    ['a line before it', (text: string) => `Your export\r\n${text}`],
  ])('are read with %s', (_, change) => {
    const found = read(change(whole(LUNCH)));
    expect(found?.occurrences).toHaveLength(1);
    expect(found?.refused).toEqual([]);
  });
});

describe('files that something spoiled', () => {
  const GOOD = whole(`${zoneBlock('America/New_York')}
      BEGIN:VEVENT
      UID:s
      SUMMARY:Clinic meeting
      DTSTART;TZID=America/New_York:20261203T120000
      DTEND;TZID=America/New_York:20261203T130000
      RRULE:FREQ=WEEKLY;COUNT=4
      EXDATE;TZID=America/New_York:20261210T120000
      RDATE;VALUE=PERIOD:20261208T150000Z/PT3H
      END:VEVENT
      BEGIN:VEVENT
      UID:s
      RECURRENCE-ID:20261217T170000Z
      DTSTART:20261218T170000Z
      DURATION:PT1H
      END:VEVENT
      BEGIN:VFREEBUSY
      FREEBUSY:20261203T150000Z/PT1H
      END:VFREEBUSY${LUNCH}`);
  const asked = { zone: 'America/Denver', today: TODAY, last: '2027-11-01', busyOnly: true, leaveOut: [] };

  it('are read as far as they go: letters lost, changed, doubled or swapped anywhere take nobody down', () => {
    // A rule that never meets a date holds the library up for ever; that is what the thread's end is for.
    const lines = GOOD.split('\r\n');
    const spoilable = lines.flatMap((line, i) => (line.startsWith('RRULE') ? [] : [i]));
    let named = 0;
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.constantFrom(...spoilable),
            fc.nat(60),
            fc.constantFrom('', 'x', ';', ':', 'T', '9', '=', '\u0000'),
          ),
          {
            minLength: 1,
            maxLength: 6,
          },
        ),
        (slips) => {
          const spoiled = [...lines];
          for (const [line, at, put] of slips) {
            const text = spoiled[line];
            spoiled[line] = text.slice(0, at % (text.length + 1)) + put + text.slice((at % (text.length + 1)) + 1);
          }
          const found = readCalendars(spoiled.join('\r\n'), { ...asked, onEvent: () => undefined });
          named += found?.refused.length ?? 0;
        },
      ),
      { numRuns: 3000 },
    );
    expect(named).toBeGreaterThan(300);
  });

  it.each([
    'FREQ=WEEKLY;BYDAY=1MO',
    'FREQ=MONTHLY;BYSETPOS=1',
    'FREQ=YEARLY;BYWEEKNO=60',
    'FREQ=DAILY;COUNT=x',
    'FREQ=',
  ])('have a rule that makes no sense (%s): the event beside it is read', (rule) => {
    const text = whole(
      `BEGIN:VEVENT\nUID:1\nDTSTART:20261203T190000Z\nDURATION:PT1H\nRRULE:${rule}\nEND:VEVENT${LUNCH}`,
    );
    const found = readCalendars(text, { ...asked, onEvent: () => undefined });
    expect(found?.occurrences.some(({ uid }) => uid === 'lunch')).toBe(true);
  });
});
