import type { ScheduleWeek } from '@zaguan/contracts/availability';
import { useMemo } from 'react';
import { accountsApi } from '../../accounts/index.ts';

/** Names by id: people, rooms and devices of the week, sites, visit types. */
export function useNames(week: ScheduleWeek | null): (id: string | null) => string {
  const { data: clinic } = accountsApi.useClinicQuery({});
  const names = useMemo(
    () =>
      new Map([
        ...(clinic?.people ?? []).map(({ id, name }) => [id, name] as const),
        ...(clinic?.visitTypes ?? []).map(({ id, name }) => [id, name] as const),
        ...(week?.lanes ?? []).map(({ resourceId, name }) => [resourceId, name] as const),
        ...(week?.sites ?? clinic?.sites ?? []).map(({ id, name }) => [id, name] as const),
      ]),
    [clinic, week],
  );
  return (id) => (id === null ? '' : (names.get(id) ?? ''));
}
