import { addDays, type EpochMinute, epochToWall, wallToEpoch, type ZoneId } from '../time/index.ts';
import type { AppointmentStatus } from '../visits/index.ts';

/** The reminders there are, each with words of its own. */
export const REMINDER_STEPS = ['7-days', '2-days', '3-hours'] as const;
export type ReminderStepId = (typeof REMINDER_STEPS)[number];

/** One reminder of a plan. Days before are wall-clock days at the site, hours before are elapsed. */
export interface ReminderStep {
  readonly id: ReminderStepId;
  readonly before: { readonly days: number } | { readonly hours: number };
}

/** When nothing is sent, on the recipient's wall clock. `toMinute` is the next morning. */
export interface QuietHours {
  readonly fromMinute: number;
  readonly toMinute: number;
}

/** 47 CFR 64.1200(c)(1): no calls before 8 a.m. or after 9 p.m. at the called party's location; for care messages our policy. */
export const DEFAULT_QUIET_HOURS: QuietHours = { fromMinute: 21 * 60, toMinute: 8 * 60 };

export const DEFAULT_REMINDER_STEPS: readonly ReminderStep[] = [
  { id: '7-days', before: { days: 7 } },
  { id: '2-days', before: { days: 2 } },
  { id: '3-hours', before: { hours: 3 } },
];

/** Everything that decides about reminders of one visit, as plain values. */
export interface ReminderFacts {
  readonly now: EpochMinute;
  readonly start: EpochMinute;
  readonly siteZone: ZoneId;
  /** Zones whose quiet hours all count: the site's and, where known, the address's. Never guessed from an area code. */
  readonly zones: readonly ZoneId[];
  readonly quiet: QuietHours;
  readonly status: AppointmentStatus;
  /** A number or address to send to. */
  readonly reachable: boolean;
  /** The number or address revoked automated messages, or is known to be wrong. */
  readonly optedOut: boolean;
  /** The visit is in a lane left out of messages. */
  readonly laneLeftOut: boolean;
  /** Other messages about this visit that were sent or are due, such as the confirmation. */
  readonly others: readonly EpochMinute[];
}

export const REMINDER_CODES = [
  'visit-not-booked',
  'visit-over',
  'lane-left-out',
  'no-contact',
  'opted-out',
  'already-past',
  'too-close',
] as const;
export type ReminderCode = (typeof REMINDER_CODES)[number];

export type PlannedReminder =
  | {
      readonly step: ReminderStepId;
      readonly outcome: 'planned';
      readonly sendAt: EpochMinute;
      /** When it would have been sent if those were not quiet hours; `null`: then as planned. */
      readonly movedFrom: EpochMinute | null;
    }
  | {
      readonly step: ReminderStepId;
      readonly outcome: 'dropped';
      readonly code: ReminderCode;
      readonly wouldBe: EpochMinute;
    };

/** Two messages about one visit are at least this far apart. */
const MIN_APART_MIN = 12 * 60;

/** Rules about the visit as a whole, in the order of explaining; the first that holds drops every step. */
const RULES = {
  'visit-not-booked': ({ status }) => status !== 'booked' && status !== 'pending',
  'visit-over': ({ start, now }) => start <= now,
  'lane-left-out': ({ laneLeftOut }) => laneLeftOut,
  'no-contact': ({ reachable }) => !reachable,
  'opted-out': ({ optedOut }) => optedOut,
} as const satisfies Partial<Record<ReminderCode, (facts: ReminderFacts) => boolean>>;

/** When a step falls by itself. A wall-clock time that does not exist is read as the later one. */
export function stepTime(step: ReminderStep, facts: Pick<ReminderFacts, 'start' | 'siteZone'>): EpochMinute {
  if ('hours' in step.before) return facts.start - step.before.hours * 60;
  const wall = epochToWall(facts.siteZone, facts.start);
  return wallToEpoch(facts.siteZone, addDays(wall.date, -step.before.days), wall.minute);
}

/** Whether an instant is quiet for any of the zones; exactly at the end of quiet hours is allowed. */
export function isQuiet(at: EpochMinute, zones: readonly ZoneId[], quiet: QuietHours): boolean {
  return zones.some((zone) => {
    const { minute } = epochToWall(zone, at);
    return minute >= quiet.fromMinute || minute < quiet.toMinute;
  });
}

/** The latest five-minute mark at or before an instant that is not quiet anywhere. */
function beforeQuiet(at: EpochMinute, facts: ReminderFacts): EpochMinute {
  let moved = at;
  while (isQuiet(moved, facts.zones, facts.quiet)) moved = Math.floor((moved - 1) / 5) * 5;
  return moved;
}

/**
 * Plans a visit's reminders, or says for each step why it is not sent. A step in quiet time moves earlier, never later;
 * one that is past, or within twelve hours of another message about the visit, is dropped.
 */
export function planReminders(steps: readonly ReminderStep[], facts: ReminderFacts): PlannedReminder[] {
  const refused = (Object.keys(RULES) as (keyof typeof RULES)[]).find((code) => RULES[code](facts));
  const taken = [...facts.others];
  const inOrder = steps.map((step) => ({ step, at: stepTime(step, facts) })).sort((a, b) => a.at - b.at);
  return inOrder.map(({ step, at }) => {
    if (refused) return { step: step.id, outcome: 'dropped', code: refused, wouldBe: at };
    const sendAt = beforeQuiet(at, facts);
    if (sendAt < facts.now) return { step: step.id, outcome: 'dropped', code: 'already-past', wouldBe: sendAt };
    if (taken.some((other) => Math.abs(other - sendAt) < MIN_APART_MIN))
      return { step: step.id, outcome: 'dropped', code: 'too-close', wouldBe: sendAt };
    taken.push(sendAt);
    return { step: step.id, outcome: 'planned', sendAt, movedFrom: sendAt === at ? null : at };
  });
}
