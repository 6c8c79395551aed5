import type { VisitToMove } from '@zaguan/contracts/availability';
import { useTranslation } from 'react-i18next';
import { TickField } from '../../../../shared/ui/inputs.tsx';
import { useAddress } from '../../../shell/useAddress.ts';
import { accountsApi } from '../../accounts/index.ts';
import { needsCall } from './otherTime.ts';

const CHOICE = 'max-w-[170px] rounded-md border border-line-strong bg-panel px-2 py-1.5';

/** Which visits are shown, kept in the address. */
export function useToMoveFilters() {
  const { asked, set } = useAddress();
  const [site, who, callsOnly] = [asked.get('site'), asked.get('who'), asked.get('calls') === 'only'];
  return {
    site,
    who,
    callsOnly,
    set,
    fits: (visit: VisitToMove) =>
      (!site || visit.siteId === site) && (!who || visit.providerId === who) && (!callsOnly || needsCall(visit)),
  };
}

/** By site, by person, and those whose patient must be called; only what the list has is offered. */
export function ToMoveFilters({
  filters: { site, who, callsOnly, set },
  visits,
  calls,
}: {
  filters: ReturnType<typeof useToMoveFilters>;
  visits: readonly VisitToMove[];
  calls: number;
}) {
  const { t } = useTranslation();
  const { data: clinic } = accountsApi.useClinicQuery({});
  const sites = clinic?.sites.filter(({ id }) => visits.some(({ siteId }) => siteId === id)) ?? [];
  const people = clinic?.people.filter(({ id }) => visits.some(({ providerId }) => providerId === id)) ?? [];
  const choice = (name: 'site' | 'who', value: string | null, rows: readonly { id: string; name: string }[]) => (
    <select
      aria-label={t(`schedule.filter.${name}`)}
      className={CHOICE}
      value={value ?? ''}
      onChange={(event) => set({ [name]: event.target.value || null })}
    >
      <option value="">{t(`schedule.filter.${name}All`)}</option>
      {rows.map((row) => (
        <option key={row.id} value={row.id}>
          {row.name}
        </option>
      ))}
    </select>
  );
  return (
    <>
      {(sites.length > 1 || site) && choice('site', site, sites)}
      {(people.length > 1 || who) && choice('who', who, people)}
      <TickField checked={callsOnly} onChange={(event) => set({ calls: event.target.checked ? 'only' : null })}>
        {t('schedule.callsOnly', { count: calls })}
      </TickField>
    </>
  );
}
