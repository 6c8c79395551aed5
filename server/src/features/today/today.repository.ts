import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { AnswerValue, FormItem, RedFlagSeverity, Words } from '@zaguan/core/intake';
import type { AppointmentStatus } from '@zaguan/core/visits';
import type { WorkKind } from '@zaguan/core/work';

const ABOUT = `a.id as appointment_id, coalesce(nullif(trim(p.given_name || ' ' || p.family_name), ''), nullif(trim(b.given_name || ' ' || b.family_name), ''), '') as name, coalesce(p.given_name, b.given_name) as given_name, coalesce(p.family_name, b.family_name) as family_name, a.patient_id, s.id as site_id, s.name as site, s.time_zone, a.site_date::text, a.starts_at`;
const VISIT = `left join appointment a on a.id = x.appointment_id left join site s on s.id = a.site_id left join patient p on p.id = a.patient_id left join self_booking b on b.appointment_id = a.id`;

export interface AboutRow {
  appointment_id: string | null;
  name: string;
  given_name: string | null;
  family_name: string | null;
  patient_id: string | null;
  site_id: string | null;
  site: string;
  time_zone: string;
  site_date: string;
  starts_at: string;
}
export interface WorkRow extends AboutRow {
  id: string;
  since: string;
}
export type InboxRow = WorkRow & { contact: string; body: string };
export type FailedRow = WorkRow & { contact: string; kind: string; step: string | null; fail_reason: string };
export type CoverageRow = WorkRow & { payer: string; referral_said: boolean | null };
export type FlagRow = WorkRow & {
  link_id: string;
  item: FormItem | null;
  severity: RedFlagSeverity;
  answer: AnswerValue;
  advice: Words;
  phone: string | null;
  visit_status: AppointmentStatus;
};

/** Answers that no rule could read, oldest first. */
export function openInbox(em: SqlEntityManager): Promise<InboxRow[]> {
  return em.execute(`select x.id, cp.value as contact, x.body, x.received_at as since, ${ABOUT} from inbox_message x join contact_point cp on cp.id = x.contact_point_id ${VISIT}
    where x.meaning = 'other' and x.handled_at is null order by x.received_at limit 200`);
}

/** Messages that will not arrive by themselves. */
export function openFailures(em: SqlEntityManager): Promise<FailedRow[]> {
  return em.execute(`select x.id, cp.value as contact, x.kind, x.step, x.fail_reason, x.settled_at as since, ${ABOUT} from message x join contact_point cp on cp.id = x.contact_point_id ${VISIT}
    where x.status = 'failed' and x.handled_at is null order by x.settled_at limit 200`);
}

/**
 * Red flags that no clinician has cleared, the most dangerous first. They belong to the answer: a visit that was
 * cancelled, moved or missed changes nothing about them, and none is left out of the list.
 */
export function openFlags(em: SqlEntityManager): Promise<FlagRow[]> {
  return em.execute(`select x.id, x.raised_at as since, x.link_id, x.severity, x.answer, x.advice, a.status as visit_status, ${ABOUT},
      jsonb_path_query_first(f.items, '$.**?(@.linkId == $id)', jsonb_build_object('id', x.link_id)) as item,
      coalesce(b.phone, (select cp.value from patient_contact pc join contact_point cp on cp.id = pc.contact_point_id where pc.patient_id = a.patient_id and cp.kind = 'phone' order by pc.rank limit 1)) as phone
    from red_flag x join form_response fr on fr.id = x.form_response_id join intake_form f on f.id = fr.form_id ${VISIT}
    where not exists (select 1 from red_flag_clearing k where k.red_flag_id = x.id and k.undone_at is null)
    order by array_position(array['emergency','urgent'], x.severity), x.raised_at`);
}

/** Self-bookings whose person is not known. */
export function openIdentityReview(em: SqlEntityManager): Promise<WorkRow[]> {
  return em.execute(`select x.appointment_id as id, x.booked_at as since, ${ABOUT} from self_booking x ${VISIT}
    where a.identity = 'unknown' and a.status not in ('cancelled','entered-in-error','noshow') order by a.starts_at limit 200`);
}

