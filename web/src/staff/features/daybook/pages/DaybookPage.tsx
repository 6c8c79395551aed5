import type { DaybookDay } from '@zaguan/contracts/daybook';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useNavigate, useParams } from 'react-router';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { dateAt, dateWords } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { useAppDispatch, useAppSelector } from '../../../store.ts';
import { accountsApi } from '../../accounts/index.ts';
import { WhyNotPanel } from '../../openings/index.ts';
import type { TypeNames } from '../components/LaneView.tsx';
import { LaneChoice } from '../components/LaneChoice.tsx';
import { Legend } from '../components/Legend.tsx';
import { SiteLanes } from '../components/SiteLanes.tsx';
import { VisitPanel } from '../components/VisitPanel.tsx';
import { daybookApi } from '../daybook.api.ts';
import { desk } from '../desk.slice.ts';
import { useNow } from '../hooks/useNow.ts';
import { lanesOf, shownOf } from '../layout.ts';

const LABEL_PX = 131;
const LEAST_PX_PER_MIN = 1.25;

function shift(date: string, days: number): string {
  return new Date(Date.parse(`${date}T12:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);
}

export function DaybookPage() {
  const { t } = useTranslation();
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const params = useParams();
  const { data: clinic, error: clinicError, fulfilledTimeStamp } = accountsApi.useClinicQuery({});
  const { data: who } = accountsApi.useWhoAmIQuery({});
  const { panel, siteId, lanes, onlyWorking } = useAppSelector((state) => state.desk);
  const now = useNow(clinic?.now, fulfilledTimeStamp);
  const today = clinic ? dateAt(now, clinic.sites[0]?.timeZone ?? 'UTC') : '';
  const date = params.date ?? today;
  const query = daybookApi.useDayQuery({ date }, { skip: !date });
  const day = query.currentData;
  const types: TypeNames = useMemo(
    () => Object.fromEntries(clinic?.visitTypes.map((type) => [type.id, type]) ?? []),
    [clinic],
  );
  const go = (to: string) => {
    dispatch(desk.actions.closed());
    void navigate(to === today ? '/daybook' : `/daybook/${to}`);
  };
  useEffect(() => {
    document.title = date ? `${dateWords(date)} · ${t('daybook.title')}` : t('daybook.title');
  }, [date, t]);
  const refused = apiError(query.error ?? clinicError);
  const sites = useMemo(
    () =>
      (day?.sites ?? [])
        .filter((site) => siteId === 'all' || site.id === siteId)
        .map((site) => ({ ...site, lanes: [...lanesOf(site, lanes, onlyWorking)] }))
        // A site where nobody works that day is left out, unless it was asked for.
        .filter((site) => site.lanes.length > 0 || siteId !== 'all'),
    [day, siteId, lanes, onlyWorking],
  );
  const askNow = () => {
    const site = sites.find((row) => row.lanes.some((lane) => lane.kind === 'provider'));
    const lane = site?.lanes.find((row) => row.kind === 'provider');
    if (site && lane)
      dispatch(
        desk.actions.opened({
          kind: 'why-not',
          siteId: site.id,
          resourceId: lane.resourceId,
          start: roundUp(date === today ? now : new Date(Date.parse(site.dayStart) + 9 * 3_600_000).toISOString()),
        }),
      );
  };
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <header className="flex flex-wrap items-center gap-2 border-b border-line bg-lime px-3 py-2">
        <Button aria-label={t('daybook.previous')} onClick={() => go(shift(date, -1))} disabled={!date}>
          ‹
        </Button>
        <h1 className="text-[1.3rem] font-bold" aria-live="polite">
          {date ? dateWords(date) : t('loading')}
        </h1>
        <Button aria-label={t('daybook.next')} onClick={() => go(shift(date, 1))} disabled={!date}>
          ›
        </Button>
        <Button onClick={() => go(today)} disabled={date === today}>
          {t('daybook.today')}
        </Button>
        <label className="ml-2 flex items-center gap-2">
          <span className="sr-only">{t('daybook.site')}</span>
          <select
            className="rounded-md border border-line-strong bg-white px-2 py-1.5"
            value={siteId}
            onChange={(event) => dispatch(desk.actions.choseSite(event.target.value))}
          >
            <option value="all">{t('daybook.allSites')}</option>
            {day?.sites.map((site) => (
              <option key={site.id} value={site.id}>
                {site.name}
              </option>
            ))}
          </select>
        </label>
        <LaneChoice />
        <span className="ml-auto flex gap-2">
          <Button onClick={askNow} disabled={!day}>
            {t('daybook.whyNot')}
          </Button>
          <Legend />
        </span>
      </header>
      {day && <Counts day={day} />}
      <div className="flex min-h-0 flex-1">
        <Lanes
          sites={sites}
          day={day}
          now={now}
          types={types}
          failed={refused && !query.isFetching ? refused : null}
          onRetry={() => void query.refetch()}
        />
        {panel && day && who?.me && (
          <aside
            aria-label={t(panel.kind === 'visit' ? 'daybook.title' : 'whyNot.title')}
            className="flex w-[310px] shrink-0 flex-col overflow-y-auto border-l border-line bg-lime px-4 py-3"
            onKeyDown={(event) => event.key === 'Escape' && dispatch(desk.actions.closed())}
          >
            <Button look="plain" className="-mt-1 -mr-2 self-end" onClick={() => dispatch(desk.actions.closed())}>
              {t('close')}
            </Button>
            {panel.kind === 'visit' ? (
              <VisitPanel
                key={panel.visitId}
                day={day}
                visitId={panel.visitId}
                types={types}
                role={who.me.role}
                onClose={() => dispatch(desk.actions.closed())}
              />
            ) : (
              <WhyNotPanel
                day={day}
                asked={panel}
                onChange={(asked) => dispatch(desk.actions.opened({ kind: 'why-not', ...asked }))}
              />
            )}
          </aside>
        )}
      </div>
    </main>
  );
}

function roundUp(instant: string): string {
  return new Date(Math.ceil(Date.parse(instant) / 300_000) * 300_000).toISOString();
}

/** The day in numbers that carry their meaning. */
function Counts({ day }: { day: DaybookDay }) {
  const { t } = useTranslation();
  const plates = new Map(
    day.sites.flatMap((site) => site.lanes.flatMap((lane) => lane.plates.map((plate) => [plate.id, plate] as const))),
  );
  const visits = [...plates.values()].filter((plate) => plate.kind === 'visit');
  const held = plates.size - visits.length;
  const unknown = visits.filter((plate) => plate.identity === 'unknown').length;
  return (
    <p className="flex gap-5 border-b border-line bg-lime-deep px-4 py-1.5">
      <span className="font-bold" data-testid="visit-count">
        {t('daybook.visits', { count: visits.length })}
      </span>
      {unknown > 0 && <span className="font-bold text-ochre">{t('daybook.unknown', { count: unknown })}</span>}
      {held > 0 && <span>{t('daybook.held', { count: held })}</span>}
    </p>
  );
}

interface LanesProps {
  readonly sites: DaybookDay['sites'];
  readonly day: DaybookDay | undefined;
  readonly now: string;
  readonly types: TypeNames;
  readonly failed: { tag: string; requestId: string } | null;
  readonly onRetry: () => void;
}

function Lanes({ sites, day, now, types, failed, onRetry }: LanesProps) {
  const { t } = useTranslation();
  const box = useRef<HTMLElement>(null);
  const [width, setWidth] = useState(1000);
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const watch = new ResizeObserver(([entry]) => setWidth(entry.contentRect.width));
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  const shown = day && shownOf(day);
  const pxPerMin = shown ? Math.max(LEAST_PX_PER_MIN, (width - LABEL_PX - 2) / (shown.toMin - shown.fromMin)) : 1;
  const empty = day && sites.every((site) => site.lanes.every((lane) => !lane.strips.length && !lane.plates.length));
  return (
    <section
      ref={box}
      className="min-w-0 flex-1 overflow-auto"
      aria-busy={!day}
      aria-label={t('daybook.title')}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reachable by keyboard (WCAG 2.1.1)
      tabIndex={0}
    >
      {failed && !day && (
        <div className="p-4">
          <Notice tone="brick" live="assertive">
            {t(`error.${failed.tag}`, { requestId: failed.requestId })}
          </Notice>
          <Button className="mt-3" onClick={onRetry}>
            {t('tryAgain')}
          </Button>
        </div>
      )}
      {!day && !failed && <Skeleton />}
      {empty && (
        <div className="m-4 max-w-md">
          <Notice tone="ochre">
            <p className="font-bold">{t('daybook.emptyTitle')}</p>
            <p>{t('daybook.emptyHint')}</p>
          </Notice>
        </div>
      )}
      {shown &&
        sites.map((site) => (
          <SiteLanes key={site.id} site={site} shown={shown} pxPerMin={pxPerMin} now={now} types={types} />
        ))}
    </section>
  );
}

function Skeleton() {
  const { t } = useTranslation();
  return (
    <div role="status" aria-label={t('loading')}>
      {[0, 1].map((site) => (
        <div key={site}>
          <div className="h-[22px] bg-band" />
          {[0, 1, 2].map((lane) => (
            <div key={lane} className="flex h-[50px] items-center gap-3 border-b border-line px-2">
              <span className="h-4 w-24 animate-pulse rounded-sm bg-band" />
              <span className="h-8 flex-1 animate-pulse rounded-sm bg-lime-deep" />
            </div>
          ))}
        </div>
      ))}
    </div>
  );
}
