import { isZone } from '@zaguan/core/time';
import ICAL from 'ical.js';
import { icalTime, type CalendarPart, propertiesOf, type Property } from './lines.ts';
import { type Clock, DAY_SECONDS, wallFrom } from './wall.ts';

/** From this instant on the clock is so many seconds ahead of UTC. */
interface Change {
  readonly at: number;
  readonly offset: number;
  /** What it was until then. */
  readonly before: number;
}

const NAMES = new Set(['tzid', 'dtstart', 'rrule', 'rdate', 'tzoffsetfrom', 'tzoffsetto', 'x-lic-location']);
/** Changes are worked out up to here. */
const LAST_YEAR = 2100;
const MAX_CHANGES = 2_000;

const known = new WeakMap<CalendarPart, Clock | string | null>();

/**
 * The clock that a file defines by itself (RFC 5545 §3.6.5): standard and daylight time, each from its beginnings on.
 *
 * @returns the clock; the IANA name it says it stands for; `null` if the file does not define this name
 */
export function ownClock(tzid: string, zones: readonly CalendarPart[]): Clock | string | null {
  const part = zones.find((zone) => nameOf(zone) === tzid);
  if (!part) return null;
  let clock = known.get(part);
  if (clock === undefined) {
    clock = readable(() => definedBy(part));
    known.set(part, clock);
  }
  return clock;
}

const nameOf = (zone: CalendarPart) =>
  readable(() => propertiesOf(zone, new Set(['tzid'])).get('tzid')?.[0]?.values[0] ?? null);

/** A zone that can't be read is one that nobody explains: the events in it are named, and no others. */
function readable<T>(read: () => T): T | null {
  try {
    return read();
  } catch {
    return null;
  }
}

function definedBy(part: CalendarPart): Clock | string | null {
  const location = propertiesOf(part, NAMES).get('x-lic-location')?.[0]?.values[0];
  if (typeof location === 'string' && isZone(location)) return location;
  const changes = part.parts
    .filter(({ name }) => name === 'standard' || name === 'daylight')
    .flatMap(changesOf)
    .sort((a, b) => a.at - b.at);
  return changes.length ? clockOfChanges(changes) : null;
}

function changesOf(part: CalendarPart): Change[] {
  const found = propertiesOf(part, NAMES);
  const [from, to] = ['tzoffsetfrom', 'tzoffsetto'].map((name) => offsetOf(found.get(name)?.[0]));
  const start = found.get('dtstart')?.[0]?.values[0];
  if (from === null || to === null || typeof start !== 'string') return [];
  const onsets = [wallFrom(start)];
  const rule = found.get('rrule')?.[0]?.values[0];
  if (rule) onsets.push(...onsetsOf(rule as object, start));
  for (const rdate of found.get('rdate') ?? []) onsets.push(...rdate.values.map((value) => wallFrom(String(value))));
  // Beginnings are told on the clock that holds until then.
  return [...new Set(onsets)].map((wall) => ({ at: wall - from, offset: to, before: from }));
}

function onsetsOf(rule: object, start: string): number[] {
  const { until, ...rest } = rule as { until?: string };
  // The end of such a rule is in UTC; an hour or so does not matter, for no other change is near.
  const last = until ? wallFrom(until) : Infinity;
  const iterator = ICAL.Recur.fromData(rest).iterator(icalTime(start.slice(0, 19)));
  const onsets: number[] = [];
  while (onsets.length < MAX_CHANGES) {
    const next = iterator.next();
    if (!next || next.year > LAST_YEAR) break;
    const wall = wallFrom(next.toString());
    if (wall > last + DAY_SECONDS) break;
    onsets.push(wall);
  }
  return onsets;
}

/** `-05:00` or `+05:30:00` in seconds. */
function offsetOf(property: Property | undefined): number | null {
  const found = /^([+-])(\d\d):?(\d\d)(?::?(\d\d))?$/.exec(String(property?.values[0] ?? ''));
  if (!found) return null;
  const [, sign, hours, minutes, seconds = '0'] = found;
  return (sign === '-' ? -1 : 1) * (Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds));
}

function clockOfChanges(changes: readonly Change[]): Clock {
  const offsetAt = (instant: number) => changes.findLast(({ at }) => at <= instant)?.offset ?? changes[0].before;
  return {
    wallOf: (instant) => instant + offsetAt(instant),
    instantOf: (wall) => {
      // What holds long before and long after; between them lies one change at most.
      const offsets = [offsetAt(wall - DAY_SECONDS), offsetAt(wall + DAY_SECONDS)];
      const fitting = offsets.map((offset) => wall - offset).filter((instant) => instant + offsetAt(instant) === wall);
      return fitting.length ? Math.min(...fitting) : wall - offsets[0];
    },
  };
}
