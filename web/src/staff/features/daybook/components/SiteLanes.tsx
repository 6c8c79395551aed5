import type { Lane, SiteDay } from '@zaguan/contracts/daybook';
import { memo, useDeferredValue, useEffect, useMemo, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { dateAt, timeOf, zoneShort } from '../../../../shared/time/format.ts';
import { useLitStarts, usePickTime } from '../../booking/index.ts';
import type { Panel } from '../hooks/useDaybookAddress.ts';
import { minuteOf, type Shown } from '../layout.ts';
import { SiteNotes } from '../notes/SiteNotes.tsx';
import { LaneView } from './LaneView.tsx';
import type { TypeNames } from './useLane.ts';

/** The now-mark would cover an hour written nearer than this. */
const NOW_COVERS_PX = 42;
/** About the height of a lane. */
const UNDRAWN_PX = 80;

/** What a site's lanes are drawn from, whether as rows or as columns. */
export interface SiteProps {
  readonly site: SiteDay;
  /** What stands above it; the site's name where nothing is said. */
  readonly title: string | undefined;
  readonly titleLink: string | undefined;
  readonly shown: Shown;
  readonly pxPerMin: number;
  readonly now: string;
  readonly types: TypeNames;
  readonly alike: ReadonlySet<string>;
  readonly widthOf: (words: string) => number;
  /** The visit that is open at the right. */
  readonly chosen: string | null;
  readonly onOpen: (panel: Panel) => void;
  readonly linkOf: (lane: Lane) => string;
}

interface Props extends SiteProps {
  /** How many lanes are drawn before the others, which follow a moment later. */
  readonly first: number;
}

/** One site on its own clock: its ruler, its lanes, its now-line. */
export const SiteLanes = memo(function SiteLanes(props: Props) {
  const { site, title, titleLink, first, shown, pxPerMin, now, types, alike, widthOf, chosen, onOpen, linkOf } = props;
  const { t } = useTranslation();
  const pick = usePickTime();
  const litBy = useLitBy(site);
  const drawn = useDeferredValue(site.lanes.length, Math.min(Math.max(0, first), site.lanes.length));
  const box = useRef<HTMLElement>(null);
  useEffect(() => {
    // It may stand in a lane that is drawn only now.
    if (!chosen || !drawn) return;
    const plate = box.current?.querySelector(`[data-plate="${CSS.escape(chosen)}"]`);
    plate?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [chosen, drawn]);
  const nowMin = minuteOf(site, now);
  const nowShown = nowMin >= shown.fromMin && nowMin < shown.toMin;
  const hours = Array.from({ length: (shown.toMin - shown.fromMin) / 60 }, (_, i) => shown.fromMin + i * 60);
  return (
    <section
      ref={box}
      aria-label={title ?? site.name}
      aria-busy={drawn < site.lanes.length}
      className="relative w-max min-w-full"
      data-site={site.id}
      data-day-start={site.dayStart}
    >
      <div className="sticky top-0 z-30 flex h-[24px] bg-highlight">
        <h2 className="sticky left-0 z-10 flex w-[130px] shrink-0 items-center justify-between bg-highlight px-2 text-sm font-bold">
          <SiteTitle title={title ?? site.name} link={titleLink} />{' '}
          <span className="font-normal text-muted">{zoneShort(site.timeZone)}</span>
        </h2>
        <div className="relative" style={{ width: (shown.toMin - shown.fromMin) * pxPerMin }}>
          {hours.map((minute, i) =>
            nowShown && Math.abs(minute - nowMin) * pxPerMin < NOW_COVERS_PX ? null : (
              <span
                key={minute}
                className={`absolute top-0.5 text-sm whitespace-nowrap text-muted ${i === 0 ? '' : '-translate-x-1/2'}`}
                style={{ left: (minute - shown.fromMin) * pxPerMin + (i === 0 ? 3 : 0) }}
              >
                {formatHour(new Date(Date.parse(site.dayStart) + minute * 60_000).toISOString(), site.timeZone)}
              </span>
            ),
          )}
          {nowShown && (
            <span
              className="absolute top-0.5 -translate-x-1/2 rounded-sm bg-primary px-1 text-sm font-bold text-on-fill"
              style={{ left: (nowMin - shown.fromMin) * pxPerMin }}
            >
              <span className="sr-only">{t('daybook.now')} </span>
              {timeOf(now, site.timeZone).replace(/ [ap]m/, '')}
            </span>
          )}
        </div>
      </div>
      <SiteNotes notes={site.notes} onOpen={({ id }) => onOpen({ kind: 'note', noteId: id })} />
      <div className="relative">
        {hours.slice(1).map((minute) => (
          <span
            key={minute}
            aria-hidden="true"
            className="pointer-events-none absolute inset-y-0 w-px bg-line"
            style={{ left: 130 + (minute - shown.fromMin) * pxPerMin }}
          />
        ))}
        {site.lanes.slice(0, drawn).map((lane) => (
          <LaneView
            key={lane.id}
            site={site}
            lane={lane}
            shown={shown}
            pxPerMin={pxPerMin}
            now={now}
            nowAt={nowShown ? (nowMin - shown.fromMin) * pxPerMin : null}
            types={types}
            alike={alike}
            widthOf={widthOf}
            chosen={chosen && lane.plates.some(({ id }) => id === chosen) ? chosen : null}
            onOpen={onOpen}
            lit={(lane.kind === 'provider' && litBy.get(lane.resourceId)) || NOT_LIT}
            onPick={pick}
            link={linkOf(lane)}
          />
        ))}
        {/* About as high as they will be: what is scrolled to stays. */}
        {drawn < site.lanes.length && <div style={{ height: (site.lanes.length - drawn) * UNDRAWN_PX }} />}
      </div>
    </section>
  );
});

/** What stands above a site's lanes: its name, or the date where all are one site's. */
export function SiteTitle({ title, link }: { title: string; link: string | undefined }) {
  return link ? (
    <Link to={link} className="flex h-[24px] items-center truncate hover:underline">
      {title}
    </Link>
  ) : (
    <span className="truncate">{title}</span>
  );
}

export const NOT_LIT: readonly never[] = [];

/** Starts at which the visit that is being booked could be, by who sees them. */
export function useLitBy(site: SiteDay): ReadonlyMap<string | null, readonly string[]> {
  const times = useLitStarts(site.id, dateAt(site.dayStart, site.timeZone));
  return useMemo(() => {
    const by = new Map<string | null, string[]>();
    for (const { providerId, start } of times) by.set(providerId, [...(by.get(providerId) ?? []), start]);
    return by;
  }, [times]);
}

export function formatHour(instant: string, timeZone: string): string {
  const words = timeOf(instant, timeZone).replace(':00', '');
  return words === '12 pm' ? 'noon' : words;
}
