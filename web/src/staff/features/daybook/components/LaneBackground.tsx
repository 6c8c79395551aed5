import type { TFunction } from 'i18next';
import type { Axis, Lane, SiteDay } from '@zaguan/contracts/daybook';
import { useTranslation } from 'react-i18next';
import { timeOf } from '../../../../shared/time/format.ts';
import { along, WHOLE_LANE } from '../axis.ts';
import { BAND_PX } from '../layout.ts';

interface Props {
  readonly site: SiteDay;
  readonly lane: Lane;
  readonly axis: Axis;
  /** From the beginning of the hours, in pixels. */
  readonly at: (instant: string) => number;
  /** Of all hours that are drawn. */
  readonly lengthPx: number;
}

interface Run {
  readonly start: string;
  readonly end: string;
}

/** What lies behind the plates: the hours with what of them is shown online, and what is away, kept free or closed. */
export function LaneBackground({ site, lane, axis, at, lengthPx }: Props) {
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
          className={`pointer-events-none absolute bg-[repeating-linear-gradient(135deg,transparent_0_5px,var(--color-line)_5px_6px)] ${WHOLE_LANE[axis]}`}
          style={along(
            axis,
            Math.max(0, at(run.start)),
            Math.max(0, Math.min(at(run.end), lengthPx) - Math.max(0, at(run.start))),
          )}
        >
          <span className="sr-only">
            {run.what}, {range(run)}
          </span>
        </span>
      ))}
      {lane.hoursBands.map((band) => (
        <HoursBand key={band.start} band={band} axis={axis} at={at} lengthPx={lengthPx} range={range} />
      ))}
    </>
  );
}

function HoursBand({
  band,
  axis,
  at,
  lengthPx,
  range,
}: Pick<Props, 'axis' | 'at' | 'lengthPx'> & {
  band: Lane['hoursBands'][number];
  range: (run: Run) => string;
}) {
  const { t } = useTranslation();
  const hours = t('daybook.hours', { range: range(band) });
  // Where a Lens shows certain hours only, others may begin or end outside of them.
  const within = (px: number) => Math.min(lengthPx, Math.max(0, px));
  const from = within(at(band.start));
  const strip = axis === 'across' ? { height: BAND_PX - 2 } : { width: BAND_PX - 2 };
  const edge = axis === 'across' ? 'top-0' : 'left-0';
  if (within(at(band.end)) <= from) return null;
  return (
    <span
      className={`pointer-events-none absolute bg-panel ${WHOLE_LANE[axis]}`}
      style={along(axis, from, within(at(band.end)) - from)}
    >
      <span
        className={`absolute bg-line-strong ${edge} ${axis === 'across' ? 'inset-x-0' : 'inset-y-0'}`}
        style={strip}
        title={hours}
      />
      {band.online.map((run) => (
        <span
          key={run.start}
          data-online={run.start}
          className={`absolute bg-accent ${edge}`}
          style={{
            ...strip,
            ...along(axis, within(at(run.start)) - from, within(at(run.end)) - within(at(run.start))),
          }}
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
