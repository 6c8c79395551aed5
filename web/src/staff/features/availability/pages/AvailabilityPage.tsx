import { ScrollRegion } from '../../../../shared/ui/ScrollRegion.tsx';
import type { ScheduleWeek } from '@zaguan/contracts/availability';
import { useEffect, useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useSearchParams } from 'react-router';
import { QueryFrame } from '../../../shell/QueryFrame.tsx';
import { shiftDate, shortDate, weekOf } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { SiteChoice } from '../../../shell/SiteChoice.tsx';
import { prefs } from '../../../prefs.slice.ts';
import { useAppDispatch, useAppSelector } from '../../../store.ts';
import { accountsApi } from '../../accounts/index.ts';
import { LANE_SETS, useNow } from '../../daybook/index.ts';
import { availabilityApi } from '../availability.api.ts';
import { DraftBar, DraftChoice } from '../components/Drafts.tsx';
import { Legend } from '../components/Legend.tsx';
import { draftsApi } from '../drafts.api.ts';
import { type Lane, laneKey } from '../grid/geometry.ts';
import { WeekGrid } from '../grid/WeekGrid.tsx';
import { DraftContext } from '../hooks/draftContext.ts';
import { usePaint } from '../hooks/usePaint.ts';
import { BRUSHES, type Brush, type Panel } from '../panel.ts';
import { SchedulePanel } from '../panels/SchedulePanel.tsx';

