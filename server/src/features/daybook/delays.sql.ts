import type { LocalDate } from '@zaguan/core/time';
import { type ColumnsOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Appointment } from '../../schema/index.ts';

export interface VisitOfDelay extends Pick<ColumnsOf<Appointment>, 'id' | 'status' | 'startsAt' | 'siteId'> {
  readonly providerId: string;
  /** Whether a message tells of the delay that holds now, or has told. */
  readonly told: boolean;
  /** Whether one was tried, also if it failed: no second one is. */
  readonly tried: boolean;
}

const TRIED = `select 1 from message m where m.appointment_id = a.id and m.kind = 'delay' and m.created_at >= d.since`;

const VISITS = statement<
  { dates: readonly LocalDate[]; siteId: string | null; providerIds: readonly string[] },
  VisitOfDelay
>(
  'visits beside the delay of whom they are with, and whether a message tells of it',
  `select a.id, a.status, a.starts_at, a.site_id, a.provider_id,
     exists (${TRIED} and m.status in ('planned','sent','delivered')) as told, exists (${TRIED} and m.status <> 'withdrawn') as tried
   from appointment a left join provider_delay d on d.site_date = a.site_date and d.resource_id = a.provider_id and d.site_id = a.site_id and d.ended_at is null
   where a.site_date = any(:dates::date[]) and a.provider_id = any(:providerIds::uuid[]) and (:siteId::uuid is null or a.site_id = :siteId::uuid) and a.status = 'booked'
   order by a.starts_at, a.id`,
);

/** Visits that are booked with these providers, and nobody has come for them yet. */
export function visitsOfDelay(
  em: SqlEntityManager,
  dates: readonly LocalDate[],
  siteId: string | null,
  providerIds: readonly string[],
): Promise<VisitOfDelay[]> {
  return rowsOf(em, VISITS, { dates, siteId, providerIds });
}
