import type { DaybookWeek } from '@zaguan/contracts/daybook';
import { useEffect, useMemo, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { useNavigate, useParams } from 'react-router';
import { dateAt, formatDate, shortDate, shiftDate, weekOf } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { accountsApi } from '../../accounts/index.ts';
import { useMayBook } from '../../booking/index.ts';
import { Lanes } from '../components/Lanes.tsx';
import type { TypeNames } from '../components/LaneView.tsx';
import { Legend } from '../components/Legend.tsx';
import { DaybookViewMenu } from '../components/DaybookViewMenu.tsx';
import { SidePanel } from '../components/SidePanel.tsx';
import { DragVisits } from '../drag/DragVisits.tsx';
import { daybookApi } from '../daybook.api.ts';
import { NEW_BOOKING, type Panel, useDaybookAddress } from '../hooks/useDaybookAddress.ts';
import { useDaybookKeys } from '../hooks/useDaybookKeys.ts';
import { useNow } from '../hooks/useNow.ts';
import { findNote } from '../notes/NotePanel.tsx';
import { type LaneSection, shownOf } from '../layout.ts';

/** A week of one person, room or piece of equipment: a lane for each day and site, each on its site's own clock. */
export function WeekPage() {
  const { t } = useTranslation();
  const navigate = useNavigate();
  const { resourceId = '', date = '' } = useParams();
  const { data: clinic, fulfilledTimeStamp } = accountsApi.useClinicQuery({});
  const now = useNow(clinic?.now, fulfilledTimeStamp);
  const { panel, open, close, filters } = useDaybookAddress();
  const from = weekOf(date);
  const query = daybookApi.useWeekQuery({ resourceId, from });
  const week = query.currentData;
  const types: TypeNames = useMemo(
    () => Object.fromEntries(clinic?.visitTypes.map((type) => [type.id, type]) ?? []),
    [clinic],
  );
  const today = clinic ? dateAt(now, clinic.sites[0]?.timeZone ?? 'UTC') : '';
  const go = (to: string) => void navigate(`/daybook/week/${resourceId}/${to}${filters}`);
  const board = useRef<HTMLElement>(null);
  const mayBook = useMayBook();
  const book = () => mayBook && open(NEW_BOOKING);
  const [back, on] = [-7, 7].map((days) => () => go(shiftDate(from, days)));
  useDaybookKeys({ book, back, on, today: () => go(today) });
  const title = week?.name ?? t('loading');
  useEffect(() => {
    document.title = `${title} · ${t('daybook.title')}`;
  }, [title, t]);
  const shown = useMemo(() => week && shownOf(week.days.flatMap((day) => day.sites)), [week]);
  const sections: LaneSection[] = (week?.days ?? []).flatMap((day) =>
    day.sites
      .filter((site) => site.lanes.some((lane) => lane.hoursBands.length > 0 || lane.plates.length > 0))
      .map((site) => ({
        key: `${day.date} ${site.id}`,
        site: { ...site, lanes: site.lanes.map((lane) => ({ ...lane, name: shortDate(day.date), detail: '' })) },
        linkOf: () => `/daybook/${day.date}`,
      })),
  );
  // The panel works on one day: that of what was opened, or of the start that was asked about; else the week's first.
  const isAnyDay = panel === null || (panel.kind === 'book' && panel.at === null);
  const opened = isAnyDay ? week?.days[0] : week?.days.find((day) => isOf(panel, day));
  return (
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
          <DaybookViewMenu />
          <Legend />
        </span>
      </header>
      <div className="flex min-h-0 flex-1">
        <DragVisits board={board} sections={sections}>
          <Lanes {...{ board, sections, shown, now, types, panel, query }} onOpen={open} />
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
  );
}

/** Whether what the panel shows belongs to this day. */
function isOf(panel: Panel, { date, sites }: DaybookWeek['days'][number]): boolean {
  if (panel.kind === 'note')
    return panel.noteId === null ? panel.date === date : findNote({ sites }, panel.noteId) !== null;
  if (panel.kind === 'visit')
    return sites.some((site) => site.lanes.some((lane) => lane.plates.some(({ id }) => id === panel.visitId)));
  const start = panel.kind === 'why-not' ? panel.start : panel.at?.start;
  return start !== undefined && sites.some((site) => site.dayStart <= start && start < site.dayEnd);
}