const CHOICE = 'rounded-md border border-line-strong bg-panel px-2 py-1.5';

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
  const dispatch = useAppDispatch();
  const [asked, setAsked] = useSearchParams();
  const { data: clinic, error: clinicError, fulfilledTimeStamp } = accountsApi.useClinicQuery({});
  const now = useNow(clinic?.now, fulfilledTimeStamp);
  const keptSite = useAppSelector((state) => state.prefs.siteId);
  const set = LANE_SETS.find((each) => each === asked.get('lanes')) ?? 'people';
  const draftId = asked.get('draft') ?? undefined;
  const from = asked.get('week') ?? (clinic ? weekOf(clinic.now.slice(0, 10)) : '');
  const {
    currentData: week,
    error,
    refetch,
    isFetching,
  } = availabilityApi.useScheduleWeekQuery({ from, draftId }, { skip: !from });
  const { data: asks } = availabilityApi.useRequestsQuery({}, { skip: !week });
  const open = asks?.requests.filter(({ status }) => status === 'requested').length ?? 0;
  const [panel, setPanel] = useState<Panel | null>(null);
  const [only, setOnly] = useState<number | null>(null);
  const [brush, setBrush] = useState<Brush | null>(null);
  // The desk may have been chosen by somebody who sees other sites.
  const siteId = week?.sites.find(({ id }) => id === keptSite)?.id ?? 'all';
  const lanes = useMemo(() => (week ? lanesOf(week, siteId, set) : []), [week, siteId, set]);
  const paint = usePaint(lanes, { from, draftId });
  // Set-up's guide leads here with a person, and often a site, whose hours are missing.
  const [person, site, wantedLane] = [asked.get('person'), asked.get('site'), asked.get('lane')];
  useEffect(() => {
    // Why not? leads here with a lane: it is brought into sight.
    if (week && wantedLane)
      document.querySelector(`[data-lane="${CSS.escape(wantedLane)}"]`)?.scrollIntoView({ block: 'center' });
  }, [week, wantedLane]);
  useEffect(() => {
    const lane = week?.lanes.find((row) => row.resourceId === person && (!site || row.siteId === site));
    if (week && person) setPanel({ kind: 'new', lane: lane ? laneKey(lane) : null, day: null, span: null });
  }, [week, person, site]);
  useEffect(() => {
    document.title = t('hours.title');
  }, [t]);
  const go = (date: string) => {
    setPanel(null);
    setAsked({ week: date, ...(draftId && { draft: draftId }) });
  };
  const mayEdit = (resourceId: string) =>
    week?.mayEdit === 'all' || (week?.mayEdit === 'own' && week.ownResourceId === resourceId);
  const keyAt = (lane: number) => laneKey(lanes[lane]);
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <header className="flex flex-wrap items-center gap-2 border-b border-line bg-surface px-3 py-2">
        <Button aria-label={t('schedule.previous')} disabled={!week} onClick={() => go(shiftDate(from, -7))}>
          ‹
        </Button>
        <h1 className="text-[1.3rem] font-bold">
          {from ? t('schedule.weekOf', { date: shortDate(from) }) : t('hours.title')}
        </h1>
        <Button aria-label={t('schedule.next')} disabled={!week} onClick={() => go(shiftDate(from, 7))}>
          ›
        </Button>
        <Button disabled={!week || from === weekOf(week.today)} onClick={() => week && go(weekOf(week.today))}>
          {t('schedule.thisWeek')}
        </Button>
        <SiteChoice sites={week?.sites ?? []} value={siteId} onChoose={(id) => dispatch(prefs.actions.choseSite(id))} />
        <select
          aria-label={t('daybook.lanesOf')}
          className={CHOICE}
          value={set}
          onChange={(event) =>
            setAsked((now) => {
              now.set('lanes', event.target.value);
              return now;
            })
          }
        >
          {LANE_SETS.map((each) => (
            <option key={each} value={each}>
              {t(`daybook.lanes.${each}`)}
            </option>
          ))}
        </select>
        {week && week.mayEdit !== 'none' && (
          <fieldset className="ml-auto flex items-center gap-1">
            <legend className="sr-only">{t('schedule.brushLabel')}</legend>
            <span aria-hidden="true" className="text-muted">
              {t('schedule.brushLabel')}
            </span>
            {BRUSHES.map((each) => (
              <Button
                key={each}
                aria-pressed={brush === each}
                look={brush === each ? 'accent' : 'quiet'}
                onClick={() => setBrush(brush === each ? null : each)}
              >
                {t(`schedule.brush.${each}`)}
              </Button>
            ))}
          </fieldset>
        )}
      </header>
      {week && (
        <div className="flex flex-wrap items-center gap-2 border-b border-line bg-surface-deep px-3 py-1.5">
          {week.mayEdit !== 'none' && (
            <Button look="primary" onClick={() => setPanel({ kind: 'new', lane: null, day: null, span: null })}>
              {t('hours.add')}
            </Button>
          )}
          {week.mayEdit === 'all' && (
            <>
              <Button onClick={() => setPanel({ kind: 'away', resourceId: null, day: null })}>
                {t('schedule.timeOff')}
              </Button>
              <Button onClick={() => setPanel({ kind: 'copy', resourceId: null })}>{t('schedule.copyWeek')}</Button>
              <Button onClick={() => setPanel({ kind: 'close', siteId: null })}>{t('schedule.closeSite')}</Button>
            </>
          )}
          <Button onClick={() => setPanel({ kind: 'coming' })}>{t('schedule.upcoming')}</Button>
          {(week.mayEdit === 'all' || week.ownResourceId) && (
            <Button onClick={() => setPanel({ kind: 'requests' })}>
              {t(week.mayEdit === 'all' ? 'requests.title' : 'requests.own', { count: open })}
            </Button>
          )}
          {week.mayEdit === 'all' && (
            <DraftChoice
              draftId={draftId ?? null}
              onChoose={(id) => {
                setPanel(null);
                setAsked({ week: from, ...(id && { draft: id }) });
              }}
            />
          )}
          <Link
            to="/find"
            className="rounded-md border border-line-strong bg-panel px-3 py-1.5 font-semibold hover:bg-surface-deep"
          >
            {t('find.title')}
          </Link>
          {week.toMove > 0 && (
            <Link to="/availability/visits-to-move" className="font-bold text-warning underline">
              {t('schedule.toMoveCount', { count: week.toMove })}
            </Link>
          )}
          {week.mayEdit === 'none' && <span className="text-muted">{t('hours.noRight')}</span>}
          {week.mayEdit === 'own' && <span className="text-muted">{t('hours.ownOnly')}</span>}
          <Legend />
        </div>
      )}
      {draftId && <DraftBar onOpen={() => setPanel({ kind: 'draft' })} onLeave={() => setAsked({ week: from })} />}
      <div className="flex min-h-0 flex-1">
        <ScrollRegion sideways className="min-w-0 flex-1 " aria-label={t('schedule.week')} aria-busy={!week}>
          {!week && <QueryFrame query={{ error: error ?? clinicError, isFetching, refetch }} bars={6} />}
          {week && !week.hours.length && (
            <div className="m-4 max-w-md">
              <Notice tone="warning">{t('hours.empty')}</Notice>
            </div>
          )}
          {week && (
            <WeekGrid
              week={week}
              lanes={lanes}
              only={only}
              brush={brush}
              mayEdit={mayEdit}
              onDay={setOnly}
              on={{
                pressed: ({ lane, day }, stretch) =>
                  setPanel(
                    stretch !== null && mayEdit(lanes[lane].resourceId) && lanes[lane].days[day].date >= week.today
                      ? { kind: 'edit', lane: keyAt(lane), day, stretch, moved: null }
                      : { kind: 'day', lane: keyAt(lane), day },
                  ),
                drawn: ({ lane, day }, span) => setPanel({ kind: 'new', lane: keyAt(lane), day, span }),
                movedTo: ({ lane, day }, stretch, moved) =>
                  setPanel({ kind: 'edit', lane: keyAt(lane), day, stretch, moved }),
                painted: (a, b, span) => brush && void paint.stretch(a, b, span, brush),
              }}
              onPaintDays={(a, b) => brush && void paint.hours(a, b, brush)}
            />
          )}
        </ScrollRegion>
        {week && clinic && panel && (
          <SchedulePanel
            week={week}
            clinic={clinic}
            now={now}
            panel={panel}
            brush={brush}
            mayEdit={mayEdit}
            onOpen={setPanel}
            onClose={() => setPanel(null)}
          />
        )}
      </div>
    </main>
  );
}
