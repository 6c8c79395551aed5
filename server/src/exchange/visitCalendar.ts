import { ICalCalendarMethod, ICalEventStatus, default as ical } from 'ical-generator';

export interface CalendarVisit {
  readonly id: string;
  readonly start: Date;
  readonly end: Date;
  readonly sequence: number;
  readonly stamp: Date;
  readonly cancelled: boolean;
  readonly clinic: string;
  readonly phone: string;
  readonly place: string;
  readonly directions: string;
  readonly language: 'en' | 'es';
}

const TITLE = { en: 'Appointment', es: 'Cita' } as const;
const CALL = { en: 'To change it, call', es: 'Para cambiarla, llame al' } as const;

/**
 * A visit as an iCalendar file (RFC 5545), times in UTC. The title is neutral: calendars are shared, and the kind of
 * visit is nobody's business.
 */
export function visitToCalendar(visit: CalendarVisit): string {
  const calendar = ical({
    prodId: { company: 'Zaguan', product: 'Zaguan', language: 'EN' },
    method: visit.cancelled ? ICalCalendarMethod.CANCEL : ICalCalendarMethod.PUBLISH,
  });
  calendar.createEvent({
    id: `${visit.id}@zaguan.invalid`,
    start: visit.start,
    end: visit.end,
    stamp: visit.stamp,
    sequence: visit.sequence,
    status: visit.cancelled ? ICalEventStatus.CANCELLED : ICalEventStatus.CONFIRMED,
    summary: `${TITLE[visit.language]}, ${visit.clinic}`,
    location: visit.place,
    description: [visit.directions, `${CALL[visit.language]} ${visit.phone}.`].filter(Boolean).join('\n'),
  });
  return calendar.toString();
}
