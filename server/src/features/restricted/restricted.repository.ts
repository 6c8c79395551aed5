import type { SqlEntityManager } from '@mikro-orm/postgresql';

export interface RestrictedVisitRow {
  appointment_id: string;
  provider_id: string | null;
  site_id: string;
  site_date: string;
  time_zone: string;
  /** A red flag of the visit waits for a clinician. */
  open_flag: boolean;
}

/** Those of some visits whose patient's record is restricted. */
export function restrictedVisits(em: SqlEntityManager, ids: readonly string[]): Promise<RestrictedVisitRow[]> {
  return em.execute(
    `select a.id as appointment_id, a.provider_id, a.site_id, a.site_date::text, s.time_zone,
       exists (select 1 from red_flag f where f.appointment_id = a.id and not exists (select 1 from red_flag_clearing k where k.red_flag_id = f.id and k.undone_at is null)) as open_flag
     from appointment a join patient p on p.id = a.patient_id and p.restricted join site s on s.id = a.site_id
     where a.id in (select x::uuid from json_array_elements_text(?::json) x)`,
    [JSON.stringify(ids)],
  );
}
