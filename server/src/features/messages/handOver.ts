import { randomUUID } from 'node:crypto';
import { decideHandOver, type MessageKind, DEFAULT_QUIET_HOURS } from '@zaguan/core/reminders';
import type { HandedOver, MailMessage, TextMessage } from '../../carriers/carrier.ts';
import { visitToCalendar } from '../../exchange/visitCalendar.ts';
import { readClock } from '../../platform/clock/clock.ts';
import type { Orm } from '../../platform/db/orm.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import { storeEvents } from '../../platform/events/events.ts';
import { codeOf, ensureLink, invitationAddress, linkAddress, stopTokenOf, tokenOf } from '../linkTokens/index.ts';
import { dropMessage, holdMessage, settleLeased } from './handOver.repository.ts';
import { claimDue, type DueRow, leaseMessage, prolongLease } from './handOver.sql.ts';
import { invitationInTheWay } from './invitationDue.ts';
import { calendarOf, isOptedOut, type MessagedVisit, messagedVisit } from './messages.sql.ts';
import { CODE, LINK } from './words.ts';
import { subjectOf } from './words.mail.ts';

/** Growing pauses: 1, 2, 4 … minutes, an hour at most. */
const MAX_PAUSE_MIN = 60;

export interface ClaimOptions {
  readonly linkSecret: string;
  readonly publicUrl: string;
  readonly mailFrom: string;
}

/** A message this process alone may hand over, as long as it renews its lease. */
export interface Claimed {
  readonly id: string;
  readonly lease: string;
  readonly channel: 'sms' | 'email';
  readonly attempts: number;
  readonly message: TextMessage | MailMessage;
}

/** Messages that tell a calendar of something new; a reminder tells it nothing. */
const CARRIES_CALENDAR: ReadonlySet<MessageKind> = new Set(['confirmation', 'moved', 'cancellation', 'restored']);
/** Messages that make no sense once their visit is off. */
const OF_BOOKED: ReadonlySet<MessageKind> = new Set(['reminder', 'confirmation', 'moved', 'requested']);

/** Takes the next due message of a channel, or settles it at once where it must not go out (now). */
export function claimNext(
  orm: Orm,
  channel: 'sms' | 'email',
  options: ClaimOptions,
): Promise<Claimed | 'settled' | 'none'> {
  return orm.em.fork().transactional(async (em) => {
    const now = await readClock(em);
    const due = await claimDue(em, channel, now);
    if (!due) return 'none';
    const visit = due.appointmentId ? await messagedVisit(em, due.appointmentId) : null;
    if (await settleUnsent(em, due, visit, now)) return 'settled';
    const lease = randomUUID();
    const message = await compose(em, due, visit, now, options);
    await leaseMessage(em, due.id, lease, due.contact);
    return { id: due.id, lease, channel, attempts: due.attempts, message };
  });
}

/** What has changed since it was planned: too late by now, quiet hours, the visit is off, the number said stop. */
async function settleUnsent(
  em: SqlEntityManager,
  due: DueRow,
  visit: MessagedVisit | null,
  now: Date,
): Promise<boolean> {
  const answers = due.kind === 'reply' || due.kind === 'code';
  if (!answers && (await isOptedOut(em, due.contactPointId, { forRecalls: due.kind === 'invitation' })))
    return dropMessage(em, due.id, 'opted-out', now);
  const invited = due.invitationId === null ? null : await invitationInTheWay(em, due, due.invitationId, now);
  if (invited?.drop) return dropMessage(em, due.id, invited.drop, now);
  if (invited?.hold) return holdMessage(em, due.id, invited.hold.until, invited.hold.by);
  if (OF_BOOKED.has(due.kind) && visit && visit.status !== 'booked' && visit.status !== 'pending')
    return dropMessage(em, due.id, 'visit-not-booked', now);
  const judged = decideHandOver({
    kind: due.kind,
    answersPatient: due.answersPatient,
    now: Math.floor(now.getTime() / 60_000),
    notAfter: minuteOf(due.notAfter),
    comesAt: due.comesAt ? minuteOf(due.comesAt) : visit && visit.startsAt.getTime() / 60_000,
    zones: visit ? [visit.timeZone] : invited ? [invited.timeZone] : [],
    quiet: DEFAULT_QUIET_HOURS,
    laterStepDue: due.laterStepDue,
    urgentAtNight: due.urgentAtNight,
  });
  switch (judged.decision) {
    case 'send':
      return false;
    case 'hold':
      return holdMessage(em, due.id, new Date(judged.until * 60_000), judged.code);
    case 'drop':
      return dropMessage(em, due.id, judged.code, now);
    case 'call':
      await settleLeased(em, { id: due.id, lease: null }, { status: 'failed', reason: 'night-call', now, nextAt: now });
      await storeEvents(em, [{ type: 'work-changed' }], now);
      return true;
  }
}

