import fc from 'fast-check';
import ical, { ICalEventRepeatingFreq } from 'ical-generator';
import { describe, expect, it } from 'vitest';
import { closuresFromCalendar } from './closuresFromCalendar.ts';

const DENVER = 'America/Denver';
const TODAY = '2026-11-01';

/** A file as another program could write it, by lines of one event or several. */
const file = (...events: readonly string[][]) =>
  [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//test//EN',
    ...events.flatMap((lines) => ['BEGIN:VEVENT', ...lines, 'END:VEVENT']),
    'END:VCALENDAR',
    '',
  ].join('\r\n');
const read = (text: string, zone = DENVER) => {
  const found = closuresFromCalendar(text, zone, TODAY);
  if (!found) throw new Error('The file must be read.');
  return found;
};
const spans = (text: string, zone = DENVER) =>
  read(text, zone).closures.map((each) => [each.startDate, each.startMinute, each.endDate, each.endMinute]);
const refusals = (text: string) => read(text).refused.map(({ at, code, detail }) => [at, code, detail]);

describe('closures out of an iCalendar file (RFC 5545)', () => {
  it('ends whole days before DTEND, which is the first free day (§3.6.1)', () => {
    expect(
      spans(
        file(
          ['UID:1', 'SUMMARY:Holiday', 'DTSTART;VALUE=DATE:20261126', 'DTEND;VALUE=DATE:20261128'],
          ['UID:2', 'SUMMARY:One day', 'DTSTART;VALUE=DATE:20261224', 'DTEND;VALUE=DATE:20261225'],
          ['UID:3', 'SUMMARY:No end: one day', 'DTSTART;VALUE=DATE:20270101'],
          ['UID:4', 'SUMMARY:By length', 'DTSTART;VALUE=DATE:20270201', 'DURATION:P2D'],
        ),
      ),
    ).toEqual([
      ['2026-11-26', 0, '2026-11-27', 1440],
      ['2026-12-24', 0, '2026-12-24', 1440],
      ['2027-01-01', 0, '2027-01-01', 1440],
      ['2027-02-01', 0, '2027-02-02', 1440],
    ]);
  });

  // The Olson names are those of the IANA database; Denver is seven hours behind UTC in winter and six in summer.
  it('brings the zone of an event to the site’s clock', () => {
    expect(
      spans(
        file(
          ['UID:1', 'DTSTART;TZID=America/New_York:20261203T120000', 'DTEND;TZID=America/New_York:20261203T170000'],
          ['UID:2', 'DTSTART:20261204T200000Z', 'DTEND:20261204T220000Z'],
          ['UID:3', 'DTSTART:20261205T080000', 'DTEND:20261205T100000'],
          ['UID:4', 'DTSTART:20270604T200000Z', 'DTEND:20270604T220000Z'],
        ),
      ),
    ).toEqual([
      ['2026-12-03', 600, '2026-12-03', 900],
      ['2026-12-04', 780, '2026-12-04', 900],
      ['2026-12-05', 480, '2026-12-05', 600],
      ['2027-06-04', 840, '2027-06-04', 960],
    ]);
  });

  it('puts an end at midnight on the day it closes, and a night on two days', () => {
    expect(
      spans(
        file(
          ['UID:1', 'DTSTART:20261203T170000', 'DTEND:20261204T000000'],
          ['UID:2', 'DTSTART:20261210T220000', 'DTEND:20261211T060000'],
        ),
      ),
    ).toEqual([
      ['2026-12-03', 1020, '2026-12-03', 1440],
      ['2026-12-10', 1320, '2026-12-11', 360],
    ]);
  });

  it('widens to five minutes, never narrows', () => {
    expect(spans(file(['UID:1', 'DTSTART:20261203T090230', 'DTEND:20261203T095730']))).toEqual([
      ['2026-12-03', 540, '2026-12-03', 600],
    ]);
  });

  it('follows a rule with its exceptions and the occurrence that was moved', () => {
    const text = file(
      [
        'UID:staff',
        'SUMMARY:Staff meeting',
        'DTSTART:20261105T120000',
        'DTEND:20261105T130000',
        'RRULE:FREQ=WEEKLY;COUNT=4',
        'EXDATE:20261112T120000',
      ],
      [
        'UID:staff',
        'SUMMARY:Staff meeting',
        'RECURRENCE-ID:20261119T120000',
        'DTSTART:20261120T140000',
        'DTEND:20261120T150000',
      ],
    );
    expect(spans(text)).toEqual([
      ['2026-11-05', 720, '2026-11-05', 780],
      ['2026-11-20', 840, '2026-11-20', 900],
      ['2026-11-26', 720, '2026-11-26', 780],
    ]);
    expect(refusals(text)).toEqual([]);
  });

  // Clocks go back on the first Sunday of November (Energy Policy Act of 2005): the wall time stays, the instant moves.
  it('keeps a rule’s wall time over a change of the clocks', () => {
    const text = file(['UID:1', 'DTSTART:20261030T120000', 'DTEND:20261030T130000', 'RRULE:FREQ=DAILY;COUNT=5']);
    expect(spans(text).map(([date, from]) => [date, from])).toEqual([
      ['2026-11-01', 720],
      ['2026-11-02', 720],
      ['2026-11-03', 720],
    ]);
  });

  it('follows a rule that began long ago, from today on', () => {
    const text = file([
      'UID:1',
      'DTSTART;VALUE=DATE:20200101',
      'DTEND;VALUE=DATE:20200102',
      'RRULE:FREQ=YEARLY',
      'SUMMARY:New Year',
    ]);
    expect(spans(text)).toEqual([
      ['2027-01-01', 0, '2027-01-01', 1440],
      ['2028-01-01', 0, '2028-01-01', 1440],
    ]);
    const weekly = file(['UID:1', 'DTSTART:20100105T120000', 'DTEND:20100105T130000', 'RRULE:FREQ=WEEKLY']);
    expect(spans(weekly)).toHaveLength(105);
    expect(spans(weekly)[0]).toEqual(['2026-11-03', 720, '2026-11-03', 780]);
  });

  it('names each event that it can’t read, and reads the others', () => {
    const text = file(
      ['UID:1', 'SUMMARY:No start'],
      ['UID:2', 'DTSTART;TZID=Mars/Olympus:20261203T120000', 'DTEND;TZID=Mars/Olympus:20261203T130000'],
      ['UID:3', 'DTSTART:20261203T120000', 'DTEND:20261203T110000'],
      ['UID:4', 'DTSTART;VALUE=DATE:20261203', 'DTEND;VALUE=DATE:20281203'],
      ['UID:5', 'DTSTART:20261203T120000', 'DTEND:20261203T121000', 'RRULE:FREQ=HOURLY'],
      ['UID:6', 'DTSTART:20200103T120000', 'DTEND:20200103T121000', 'RRULE:FREQ=DAILY;COUNT=9'],
      ['UID:7', 'DTSTART:20200103T120000', 'DTEND:20200103T120001', 'RRULE:FREQ=SECONDLY'],
      ['UID:8', 'SUMMARY:Good', 'DTSTART:20261203T120000', 'DTEND:20261203T130000'],
    );
    expect(refusals(text)).toEqual([
      [1, 'no-start', ''],
      [2, 'unknown-zone', 'Mars/Olympus'],
      [3, 'end-before-start', ''],
      [4, 'too-many-days', ''],
      [5, 'too-many-repeats', '800'],
      [6, 'rule-over', ''],
      [7, 'takes-too-long', ''],
    ]);
    expect(read(text).closures.map(({ reason, uid }) => [reason, uid])).toEqual([['Good', '8']]);
  });

  it.each(['', 'name,date\r\n', 'BEGIN:VCARD\r\nEND:VCARD\r\n', '\u0000\u0001'])(
    'says that this is no calendar: %j',
    (text) => {
      const found = closuresFromCalendar(text, DENVER, TODAY);
      expect(found).toBe(null);
    },
  );

  it('cuts a long title and takes line breaks out of it', () => {
    const [closure] = read(
      file(['UID:1', `SUMMARY:${'Roof\\n work '.repeat(30)}`, 'DTSTART;VALUE=DATE:20261203']),
    ).closures;
    expect(closure.reason).toHaveLength(80);
    expect(closure.reason).not.toMatch(/\n/);
  });

  // Peer: ical-generator writes the file; what it was given must come out.
  it('gives back what another library has written', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 400 }), fc.integer({ min: 1, max: 12 }), (day, days) => {
        const start = new Date(Date.UTC(2026, 10, 1 + day));
        const end = new Date(Date.UTC(2026, 10, 1 + day + days));
        const calendar = ical({ prodId: '//test//EN' });
        calendar.createEvent({ start, end, allDay: true, timezone: 'UTC', summary: 'Closed' });
        const iso = (date: Date) => date.toISOString().slice(0, 10);
        const last = new Date(end.getTime() - 86_400_000);
        expect(spans(calendar.toString())).toEqual([[iso(start), 0, iso(last), 1440]]);
      }),
      { numRuns: 150 },
    );
  });

  it('follows a rule as that library writes it', () => {
    const calendar = ical({ prodId: '//test//EN' });
    calendar.createEvent({
      start: new Date('2026-11-02T19:00:00Z'),
      end: new Date('2026-11-02T20:00:00Z'),
      summary: 'Cleaning',
      repeating: { freq: ICalEventRepeatingFreq.MONTHLY, count: 3 },
    });
    expect(spans(calendar.toString())).toEqual([
      ['2026-11-02', 720, '2026-11-02', 780],
      ['2026-12-02', 720, '2026-12-02', 780],
      ['2027-01-02', 720, '2027-01-02', 780],
    ]);
  });
});
