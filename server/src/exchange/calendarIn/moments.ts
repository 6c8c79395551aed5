import { addDays, isDate, type LocalDate } from '@zaguan/core/time';
import { clockOf } from './clocks.ts';
import type { CalendarPart, Property } from './lines.ts';
import { type Clock, DAY_SECONDS, type Instant, Unreadable, UTC, type Wall, wallFrom } from './wall.ts';

/** A whole day, or an instant with the clock it was told on. */
export type Moment =
  | { readonly date: LocalDate }
  | { readonly instant: Instant; readonly wall: Wall; readonly clock: Clock };

/** How times of a file are read: floating ones on this clock, others as the file says. */
export interface Reading {
  readonly floating: Clock;
  readonly zones: readonly CalendarPart[];
}

/**
 * The values of a property as moments, each in the zone of this very property (RFC 5545 §3.2.19).
 *
 * @param like the zone of times that name none, where the property belongs to another one; floating if left out
 */
export function momentsOf(property: Property, reading: Reading, like?: Clock): Moment[] {
  // An empty list comes out as one value without figures.
  const told = property.values.filter((value) => /\d/.test(String(value)));
  return told.map((value) => momentOf(value, property, reading, like));
}

export function momentOf(value: unknown, { name, params }: Property, reading: Reading, like?: Clock): Moment {
  const text = String(value);
  // Without its VALUE=DATE a date comes out as a time without figures; some programs leave it away.
  const date = /^(\d{4}-\d\d-\d\d)(T::)?$/.exec(text)?.[1];
  if (date && isDate(date)) return { date };
  if (!/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\dZ?$/.test(text)) throw new Unreadable('not-readable', name.toUpperCase());
  const clock = text.endsWith('Z') ? UTC : zoneOf(params.tzid, reading, like);
  const wall = wallFrom(text);
  return { instant: clock.instantOf(wall), wall, clock };
}

function zoneOf(tzid: string | undefined, { floating, zones }: Reading, like?: Clock): Clock {
  if (tzid === undefined) return like ?? floating;
  const clock = clockOf(tzid, zones);
  if (!clock) throw new Unreadable('unknown-zone', tzid.slice(0, 60));
  return clock;
}

/** A duration (RFC 5545 §3.3.6): days are days of the calendar, hours are elapsed time. */
export interface Length {
  readonly days: number;
  readonly seconds: number;
}

const DURATION = /^([+-]?)P(?:(\d+)W)?(?:(\d+)D)?(?:T(?:(\d+)H)?(?:(\d+)M)?(?:(\d+)S)?)?$/;

export function lengthFrom(text: string): Length {
  const found = DURATION.exec(text);
  if (!found || !/\d/.test(text)) throw new Unreadable('not-readable', 'DURATION');
  const [weeks, days, hours, minutes, seconds] = found.slice(2).map((figure) => Number(figure ?? 0));
  if (found[1] === '-') throw new Unreadable('end-before-start', '');
  return { days: weeks * 7 + days, seconds: hours * 3600 + minutes * 60 + seconds };
}

/** A moment so much later: first the days, by its own clock, then the elapsed time. */
export function after(moment: Moment, { days, seconds }: Length): Moment {
  if ('date' in moment) return { date: addDays(moment.date, days + Math.ceil(seconds / DAY_SECONDS)) };
  const wall = moment.wall + days * DAY_SECONDS;
  const instant = moment.clock.instantOf(wall) + seconds;
  return { instant, wall: moment.clock.wallOf(instant), clock: moment.clock };
}
