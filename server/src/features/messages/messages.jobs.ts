import type { SmsCarrier } from '../../carriers/sms.ts';
import { readClock } from '../../platform/clock/clock.ts';
import { isDatabaseAway } from '../../platform/db/failures.ts';
import type { Orm } from '../../platform/db/orm.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import { storeEvents } from '../../platform/events/events.ts';
import { failpoint } from '../../platform/failpoint.ts';
import { describeError, type Logger } from '../../platform/log/log.ts';
import { codeOf, tokenOf } from '../linkTokens/index.ts';
import { isOptedOut, messagedVisit } from './messages.repository.ts';
import { CODE, LINK } from './words.ts';

const POLL_MS = 300;
/** Growing pauses: 1, 2, 4 … minutes, an hour at most. */
const LONGEST_PAUSE_MIN = 60;

interface Due {
  id: string;
  appointment_id: string | null;
  contact_point_id: string;
  number: string;
  kind: string;
  body: string;
  not_after: string;
  attempts: number;
  link_id: string | null;
  verification_id: string | null;
  sends: number | null;
}

/**
 * Hands due messages to the carrier, one by one and in order for each number. The row is locked while it is handed over
 * and settled in the same transaction: a process that dies leaves it planned, the next one hands it over again under the
 * same id, and the carrier discards the repetition. So none is lost, and none is shown twice.
 */
export class Dispatcher {
  private timer: NodeJS.Timeout | null = null;
  private running: Promise<void> = Promise.resolve();
  private stopped = false;

  constructor(
    private readonly orm: Orm,
    private readonly carrier: SmsCarrier,
    private readonly options: { linkSecret: string; publicUrl: string },
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
      while (!this.stopped && (await this.handNext()));
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
      const link = message.link_id
        ? `${this.options.publicUrl}/book/v/${tokenOf(message.link_id, this.options.linkSecret)}`
        : '';
      const code = message.verification_id
        ? codeOf(message.verification_id, message.sends ?? 0, this.options.linkSecret)
        : '';
      const result = await this.carrier.send({
        id: message.id,
        to: message.number,
        body: message.body.replace(LINK, link).replace(CODE, code),
      });
      failpoint('after-hand-over');
      if (result.ok)
        await em.execute(
          `update message set status = 'delivered', sent_at = ?, settled_at = ?, attempts = attempts + 1 where id = ?`,
          [now, now, message.id],
        );
      else await settleFailure(em, message, result, now);
      failpoint('before-recording');
      return true;
    });
  }
}

/** The next message that is due, skipping numbers for which an earlier one still waits. */
async function claim(em: SqlEntityManager, now: Date): Promise<Due | undefined> {
  const [row] = await em.execute<Due[]>(
    `select m.id, m.appointment_id, m.contact_point_id, cp.value as number, m.kind, m.body, m.not_after, m.attempts, l.id as link_id, m.verification_id, v.sends
     from message m join contact_point cp on cp.id = m.contact_point_id left join visit_link l on l.appointment_id = m.appointment_id left join phone_verification v on v.id = m.verification_id
     where m.status = 'planned' and m.next_attempt_at <= ? and m.send_at <= ?
       and not exists (select 1 from message e where e.contact_point_id = m.contact_point_id and e.status = 'planned' and (e.send_at, e.seq) < (m.send_at, m.seq))
     order by m.send_at, m.seq limit 1 for update of m skip locked`,
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
    (message.kind === 'reminder' || message.kind === 'confirmation') &&
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
