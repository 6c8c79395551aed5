import { randomUUID } from 'node:crypto';
import type { HandedOver, MailCarrier, SmsCarrier } from '../../carriers/carrier.ts';
import { visitToCalendar } from '../../exchange/visitCalendar.ts';
import { readClock } from '../../platform/clock/clock.ts';
import { isDatabaseAway } from '../../platform/db/failures.ts';
import type { Orm } from '../../platform/db/orm.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import { storeEvents } from '../../platform/events/events.ts';
import { failpoint } from '../../platform/failpoint.ts';
import { describeError, type Logger } from '../../platform/log/log.ts';
import { codeOf, ensureLink, stopTokenOf, tokenOf } from '../linkTokens/index.ts';
import { calendarOf, isOptedOut, messagedVisit } from './messages.repository.ts';
import { CODE, type Language, LINK, type MessageKind } from './words.ts';
import { subjectOf } from './words.mail.ts';

const POLL_MS = 300;
/** So many are handed over at once: one slow answer of a carrier must not hold up everyone. */
const HANDS = 4;
/** Growing pauses: 1, 2, 4 … minutes, an hour at most. */
const LONGEST_PAUSE_MIN = 60;

interface Due {
  id: string;
  appointment_id: string | null;
  contact_point_id: string;
  contact: string;
  channel: 'sms' | 'email';
  clinic: string;
  language: Language;
  kind: MessageKind;
  body: string;
  not_after: string;
  attempts: number;
  link_id: string | null;
  verification_id: string | null;
  sends: number | null;
}

/**
 * Hands due messages to the carriers, several at once, but one after the other for each number or address. The row is locked while it is handed over
 * and settled in the same transaction: a process that dies leaves it planned, the next one hands it over again under the
 * same id, and the carrier discards the repetition. So none is lost, and none is shown twice.
 */
export class Dispatcher {
  private timer: NodeJS.Timeout | null = null;
  private running: Promise<void> = Promise.resolve();
  private stopped = false;

  constructor(
    private readonly orm: Orm,
    private readonly carriers: { readonly sms: SmsCarrier; readonly email: MailCarrier },
    private readonly options: { linkSecret: string; publicUrl: string; mailFrom: string },
    private readonly log: Logger,
  ) {}

  start(): void {
    this.timer = setInterval(() => {
      this.running = this.running.then(() => this.drain());
    }, POLL_MS);
  }

  async stop(): Promise<void> {
    this.stopped = true;
    if (this.timer) clearInterval(this.timer);
    await this.running;
  }

  private async drain(): Promise<void> {
    try {
      await Promise.all(
        Array.from({ length: HANDS }, async () => {
          while (!this.stopped && (await this.handNext()));
        }),
      );
    } catch (error) {
      if (!isDatabaseAway(error))
        this.log.error({ error: describeError(error) }, 'a message could not be handed over; it stays planned');
    }
  }

  private handNext(): Promise<boolean> {
    return this.orm.em.fork().transactional(async (em) => {
      const now = await readClock(em);
      const message = await claim(em, now);
      if (!message) return false;
      const dropped = await whyDrop(em, message, now);
      if (dropped) {
        await em.execute(`update message set status = 'dropped', dropped_code = ?, settled_at = ? where id = ?`, [
          dropped,
          now,
          message.id,
        ]);
        return true;
      }
      failpoint('before-hand-over');
      const result = await this.hand(em, message, now);
      failpoint('after-hand-over');
      if (result.ok)
        await em.execute(
          `update message set status = 'sent', sent_at = ?, settled_at = ?, attempts = attempts + 1, fail_reason = null where id = ?`,
          [now, now, message.id],
        );
      else await settleFailure(em, message, result, now);
      failpoint('before-recording');
      return true;
    });
  }

  private async makeLink(em: SqlEntityManager, message: Due): Promise<string | null> {
    const visit = message.appointment_id ? await messagedVisit(em, message.appointment_id) : null;
    return visit && ensureLink(em, visit, randomUUID(), this.options.linkSecret);
  }

