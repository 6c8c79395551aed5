import { epochToWall, isZone, wallToEpoch } from '@zaguan/core/time';
import { findIana } from 'windows-iana';
import type { CalendarPart } from './lines.ts';
import { ownClock } from './ownClock.ts';
import { type Clock, dateOfWall, secondOfDay, wallOf } from './wall.ts';

const known = new Map<string, Clock>();

/** The clock of a zone of the IANA database. */
export function ianaClock(zone: string): Clock {
  let clock = known.get(zone);
  if (!clock) {
    clock = {
      instantOf: (wall) => {
        const minute = Math.floor(secondOfDay(wall) / 60);
        return wallToEpoch(zone, dateOfWall(wall), minute) * 60 + (wall % 60);
      },
      wallOf: (instant) => {
        const { date, minute } = epochToWall(zone, Math.floor(instant / 60));
        return wallOf(date, minute * 60) + (instant % 60);
      },
    };
    known.set(zone, clock);
  }
  return clock;
}

/**
 * The clock that a TZID names. A name of the IANA database is that zone, alone or at the end of a path. Any other name
 * is what the file's own VTIMEZONE says it is (RFC 5545 §3.6.5), by its rules or by the location it names; a Windows
 * name without one is read by CLDR's table (windowsZones.xml).
 *
 * @returns `null` for a name that nobody explains
 */
export function clockOf(tzid: string, zones: readonly CalendarPart[]): Clock | null {
  const iana = ianaNameIn(tzid);
  if (iana) return ianaClock(iana);
  const own = ownClock(tzid, zones);
  if (own) return typeof own === 'string' ? ianaClock(own) : own;
  const windows = findIana(tzid as Parameters<typeof findIana>[0]).find(isZone);
  return windows ? ianaClock(windows) : null;
}

/** `/example.org/2026/America/Chicago` names America/Chicago. */
function ianaNameIn(tzid: string): string | null {
  const path = tzid.split('/');
  for (let from = 0; from < path.length; from++) {
    const name = path.slice(from).join('/');
    // A last piece alone could be anything.
    if ((from === 0 || from < path.length - 1) && isZone(name)) return name;
  }
  return null;
}
