import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { MessageKind } from '@zaguan/core/reminders';
import type { Language } from './words.ts';

/** In real time: a moved demo clock neither ends nor prolongs a lease. A dead process's messages wait so long. */
const LEASE_SECONDS = 8;

export interface DueRow {
  id: string;
  appointment_id: string | null;
  contact_point_id: string;
  contact: string;
  channel: 'sms' | 'email';
  clinic: string;
  urgent_at_night: 'send' | 'call';
  language: Language;
  kind: MessageKind;
  body: string;
  not_after: string;
  attempts: number;
  answers_patient: boolean;
  comes_at: string | null;
  later_step_due: boolean;
  link_id: string | null;
  verification_id: string | null;
  sends: number | null;
}

/** Whether somebody is handing a message over at this moment. */
export const LEASED = '(lease_until is not null and lease_until > clock_timestamp())';

/** The next message of a channel that is due, skipping numbers and addresses for which an earlier one still waits. */
export async function claimDue(em: SqlEntityManager, channel: 'sms' | 'email', now: Date): Promise<DueRow | undefined> {
  const [row] = await em.execute<DueRow[]>(
    `with next as (
       select * from message m where m.status = 'planned' and m.channel = ? and m.send_at <= ? and m.next_attempt_at <= ? and not ${LEASED}
         and not exists (select 1 from message e where e.contact_point_id = m.contact_point_id and e.status = 'planned' and (e.send_at, e.seq) < (m.send_at, m.seq))
       order by m.send_at, m.seq limit 1 for update skip locked)
     select m.id, m.appointment_id, m.contact_point_id, cp.value as contact, m.channel, c.name as clinic, c.urgent_at_night, m.language, m.kind, m.body, m.not_after, m.attempts, m.answers_patient, m.comes_at,
       m.kind = 'reminder' and exists (select 1 from message e where e.appointment_id = m.appointment_id and e.kind = 'reminder' and e.status = 'planned' and e.send_at <= ? and (e.send_at, e.seq) > (m.send_at, m.seq)) as later_step_due,
       l.id as link_id, m.verification_id, v.sends
     from next m join contact_point cp on cp.id = m.contact_point_id cross join clinic c left join link_token l on l.kind = 'visit' and l.subject_id = m.appointment_id left join contact_verification v on v.id = m.verification_id`,
    [channel, now, now, now],
  );
  return row;
}

/** Takes a message for one process; the address it goes to stays beside it. */
export async function leaseMessage(em: SqlEntityManager, id: string, lease: string, address: string): Promise<void> {
  await em.execute(
    `update message set address = ?, lease = ?, lease_until = clock_timestamp() + ${LEASE_SECONDS} * interval '1 second' where id = ?`,
    [address, lease, id],
  );
}

export async function prolongLease(em: SqlEntityManager, id: string, lease: string): Promise<void> {
  await em.execute(
    `update message set lease_until = clock_timestamp() + ${LEASE_SECONDS} * interval '1 second' where id = ? and lease = ? and status = 'planned'`,
    [id, lease],
  );
}

export async function dropMessage(em: SqlEntityManager, id: string, code: string, now: Date): Promise<true> {
  await em.execute("update message set status = 'dropped', dropped_code = ?, settled_at = ? where id = ?", [
    code,
    now,
    id,
  ]);
  return true;
}

/** Goes out later; the rule that holds it stays beside it. */
export async function holdMessage(em: SqlEntityManager, id: string, until: Date, code: string): Promise<true> {
  await em.execute('update message set send_at = ?, next_attempt_at = ?, held_code = ? where id = ?', [
    until,
    until,
    code,
    id,
  ]);
  return true;
}

/** @param of `lease` `null`: locked by this transaction, and never leased */
export async function settleLeased(
  em: SqlEntityManager,
  of: { id: string; lease: string | null },
  to: { status: 'sent' | 'failed' | 'planned'; reason: string | null; now: Date; nextAt: Date },
): Promise<void> {
  await em.execute(
    `update message set status = ?, fail_reason = ?, attempts = attempts + 1, next_attempt_at = ?, lease = null, lease_until = null,
       sent_at = case when ? = 'sent' then ?::timestamptz else sent_at end, settled_at = case when ? = 'planned' then null else ?::timestamptz end
     where id = ? and status = 'planned' and lease is not distinct from ?::uuid`,
    [to.status, to.reason, to.nextAt, to.status, to.now, to.status, to.now, of.id, of.lease],
  );
}
