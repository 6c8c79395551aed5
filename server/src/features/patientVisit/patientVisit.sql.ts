import { type ColumnsOf, rowOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Appointment, Clinic, LinkToken, Resource, Site, VisitType } from '../../schema/index.ts';

export type LinkedVisit = Pick<ColumnsOf<LinkToken>, 'wrongTries' | 'lockedUntil'> &
  Pick<
    ColumnsOf<Appointment>,
    'status' | 'approval' | 'confirmedAt' | 'startsAt' | 'endsAt' | 'siteDate' | 'siteId' | 'icalSequence' | 'changedAt'
  > &
  Pick<ColumnsOf<Site>, 'timeZone' | 'phone' | 'directionsEn' | 'directionsEs'> &
  Pick<ColumnsOf<VisitType>, 'cancelUntilHours' | 'asksToConfirm' | 'preparationEn' | 'preparationEs'> & {
    readonly linkId: LinkToken['id'];
    readonly appointmentId: Appointment['id'];
    readonly clinic: Clinic['name'];
    readonly site: Site['publicName'];
    readonly address: string;
    readonly typeEn: VisitType['publicNameEn'];
    readonly typeEs: VisitType['publicNameEs'];
    readonly providerEn: Resource['name'] | null;
    readonly providerEs: Resource['name'] | null;
    readonly birthDate: string | null;
    /** How far behind the provider is said to be; `null`: on time. */
    readonly delayMin: number | null;
  };

const VISIT_OF_LINK = statement<{ tokenHash: Buffer; now: Date }, LinkedVisit>(
  'a lock; a link belongs to a visit by kind and subject, without a foreign key',
  `select l.id as link_id, l.wrong_tries, l.locked_until, a.id as appointment_id, a.status, a.approval, a.confirmed_at, a.starts_at, a.ends_at, a.site_date::text, a.site_id, a.ical_sequence, a.changed_at, s.time_zone, c.name as clinic, s.phone,
     s.public_name as site, s.address_line || ', ' || s.city || ', ' || s.region || ' ' || s.postal_code as address, s.directions_en, s.directions_es, t.public_name_en as type_en, t.public_name_es as type_es, t.cancel_until_hours, t.asks_to_confirm, t.preparation_en, t.preparation_es,
     r.name as provider_en, coalesce(nullif(d.public_name_es, ''), r.name) as provider_es, coalesce(b.birth_date, p.birth_date)::text as birth_date,
     (select y.minutes from provider_delay y where y.site_id = a.site_id and y.resource_id = a.provider_id and y.site_date = a.site_date and y.ended_at is null) as delay_min
   from link_token l join appointment a on l.kind = 'visit' and a.id = l.subject_id join site s on s.id = a.site_id cross join clinic c join visit_type t on t.id = a.visit_type_id
   left join resource r on r.id = a.provider_id left join provider d on d.resource_id = r.id left join self_booking b on b.appointment_id = a.id left join patient p on p.id = a.patient_id
   where l.token_hash = :tokenHash and l.expires_at > :now for update of l`,
);

/** The visit behind a link that has not run out; locked against a second call at the same time. */
export function visitOfLink(em: SqlEntityManager, tokenHash: Buffer, now: Date): Promise<LinkedVisit | null> {
  return rowOf(em, VISIT_OF_LINK, { tokenHash, now });
}
