import { occursOn } from '../recurrence/index.ts';
import { addDays, type LocalDate, wallToEpoch, type ZoneId } from '../time/index.ts';
import type { WorkingHours } from './types.ts';

/** What must be known of hours to ask whether two of them collide. */
export type HoursToPlace = Pick<WorkingHours, 'id' | 'siteId' | 'rule' | 'fromMinute' | 'toMinute'>;

/** One date on which two working hours of one person would be at once. */
export interface Overlap {
  readonly otherId: string;
  readonly otherSiteId: string;
  readonly date: LocalDate;
}

/** How far ahead overlaps are looked for: two rules with coprime intervals up to 8 weeks meet within 56 weeks. */
const DAYS_SEARCHED = 400;

/**
 * First date on which new working hours of a person overlap other ones of the same person, at this or any other
 * site (compared as instants, so that sites in two zones are judged by when they really happen).
 */
export function firstOverlap(
  hours: HoursToPlace,
  others: readonly HoursToPlace[],
  zoneOf: (siteId: string) => ZoneId,
): Overlap | null {
  for (let i = 0; i < DAYS_SEARCHED; i++) {
    const date = addDays(hours.rule.effectiveFrom, i);
    if (!occursOn(hours.rule, date)) continue;
    const mine = instants(hours, date, zoneOf(hours.siteId));
    for (const other of others) {
      if (other.id === hours.id) continue;
      // A neighboring date can meet this one when the sites' zones differ.
      for (const otherDate of [addDays(date, -1), date, addDays(date, 1)]) {
        if (!occursOn(other.rule, otherDate)) continue;
        const theirs = instants(other, otherDate, zoneOf(other.siteId));
        if (mine.start < theirs.end && theirs.start < mine.end)
          return { otherId: other.id, otherSiteId: other.siteId, date };
      }
    }
  }
  return null;
}

function instants(hours: HoursToPlace, date: LocalDate, zone: ZoneId) {
  return { start: wallToEpoch(zone, date, hours.fromMinute), end: wallToEpoch(zone, date, hours.toMinute) };
}
