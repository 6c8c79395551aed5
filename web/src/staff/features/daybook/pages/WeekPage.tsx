import { useEffect, useMemo, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { useNavigate, useParams } from 'react-router';
import { dateAt, formatDate, shortDate, shiftDate, weekOf } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { accountsApi } from '../../accounts/index.ts';
import { useMayBook } from '../../booking/index.ts';
import { Board } from '../components/Board.tsx';
import { KeysHelp } from '../components/KeysHelp.tsx';
import { useTypeNames } from '../components/useLane.ts';
import { Legend } from '../components/Legend.tsx';
import { Outside } from '../components/Outside.tsx';
import { SidePanel } from '../components/SidePanel.tsx';
import { DragVisits } from '../drag/DragVisits.tsx';
import { daybookApi } from '../daybook.api.ts';
import { NEW_BOOKING, useDaybookAddress } from '../hooks/useDaybookAddress.ts';
import { useDaybookKeys } from '../hooks/useDaybookKeys.ts';
import { useNow } from '../hooks/useNow.ts';
import { isInUse, type LaneSection, shownOf } from '../layout.ts';
import { LensMenu } from '../views/LensMenu.tsx';
import { useLens } from '../views/useLens.ts';
import { ViewContext } from '../views/viewContext.ts';
import { dayOfPanel } from './weekPanel.ts';

/** A week of one person, room or piece of equipment: a lane for each day and site, each on its site's own clock. */
export function WeekPage() {
  const { t } = useTranslation();
  const navigate = useNavigate();
  const { resourceId = '', date = '' } = useParams();
  const { data: clinic, fulfilledTimeStamp } = accountsApi.useClinicQuery({});
  const now = useNow(clinic?.now, fulfilledTimeStamp);
  const address = useDaybookAddress();
  const { panel, open, close, filters } = address;
  const lens = useLens(address);
  const { view, state } = lens;
  const from = weekOf(date);
  const query = daybookApi.useWeekQuery({ resourceId, from });
  // Whether names are hidden is known before anything is drawn.
  const week = state === 'loading' ? undefined : query.currentData;
  const types = useTypeNames();
  const today = clinic ? dateAt(now, clinic.sites[0]?.timeZone ?? 'UTC') : '';
  const go = (to: string) => void navigate(`/daybook/week/${resourceId}/${to}${filters}`);
  const board = useRef<HTMLElement>(null);
  const mayBook = useMayBook();
  const book = () => mayBook && open(NEW_BOOKING);
  const [back, on] = [-7, 7].map((days) => () => go(shiftDate(from, days)));
  useDaybookKeys({ book, back, on, today: () => go(today) }, view, lens.keys);
  const title = week?.name ?? t('loading');
  useEffect(() => {
    document.title = `${title} · ${t('daybook.title')}`;
  }, [title, t]);
  const shown = useMemo(
    () =>
      week &&
      shownOf(
        week.days.flatMap((day) => day.sites),
        view,
      ),
    [week, view],
  );
  const sections: LaneSection[] = (week?.days ?? []).flatMap((day) =>
    day.sites
      .filter((site) => site.lanes.some(isInUse))
      .map((site) => ({
        key: `${day.date} ${site.id}`,
        site: { ...site, lanes: site.lanes.map((lane) => ({ ...lane, name: shortDate(day.date), detail: '' })) },
        linkOf: () => `/daybook/${day.date}`,
      })),
  );
  const parts = sections.map((section) => ({ key: section.key, title: section.site.name, section, query: null }));
  const opened = dayOfPanel(panel, week?.days ?? []);
  return (
    <ViewContext value={view}>
      <main className="flex min-h-0 flex-1 flex-col">
        <header className="flex flex-wrap items-center gap-2 border-b border-line bg-surface px-3 py-2">
          <Button aria-label={t('daybook.previousWeek')} onClick={() => go(shiftDate(from, -7))}>
            ‹
          </Button>
          <h1 className="text-xl font-bold" aria-live="polite">
            {title}, {t('daybook.weekOf', { date: formatDate(from) })}
          </h1>
          <Button aria-label={t('daybook.nextWeek')} onClick={() => go(shiftDate(from, 7))}>
            ›
          </Button>
          <Button onClick={() => go(today)} disabled={!today || weekOf(today) === from}>
            {t('daybook.thisWeek')}
          </Button>
          <Button onClick={() => void navigate(`/daybook/${date}`)}>{t('daybook.backToDay')}</Button>
          <span className="ml-auto flex gap-2">
            <LensMenu lens={lens} />
            <Legend types={types} />
            <KeysHelp />
          </span>
        </header>
        {shown && (
          <Outside sites={sections.map(({ site }) => site)} shown={shown} onShowAll={address.choose.allHours} />
        )}
        <div className="flex min-h-0 flex-1">
          <DragVisits board={board} sections={sections}>
            <Board {...{ board, parts, sections, shown, now, types, panel, query }} onOpen={open} />
          </DragVisits>
          {week && opened && (
            <SidePanel
              day={{ date: opened.date, now: week.now, sites: opened.sites }}
              siteId="all"
              types={types}
              panel={panel}
              onOpen={open}
              onClose={close}
            />
          )}
        </div>
      </main>
    </ViewContext>
  );
}
