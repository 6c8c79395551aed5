import type { ClinicIndex, ClinicStore, SearchCriteria } from '../openings/index.ts';
import { type EpochMinute, epochToWall, type WallMinute, type Weekday, weekdayOf } from '../time/index.ts';
import { type Time, timesFor, type Where } from './times.ts';

/** Why a time is proposed. */
export const PROPOSAL_REASONS = ['same-provider', 'usual-time', 'beside-household', 'soonest', 'other-day'] as const;
export type ProposalReason = (typeof PROPOSAL_REASONS)[number];

export interface Proposal {
  readonly time: Time;
  readonly why: readonly ProposalReason[];
}

/** A visit that was or will be, as far as habits go. */
export interface KnownVisit {
  readonly siteId: string;
  readonly providerId: string | null;
  readonly start: EpochMinute;
  readonly end: EpochMinute;
}

/** What is known of how somebody comes. */
export interface Habits {
  /** Who saw them last. */
  readonly lastProviderId: string | null;
  /** When they come; the weekday only if half of their visits at least are on it. `null`: fewer than two visits. */
  readonly usual: { readonly weekday: Weekday | null; readonly minute: WallMinute } | null;
  /** Coming visits of their household, which they could come with. */
  readonly beside: readonly KnownVisit[];
}

/** Nobody is proposed a time that begins sooner than this: they have to come (common practice). */
const MIN_NOTICE_MIN = 60;
/** Habits are read from the last visits: older ones say little of how somebody lives now. */
const RECENT = 8;
/** An hour is the usual one if it is no farther from it. */
const NEAR_MIN = 60;
/** How long somebody waits for a visit of their household at most. */
const WAIT_MIN = 30;
/** Days that somebody would rather wait than see another provider at their usual hour. */
const DAYS_FOR_PROVIDER = 7;

/**
 * Reads habits from visits that took place.
 *
 * @param past completed visits, the latest first
 * @param beside coming visits of the household
 */
export function habitsOf(store: ClinicStore, past: readonly KnownVisit[], beside: readonly KnownVisit[]): Habits {
  const recent = past.slice(0, RECENT).map((visit) => epochToWall(store.site(visit.siteId).zone, visit.start));
  const lastProviderId = past.find(({ providerId }) => providerId !== null)?.providerId ?? null;
  if (recent.length < 2) return { lastProviderId, usual: null, beside };
  const byDay = new Map<Weekday, number>();
  for (const { date } of recent) byDay.set(weekdayOf(date), (byDay.get(weekdayOf(date)) ?? 0) + 1);
  const [[day, count]] = [...byDay].sort((a, b) => b[1] - a[1] || a[0] - b[0]);
  const weekday = count >= 2 && count * 2 >= recent.length ? day : null;
  const minutes = recent
    .filter(({ date }) => weekday === null || weekdayOf(date) === weekday)
    .map(({ minute }) => minute)
    .sort((a, b) => a - b);
  return { lastProviderId, usual: { weekday, minute: minutes[Math.floor((minutes.length - 1) / 2)] }, beside };
}

/**
 * The best few times for somebody, each with why: with who saw them last, at their usual weekday and hour, beside a visit
 * of their household, and the soonest. Where one time is several of these, others follow on further days. Best first: the
 * more reasons the better, then by start.
 */
export function proposeTimes(
  index: ClinicIndex,
  criteria: SearchCriteria,
  where: Where,
  habits: Habits,
  limit = 3,
): Proposal[] {
  const best: Record<Exclude<ProposalReason, 'other-day'>, { time: Time; cost: number } | null> = {
    'same-provider': null,
    'usual-time': null,
    'beside-household': null,
    soonest: null,
  };
  const onDate = new Map<string, Time>();
  for (const time of timesFor(index, criteria, { ...where, thinned: true })) {
    if (time.start < index.now + MIN_NOTICE_MIN) continue;
    if (!onDate.has(time.date)) onDate.set(time.date, time);
    const days = onDate.size;
    for (const reason of Object.keys(best) as (keyof typeof best)[]) {
      const cost = costOf(index, reason, time, days, habits);
      const known = best[reason];
      if (cost !== null && (!known || cost < known.cost)) best[reason] = { time, cost };
    }
  }
  const proposals: { time: Time; why: ProposalReason[] }[] = [];
  for (const reason of PROPOSAL_REASONS) {
    const found = reason === 'other-day' ? null : best[reason];
    if (!found) continue;
    const same = proposals.find(({ time }) => isSame(time, found.time));
    if (same) same.why.push(reason);
    else proposals.push({ time: found.time, why: [reason] });
  }
  const chosen = proposals.sort((a, b) => b.why.length - a.why.length || a.time.start - b.time.start).slice(0, limit);
  for (const time of onDate.values()) {
    if (chosen.length === limit) break;
    if (!chosen.some((each) => each.time.date === time.date)) chosen.push({ time, why: ['other-day'] });
  }
  return chosen;
}

const isSame = (a: Time, b: Time) => a.siteId === b.siteId && a.providerId === b.providerId && a.start === b.start;

/** How far a time is from what a reason asks; `null`: not at all. Of equal ones the first stands. */
function costOf(
  index: ClinicIndex,
  reason: ProposalReason,
  time: Time,
  days: number,
  { lastProviderId, usual, beside }: Habits,
): number | null {
  const isLast = time.providerId !== null && time.providerId === lastProviderId;
  if (reason === 'soonest') return time.start;
  if (reason === 'same-provider') return isLast ? time.start : null;
  if (reason === 'beside-household') return beside.some((visit) => isBeside(time, visit)) ? time.start : null;
  if (reason !== 'usual-time' || !usual) return null;
  const { date, minute } = epochToWall(index.site(time.siteId).zone, time.start);
  const off = Math.abs(minute - usual.minute);
  if (off > NEAR_MIN || (usual.weekday !== null && weekdayOf(date) !== usual.weekday)) return null;
  return days + off / NEAR_MIN + (isLast || lastProviderId === null ? 0 : DAYS_FOR_PROVIDER);
}

function isBeside(time: Time, visit: KnownVisit): boolean {
  if (time.siteId !== visit.siteId) return false;
  const gap = time.start >= visit.end ? time.start - visit.end : visit.start - time.end;
  return gap >= 0 && gap <= WAIT_MIN;
}
