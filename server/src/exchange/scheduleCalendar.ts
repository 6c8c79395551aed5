import {
  ICalCalendarMethod,
  ICalEventBusyStatus,
  ICalEventStatus,
  ICalEventTransparency,
  default as ical,
} from 'ical-generator';

import { calendarText, parameterText } from './calendarText.ts';

/** A stretch in which somebody or something is busy. */
export interface BusyTime {
  readonly id: string;
  readonly start: Date;
  readonly end: Date;
  readonly place: string;
  /** The kind of visit, where whoever made the feed asked for it; never whose visit it is. */
  readonly what: string | null;
  /** When the visit was changed last: what is not new is the same file. */
  readonly stamp: Date;
}

export interface ScheduleCalendar {
  readonly name: string;
  readonly busy: readonly BusyTime[];
  /** Who publishes it (RFC 5546 §3.2.1): the clinic's name and e-mail address. */
  readonly organizer: { readonly name: string; readonly email: string };
}

/** How often a calendar program should look again (RFC 7986 §5.7). */
const REFRESH_SECONDS = 900;

/**
 * A schedule as an iCalendar object (RFC 5545, name and refresh interval by RFC 7986), times in UTC: when it is busy
 * and where. Titles are neutral: calendars are shared.
 */
export function scheduleToCalendar({ name, busy, organizer }: ScheduleCalendar): string {
  const calendar = ical({
    prodId: { company: 'Zaguan', product: 'Zaguan', language: 'EN' },
    method: ICalCalendarMethod.PUBLISH,
    name,
    ttl: REFRESH_SECONDS,
  });
  for (const { id, start, end, place, what, stamp } of busy)
    calendar.createEvent({
      id: `${id}@zaguan.invalid`,
      start,
      end,
      stamp,
      organizer: { name: parameterText(organizer.name), email: organizer.email },
      summary: what ?? 'Busy',
      location: place,
      status: ICalEventStatus.CONFIRMED,
      transparency: ICalEventTransparency.OPAQUE,
      busystatus: ICalEventBusyStatus.BUSY,
    });
  return calendarText(calendar);
}