  /** Fills in what is stored nowhere (link, code), and gives the message to its carrier. */
  private async hand(em: SqlEntityManager, message: Due, now: Date): Promise<HandedOver> {
    const { linkSecret, publicUrl, mailFrom } = this.options;
    // A visit that came from elsewhere has no link yet: it gets one with the first message that shows it.
    const linkId = message.body.includes(LINK) ? (message.link_id ?? (await this.makeLink(em, message))) : null;
    const link = linkId ? `${publicUrl}/book/v/${tokenOf(linkId, linkSecret)}` : '';
    const code = message.verification_id ? codeOf(message.verification_id, message.sends ?? 0, linkSecret) : '';
    const text = { id: message.id, to: message.contact, body: message.body.replace(LINK, link).replace(CODE, code) };
    if (message.channel === 'sms') return this.carriers.sms.send(text);
    const visit =
      CARRIES_CALENDAR.has(message.kind) && message.appointment_id
        ? await calendarOf(em, message.appointment_id)
        : null;
    const method = message.kind === 'cancellation' ? ('CANCEL' as const) : ('REQUEST' as const);
    return this.carriers.email.send({
      ...text,
      fromName: message.clinic,
      subject: subjectOf(message.kind, message.language, message.clinic),
      calendar: visit && {
        method,
        content: visitToCalendar(visit, { method, stamp: now, organizer: mailFrom, attendee: message.contact }),
      },
      unsubscribeUrl:
        message.kind === 'code' || message.kind === 'reply'
          ? null
          : `${publicUrl}/book/stop/${stopTokenOf(message.contact_point_id, linkSecret)}`,
    });
  }
}

/** Messages that tell a calendar of something new; a reminder tells it nothing. */
const CARRIES_CALENDAR: ReadonlySet<MessageKind> = new Set(['confirmation', 'moved', 'cancellation', 'restored']);

/** The next message that is due, skipping numbers and addresses for which an earlier one still waits. */
async function claim(em: SqlEntityManager, now: Date): Promise<Due | undefined> {
  const [row] = await em.execute<Due[]>(
    `with next as (
       select * from message m where m.status = 'planned' and m.send_at <= ? and m.next_attempt_at <= ?
         and not exists (select 1 from message e where e.contact_point_id = m.contact_point_id and e.status = 'planned' and (e.send_at, e.seq) < (m.send_at, m.seq))
       order by m.send_at, m.seq limit 1 for update skip locked)
     select m.id, m.appointment_id, m.contact_point_id, cp.value as contact, m.channel, c.name as clinic, m.language, m.kind, m.body, m.not_after, m.attempts, l.id as link_id, m.verification_id, v.sends
     from next m join contact_point cp on cp.id = m.contact_point_id cross join clinic c left join visit_link l on l.appointment_id = m.appointment_id left join contact_verification v on v.id = m.verification_id`,
    [now, now],
  );
  return row;
}

/** What has changed since it was planned: too late by now, the visit is off, the number said stop. */
async function whyDrop(em: SqlEntityManager, message: Due, now: Date): Promise<string | null> {
  if (new Date(message.not_after) < now) return 'too-late';
  if (message.kind === 'reply' || message.kind === 'code') return null;
  if (await isOptedOut(em, message.contact_point_id)) return 'opted-out';
  const visit = message.appointment_id ? await messagedVisit(em, message.appointment_id) : null;
  if (
    (message.kind === 'reminder' || message.kind === 'confirmation' || message.kind === 'moved') &&
    visit &&
    visit.status !== 'booked' &&
    visit.status !== 'pending'
  )
    return 'visit-not-booked';
  return null;
}

async function settleFailure(
  em: SqlEntityManager,
  message: Due,
  result: { reason: string; final: boolean },
  now: Date,
): Promise<void> {
  const pauseMin = Math.min(2 ** message.attempts, LONGEST_PAUSE_MIN);
  await em.execute(
    `update message set attempts = attempts + 1, fail_reason = ?, status = ?, settled_at = ?, next_attempt_at = ? where id = ?`,
    [
      result.reason,
      result.final ? 'failed' : 'planned',
      result.final ? now : null,
      new Date(now.getTime() + pauseMin * 60_000),
      message.id,
    ],
  );
  // A message that will not arrive is work for the desk.
  if (result.final) await storeEvents(em, [{ type: 'work-changed' }], now);
}
