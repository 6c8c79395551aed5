import {
  ICalAttendeeRole,
  ICalAttendeeStatus,
  ICalCalendarMethod,
  ICalEventStatus,
  default as ical,
} from 'ical-generator';

import { calendarText, parameterText } from './calendarText.ts';

export interface CalendarVisit {
  readonly id: string;
  readonly start: Date;
  readonly end: Date;
  readonly sequence: number;
  readonly cancelled: boolean;
  readonly clinic: string;
  readonly phone: string;
  readonly place: string;
  readonly directions: string;
  readonly language: 'en' | 'es';
}

/**
 * A file to keep (PUBLISH), or what goes by e-mail between organizer and attendee (REQUEST, CANCEL). Each of them names
 * the organizer (RFC 5546 §3.2.1, §3.2.2, §3.2.5); who reads a file that is kept is nobody's business.
 */
export type CalendarUse = {
  /** When the visit was changed last: the same visit is the same file, whenever it is asked for. */
  readonly stamp: Date;
  /** The clinic's e-mail address. */
  readonly organizer: string;
} & ({ readonly method: 'PUBLISH' } | { readonly method: 'REQUEST' | 'CANCEL'; readonly attendee: string });

const TITLE = { en: 'Appointment', es: 'Cita' } as const;
const CALL = { en: 'To change it, call', es: 'Para cambiarla, llame al' } as const;

/**
 * A visit as an iCalendar object (RFC 5545), times in UTC. The title is neutral: calendars are shared, and the kind of
 * visit is nobody's business. The UID stays the visit's for its life; SEQUENCE grows with each change of it.
 */
export function visitToCalendar(visit: CalendarVisit, use: CalendarUse): string {
  const method = use.method === 'PUBLISH' && visit.cancelled ? 'CANCEL' : use.method;
  const calendar = ical({
    prodId: { company: 'Zaguan', product: 'Zaguan', language: 'EN' },
    method: ICalCalendarMethod[method],
  });
  const event = calendar.createEvent({
    id: `${visit.id}@zaguan.invalid`,
    start: visit.start,
    end: visit.end,
    stamp: use.stamp,
    sequence: visit.sequence,
    status: method === 'CANCEL' ? ICalEventStatus.CANCELLED : ICalEventStatus.CONFIRMED,
    summary: `${TITLE[visit.language]}, ${visit.clinic}`,
    location: visit.place,
    description: [visit.directions, `${CALL[visit.language]} ${visit.phone}.`].filter(Boolean).join('\n'),
  });
  event.organizer({ name: parameterText(visit.clinic), email: use.organizer });
  if (use.method !== 'PUBLISH')
    event.createAttendee({
      email: use.attendee,
      role: ICalAttendeeRole.REQ,
      status: ICalAttendeeStatus.NEEDSACTION,
      rsvp: false,
    });
  return calendarText(calendar);
}
