import { useCallback, useEffect, useMemo, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { useNavigate, useParams } from 'react-router';
import { dateAt, formatDate, shiftDate } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { SiteChoice } from '../../../shell/SiteChoice.tsx';
import { accountsApi } from '../../accounts/index.ts';
import { useMayBook } from '../../booking/index.ts';
import { anyTime, freeAtFocus } from '../components/asked.ts';
import { Board } from '../components/Board.tsx';
import { Counts } from '../components/Counts.tsx';
import { DayNav } from '../components/DayNav.tsx';
import { KeysHelp } from '../components/KeysHelp.tsx';
import { LaneChoice } from '../components/LaneChoice.tsx';
import { Legend } from '../components/Legend.tsx';
import { Outside } from '../components/Outside.tsx';
import { SidePanel } from '../components/SidePanel.tsx';
import { Stale } from '../components/Stale.tsx';
import { useTypeNames } from '../components/useLane.ts';
import { BenchStrip } from '../drag/BenchStrip.tsx';
import type { Over, ToBook } from '../drag/drag.slice.ts';
import { DragVisits } from '../drag/DragVisits.tsx';
import { DropStrip } from '../drag/DropStrip.tsx';
import { useBoardParts } from '../hooks/useBoardParts.ts';
import { NEW_BOOKING, type Panel, useDaybookAddress } from '../hooks/useDaybookAddress.ts';
import { useDaybookKeys } from '../hooks/useDaybookKeys.ts';
import { useNow } from '../hooks/useNow.ts';
import { hasVisit, useOwnSites, useWhichSite } from '../hooks/useWhichSite.ts';
import { useShown } from '../hooks/useShown.ts';
import { LensMenu } from '../views/LensMenu.tsx';
import { useLens } from '../views/useLens.ts';
import { ViewContext } from '../views/viewContext.ts';

/** A day: the lanes of one site, or of all of them, each on its own clock. */
export function DaybookPage() {
  const { t } = useTranslation();
  const params = useParams();
  const clinicQuery = accountsApi.useClinicQuery({});
  const { data: clinic, fulfilledTimeStamp } = clinicQuery;
  const address = useDaybookAddress();
  const { panel } = address;
  const lens = useLens(address);
  const { view } = lens;
  const now = useNow(clinic?.now, fulfilledTimeStamp);
  const today = clinic ? dateAt(now, clinic.sites[0]?.timeZone ?? 'UTC') : '';
  const date = params.date ?? today;
  const types = useTypeNames();
  const { go, openDay } = useGoToDay(today, address.filters);
  const board = useRef<HTMLElement>(null);
  useTitle(date);
  const ownSites = useOwnSites(clinic);
  const at = useWhichSite(ownSites, date, { asked: address.siteId, panel });
  const { siteId } = at;
  const { parts, see, sites, isPending } = useDayParts(ownSites, at, date, address, lens);
  const sections = useMemo(() => parts.flatMap(({ section }) => section ?? []), [parts]);
  const drawn = useMemo(() => sections.map(({ site }) => site), [sections]);
  const shown = useShown(sites, view);
  const mayBook = useMayBook();
  const book = () => mayBook && address.open(NEW_BOOKING);
  useDaybookKeys(
    {
      book: () => mayBook && address.open({ ...NEW_BOOKING, at: freeAtFocus(sections, now) }),
      back: () => go(shiftDate(date, -1)),
      on: () => go(shiftDate(date, 1)),
      today: () => go(today),
    },
    view,
    lens.keys,
  );
  const askNow = () => {
    const asked = anyTime(drawn, date === today ? now : null);
    if (asked) address.open({ kind: 'why-not', ...asked });
  };
  const isThere = sites.length > 0;
  // What isn't loaded yet must not be said to be gone.
  const isToCome = panel?.kind === 'visit' && !hasVisit(sites, panel.visitId) && (at.isLooking || isPending);
  const first = parts.find(({ query }) => query?.error)?.query;
  return (
    <ViewContext value={view}>
      <main className="flex min-h-0 flex-1 flex-col">
        <header className="flex flex-wrap items-center gap-2 border-b border-line bg-surface px-3 py-2">
          <DayNav date={date} today={today} onGo={go} />
          <SiteChoice sites={ownSites} value={siteId ?? 'all'} onChoose={address.choose.site} />
          <LaneChoice view={view} choose={address.choose} />
          <span className="ml-auto flex gap-2">
            {mayBook && (
              <Button look="primary" data-open-book onClick={book} disabled={!isThere}>
                {t('book.open')}
              </Button>
            )}
            <Button onClick={askNow} disabled={!isThere}>
              {t('daybook.whyNot')}
            </Button>
            <LensMenu lens={lens} />
            <Legend types={types} />
            <KeysHelp />
          </span>
        </header>
        {isThere && (
          <Counts
            {...{ date, sites: drawn, of: parts.length, siteId: siteId === 'all' ? null : siteId, view }}
            choose={address.choose}
            onOpen={address.open}
          />
        )}
        {shown && <Outside sites={drawn} shown={shown} onShowAll={address.choose.allHours} />}
        <Stale parts={parts} />
        <DragVisits board={board} sections={sections} onBook={bookFromBench(address.open)}>
          <div className="relative flex min-h-0 flex-1">
            {date && <DropStrip date={date} onDay={openDay} />}
            <Board
              {...{ board, parts, sections, shown, now, types, panel }}
              onSee={see}
              onOpen={address.open}
              query={first ?? clinicQuery}
            />
            {isThere && !isToCome && (
              <SidePanel
                day={{ date, now, sites }}
                siteId={siteId ?? 'all'}
                {...{ types, panel }}
                onOpen={address.open}
                onClose={address.close}
              />
            )}
          </div>
          {isThere && <BenchStrip />}
        </DragVisits>
      </main>
    </ViewContext>
  );
}

/** Opens another day, with what is chosen on this one; once for what is drawn, once as the same function all along. */
function useGoToDay(today: string, filters: string): { go: (to: string) => void; openDay: (to: string) => void } {
  const navigate = useNavigate();
  const go = (to: string) => void navigate(`${to === today ? '/daybook' : `/daybook/${to}`}${filters}`);
  const latest = useRef(go);
  latest.current = go;
  return { go, openDay: useCallback((to: string) => latest.current(to), []) };
}

/** What the browser's tab says: which day. */
function useTitle(date: string): void {
  const { t } = useTranslation();
  useEffect(() => {
    document.title = date ? `${formatDate(date)} · ${t('daybook.title')}` : t('daybook.title');
  }, [date, t]);
}

/** A visit of the Bench that was put down: the booking panel takes it from there, with the time and what it is for. */
const bookFromBench = (open: (panel: Panel) => void) => (what: ToBook, to: Over) =>
  open({
    ...{ ...NEW_BOOKING, patientId: what.patientId, use: what.unplacedId, visitTypeId: what.visitTypeId },
    at: { siteId: to.siteId, resourceId: to.providerId ?? '', start: new Date(to.start * 60_000).toISOString() },
  });

/** The sites of a day as the board draws them; of all sites those at which nobody works that day are left out. */
function useDayParts(
  ownSites: ReturnType<typeof useOwnSites>,
  { siteId, visitAt }: ReturnType<typeof useWhichSite>,
  date: string,
  { panel }: ReturnType<typeof useDaybookAddress>,
  { view, state }: ReturnType<typeof useLens>,
) {
  const wanted = useMemo(
    () =>
      // Which lanes, and whether names are hidden, is known before anything is drawn.
      state === 'loading' || siteId === null || !date
        ? []
        : ownSites
            .filter(({ id }) => siteId === 'all' || id === siteId)
            .map(({ id, name }) => ({
              ...{ siteId: id, date, title: name },
              linkOf: ({ resourceId }: { resourceId: string }) => `/daybook/week/${resourceId}/${date}`,
            })),
    [ownSites, siteId, date, state],
  );
  // A note that is open may stand at any of them.
  const isNote = panel?.kind === 'note' && panel.noteId !== null;
  const must = isNote ? wanted : visitAt ? [{ siteId: visitAt, date }] : undefined;
  const { parts, ...more } = useBoardParts(wanted, view, must);
  return {
    ...more,
    parts: useMemo(
      () => parts.filter(({ section }) => siteId !== 'all' || section?.site.lanes.length !== 0),
      [parts, siteId],
    ),
  };
}