/** Self-bookings that wait until the clinic agrees. */
export function openApprovals(em: SqlEntityManager): Promise<WorkRow[]> {
  return em.execute(
    `select x.id, x.created_at as since, ${ABOUT} from appointment x ${VISIT.replace('x.appointment_id', 'x.id')}
    where x.approval = 'waiting' and x.status = 'pending' order by x.starts_at limit 200`,
  );
}

/** What patients said about paying that nobody has looked at; of visits to come. */
export function openCoverage(em: SqlEntityManager, now: Date): Promise<CoverageRow[]> {
  return em.execute(
    `select x.appointment_id as id, x.said_at as since, y.name as payer, x.referral_said, ${ABOUT} from visit_coverage x join payer y on y.id = x.payer_id ${VISIT}
    where x.state = 'to-verify' and a.status = 'booked' and a.starts_at > ? order by a.starts_at limit 200`,
    [now],
  );
}

const TABLES = { inbox: 'inbox_message', failed: 'message' } as const;
export type HandledKind = keyof typeof TABLES;

/** Marks work as done, or open again. Says whether that changed anything, or `null` if there is no such work. */
export async function setHandled(
  em: SqlEntityManager,
  kind: HandledKind,
  id: string,
  by: { at: Date; accountId: string } | null,
): Promise<boolean | null> {
  const rows = await em.execute<unknown[]>(
    `update ${TABLES[kind]} set handled_at = ?, handled_by = ? where id = ? and (handled_at is null) = ? returning 1`,
    [by?.at ?? null, by?.accountId ?? null, id, by !== null],
  );
  if (rows.length) return true;
  return (await em.execute<unknown[]>(`select 1 from ${TABLES[kind]} where id = ?`, [id])).length ? false : null;
}

/** Where each kind of work is kept, and the visit it is about. */
const SITE_OF: Record<WorkKind, string> = {
  inbox:
    'select x.id, a.site_id from inbox_message x left join appointment a on a.id = x.appointment_id where x.id = ?',
  failed: 'select x.id, a.site_id from message x left join appointment a on a.id = x.appointment_id where x.id = ?',
  'red-flag': 'select x.id, a.site_id from red_flag x join appointment a on a.id = x.appointment_id where x.id = ?',
  'identity-review': 'select a.id, a.site_id from appointment a where a.id = ?',
  approval: 'select a.id, a.site_id from appointment a where a.id = ?',
  coverage: 'select a.id, a.site_id from appointment a where a.id = ?',
  'not-ready': 'select a.id, a.site_id from appointment a where a.id = ?',
};

/** The site of a piece of work (`null`: about no visit), or nothing if there is no such work. */
export async function siteOfWork(
  em: SqlEntityManager,
  kind: WorkKind,
  id: string,
): Promise<{ siteId: string | null } | null> {
  const [row] = await em.execute<{ site_id: string | null }[]>(SITE_OF[kind], [id]);
  return row ? { siteId: row.site_id } : null;
}

export interface ClaimRow {
  kind: WorkKind;
  subject_id: string;
  owner_id: string;
  name: string;
}

export function claims(em: SqlEntityManager): Promise<ClaimRow[]> {
  return em.execute(
    'select w.kind, w.subject_id, w.owner_id, c.name from work_item w join account c on c.id = w.owner_id',
  );
}

/** Takes work unless someone has it; gives the name of who has it now. */
export async function claimWorkFor(
  em: SqlEntityManager,
  kind: WorkKind,
  id: string,
  by: { accountId: string; at: Date },
): Promise<{ accountId: string; name: string }> {
  await em.execute(
    'insert into work_item (kind, subject_id, owner_id, owned_at) values (?, ?, ?, ?) on conflict do nothing',
    [kind, id, by.accountId, by.at],
  );
  const [row] = await em.execute<{ owner_id: string; name: string }[]>(
    'select w.owner_id, c.name from work_item w join account c on c.id = w.owner_id where w.kind = ? and w.subject_id = ?',
    [kind, id],
  );
  return { accountId: row.owner_id, name: row.name };
}

export async function releaseWork(em: SqlEntityManager, kind: WorkKind, id: string, accountId: string): Promise<void> {
  await em.execute('delete from work_item where kind = ? and subject_id = ? and owner_id = ?', [kind, id, accountId]);
}
