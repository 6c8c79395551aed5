import ICAL from 'ical.js';
import { describe, expect, it } from 'vitest';
import { scheduleToCalendar } from './scheduleCalendar.ts';
import { type CalendarVisit, visitToCalendar } from './visitCalendar.ts';

const VISIT: CalendarVisit = {
  id: '0b7a3c52-6a1e-4a39-9c5e-0d8f2f9a1b11',
  start: new Date('2026-12-02T14:00:00Z'),
  end: new Date('2026-12-02T14:20:00Z'),
  sequence: 2,
  cancelled: false,
  clinic: 'Brindlewood Allergy & Asthma',
  phone: '(312) 555-0101',
  place: 'Brindlewood at Canal Row, 14 Canal Row; Brindlewood, IL 60000',
  directions: 'La puerta verde azulada junto al puente peatonal, sin escalones.\nTimbre: “Zaguán”',
  language: 'es',
};
const stamp = new Date('2026-12-01T16:20:00Z');
const kept = { stamp, organizer: 'clinic@example.com' };
const parties = { ...kept, attendee: 'ana@example.com' };
const organizer = { name: 'Brindlewood', email: 'clinic@example.com' };

function read(text: string) {
  const calendar = new ICAL.Component(ICAL.parse(text));
  const event = calendar.getFirstSubcomponent('vevent');
  return { calendar, event, value: (name: string) => String(event?.getFirstPropertyValue(name) ?? '') };
}

describe('a visit as an iCalendar object', () => {
  it.each([
    ['PUBLISH', false, 'PUBLISH', 'CONFIRMED'],
    ['PUBLISH', true, 'CANCEL', 'CANCELLED'],
    ['REQUEST', false, 'REQUEST', 'CONFIRMED'],
    ['CANCEL', true, 'CANCEL', 'CANCELLED'],
  ] as const)('for %s (cancelled: %s) has method %s and status %s', (method, cancelled, says, status) => {
    const use = method === 'PUBLISH' ? { method, ...kept } : { method, ...parties };
    const { calendar, value } = read(visitToCalendar({ ...VISIT, cancelled }, use));
    expect([calendar.getFirstPropertyValue('method'), value('status'), value('sequence'), value('uid')]).toEqual([
      says,
      status,
      '2',
      `${VISIT.id}@zaguan.invalid`,
    ]);
  });

  /** RFC 5546 3.2.1, 3.2.2 and 3.2.5: each names its organizer; a published one names no attendee. */
  it('names the organizer always, and the attendee only where it goes between two', () => {
    const sent = read(visitToCalendar(VISIT, { method: 'REQUEST', ...parties }));
    expect([sent.value('organizer'), sent.value('attendee').toLowerCase()]).toEqual([
      'mailto:clinic@example.com',
      'mailto:ana@example.com',
    ]);
    for (const cancelled of [false, true]) {
      const file = read(visitToCalendar({ ...VISIT, cancelled }, { method: 'PUBLISH', ...kept }));
      expect([file.value('organizer'), file.value('attendee')]).toEqual(['mailto:clinic@example.com', '']);
    }
    const busy = [{ id: 'a-1', start: VISIT.start, end: VISIT.end, place: 'Canal Row', what: null, stamp }];
    const schedule = read(scheduleToCalendar({ name: 'Dr. Amaya', busy, organizer }));
    expect([schedule.value('organizer'), schedule.value('dtstamp')]).toEqual([
      'mailto:clinic@example.com',
      stamp.toISOString().replace('.000', ''),
    ]);
  });

  /** RFC 6868 3.1 and 3.2: ^' for a quote, ^^ for a caret, ^n for a line end; ical.js reads them back. */
  it.each(['Dr. "Ali" Brindlewood', 'Caret ^ and ^^', 'Two\nlines', "It's; a, clinic: 1"])(
    'keeps the name %j',
    (clinic) => {
      const { event } = read(visitToCalendar({ ...VISIT, clinic }, { method: 'REQUEST', ...parties }));
      expect(event?.getFirstProperty('organizer')?.getParameter('cn')).toBe(clinic);
    },
  );

  /** RFC 5545 3.1: lines are delimited by CRLF, and each object ends with one (3.4, 3.6). */
  it('ends its last line like every other', () => {
    const text = visitToCalendar(VISIT, { method: 'PUBLISH', ...kept });
    expect(text.endsWith('END:VCALENDAR\r\n')).toBe(true);
    expect(text.replaceAll('\r\n', '')).not.toMatch(/[\r\n]/);
    const schedule = scheduleToCalendar({ name: 'Dr. Amaya', busy: [], organizer });
    expect(schedule.endsWith('END:VCALENDAR\r\n')).toBe(true);
  });

  /** RFC 5545 3.1 (75 octets a line), 3.3.11 (escapes), 3.3.5 (UTC). */
  it('is folded, escaped and in UTC, and comes back whole', () => {
    const text = visitToCalendar(VISIT, { method: 'REQUEST', ...parties });
    for (const line of text.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75);
    const { event, value } = read(text);
    expect(value('location')).toBe(VISIT.place);
    expect(value('description')).toBe(`${VISIT.directions}\nPara cambiarla, llame al (312) 555-0101.`);
    expect(text).toMatch(/DTSTART:20261202T140000Z/);
    expect(new ICAL.Event(event ?? undefined).endDate.toJSDate()).toEqual(VISIT.end);
  });

  it('says nothing of the kind of visit', () => {
    expect(read(visitToCalendar(VISIT, { method: 'PUBLISH', ...kept })).value('summary')).toBe(
      'Cita, Brindlewood Allergy & Asthma',
    );
  });
});
