import type { Words } from '@zaguan/core/intake';
import { type ColumnsOf, rowOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type {
  Account,
  Appointment,
  AuditEntry,
  FormResponse,
  IntakeForm,
  Message,
  Relationship,
  SignedConsent,
  Site,
} from '../../schema/index.ts';

export type SentRow = Pick<ColumnsOf<Message>, 'id' | 'kind' | 'step' | 'sendAt' | 'status'> & {
  readonly visitDate: string;
  readonly contact: string | null;
};

const SENT = statement<{ patientId: string }, SentRow>(
  'ordered by when a message was settled, or else is to be sent',
  `select m.id, m.kind, m.step, coalesce(m.address, cp.value) as contact, coalesce(m.settled_at, m.send_at) as send_at, m.status, m.visit_date::text from message m join appointment a on a.id = m.appointment_id
   left join contact_point cp on cp.id = m.contact_point_id where a.patient_id = :patientId order by 5 desc, m.seq desc limit 100`,
);

/** Messages about a patient's visits as they were sent, newest first: a visit that moved changes nothing about them. */
export function sentRows(em: SqlEntityManager, patientId: string): Promise<SentRow[]> {
  return rowsOf(em, SENT, { patientId });
}

export type FormRow = Pick<ColumnsOf<FormResponse>, 'id' | 'answers' | 'status' | 'savedAt'> &
  Pick<ColumnsOf<Appointment>, 'siteDate'> & {
    readonly title: Words;
    readonly name: IntakeForm['staffName'];
    readonly items: IntakeForm['items'];
  };

const FORMS = statement<{ patientId: string }, FormRow>(
  'a title of both languages as JSON, for the patient of the visits',
  `select r.id, json_build_object('en', f.title_en, 'es', f.title_es) as title, f.staff_name as name, f.items, r.answers, r.status, r.saved_at, a.site_date::text from form_response r
   join intake_form f on f.id = r.form_id join appointment a on a.id = r.appointment_id where a.patient_id = :patientId order by r.saved_at desc limit 60`,
);

export function formRows(em: SqlEntityManager, patientId: string): Promise<FormRow[]> {
  return rowsOf(em, FORMS, { patientId });
}

export type ConsentRow = Pick<ColumnsOf<SignedConsent>, 'id' | 'signer' | 'signerName' | 'language' | 'signedAt'> &
  Pick<ColumnsOf<Appointment>, 'siteDate'> & { readonly name: string; readonly version: number };

const CONSENTS = statement<{ patientId: string }, ConsentRow>(
  'the form by its visit, for the patient of the visits',
  `select c.id, f.staff_name as name, f.version, c.signer, c.signer_name, c.language, c.signed_at, a.site_date::text from signed_consent c
   join consent_form f on f.id = c.consent_id join appointment a on a.id = c.appointment_id where a.patient_id = :patientId order by c.signed_at desc limit 60`,
);

export function consentRows(em: SqlEntityManager, patientId: string): Promise<ConsentRow[]> {
  return rowsOf(em, CONSENTS, { patientId });
}

export type TrailRow = Pick<ColumnsOf<AuditEntry>, 'at' | 'kind' | 'command' | 'actorKind' | 'before' | 'after'> & {
  readonly by: Account['name'] | null;
};

const TRAIL = statement<{ subjects: readonly string[] }, TrailRow>(
  'JSON that contains any of several subjects, by its index',
  `select e.at, e.kind, e.command, e.actor_kind, e.before, e.after, c.name as by from audit_entry e left join account c on c.id = e.account_id
   where e.subjects @> any (:subjects::text[]::jsonb[]) order by e.at desc, e.id desc limit 60`,
);

/** The latest entries about a record or any of its visits. */
export function trailRows(em: SqlEntityManager, patientId: string, visitIds: readonly string[]): Promise<TrailRow[]> {
  const subjects = [{ kind: 'patient', id: patientId }, ...visitIds.map((id) => ({ kind: 'appointment', id }))];
  return rowsOf(em, TRAIL, { subjects: subjects.map((subject) => JSON.stringify([subject])) });
}

const MAIN_SITE = statement<{ patientId: string }, Pick<ColumnsOf<Site>, 'region' | 'timeZone'>>(
  'sites by how many visits each had',
  `select s.region, s.time_zone from site s left join patient p on p.id = :patientId and p.home_site_id = s.id
     left join (select site_id, count(*) as n from appointment where patient_id = :patientId group by site_id) a on a.site_id = s.id
   order by p.id is not null desc, coalesce(a.n, 0) desc, s.sort_order limit 1`,
);

/** State and zone of a patient's home site, or of the one at which they are seen most; where they never were, the first site's. */
export async function mainSiteOf(
  em: SqlEntityManager,
  patientId: string,
): Promise<{ region: string; timeZone: string }> {
  const [site] = await rowsOf(em, MAIN_SITE, { patientId });
  return { region: site.region, timeZone: site.timeZone };
}

const FOR_UPDATE = statement<
  { id: string; patientId: string },
  Pick<ColumnsOf<Relationship>, 'fromDate' | 'untilDate'>
>(
  'a lock',
  'select from_date::text, until_date::text from relationship where id = :id and patient_id = :patientId for update',
);

/** From when to when a relationship holds, kept from a second change at the same time. */
export async function lockRelationship(
  em: SqlEntityManager,
  patientId: string,
  id: string,
): Promise<{ from: string; until: string | null } | null> {
  const row = await rowOf(em, FOR_UPDATE, { id, patientId });
  return row && { from: row.fromDate, until: row.untilDate };
}
