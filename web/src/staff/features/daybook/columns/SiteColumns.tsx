import { memo, useEffect, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { timeOf, zoneShort } from '../../../../shared/time/format.ts';
import { usePickTime } from '../../booking/index.ts';
import { columnHeadPx } from '../components/LaneHead.tsx';
import { formatHour, NOT_LIT, type SiteProps, SiteTitle, useLitBy } from '../components/SiteLanes.tsx';
import { minuteOf } from '../layout.ts';
import { SiteNotes } from '../notes/SiteNotes.tsx';
import { useView } from '../views/viewContext.ts';
import { ColumnView } from './ColumnView.tsx';

/** The now-mark would cover an hour written nearer than this. */
const NOW_COVERS_PX = 16;

/** One site on its own clock, time down: its ruler at the left, a column for each lane, its now-line. */
export const SiteColumns = memo(function SiteColumns(props: SiteProps) {
  const { site, title, titleLink, shown, pxPerMin, now, types, alike, widthOf, chosen, onOpen, linkOf } = props;
  const { t } = useTranslation();
  const { totals } = useView();
  const pick = usePickTime();
  const litBy = useLitBy(site);
  const box = useRef<HTMLElement>(null);
  useEffect(() => {
    if (!chosen) return;
    const plate = box.current?.querySelector(`[data-plate="${CSS.escape(chosen)}"]`);
    plate?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [chosen]);
  const nowMin = minuteOf(site, now);
  const nowShown = nowMin >= shown.fromMin && nowMin < shown.toMin;
  const hours = Array.from({ length: (shown.toMin - shown.fromMin) / 60 }, (_, i) => shown.fromMin + i * 60);
  const headPx = columnHeadPx(site, totals.length);
  return (
    <section
      ref={box}
      aria-label={title ?? site.name}
      className="relative w-max shrink-0"
      data-site={site.id}
      data-day-start={site.dayStart}
    >
      <div className="sticky top-0 z-30 flex h-[24px] bg-highlight">
        <h2 className="sticky left-0 flex gap-2 px-2 text-sm font-bold whitespace-nowrap">
          <SiteTitle title={title ?? site.name} link={titleLink} />{' '}
          <span className="font-normal text-muted">{zoneShort(site.timeZone)}</span>
        </h2>
      </div>
      <SiteNotes notes={site.notes} onOpen={({ id }) => onOpen({ kind: 'note', noteId: id })} />
      <div className="relative flex">
        <div className="sticky left-0 z-[25] w-[52px] shrink-0 border-r border-line bg-surface">
          <div className="sticky top-[24px] z-10 border-b border-line bg-surface" style={{ height: headPx }} />
          <div className="relative" style={{ height: (shown.toMin - shown.fromMin) * pxPerMin }}>
            {hours.map((minute, i) =>
              nowShown && Math.abs(minute - nowMin) * pxPerMin < NOW_COVERS_PX ? null : (
                <span
                  key={minute}
                  className={`absolute right-1 text-sm leading-none whitespace-nowrap text-muted ${i === 0 ? 'mt-1' : '-translate-y-1/2'}`}
                  style={{ top: (minute - shown.fromMin) * pxPerMin }}
                >
                  {formatHour(new Date(Date.parse(site.dayStart) + minute * 60_000).toISOString(), site.timeZone)}
                </span>
              ),
            )}
            {nowShown && (
              <span
                className="absolute right-0.5 -translate-y-1/2 rounded-sm bg-primary px-1 text-sm leading-tight font-bold text-on-fill"
                style={{ top: (nowMin - shown.fromMin) * pxPerMin }}
              >
                <span className="sr-only">{t('daybook.now')} </span>
                {timeOf(now, site.timeZone).replace(/ [ap]m/, '')}
              </span>
            )}
          </div>
        </div>
        {site.lanes.map((lane) => (
          <ColumnView
            key={lane.id}
            {...{ site, lane, shown, pxPerMin, now, types, alike, widthOf, onOpen, headPx }}
            nowAt={nowShown ? (nowMin - shown.fromMin) * pxPerMin : null}
            chosen={chosen && lane.plates.some(({ id }) => id === chosen) ? chosen : null}
            lit={(lane.kind === 'provider' && litBy.get(lane.resourceId)) || NOT_LIT}
            onPick={pick}
            link={linkOf(lane)}
          />
        ))}
      </div>
    </section>
  );
});
