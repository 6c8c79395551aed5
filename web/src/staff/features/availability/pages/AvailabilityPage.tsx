import type { ScheduleWeek } from '@zaguan/contracts/availability';
import { useEffect, useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useSearchParams } from 'react-router';
import { weekOf } from '../../../../shared/time/format.ts';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { ScrollRegion } from '../../../../shared/ui/ScrollRegion.tsx';
import { QueryFrame } from '../../../shell/QueryFrame.tsx';
import { useAppSelector } from '../../../store.ts';
import { accountsApi } from '../../accounts/index.ts';
import { useNow } from '../../daybook/index.ts';
import { availabilityApi } from '../availability.api.ts';
import { DraftBar } from '../components/Drafts.tsx';
import { WeekActions } from '../components/WeekActions.tsx';
import { BrushBar, WeekHeader } from '../components/WeekHeader.tsx';
import { draftsApi } from '../drafts.api.ts';
import { type Lane, laneKey } from '../grid/geometry.ts';
import { WeekGrid } from '../grid/WeekGrid.tsx';
import { DraftContext } from '../hooks/draftContext.ts';
import { type AvailabilityAddress, useAvailabilityAddress } from '../hooks/useAvailabilityAddress.ts';
import { useBrush } from '../hooks/useBrush.ts';
import { usePaint } from '../hooks/usePaint.ts';
import type { Brush, Panel } from '../panel.ts';
import { SchedulePanel } from '../panels/SchedulePanel.tsx';

/** The lanes of a site (or all), people or rooms and equipment. */
function lanesOf(week: ScheduleWeek, siteId: string, set: string): Lane[] {
  return week.sites.flatMap((site) =>
    week.lanes.filter((lane) => {
      const person = lane.kind === 'provider' || lane.kind === 'staff';
      return lane.siteId === site.id && (siteId === 'all' || siteId === site.id) && person === (set === 'people');
    }),
  );
}

/** The page with the draft it is about, if any: what is done on it then holds nowhere yet. */
export function AvailabilityPage() {
  const [asked] = useSearchParams();
  const draftId = asked.get('draft');
  const { data } = draftsApi.useDraftsQuery({}, { skip: !draftId });
  return (
    <DraftContext value={data?.drafts.find(({ id }) => id === draftId) ?? null}>
      <Week />
    </DraftContext>
  );
}

/** Everyone's week: hours drawn, moved, pulled or typed; the brush over them; what stands out, and what is to come. */
function Week() {
  const { t } = useTranslation();
  const address = useAvailabilityAddress();
  const { data: clinic, error: clinicError, fulfilledTimeStamp } = accountsApi.useClinicQuery({});
  const now = useNow(clinic?.now, fulfilledTimeStamp);
  const keptSite = useAppSelector((state) => state.prefs.siteId);
  const from = address.week ?? (clinic ? weekOf(clinic.now.slice(0, 10)) : '');
  const asked = { from, draftId: address.draftId };
  const {
    currentData: week,
    error,
    refetch,
    isFetching,
  } = availabilityApi.useScheduleWeekQuery(asked, { skip: !from });
  const { brush, setBrush } = useBrush();
  // The desk may have been chosen by somebody who sees other sites.
  const siteId = week?.sites.find(({ id }) => id === keptSite)?.id ?? 'all';
  useArrival(address, week);
  useEffect(() => {
    document.title = t('hours.title');
  }, [t]);
  const open = (panel: Panel | null) => address.open(panel, from);
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <WeekHeader {...{ week, from, siteId, address, brush }} onBrush={setBrush} />
      {week && <WeekActions week={week} draftId={address.draftId} onOpen={open} onDraft={address.work} />}
      {brush && <BrushBar brush={brush} onLeave={() => setBrush(null)} />}
      {address.draftId && <DraftBar onOpen={() => open({ kind: 'draft' })} onLeave={() => address.work(null)} />}
      <div className="flex min-h-0 flex-1">
        <ScrollRegion sideways className="min-w-0 flex-1 " aria-label={t('schedule.week')} aria-busy={!week}>
          {!week && <QueryFrame query={{ error: error ?? clinicError, isFetching, refetch }} bars={6} />}
          {week && !week.hours.length && (
            <div className="m-4 max-w-md">
              <Notice tone="warning">{t('hours.empty')}</Notice>
            </div>
          )}
          {week && <Grid {...{ week, siteId, address, asked, brush }} onOpen={open} />}
        </ScrollRegion>
        {week && clinic && address.panel && (
          <SchedulePanel
            {...{ week, clinic, now, brush }}
            panel={address.panel}
            mayEdit={mayEditOf(week)}
            onOpen={open}
            onClose={() => open(null)}
          />
        )}
      </div>
    </main>
  );
}

const mayEditOf = (week: ScheduleWeek) => (resourceId: string) =>
  week.mayEdit === 'all' || (week.mayEdit === 'own' && week.ownResourceId === resourceId);

/** What a link brought along: a lane to be seen, or a person whose hours are missing. */
function useArrival({ lane, person, site, arrive }: AvailabilityAddress, week: ScheduleWeek | undefined): void {
  useEffect(() => {
    if (week && lane) document.querySelector(`[data-lane="${CSS.escape(lane)}"]`)?.scrollIntoView({ block: 'center' });
  }, [week, lane]);
  useEffect(() => {
    if (!week || !person) return;
    const row = week.lanes.find((each) => each.resourceId === person && (!site || each.siteId === site));
    arrive({ kind: 'new', lane: row ? laneKey(row) : null, day: null, span: null }, week.from);
  }, [week, person, site, arrive]);
}

interface GridProps {
  readonly week: ScheduleWeek;
  readonly siteId: string;
  readonly address: AvailabilityAddress;
  readonly asked: Parameters<typeof usePaint>[1];
  readonly brush: Brush | null;
  readonly onOpen: (panel: Panel) => void;
}

/** The grid with what each gesture on it opens, or paints. */
function Grid({ week, siteId, address, asked, brush, onOpen }: GridProps) {
  const lanes = useMemo(() => lanesOf(week, siteId, address.lanes), [week, siteId, address.lanes]);
  const [only, setOnly] = useState<number | null>(null);
  const paint = usePaint(lanes, asked);
  const mayEdit = mayEditOf(week);
  const keyAt = (lane: number) => laneKey(lanes[lane]);
  return (
    <WeekGrid
      {...{ week, lanes, only, brush, mayEdit }}
      onDay={setOnly}
      on={{
        pressed: ({ lane, day }, stretch) =>
          onOpen(
            stretch !== null && mayEdit(lanes[lane].resourceId) && lanes[lane].days[day].date >= week.today
              ? { kind: 'edit', lane: keyAt(lane), day, stretch, moved: null }
              : { kind: 'day', lane: keyAt(lane), day },
          ),
        drawn: ({ lane, day }, span) => onOpen({ kind: 'new', lane: keyAt(lane), day, span }),
        movedTo: ({ lane, day }, stretch, moved) => onOpen({ kind: 'edit', lane: keyAt(lane), day, stretch, moved }),
        painted: (a, b, span) => brush && void paint.stretch(a, b, span, brush),
      }}
      onPaintDays={(a, b) => brush && void paint.hours(a, b, brush)}
    />
  );
}
