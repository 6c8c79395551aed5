import type { DaybookDay, Lane } from '@zaguan/contracts/daybook';
import { useCallback, useEffect, useMemo, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useNavigate, useParams } from 'react-router';
import { dateAt, formatDate, shiftDate } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { SiteChoice } from '../../../shell/SiteChoice.tsx';
import { useAppSelector } from '../../../store.ts';
import { accountsApi } from '../../accounts/index.ts';
import { useMayBook } from '../../booking/index.ts';
import type { PlaceAndTime } from '../../openings/index.ts';
import type { TypeNames } from '../components/LaneView.tsx';
import { LaneChoice } from '../components/LaneChoice.tsx';
import { Lanes } from '../components/Lanes.tsx';
import { Legend } from '../components/Legend.tsx';
import { DaybookViewMenu } from '../components/DaybookViewMenu.tsx';
import { SidePanel } from '../components/SidePanel.tsx';
import { DragVisits } from '../drag/DragVisits.tsx';
import { DropStrip } from '../drag/DropStrip.tsx';
import { daybookApi } from '../daybook.api.ts';
import { NEW_BOOKING, type Panel, useDaybookAddress } from '../hooks/useDaybookAddress.ts';
import { useDaybookKeys } from '../hooks/useDaybookKeys.ts';
import { useNow } from '../hooks/useNow.ts';
import { freeTimeFrom } from '../freeTime.ts';
import { findLane, laneAround } from '../laneAround.ts';
import { useMayAnnotate } from '../notes/useMayAnnotate.ts';
import { type LaneSection, lanesOf, shownOf } from '../layout.ts';

export function DaybookPage() {
  const { t } = useTranslation();
  const navigate = useNavigate();
  const params = useParams();
  const { data: clinic, error: clinicError, fulfilledTimeStamp } = accountsApi.useClinicQuery({});
  const address = useDaybookAddress();
  const { panel, lanes, onlyWorking } = address;
  const keptSite = useAppSelector((state) => state.prefs.siteId);
  const { data: who } = accountsApi.useWhoAmIQuery({});
  const now = useNow(clinic?.now, fulfilledTimeStamp);
  const today = clinic ? dateAt(now, clinic.sites[0]?.timeZone ?? 'UTC') : '';
  const date = params.date ?? today;
  const query = daybookApi.useDayQuery({ date }, { skip: !date });
  const day = query.currentData;
  const types: TypeNames = useMemo(
    () => Object.fromEntries(clinic?.visitTypes.map((type) => [type.id, type]) ?? []),
    [clinic],
  );
  const go = (to: string) => void navigate(`${to === today ? '/daybook' : `/daybook/${to}`}${address.filters}`);
  const board = useRef<HTMLElement>(null);
  const goTo = useRef(go);
  goTo.current = go;
  const openDay = useCallback((to: string) => goTo.current(to), []);
  useEffect(() => {
    document.title = date ? `${formatDate(date)} · ${t('daybook.title')}` : t('daybook.title');
  }, [date, t]);
  const siteId = day
    ? siteToShow(day, { asked: address.siteId, panel, kept: keptSite, own: who?.me?.resourceId })
    : 'all';
  const sites = useMemo(
    () =>
      (day?.sites ?? [])
        .filter((site) => siteId === 'all' || site.id === siteId)
        .map((site) => ({ ...site, lanes: [...lanesOf(site, lanes, onlyWorking)] }))
        // A site where nobody works that day is left out, unless it was asked for.
        .filter((site) => site.lanes.length > 0 || siteId !== 'all'),
    [day, siteId, lanes, onlyWorking],
  );
  const shown = useMemo(() => day && shownOf(day.sites), [day]);
  const sections: readonly LaneSection[] = useMemo(() => {
    const linkOf = (lane: Lane) => `/daybook/week/${lane.resourceId}/${date}`;
    return sites.map((site) => ({ key: site.id, site, linkOf }));
  }, [sites, date]);
  const mayBook = useMayBook();
  const book = () => mayBook && address.open(NEW_BOOKING);
  useDaybookKeys({
    book: () => mayBook && address.open({ ...NEW_BOOKING, at: freeAtFocus(sections, now) }),
    back: () => go(shiftDate(date, -1)),
    on: () => go(shiftDate(date, 1)),
    today: () => go(today),
  });
  const askNow = () => {
    const asked = anyTime(sites, date === today ? now : null);
    if (asked) address.open({ kind: 'why-not', ...asked });
  };
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <header className="flex flex-wrap items-center gap-2 border-b border-line bg-surface px-3 py-2">
        <DayNav date={date} today={today} onGo={go} />
        <SiteChoice sites={day?.sites ?? []} value={siteId} onChoose={address.choose.site} />
        <LaneChoice address={address} />
        <span className="ml-auto flex gap-2">
          {mayBook && (
            <Button look="primary" data-open-book onClick={book} disabled={!day}>
              {t('book.open')}
            </Button>
          )}
          <Button onClick={askNow} disabled={!day}>
            {t('daybook.whyNot')}
          </Button>
          <DaybookViewMenu />
          <Legend />
        </span>
      </header>
      {day && <Counts date={day.date} sites={sites} onOpen={address.open} />}
      <div className="relative flex min-h-0 flex-1">
        <DragVisits board={board} sections={sections}>
          {date && <DropStrip date={date} onDay={openDay} />}
          <Lanes
            {...{ board, sections, shown, now, types, panel }}
            onOpen={address.open}
            query={{ ...query, error: query.error ?? clinicError }}
          />
        </DragVisits>
        {day && <SidePanel {...{ day, siteId, types, panel }} onOpen={address.open} onClose={address.close} />}
      </div>
    </main>
  );
}

