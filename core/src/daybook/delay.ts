import type { EpochMinute } from '../time/index.ts';
import type { AppointmentStatus } from '../visits/index.ts';

/** Minutes behind, as one says them; from the desk by one touch. */
export const DELAY_STEPS_MIN = [10, 15, 20, 30, 45, 60, 90] as const;

/** Whoever starts later than this from now may find the delay made up: they are told when it comes nearer. Common practice. */
export const TOLD_AHEAD_MIN = 180;

/** A visit as it counts for who is told of a delay. */
export interface DelayedVisit {
  readonly id: string;
  readonly status: AppointmentStatus;
  readonly start: EpochMinute;
}

/**
 * Who is still at home, or on the way, and would wait: booked, not there yet, and starting within three hours from now,
 * or since so little that with the delay they are still to be seen.
 *
 * @param visits the provider's of that day at that site
 * @param delayMin how far behind the provider is
 * @returns in the order of their start
 */
export function stillToTell<Visit extends DelayedVisit>(
  visits: readonly Visit[],
  now: EpochMinute,
  delayMin: number,
): Visit[] {
  return visits
    .filter(({ status, start }) => status === 'booked' && start + delayMin > now && start - now <= TOLD_AHEAD_MIN)
    .toSorted((a, b) => a.start - b.start || (a.id < b.id ? -1 : 1));
}

/** Somebody who waits longer than this at the desk is to be seen at a glance. Common practice. */
export const LONG_WAIT_MIN = 15;

/**
 * How long somebody who is here has been waiting to be checked in.
 *
 * @returns `null` in the first minute
 */
export function waitOf(since: EpochMinute, now: EpochMinute): { minutes: number; isLong: boolean } | null {
  const minutes = Math.floor(now - since);
  return minutes < 1 ? null : { minutes, isLong: minutes > LONG_WAIT_MIN };
}

/** How late somebody is who is not there yet. */
export interface Lateness {
  readonly minutes: number;
  /** Whether the clinic's rule for who comes late applies. */
  readonly isPastLimit: boolean;
}

/**
 * How late a patient is by now. Who is told that the provider is behind may come that much later: lateness counts from
 * then on.
 *
 * @param limitMin minutes after which the clinic's rule for late patients applies; `null`: there is none
 * @returns `null` while they are not late
 */
export function latenessOf(
  start: EpochMinute,
  now: EpochMinute,
  delayMin: number,
  limitMin: number | null,
): Lateness | null {
  const minutes = Math.floor(now - start - delayMin);
  return minutes < 1 ? null : { minutes, isPastLimit: limitMin !== null && minutes > limitMin };
}
