import { addDays, dayNumber, type EpochMinute, epochToWall, wallToEpoch, type ZoneId } from '../time/index.ts';

interface Place {
  readonly zone: ZoneId;
  readonly start: EpochMinute;
}

/**
 * Where a visit goes that moves along with another one: as many dates and minutes on the wall clock as that one moved,
 * so that visits back to back stay so, and a series keeps its hour over a change of clocks. Counted on each site's own
 * clock (RFC 5545, 3.3.10: recurrence is reckoned in local time).
 *
 * @param from where the other one was, and `to` where it goes
 * @param zone of the site this one goes to
 */
export function shiftedStart(from: Place, to: Place, own: Place, zone: ZoneId = own.zone): EpochMinute {
  const [before, after, mine] = [from, to, own].map((place) => epochToWall(place.zone, place.start));
  const minutes = dayNumber(after.date) * 1440 + after.minute - (dayNumber(before.date) * 1440 + before.minute);
  const minute = mine.minute + minutes;
  const days = Math.floor(minute / 1440);
  return wallToEpoch(zone, addDays(mine.date, days), minute - days * 1440);
}
