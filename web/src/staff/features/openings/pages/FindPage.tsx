import type { OutputOf } from '@zaguan/contracts';
import type { staffClinic } from '@zaguan/contracts/clinic';
import type { TimesCriteria } from '@zaguan/contracts/openings';
import { wallToEpoch } from '@zaguan/core/time';
import { useDeferredValue, useEffect } from 'react';
import { useTranslation } from 'react-i18next';
import { ScrollRegion } from '../../../../shared/ui/ScrollRegion.tsx';
import { QueryFrame } from '../../../shell/QueryFrame.tsx';
import { SidePanel } from '../../../shell/SidePanel.tsx';
import { accountsApi } from '../../accounts/index.ts';
import { WhyNotPanel } from '../components/WhyNotPanel.tsx';
import { Results } from '../find/Results.tsx';
import { SearchForm } from '../find/SearchForm.tsx';
import { givenUp, HOURS, toWanted, type TypedSearch } from '../find/typed.ts';
import { useSearch } from '../find/useSearch.ts';
import { openingsApi } from '../openings.api.ts';
import type { PlaceAndTime } from '../placeAndTime.ts';

type Clinic = OutputOf<typeof staffClinic>;
const NOTHING_ASKED = { members: [], channel: 'desk' } as unknown as TimesCriteria;
/** Nine in the morning, where no hour was wished for. */
const DEFAULT_MINUTE = 540;

/** Find a time: one visit, several people, a series, linked visits; when there is none, what to give up, and why. */
export function FindPage() {
  const { t } = useTranslation();
  const { data: clinic, error: clinicError } = accountsApi.useClinicQuery({});
  const { typed, search, view, setView, why, setWhy } = useSearch(clinic);
  const wanted = useWanted(clinic, typed);
  const query = openingsApi.useTimesQuery(wanted ?? NOTHING_ASKED, { skip: !wanted });
  const { currentData: found, isFetching, refetch } = query;
  const error = query.error ?? clinicError;
  useEffect(() => {
    document.title = t('find.title');
  }, [t]);
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <header className="flex flex-wrap items-center gap-3 border-b border-line bg-surface px-4 py-2">
        <h1 className="text-xl font-bold">{t('find.title')}</h1>
        <span className="text-muted">{t('find.note')}</span>
      </header>
      <div className="flex min-h-0 flex-1 max-md:flex-col max-md:overflow-y-auto">
        <aside
          aria-label={t('find.criteria')}
          className="w-[310px] shrink-0 overflow-y-auto border-r border-line bg-surface px-4 py-3 max-md:w-full max-md:overflow-visible max-md:border-r-0 max-md:border-b"
        >
          {clinic && typed && (
            <SearchForm clinic={clinic} typed={typed} set={(change) => search({ ...typed, ...change })} />
          )}
        </aside>
        <ScrollRegion
          aria-label={t('find.results')}
          aria-busy={isFetching}
          className="min-w-0 flex-1 overflow-y-auto px-4 py-3 max-md:overflow-visible"
        >
          {(error || !found) && <QueryFrame query={{ error, isFetching, refetch }} />}
          {found && !error && clinic && typed && (
            <Results
              clinic={clinic}
              found={found}
              typed={typed}
              onGiveUp={(criteriaList) => search(givenUp(typed, criteriaList))}
              onDay={(date) => {
                search({ ...typed, from: date, days: 7 });
                setView('times');
              }}
              onWhyNot={() => wanted && setWhy(whyOf(clinic, wanted, typed))}
              view={view}
              onView={setView}
            />
          )}
        </ScrollRegion>
        {why && typed && (
          <SidePanel label={t('whyNot.title')} className="w-[310px]" onClose={() => setWhy(null)}>
            <WhyNotPanel
              key={JSON.stringify(typed.members)}
              asked={why}
              criteria={{ ...typed.members[0], channel: typed.channel }}
              onChange={setWhy}
            />
          </SidePanel>
        )}
      </div>
    </main>
  );
}

/** The search as the server is asked it, behind what is being typed. */
function useWanted(clinic: Clinic | undefined, typed: TypedSearch | undefined): TimesCriteria | null {
  const settled = useDeferredValue(typed);
  if (!clinic || !settled) return null;
  return toWanted(
    settled,
    clinic.sites.map(({ id }) => id),
  );
}

/** The time that is asked about where none was found: the first site and provider, at the first hour wished for. */
function whyOf(clinic: Clinic, wanted: TimesCriteria, typed: TypedSearch): PlaceAndTime {
  const site = clinic.sites.find(({ id }) => id === wanted.siteIds[0]) ?? clinic.sites[0];
  const provider = clinic.people.find(
    ({ id, kind, siteIds }) =>
      kind === 'provider' &&
      siteIds.includes(site.id) &&
      (!wanted.providerIds || wanted.providerIds.includes(id as never)),
  );
  const minute = Math.max(HOURS[typed.hours][0], DEFAULT_MINUTE);
  const start = new Date(wallToEpoch(site.timeZone, typed.from, minute) * 60_000).toISOString();
  return { siteId: site.id, resourceId: provider?.id ?? '', start };
}
