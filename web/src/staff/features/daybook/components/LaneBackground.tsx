import type { TFunction } from 'i18next';
import type { Lane, SiteDay } from '@zaguan/contracts/daybook';
import { useTranslation } from 'react-i18next';
import { timeOf } from '../../../../shared/time/format.ts';
import { BAND_PX } from '../layout.ts';

interface Props {
  readonly site: SiteDay;
  readonly lane: Lane;
  /** From the left of the hours, in pixels. */
  readonly at: (instant: string) => number;
  readonly widthPx: number;
}

interface Run {
  readonly start: string;
  readonly end: string;
}

/** What lies behind the plates: the hours with what of them is shown online, and what is away, kept free or closed. */
export function LaneBackground({ site, lane, at, widthPx }: Props) {
  const { t } = useTranslation();
  const range = (run: Run) =>
    t('daybook.range', { from: timeOf(run.start, site.timeZone), until: timeOf(run.end, site.timeZone) });
  const blocked = [
    ...lane.away.map((run) => ({ ...run, what: t('daybook.away') })),
    ...lane.keptFree.map((run) => ({ ...run, what: t('daybook.keptFree') })),
    ...site.closed.map((run) => ({ ...run, what: t('daybook.closed') })),
  ];
  return (
    <>
      {blocked.map((run) => (
        <span
          key={`${run.what}${run.start}`}
          title={`${run.what}, ${range(run)}`}
          className="pointer-events-none absolute inset-y-0 bg-[repeating-linear-gradient(135deg,transparent_0_5px,var(--color-line)_5px_6px)]"
          style={{
            left: Math.max(0, at(run.start)),
            width: Math.max(0, Math.min(at(run.end), widthPx) - Math.max(0, at(run.start))),
          }}
        >
          <span className="sr-only">
            {run.what}, {range(run)}
          </span>
        </span>
      ))}
      {lane.hoursBands.map((band) => (
        <HoursBand key={band.start} band={band} at={at} range={range} />
      ))}
    </>
  );
}

function HoursBand({
  band,
  at,
  range,
}: {
  band: Lane['hoursBands'][number];
  at: Props['at'];
  range: (run: Run) => string;
}) {
  const { t } = useTranslation();
  const hours = t('daybook.hours', { range: range(band) });
  return (
    <span
      className="pointer-events-none absolute inset-y-0 bg-panel"
      style={{ left: at(band.start), width: at(band.end) - at(band.start) }}
    >
      <span className="absolute inset-x-0 top-0 bg-line-strong" style={{ height: BAND_PX - 2 }} title={hours} />
      {band.online.map((run) => (
        <span
          key={run.start}
          data-online={run.start}
          className="absolute top-0 bg-accent"
          style={{ height: BAND_PX - 2, left: at(run.start) - at(band.start), width: at(run.end) - at(run.start) }}
        />
      ))}
      <span className="absolute right-1 bottom-0 text-xs text-muted">{acceptsInWords(band, t)}</span>
      <span className="sr-only">
        {hours}.{' '}
        {band.online.length
          ? t('daybook.onlineStrip', { times: band.online.map(range).join(', ') })
          : t('daybook.deskStrip')}
        .
      </span>
    </span>
  );
}

/** What the hours accept, where it is not simply everything; empty where it is. */
export function acceptsInWords(band: Lane['hoursBands'][number], t: TFunction): string {
  return [
    band.kinds?.length === 1 && t(`daybook.accepts.${band.kinds[0]}`),
    band.invitedOnly && t('daybook.accepts.invited'),
    band.typeIds && t('daybook.accepts.types'),
  ]
    .filter(Boolean)
    .join(', ');
}
