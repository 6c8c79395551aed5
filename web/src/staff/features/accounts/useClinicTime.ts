import { dateAt, dateTimeOf } from '../../../shared/time/format.ts';
import { accountsApi } from './accounts.api.ts';

/** Writes instants on the first site's clock, for pages that belong to no single site; the site's name says whose clock it is. */
export function useClinicTime(): {
  siteName: string;
  timeZone: string;
  /** The clinic's own present, an instant, and the date there. */
  now: string;
  today: string;
  write: (instant: string) => string;
} {
  const { data } = accountsApi.useClinicQuery({});
  const site = data?.sites[0];
  return {
    siteName: site?.name ?? '',
    timeZone: site?.timeZone ?? 'UTC',
    now: data?.now ?? new Date().toISOString(),
    today: dateAt(data?.now ?? new Date().toISOString(), site?.timeZone ?? 'UTC'),
    // Rather nothing than a time of another zone, until the clinic is known.
    write: (instant) => (site ? dateTimeOf(instant, site.timeZone) : ''),
  };
}