const minuteOf = (text: string) => Math.floor(Date.parse(text) / 60_000);

/** Fills in what is stored nowhere (link, code). */
async function compose(
  em: SqlEntityManager,
  due: DueRow,
  visit: MessagedVisit | null,
  now: Date,
  { linkSecret, publicUrl, mailFrom }: ClaimOptions,
): Promise<TextMessage | MailMessage> {
  // A visit that came from elsewhere has no link yet: it gets one with the first message that shows it.
  const linkId = due.body.includes(LINK)
    ? (due.linkId ?? (visit && (await ensureLink(em, visit, randomUUID(), linkSecret))))
    : null;
  const addressOf = due.invitationId === null ? linkAddress : invitationAddress;
  const link = linkId ? addressOf(publicUrl, tokenOf(linkId, linkSecret)) : '';
  const code = due.verificationId ? codeOf(due.verificationId, due.sends ?? 0, linkSecret) : '';
  const text = { id: due.id, to: due.contact, body: due.body.replace(LINK, link).replace(CODE, code) };
  if (due.channel === 'sms') return text;
  const calendar = CARRIES_CALENDAR.has(due.kind) && due.appointmentId ? await calendarOf(em, due.appointmentId) : null;
  const method = due.kind === 'cancellation' ? ('CANCEL' as const) : ('REQUEST' as const);
  return {
    ...text,
    fromName: due.clinic,
    subject: due.kind === 'invitation' ? (due.subject ?? due.clinic) : subjectOf(due.kind, due.language, due.clinic),
    calendar: calendar && {
      method,
      content: visitToCalendar(calendar, { method, stamp: now, organizer: mailFrom, attendee: due.contact }),
    },
    unsubscribeUrl:
      due.kind === 'code' || due.kind === 'reply'
        ? null
        : `${publicUrl}/book/stop/${stopTokenOf(due.contactPointId, linkSecret, due.kind === 'invitation' ? 'recalls' : 'visit-messages')}`,
  };
}

/** Keeps the message while the carrier has not answered yet. */
export function renewLease(orm: Orm, { id, lease }: Claimed): Promise<void> {
  return prolongLease(orm.em.fork(), id, lease);
}

/** Notes what the carrier said; a lease that was lost meanwhile changes nothing. */
export function settle(orm: Orm, { id, lease, attempts }: Claimed, result: HandedOver): Promise<void> {
  return orm.em.fork().transactional(async (em) => {
    const now = await readClock(em);
    const pauseMin = Math.min(2 ** attempts, MAX_PAUSE_MIN);
    const nextAt = new Date(now.getTime() + pauseMin * 60_000);
    const status = result.ok ? 'sent' : result.final ? 'failed' : 'planned';
    await settleLeased(em, { id, lease }, { status, reason: result.ok ? null : result.reason, now, nextAt });
    // A message that will not arrive is work for the desk.
    if (status === 'failed') await storeEvents(em, [{ type: 'work-changed' }], now);
  });
}