/**
 * The site whose lanes are drawn, or "all": what the address asks for, else where the visit is that it names, else what
 * was chosen last at this desk, else where the reader's own hours are that day, else the first site the reader may see.
 */
function siteToShow(
  { sites }: DaybookDay,
  by: { asked: string | null; panel: Panel | null; kept: string | null; own: string | null | undefined },
): string {
  const known = (id: string | null | undefined) => (id === 'all' ? 'all' : sites.find((site) => site.id === id)?.id);
  const { panel } = by;
  const visited =
    panel?.kind === 'visit' &&
    sites.find((site) => site.lanes.some((lane) => lane.plates.some(({ id }) => id === panel.visitId)));
  const ownDay = sites.find((site) =>
    site.lanes.some((lane) => lane.resourceId === by.own && (lane.hoursBands.length > 0 || lane.plates.length > 0)),
  );
  const kept = known(by.kept);
  const usual = visited && kept !== 'all' ? visited.id : (kept ?? ownDay?.id ?? sites[0]?.id ?? 'all');
  return known(by.asked) ?? usual;
}

/** The free time behind the visit that has the keyboard's focus, or the first of its lane; `null` where no provider's has. */
function freeAtFocus(sections: readonly LaneSection[], now: string): PlaceAndTime | null {
  const focused = document.activeElement;
  const around = focused && laneAround(focused);
  const found = around && findLane(sections, around);
  if (found?.lane.kind !== 'provider') return null;
  const plateId = focused?.closest<HTMLElement>('[data-plate]')?.dataset.plate;
  const from = found.lane.plates.find(({ id }) => id === plateId)?.drawn.end ?? now;
  // The minute that runs has begun.
  const soonest = new Date(Date.parse(now) + 60_000).toISOString();
  const start = freeTimeFrom(found.lane, from > soonest ? from : soonest);
  return start === null ? null : { siteId: found.site.id, resourceId: found.lane.resourceId, start };
}

/** A start to ask about where none was pointed at: with the first provider there is, now or at nine hours into the day. */
function anyTime(sites: DaybookDay['sites'], now: string | null): PlaceAndTime | null {
  const site = sites.find((row) => row.lanes.some((lane) => lane.kind === 'provider'));
  const lane = site?.lanes.find((row) => row.kind === 'provider');
  if (!site || !lane) return null;
  const start = roundUp(now ?? new Date(Date.parse(site.dayStart) + 9 * 3_600_000).toISOString());
  return { siteId: site.id, resourceId: lane.resourceId, start };
}

function roundUp(instant: string): string {
  return new Date(Math.ceil(Date.parse(instant) / 300_000) * 300_000).toISOString();
}

/** Which day, and the days around it. */
function DayNav({
  date,
  today,
  onGo,
}: {
  /** Empty while it is not known. */
  date: string;
  today: string;
  onGo: (date: string) => void;
}) {
  const { t } = useTranslation();
  return (
    <>
      <Button aria-label={t('daybook.previous')} onClick={() => onGo(shiftDate(date, -1))} disabled={!date}>
        ‹
      </Button>
      <h1 className="text-xl font-bold" aria-live="polite">
        {date ? formatDate(date) : t('loading')}
      </h1>
      <Button aria-label={t('daybook.next')} onClick={() => onGo(shiftDate(date, 1))} disabled={!date}>
        ›
      </Button>
      <Button onClick={() => onGo(today)} disabled={date === today}>
        {t('daybook.today')}
      </Button>
    </>
  );
}

/** What is drawn in numbers that carry their meaning. */
function Counts({ date, sites, onOpen }: { date: string; sites: DaybookDay['sites']; onOpen: (panel: Panel) => void }) {
  const { t } = useTranslation();
  const mayAnnotate = useMayAnnotate();
  const mayBook = useMayBook();
  const plates = new Map(
    sites.flatMap((site) => site.lanes.flatMap((lane) => lane.plates.map((plate) => [plate.id, plate] as const))),
  );
  const visits = [...plates.values()].filter((plate) => plate.kind === 'visit');
  const held = plates.size - visits.length;
  const unknown = visits.filter((plate) => plate.identity === 'unknown').length;
  return (
    <p className="flex gap-5 border-b border-line bg-surface-deep px-4 py-1.5">
      <span className="font-bold" data-testid="visit-count">
        {t('daybook.visits', { count: visits.length })}
      </span>
      {unknown > 0 && <span className="font-bold text-warning">{t('daybook.unknown', { count: unknown })}</span>}
      {held > 0 && <span>{t('daybook.held', { count: held })}</span>}
      <span className="ml-auto flex gap-4 font-semibold text-accent">
        <Link
          to={`/daybook/month/${date.slice(0, 7)}${sites.length === 1 ? `?site=${sites[0].id}` : ''}`}
          className="underline"
        >
          {t('month.title')}
        </Link>
        {mayBook && (
          <>
            <Link to="/requests" className="underline">
              {t('bookingRequests.title')}
            </Link>
            <Link to="/bench" className="underline">
              {t('bench.title')}
            </Link>
          </>
        )}
        {sites.length > 0 && mayAnnotate && (
          <button
            type="button"
            data-add-note
            className="font-semibold underline"
            onClick={() => onOpen({ kind: 'note', noteId: null, date, siteId: sites[0].id, resourceId: null })}
          >
            {t('note.addToDay')}
          </button>
        )}
        {sites.length > 0 && (
          <Link to={`/print/day/${date}?site=${sites[0].id}`} target="_blank" className="underline">
            {t('daySheet.open')}
          </Link>
        )}
        <Link to={`/find?from=${date}`} className="underline">
          {t('find.title')}
        </Link>
      </span>
    </p>
  );
}
