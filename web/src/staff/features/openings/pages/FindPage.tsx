import { ScrollRegion } from '../../../../shared/ui/ScrollRegion.tsx';
import { useDeferredValue, useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useSearchParams } from 'react-router';
import { wallToEpoch } from '@zaguan/core/time';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { dateAt } from '../../../../shared/time/format.ts';
import { QueryFrame } from '../../../shell/QueryFrame.tsx';
import { SidePanel } from '../../../shell/SidePanel.tsx';
import { accountsApi } from '../../accounts/index.ts';
import { WhyNotPanel } from '../components/WhyNotPanel.tsx';
import { Results, type View } from '../find/Results.tsx';
import { SearchForm } from '../find/SearchForm.tsx';
import { EVERY_DAY, givenUp, HOURS, toWanted, type TypedSearch } from '../find/typed.ts';
import { openingsApi } from '../openings.api.ts';

const NOTHING_ASKED = { members: [], channel: 'desk' } as unknown as Parameters<typeof openingsApi.useTimesQuery>[0];
/** Nine in the morning, where no hour was wished for. */
const DEFAULT_MINUTE = 540;

/** Find a time: one visit, several people, a series, linked visits; when there is none, what to give up, and why. */
export function FindPage() {
  const { t } = useTranslation();
  const [asked] = useSearchParams();
  const { data: clinic, error: clinicError } = accountsApi.useClinicQuery({});
  const [typed, setTyped] = useState<TypedSearch | null>(null);
  const [view, setView] = useState<View>('times');
  const [why, setWhy] = useState<{ siteId: string; resourceId: string; start: string } | null>(null);
  useEffect(() => {
    document.title = t('find.title');
  }, [t]);
  useEffect(() => {
    if (!clinic || typed) return;
    const of = (name: string, rows: readonly { id: string }[]) =>
      rows.filter(({ id }) => id === asked.get(name)).map(({ id }) => id);
    setTyped({
      members: [
        {
          visitTypeId: of('type', clinic.visitTypes)[0] ?? clinic.visitTypes[0]?.id ?? '',
          kind: asked.get('kind') === 'new' ? 'new' : 'established',
        },
      ],
      channel: 'desk',
      siteIds: of('site', clinic.sites),
      providerIds: of('provider', clinic.people),
      from: asked.get('from') ?? dateAt(clinic.now, clinic.sites[0]?.timeZone ?? 'UTC'),
      days: 14,
      weekdays: EVERY_DAY,
      hours: 'any',
      language: '',
      access: [],
      how: 'back-to-back',
      mostWaitMin: 10,
      repeats: false,
      everyWeeks: 4,
      count: 6,
      toleranceDays: 2,
      sameProvider: true,
    });
  }, [clinic, typed, asked]);
  const search = useDeferredValue(typed);
  const wanted =
    search && clinic
      ? toWanted(
          search,
          clinic.sites.map(({ id }) => id),
        )
      : null;
  const {
    currentData: found,
    error,
    isFetching,
    refetch,
  } = openingsApi.useTimesQuery(wanted ?? NOTHING_ASKED, { skip: !wanted });
  const failed = apiError(error ?? clinicError);
  const set = (change: Partial<TypedSearch>) => typed && setTyped({ ...typed, ...change });
  const askWhy = () => {
    if (!clinic || !typed || !wanted) return;
    const site = clinic.sites.find(({ id }) => id === wanted.siteIds[0]) ?? clinic.sites[0];
    const provider = clinic.people.find(
      ({ id, kind, siteIds }) =>
        kind === 'provider' &&
        siteIds.includes(site.id) &&
        (!wanted.providerIds || wanted.providerIds.includes(id as never)),
    );
    const minute = Math.max(HOURS[typed.hours][0], DEFAULT_MINUTE);
    const start = new Date(wallToEpoch(site.timeZone, typed.from, minute) * 60_000).toISOString();
    setWhy({ siteId: site.id, resourceId: provider?.id ?? '', start });
  };
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <header className="flex flex-wrap items-center gap-3 border-b border-line bg-surface px-4 py-2">
        <h1 className="text-[1.3rem] font-bold">{t('find.title')}</h1>
        <span className="text-muted">{t('find.note')}</span>
      </header>
      <div className="flex min-h-0 flex-1 max-md:flex-col max-md:overflow-y-auto">
        <aside
          aria-label={t('find.criteria')}
          className="w-[310px] shrink-0 overflow-y-auto border-r border-line bg-surface px-4 py-3 max-md:w-full max-md:overflow-visible max-md:border-r-0 max-md:border-b"
        >
          {clinic && typed && <SearchForm clinic={clinic} languages={clinic.languages} typed={typed} set={set} />}
        </aside>
        <ScrollRegion
          aria-label={t('find.results')}
          aria-busy={isFetching}
          className="min-w-0 flex-1 overflow-y-auto px-4 py-3 max-md:overflow-visible"
        >
          {(failed || !found) && <QueryFrame query={{ error: error ?? clinicError, isFetching, refetch }} />}
          {found && !failed && clinic && typed && (
            <Results
              clinic={clinic}
              found={found}
              from={typed.from}
              days={typed.days}
              onGiveUp={(criteriaList) => setTyped(givenUp(typed, criteriaList))}
              onDay={(date) => {
                set({ from: date, days: 7 });
                setView('times');
              }}
              onWhyNot={askWhy}
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
