import { rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Appointment, Site } from '../../schema/index.ts';

export type RestrictedVisitRow = Pick<Appointment, 'providerId' | 'siteId' | 'siteDate'> &
  Pick<Site, 'timeZone'> & {
    readonly appointmentId: string;
    /** A red flag of the visit waits for a clinician. */
    readonly openFlag: boolean;
    /** The caller has opened the record with a reason, within the hour. */
    readonly opened: boolean;
  };

const RESTRICTED = statement<{ ids: readonly string[]; accountId: string | null; now: Date }, RestrictedVisitRow>(
  'asks of each visit whether a flag is open',
  `select a.id as "appointmentId", a.provider_id as "providerId", a.site_id as "siteId", a.site_date::text as "siteDate", s.time_zone as "timeZone",
     exists (select 1 from red_flag f where f.appointment_id = a.id and not exists (select 1 from red_flag_clearing k where k.red_flag_id = f.id and k.undone_at is null)) as "openFlag",
     exists (select 1 from restricted_opening o where o.patient_id = p.id and o.account_id = :accountId::uuid and o.at <= :now and o.until > :now) as opened
   from appointment a join patient p on p.id = a.patient_id and p.restricted join site s on s.id = a.site_id
   where a.id = any(:ids::uuid[])`,
);

/** Those of some visits whose patient's record is restricted. */
export function restrictedVisits(
  em: SqlEntityManager,
  ids: readonly string[],
  accountId: string | null,
  now: Date,
): Promise<RestrictedVisitRow[]> {
  return rowsOf(em, RESTRICTED, { ids, accountId, now });
}
