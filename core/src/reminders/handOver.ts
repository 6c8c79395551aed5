import type { EpochMinute, ZoneId } from '../time/index.ts';
import { isQuiet, type QuietHours } from './plan.ts';

/** What a message to a patient tells. */
export const MESSAGE_KINDS = [
  'confirmation',
  'reminder',
  'moved',
  /** The visit can't take place at its time; another one is looked for. */
  'must-move',
  'cancellation',
  'restored',
  /** Booked by the patient, and waiting until the clinic agrees. */
  'requested',
  /** The clinic did not agree, with its own words. */
  'declined',
  'reply',
  'code',
  /** The provider runs late: the visit begins later than booked. */
  'delay',
  /** …no more, after it was told. */
  'on-time',
  /** A link to book something that is due, or was asked for. */
  'invitation',
] as const;
export type MessageKind = (typeof MESSAGE_KINDS)[number];

export const MESSAGE_STATUSES = ['planned', 'sent', 'delivered', 'failed', 'withdrawn', 'dropped'] as const;
export type MessageStatus = (typeof MESSAGE_STATUSES)[number];

/** Everything that decides whether a due message may go out now. */
export interface HandOverFacts {
  readonly kind: MessageKind;
  /** The patient did something a moment ago, and this tells them what came of it. */
  readonly answersPatient: boolean;
  readonly now: EpochMinute;
  /** After this the message tells nothing any more. */
  readonly notAfter: EpochMinute;
  /** When whoever heard nothing would come: the visit's start, or its old one if it moved. `null`: about no visit. */
  readonly comesAt: EpochMinute | null;
  readonly zones: readonly ZoneId[];
  readonly quiet: QuietHours;
  /** A later reminder of the same visit is due as well. */
  readonly laterStepDue: boolean;
  /** Whether the clinic may write at night when somebody would come for nothing; some states' rules forbid it. */
  readonly urgentAtNight: 'send' | 'call';
}

export type HandOver =
  | { readonly decision: 'send' }
  /** Quiet now, still of use in the morning. */
  | { readonly decision: 'hold'; readonly until: EpochMinute; readonly code: 'quiet-hours' }
  | { readonly decision: 'drop'; readonly code: 'too-late' | 'superseded' | 'quiet-hours' }
  /** May not be written now and can't wait: somebody calls. */
  | { readonly decision: 'call'; readonly code: 'quiet-hours' };

/** Whoever asked for it is awake. */
const EXEMPT: ReadonlySet<MessageKind> = new Set(['reply', 'code', 'confirmation', 'requested']);
/** Told too late, somebody comes for nothing. */
const STOPS_A_TRIP: ReadonlySet<MessageKind> = new Set(['cancellation', 'declined', 'moved', 'must-move']);
/** A clinic's cancellation or move of a visit that begins this soon is not held until morning. */
const URGENT_MIN = 12 * 60;
/** A reminder that comes this shortly before the visit finds the patient on the way. */
const USELESS_MIN = 60;

/** The first five-minute mark at or after an instant that is quiet in none of the zones. */
export function afterQuiet(at: EpochMinute, zones: readonly ZoneId[], quiet: QuietHours): EpochMinute {
  let moved = at;
  while (isQuiet(moved, zones, quiet)) moved = Math.floor(moved / 5) * 5 + 5;
  return moved;
}

/**
 * Judges a due message at the moment of handing it over: it may be later than planned, because a carrier or the server
 * was down, and then quiet hours and later reminders count anew. 47 CFR 64.1200(c)(1) sets the hours for solicitations;
 * for care messages they are the clinic's policy.
 */
export function decideHandOver(facts: HandOverFacts): HandOver {
  const { kind, now, notAfter, comesAt, zones, quiet } = facts;
  if (notAfter < now) return { decision: 'drop', code: 'too-late' };
  if (kind === 'reminder' && facts.laterStepDue) return { decision: 'drop', code: 'superseded' };
  if (EXEMPT.has(kind) || facts.answersPatient || !isQuiet(now, zones, quiet)) return { decision: 'send' };
  if (STOPS_A_TRIP.has(kind) && comesAt !== null && comesAt > now && comesAt - now <= URGENT_MIN)
    return facts.urgentAtNight === 'send' ? { decision: 'send' } : { decision: 'call', code: 'quiet-hours' };
  const until = afterQuiet(now, zones, quiet);
  const tooLate = until > notAfter || (kind === 'reminder' && comesAt !== null && until > comesAt - USELESS_MIN);
  return tooLate ? { decision: 'drop', code: 'quiet-hours' } : { decision: 'hold', until, code: 'quiet-hours' };
}
