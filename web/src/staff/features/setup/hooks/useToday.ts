import { dateAt } from '../../../../shared/time/format.ts';
import { accountsApi } from '../../accounts/index.ts';

/** The clinic's present date, at its first site. */
export function useToday(): string {
  const { data } = accountsApi.useClinicQuery({});
  return dateAt(data?.now ?? new Date().toISOString(), data?.sites[0]?.timeZone ?? 'UTC');
}
