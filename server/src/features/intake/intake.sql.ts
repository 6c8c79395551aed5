import type { Words } from '@zaguan/core/intake';
import { type ColumnsOf, rowOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type {
  Appointment,
  ConsentForm,
  FormResponse,
  IntakeForm,
  PacketRule,
  Patient,
  Resource,
  SignedConsent,
  Site,
  VisitType,
} from '../../schema/index.ts';

export type VisitFactsRow = Pick<
  ColumnsOf<Appointment>,
  | ('id' | 'version' | 'status' | 'siteId' | 'siteDate' | 'startsAt')
  | ('visitTypeId' | 'patientKind' | 'patientId' | 'identity')
> &
  Pick<ColumnsOf<Patient>, 'givenName' | 'familyName' | 'preferredName' | 'birthDate' | 'restricted'> &
  Pick<ColumnsOf<Site>, 'timeZone'> & {
    readonly visitType: VisitType['name'];
    readonly provider: Resource['shortName'] | null;
    readonly confirmed: boolean;
    readonly recordNumber: Patient['recordNumber'] | null;
    readonly contact: string | null;
    readonly contactGood: boolean;
  };

const CONTACT = `coalesce(b.phone, b.email, (select cp.value from patient_contact pc join contact_point cp on cp.id = pc.contact_point_id where pc.patient_id = a.patient_id order by pc.rank, cp.kind desc limit 1))`;

const VISIT_FACTS = statement<{ ids: readonly string[] }, VisitFactsRow>(
  'the person is the patient’s record or what was typed; the contact’s latest word and message are looked up for each',
  `select v.*, v.contact is not null
      and not opted_out(cp.id, false)
      and not coalesce((select m.status = 'failed' from message m where m.contact_point_id = cp.id and m.status in ('delivered','failed') order by m.settled_at desc limit 1), false) as contact_good
   from (select a.id, a.version, a.status, a.site_id, a.site_date::text, a.starts_at, s.time_zone, a.visit_type_id, t.name as visit_type, r.short_name as provider, a.patient_kind, a.patient_id, a.identity,
       a.confirmed_at is not null as confirmed, coalesce(p.given_name, b.given_name, '') as given_name, coalesce(p.family_name, b.family_name, '') as family_name, p.preferred_name,
       coalesce(p.birth_date, b.birth_date)::text as birth_date, p.record_number, coalesce(p.restricted, false) as restricted, ${CONTACT} as contact
     from appointment a join site s on s.id = a.site_id join visit_type t on t.id = a.visit_type_id left join resource r on r.id = a.provider_id left join patient p on p.id = a.patient_id left join self_booking b on b.appointment_id = a.id
     where a.id = any(:ids::uuid[])) v left join contact_point cp on cp.value = v.contact order by v.starts_at, v.id`,
);

/** Visits with everything readiness asks of them, in the order of their starts. */
export function visitFacts(em: SqlEntityManager, ids: readonly string[]): Promise<VisitFactsRow[]> {
  return rowsOf(em, VISIT_FACTS, { ids });
}

export type DocumentRow = Pick<ColumnsOf<PacketRule>, 'visitTypeIds' | 'kinds'> & {
  readonly id: string;
  readonly kind: 'form' | 'consent';
  readonly title: Words;
  readonly staffName: IntakeForm['staffName'];
  readonly validMonths: ConsentForm['validMonths'];
  readonly items: IntakeForm['items'] | null;
  readonly body: Words | null;
};

const DOCUMENTS = statement<Record<never, never>, DocumentRow>(
  'a rule asks for a form or for a consent: two tables as one list',
  `select coalesce(f.id, c.id) as id, case when f.id is null then 'consent' else 'form' end as kind,
     json_build_object('en', coalesce(f.title_en, c.title_en), 'es', coalesce(f.title_es, c.title_es)) as title, coalesce(f.staff_name, c.staff_name) as staff_name,
     r.visit_type_ids, r.kinds, c.valid_months, f.items, case when c.id is null then null else json_build_object('en', c.body_en, 'es', c.body_es) end as body
   from packet_rule r left join intake_form f on f.id = r.form_id left join consent_form c on c.id = r.consent_id order by r.position, r.id`,
);

/** Every form and consent that some visit asks for, in order. */
export function documentRows(em: SqlEntityManager): Promise<DocumentRow[]> {
  return rowsOf(em, DOCUMENTS, {});
}

export type ResponseRow = Pick<ColumnsOf<FormResponse>, 'id' | 'answers' | 'rev' | 'status'>;

const FOR_UPDATE = statement<{ appointmentId: string; formId: string }, ResponseRow>(
  'a lock',
  'select id, answers, rev, status from form_response where appointment_id = :appointmentId and form_id = :formId for update',
);

/** The answers to one form, kept from a second saving at the same time; the caller has made the row. */
export async function lockResponse(em: SqlEntityManager, appointmentId: string, formId: string): Promise<ResponseRow> {
  const row = await rowOf(em, FOR_UPDATE, { appointmentId, formId });
  if (!row) throw new Error('no answers to lock');
  return row;
}

export type SignedRow = Pick<
  ColumnsOf<SignedConsent>,
  'id' | 'appointmentId' | 'consentId' | 'signerName' | 'signedAt'
> & {
  readonly patientId: string | null;
  /** Date of signing at the site. */
  readonly on: string;
};

const SIGNED = statement<{ ids: readonly string[]; patientIds: readonly string[] }, SignedRow>(
  'the date of signing is reckoned in the site’s zone',
  `select c.id, c.appointment_id, case a.identity when 'sure' then a.patient_id end as patient_id, c.consent_id, c.signer_name, c.signed_at, (c.signed_at at time zone s.time_zone)::date::text as on
   from signed_consent c join appointment a on a.id = c.appointment_id join site s on s.id = a.site_id
   where c.appointment_id = any(:ids::uuid[]) or (a.identity = 'sure' and a.patient_id = any(:patientIds::uuid[])) order by c.signed_at`,
);

/** Signatures for these visits, and earlier ones of the same people where it is sure who they are. */
export function signedFor(
  em: SqlEntityManager,
  ids: readonly string[],
  patientIds: readonly string[],
): Promise<SignedRow[]> {
  return rowsOf(em, SIGNED, { ids, patientIds });
}
