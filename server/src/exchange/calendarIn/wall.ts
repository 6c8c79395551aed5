import { isDate, type LocalDate } from '@zaguan/core/time';

/** A wall-clock time, counted in seconds as if it were UTC. */
export type Wall = number;
/** Seconds since 1970. */
export type Instant = number;

/** A time zone: what its wall clock says at which instant. */
export interface Clock {
  /** A time that is skipped counts by the offset before the gap, one that comes twice is the first (RFC 5545 §3.3.5). */
  instantOf(wall: Wall): Instant;
  wallOf(instant: Instant): Wall;
}

export const UTC: Clock = { instantOf: (wall) => wall, wallOf: (instant) => instant };
export const DAY_SECONDS = 86_400;

export const dateOfWall = (wall: Wall): LocalDate => new Date(wall * 1000).toISOString().slice(0, 10);
export const secondOfDay = (wall: Wall): number => ((wall % DAY_SECONDS) + DAY_SECONDS) % DAY_SECONDS;
export const wallOf = (date: LocalDate, second: number): Wall => Date.parse(`${date}T00:00:00Z`) / 1000 + second;

/** Why something could not be read. `detail` names the culprit. */
export class Unreadable extends Error {
  readonly code: 'not-readable' | 'unknown-zone' | 'no-start' | 'end-before-start' | 'rule-not-read';
  readonly detail: string;

  constructor(code: Unreadable['code'], detail: string) {
    super(code);
    this.code = code;
    this.detail = detail;
  }
}

const TIME = /^(\d{4}-\d\d-\d\d)T(\d\d):(\d\d):(\d\d)Z?$/;

/** `2026-11-28T09:30:00`, with a Z or without. Throws `Unreadable` for what no clock shows. */
export function wallFrom(text: string): Wall {
  const [, date, hour, minute, second] = TIME.exec(text) ?? [];
  // 60 is a leap second (RFC 5545 §3.3.12).
  if (!date || !isDate(date) || Number(hour) > 23 || Number(minute) > 59 || Number(second) > 60)
    throw new Unreadable('not-readable', text.slice(0, 40));
  return wallOf(date, Number(hour) * 3600 + Number(minute) * 60 + Number(second));
}
