import { type ColumnsOf, rowOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Clinic, ContactVerification, LinkToken, Message } from '../../schema/index.ts';

/** In real time: a moved demo clock neither ends nor prolongs a lease. A dead process's messages wait so long. */
const LEASE_SECONDS = 8;

type Columns = ColumnsOf<Message>;

export type DueRow = Pick<
  Columns,
  | ('id' | 'appointmentId' | 'channel' | 'language' | 'kind' | 'body')
  | ('notAfter' | 'attempts' | 'answersPatient' | 'comesAt' | 'verificationId' | 'invitationId' | 'subject')
> &
  Pick<ColumnsOf<Clinic>, 'urgentAtNight'> & {
    readonly contactPointId: string;
    readonly contact: string;
    readonly clinic: Clinic['name'];
    readonly laterStepDue: boolean;
    readonly linkId: LinkToken['id'] | null;
    readonly sends: ContactVerification['sends'] | null;
  };

/** Whether somebody is handing a message over at this moment. */
export const LEASED = '(lease_until is not null and lease_until > clock_timestamp())';

const DUE = statement<{ channel: 'sms' | 'email'; now: Date }, DueRow>(
  'a claim that skips what others have, in one trip with what the message needs',
  `with next as (
     select * from message m where m.status = 'planned' and m.channel = :channel and m.send_at <= :now and m.next_attempt_at <= :now and not ${LEASED}
       and not exists (select 1 from message e where e.contact_point_id = m.contact_point_id and e.status = 'planned' and (e.send_at, e.seq) < (m.send_at, m.seq))
     order by m.send_at, m.seq limit 1 for update skip locked)
   select m.id, m.appointment_id, m.contact_point_id, cp.value as contact, m.channel, c.name as clinic, c.urgent_at_night, m.language, m.kind, m.subject, m.body, m.not_after, m.attempts, m.answers_patient, m.comes_at,
     m.kind = 'reminder' and exists (select 1 from message e where e.appointment_id = m.appointment_id and e.kind = 'reminder' and e.status = 'planned' and e.send_at <= :now and (e.send_at, e.seq) > (m.send_at, m.seq)) as later_step_due,
     l.id as link_id, m.verification_id, m.invitation_id, v.sends
   from next m join contact_point cp on cp.id = m.contact_point_id cross join clinic c left join link_token l on l.kind = case when m.invitation_id is null then 'visit' else 'invitation' end and l.subject_id = coalesce(m.invitation_id, m.appointment_id) left join contact_verification v on v.id = m.verification_id`,
);

/** The next message of a channel that is due, skipping numbers and addresses for which an earlier one still waits. */
export function claimDue(em: SqlEntityManager, channel: 'sms' | 'email', now: Date): Promise<DueRow | null> {
  return rowOf(em, DUE, { channel, now });
}

const LEASE = statement<{ id: string; lease: string; address: string }, never>(
  'by the database’s clock',
  `update message set address = :address, lease = :lease, lease_until = clock_timestamp() + ${LEASE_SECONDS} * interval '1 second' where id = :id`,
);

/** Takes a message for one process; the address it goes to stays beside it. */
export async function leaseMessage(em: SqlEntityManager, id: string, lease: string, address: string): Promise<void> {
  await rowsOf(em, LEASE, { id, lease, address });
}

const PROLONG = statement<{ id: string; lease: string }, never>(
  'by the database’s clock',
  `update message set lease_until = clock_timestamp() + ${LEASE_SECONDS} * interval '1 second' where id = :id and lease = :lease and status = 'planned'`,
);

export async function prolongLease(em: SqlEntityManager, id: string, lease: string): Promise<void> {
  await rowsOf(em, PROLONG, { id, lease });
}
