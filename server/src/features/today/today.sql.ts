import { type ColumnsOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { FormItem } from '@zaguan/core/intake';
import type { Appointment, InboxMessage, Message, Payer, RedFlag, Site, VisitCoverage } from '../../schema/index.ts';

const ABOUT = `a.id as appointment_id, coalesce(nullif(trim(p.given_name || ' ' || p.family_name), ''), nullif(trim(b.given_name || ' ' || b.family_name), ''), '') as name, coalesce(p.given_name, b.given_name) as given_name, coalesce(p.family_name, b.family_name) as family_name, a.patient_id, s.id as site_id, s.name as site, s.time_zone, a.site_date::text, a.starts_at`;
const visitBy = (id: string) =>
  `left join appointment a on a.id = ${id} left join site s on s.id = a.site_id left join patient p on p.id = a.patient_id left join self_booking b on b.appointment_id = a.id`;
const VISIT = visitBy('x.appointment_id');
const EITHER_NAME = 'the person is the patient’s record or what was typed';

export type AboutRow = Pick<ColumnsOf<Appointment>, 'patientId' | 'siteDate' | 'startsAt'> &
  Pick<ColumnsOf<Site>, 'timeZone'> & {
    readonly appointmentId: Appointment['id'] | null;
    readonly name: string;
    readonly givenName: string | null;
    readonly familyName: string | null;
    readonly siteId: Site['id'] | null;
    readonly site: Site['name'];
  };
export type WorkRow = AboutRow & { readonly id: string; readonly since: string };
export type InboxRow = WorkRow & { readonly contact: string } & Pick<ColumnsOf<InboxMessage>, 'body'>;
export type FailedRow = WorkRow &
  Pick<ColumnsOf<Message>, 'kind' | 'step'> & {
    readonly contact: string;
    readonly failReason: string;
    /** Whom an invitation was for. */
    readonly invitedId: string | null;
    readonly restricted: boolean;
  };
export type CoverageRow = WorkRow & { readonly payer: Payer['name'] } & Pick<ColumnsOf<VisitCoverage>, 'referralSaid'>;
export type FlagRow = WorkRow &
  Pick<ColumnsOf<RedFlag>, 'linkId' | 'severity' | 'answer' | 'advice'> & {
    readonly item: FormItem | null;
    readonly phone: string | null;
    readonly visitStatus: Appointment['status'];
  };

const INBOX = statement<Record<never, never>, InboxRow>(
  EITHER_NAME,
  `select x.id, cp.value as contact, x.body, x.received_at as since, ${ABOUT} from inbox_message x join contact_point cp on cp.id = x.contact_point_id ${VISIT}
   where x.meaning = 'other' and x.handled_at is null order by x.received_at limit 200`,
);

/** Answers that no rule could read, oldest first. */
export function openInbox(em: SqlEntityManager): Promise<InboxRow[]> {
  return rowsOf(em, INBOX, {});
}

/** An invitation is about no visit yet, but about a patient. */
const INVITED = `left join appointment a on a.id = x.appointment_id left join site s on s.id = a.site_id left join invitation i on i.id = x.invitation_id
   left join patient p on p.id = coalesce(a.patient_id, i.patient_id) left join self_booking b on b.appointment_id = a.id`;
const FAILURES = statement<{ now: Date }, FailedRow>(
  EITHER_NAME,
  `(select x.id, cp.value as contact, x.kind, x.step, x.fail_reason, x.settled_at as since, i.patient_id as invited_id, coalesce(p.restricted, false) as restricted, ${ABOUT}
    from message x join contact_point cp on cp.id = x.contact_point_id ${INVITED} where x.status = 'failed' and x.handled_at is null order by x.settled_at limit 200)
   union all
   (select x.id, cp.value, x.kind, x.step, 'link-locked', (select max(e.at) from invitation_event e where e.invitation_id = i.id and e.kind = 'locked'), i.patient_id, coalesce(p.restricted, false), ${ABOUT}
    from link_token l join message x on x.invitation_id = l.subject_id join contact_point cp on cp.id = x.contact_point_id ${INVITED}
    where l.kind = 'invitation' and l.locked_until > :now and x.status in ('sent','delivered') and x.handled_at is null order by l.locked_until limit 200)`,
);

/** Messages that will not arrive by themselves, and invitations whose link is locked: somebody calls. */
export function openFailures(em: SqlEntityManager, now: Date): Promise<FailedRow[]> {
  return rowsOf(em, FAILURES, { now });
}

const FLAGS = statement<Record<never, never>, FlagRow>(
  'the question is found within the form’s JSON; a flag is open while no clearing of it stands',
  `select x.id, x.raised_at as since, x.link_id, x.severity, x.answer, x.advice, a.status as visit_status, ${ABOUT},
     (select each from jsonb_path_query(f.items, '$.**') as each where each ->> 'linkId' = x.link_id limit 1) as item,
     coalesce(b.phone, (select cp.value from patient_contact pc join contact_point cp on cp.id = pc.contact_point_id where pc.patient_id = a.patient_id and cp.kind = 'phone' order by pc.rank limit 1)) as phone
   from red_flag x join form_response fr on fr.id = x.form_response_id join intake_form f on f.id = fr.form_id ${VISIT}
   where not exists (select 1 from red_flag_clearing k where k.red_flag_id = x.id and k.undone_at is null)
   order by array_position(array['emergency','urgent'], x.severity), x.raised_at`,
);

/**
 * Red flags that no clinician has cleared, the most dangerous first. They belong to the answer: a visit that was
 * cancelled, moved or missed changes nothing about them, and none is left out of the list.
 */
export function openFlags(em: SqlEntityManager): Promise<FlagRow[]> {
  return rowsOf(em, FLAGS, {});
}

const IDENTITY_REVIEW = statement<Record<never, never>, WorkRow>(
  EITHER_NAME,
  `select x.appointment_id as id, x.booked_at as since, ${ABOUT} from self_booking x ${VISIT}
   where a.identity = 'unknown' and a.status not in ('cancelled','entered-in-error','noshow') order by a.starts_at limit 200`,
);

/** Self-bookings whose person is not known. */
export function openIdentityReview(em: SqlEntityManager): Promise<WorkRow[]> {
  return rowsOf(em, IDENTITY_REVIEW, {});
}

const APPROVALS = statement<Record<never, never>, WorkRow>(
  EITHER_NAME,
  `select x.id, x.created_at as since, ${ABOUT} from appointment x ${visitBy('x.id')}
   where x.approval = 'waiting' and x.status = 'pending' order by x.starts_at limit 200`,
);

/** Self-bookings that wait until the clinic agrees. */
export function openApprovals(em: SqlEntityManager): Promise<WorkRow[]> {
  return rowsOf(em, APPROVALS, {});
}

const COVERAGE = statement<{ now: Date }, CoverageRow>(
  EITHER_NAME,
  `select x.appointment_id as id, x.said_at as since, y.name as payer, x.referral_said, ${ABOUT} from visit_coverage x join payer y on y.id = x.payer_id ${VISIT}
   where x.state = 'to-verify' and a.status = 'booked' and a.starts_at > :now order by a.starts_at limit 200`,
);

/** What patients said about paying that nobody has looked at; of visits to come. */
export function openCoverage(em: SqlEntityManager, now: Date): Promise<CoverageRow[]> {
  return rowsOf(em, COVERAGE, { now });
}
