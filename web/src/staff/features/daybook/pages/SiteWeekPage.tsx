import { useEffect, useMemo, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { useNavigate, useParams } from 'react-router';
import { dateAt, shiftDate, shortDate, weekOf } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { SiteChoice } from '../../../shell/SiteChoice.tsx';
import { accountsApi } from '../../accounts/index.ts';
import { useMayBook } from '../../booking/index.ts';
import { Board } from '../components/Board.tsx';
import { KeysHelp } from '../components/KeysHelp.tsx';
import { LaneChoice } from '../components/LaneChoice.tsx';
import { Legend } from '../components/Legend.tsx';
import { Outside } from '../components/Outside.tsx';
import { SidePanel } from '../components/SidePanel.tsx';
import { Stale } from '../components/Stale.tsx';
import { useTypeNames } from '../components/useLane.ts';
import { daybookApi } from '../daybook.api.ts';
import { DragVisits } from '../drag/DragVisits.tsx';
import { useBoardParts } from '../hooks/useBoardParts.ts';
import { NEW_BOOKING, type Panel, useDaybookAddress } from '../hooks/useDaybookAddress.ts';
import { useDaybookKeys } from '../hooks/useDaybookKeys.ts';
import { useNow } from '../hooks/useNow.ts';
import type { SiteDate } from '../hooks/useSiteDays.ts';
import { useOwnSites } from '../hooks/useWhichSite.ts';
import { useShown } from '../hooks/useShown.ts';
import { LensMenu } from '../views/LensMenu.tsx';
import { useLens } from '../views/useLens.ts';
import { ViewContext } from '../views/viewContext.ts';
import { dayOfPanel } from './weekPanel.ts';

const WEEK = [0, 1, 2, 3, 4, 5, 6];

/** A week of a whole site: its days one after the other, each with all its lanes, loaded as they come into sight. */
export function SiteWeekPage() {
  const { t } = useTranslation();
  const navigate = useNavigate();
  const { siteId = '', date = '' } = useParams();
  const clinicQuery = accountsApi.useClinicQuery({});
  const { data: clinic, fulfilledTimeStamp } = clinicQuery;
  const now = useNow(clinic?.now, fulfilledTimeStamp);
  const address = useDaybookAddress();
  const { panel, open, close, filters } = address;
  const lens = useLens(address);
  const { view, state } = lens;
  const ownSites = useOwnSites(clinic);
  const site = ownSites.find(({ id }) => id === siteId);
  const from = weekOf(date);
  const types = useTypeNames();
  const wanted = useMemo(
    () =>
      site && state !== 'loading'
        ? WEEK.map((n) => shiftDate(from, n)).map((day) => ({
            ...{ siteId: site.id, date: day, title: shortDate(day) },
            titleLink: `/daybook/${day}?site=${site.id}`,
            linkOf: ({ resourceId }: { resourceId: string }) => `/daybook/week/${resourceId}/${day}`,
          }))
        : [],
    [site, from, state],
  );
  const all = useBoardParts(wanted, view, useMust(panel, wanted));
  // A day on which nobody works is left out, as everywhere.
  const parts = useMemo(() => all.parts.filter(({ section }) => section?.site.lanes.length !== 0), [all.parts]);
  const sections = useMemo(() => parts.flatMap(({ section }) => section ?? []), [parts]);
  const shown = useShown(all.sites, view);
  const today = clinic ? dateAt(now, site?.timeZone ?? 'UTC') : '';
  const go = (to: string, at = siteId) => void navigate(`/daybook/week/site/${at}/${to}${filters}`);
  const board = useRef<HTMLElement>(null);
  const mayBook = useMayBook();
  const [back, on] = [-7, 7].map((days) => () => go(shiftDate(from, days)));
  useDaybookKeys({ book: () => mayBook && open(NEW_BOOKING), back, on, today: () => go(today) }, view, lens.keys);
  const title = site?.name ?? (clinic ? t('error.NotFound') : t('loading'));
  useEffect(() => {
    document.title = `${title} · ${t('daybook.title')}`;
  }, [title, t]);
  const days = sections.map((section) => ({
    date: dateAt(section.site.dayStart, section.site.timeZone),
    sites: [section.site],
  }));
  const opened = dayOfPanel(panel, days);
  return (
    <ViewContext value={view}>
      <main className="flex min-h-0 flex-1 flex-col">
        <header className="flex flex-wrap items-center gap-2 border-b border-line bg-surface px-3 py-2">
          <Button aria-label={t('daybook.previousWeek')} onClick={back}>
            ‹
          </Button>
          <h1 className="text-xl font-bold" aria-live="polite">
            {title}, {t('daybook.weekOf', { date: shortDate(from) })}
          </h1>
          <Button aria-label={t('daybook.nextWeek')} onClick={on}>
            ›
          </Button>
          <Button onClick={() => go(today)} disabled={!today || weekOf(today) === from}>
            {t('daybook.thisWeek')}
          </Button>
          <Button onClick={() => void navigate(`/daybook/${date}?site=${siteId}`)}>{t('daybook.backToDay')}</Button>
          <SiteChoice sites={ownSites} value={siteId} onChoose={(to) => go(date, to)} one />
          <LaneChoice view={view} choose={address.choose} />
          <span className="ml-auto flex gap-2">
            <LensMenu lens={lens} />
            <Legend types={types} />
            <KeysHelp />
          </span>
        </header>
        {shown && (
          <Outside sites={sections.map((each) => each.site)} shown={shown} onShowAll={address.choose.allHours} />
        )}
        <Stale parts={parts} />
        <div className="flex min-h-0 flex-1">
          <DragVisits board={board} sections={sections}>
            <Board
              {...{ board, parts, sections, shown, now, types, panel }}
              onSee={all.see}
              openAt={parts.findIndex((part) => part.date === today)}
              onOpen={open}
              query={parts.find(({ query }) => query?.error)?.query ?? clinicQuery}
            />
          </DragVisits>
          {opened && (
            <SidePanel
              day={{ date: opened.date, now, sites: opened.sites }}
              siteId={siteId}
              {...{ types, panel }}
              onOpen={open}
              onClose={close}
            />
          )}
        </div>
      </main>
    </ViewContext>
  );
}

/** What a panel shows is loaded wherever in the week it stands: a link to it opens it. */
function useMust(panel: Panel | null, wanted: readonly SiteDate[]): readonly SiteDate[] | undefined {
  const visitId = panel?.kind === 'visit' ? panel.visitId : null;
  const { currentData: visit } = daybookApi.useVisitInShortQuery({ id: visitId as never }, { skip: visitId === null });
  if (visitId !== null) return wanted.filter(({ date }) => date === visit?.date);
  const isAnyDay = panel === null || (panel.kind === 'book' && panel.at === null);
  return isAnyDay ? undefined : wanted;
}
