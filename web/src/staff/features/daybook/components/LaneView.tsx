import type { Lane, SiteDay } from '@zaguan/contracts/daybook';
import { memo } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { timeOf } from '../../../../shared/time/format.ts';
import { useAppDispatch, useAppSelector } from '../../../store.ts';
import { desk } from '../desk.slice.ts';
import { minuteOf, placePlates, ROW_PX, type Shown, BAND_PX } from '../layout.ts';
import { accountsApi } from '../../accounts/index.ts';
import { colorOf } from './colors.ts';
import { PlateView } from './PlateView.tsx';

export interface TypeNames {
  readonly [id: string]: { readonly name: string; readonly color: string } | undefined;
}

interface Props {
  readonly site: SiteDay;
  readonly lane: Lane;
  readonly shown: Shown;
  readonly pxPerMin: number;
  readonly now: string;
  /** Where the now-line crosses, from the left of the hours; `null` where it is not shown. */
  readonly nowLeft: number | null;
  readonly types: TypeNames;
  /** Where the lane's name leads. */
  readonly link: string;
}

/** Lines closer than this would be a gray field. */
const MIN_UNIT_PX = 14;

const FIVE_MIN_MS = 300_000;

/** One row of the Daybook: the strip of hours above, the plates below. A click on free time asks *Why not?*. */
export const LaneView = memo(function LaneView({ site, lane, shown, pxPerMin, now, nowLeft, types, link }: Props) {
  const { t } = useTranslation();
  const dispatch = useAppDispatch();
  // Only the lane with the chosen plate is drawn again when another one is chosen.
  const chosen = useAppSelector(({ desk: { panel } }) =>
    panel?.kind === 'visit' && lane.plates.some(({ id }) => id === panel.visitId) ? panel.visitId : null,
  );
  const { data: clinic } = accountsApi.useClinicQuery({});
  const rowPx = ROW_PX[clinic?.density ?? 'roomy'];
  const unitPx = (clinic?.baseUnitMin ?? 5) * pxPerMin;
  const color = clinic?.people.find(({ id }) => id === lane.resourceId)?.color;
  const { placed, rows } = placePlates(site, lane, shown, pxPerMin);
  const height = rows * rowPx + BAND_PX + (lane.hoursBands.some((hoursBand) => formatHoursBand(hoursBand, t)) ? 15 : 5);
  const at = (instant: string) => (minuteOf(site, instant) - shown.fromMin) * pxPerMin;
  const times = (run: { start: string; end: string }) =>
    `${timeOf(run.start, site.timeZone)} to ${timeOf(run.end, site.timeZone)}`;
  const full =
    lane.booked === null ? t('daybook.noHours') : t('daybook.full', { share: Math.round(lane.booked * 100) });
  const ask = (x: number) => {
    const instant = Date.parse(site.dayStart) + (shown.fromMin + x / pxPerMin) * 60_000;
    dispatch(
      desk.actions.opened({
        kind: 'why-not',
        siteId: site.id,
        resourceId: lane.resourceId,
        start: new Date(Math.floor(instant / FIVE_MIN_MS) * FIVE_MIN_MS).toISOString(),
      }),
    );
  };
  return (
    <section
      aria-label={t('daybook.laneLabel', { name: lane.name, site: site.name })}
      data-lane={lane.id}
      // Each lane is drawn, and searched for what lies under the pointer, by itself; out of sight it is neither.
      className="relative flex [content-visibility:auto]"
      style={{ containIntrinsicHeight: `auto ${height}px` }}
    >
      <div className="sticky left-0 z-20 w-[130px] shrink-0 border-r border-b border-line bg-surface px-2 py-1 leading-tight">
        {color && <span aria-hidden="true" className={`absolute inset-y-0 left-0 w-[4px] ${colorOf(color).edge}`} />}
        {/* A number at the end tells rooms apart: it must not be cut off. */}
        <p className="line-clamp-2 font-bold">
          <Link to={link} className="hover:underline">
            {lane.name}
          </Link>
        </p>
        <p className="truncate text-[0.8rem] text-muted">
          {[lane.detail, lane.kind === 'provider' || lane.kind === 'staff' ? full : ''].filter(Boolean).join(' · ')}
        </p>
      </div>
      {/* Pointer shortcut only: the same question is asked by keyboard from the strip's "Why not?" button. */}
      <div
        // Lines of the base unit where there is room between them.
        className="relative border-b border-line"
        style={{
          ...(unitPx >= MIN_UNIT_PX && {
            backgroundImage: `repeating-linear-gradient(to right, transparent 0 ${unitPx - 1}px, var(--color-highlight) ${unitPx - 1}px ${unitPx}px)`,
          }),
          width: (shown.toMin - shown.fromMin) * pxPerMin,
          height,
        }}
        onPointerUp={(event) =>
          event.target === event.currentTarget && lane.kind === 'provider' && ask(event.nativeEvent.offsetX)
        }
      >
        {[
          ...lane.away.map((run) => ({ ...run, what: t('daybook.away') })),
          ...lane.keptFree.map((run) => ({ ...run, what: t('daybook.keptFree') })),
          ...site.closed.map((run) => ({ ...run, what: t('daybook.closed') })),
        ].map((run) => (
          <span
            key={`${run.what}${run.start}`}
            title={`${run.what}, ${times(run)}`}
            className="pointer-events-none absolute inset-y-0 bg-[repeating-linear-gradient(135deg,transparent_0_5px,var(--color-line)_5px_6px)]"
            style={{
              left: Math.max(0, at(run.start)),
              width: Math.max(
                0,
                Math.min(at(run.end), (shown.toMin - shown.fromMin) * pxPerMin) - Math.max(0, at(run.start)),
              ),
            }}
          >
            <span className="sr-only">
              {run.what}, {times(run)}
            </span>
          </span>
        ))}
        {lane.hoursBands.map((hoursBand) => (
          <span
            key={hoursBand.start}
            className="pointer-events-none absolute inset-y-0 bg-panel"
            style={{ left: at(hoursBand.start), width: at(hoursBand.end) - at(hoursBand.start) }}
          >
            <span
              className="absolute inset-x-0 top-0 bg-line-strong"
              style={{ height: BAND_PX - 2 }}
              title={t('daybook.hours', {
                from: timeOf(hoursBand.start, site.timeZone),
                until: timeOf(hoursBand.end, site.timeZone),
              })}
            />
            {hoursBand.online.map((run) => (
              <span
                key={run.start}
                data-online={run.start}
                className="absolute top-0 bg-accent"
                style={{
                  height: BAND_PX - 2,
                  left: at(run.start) - at(hoursBand.start),
                  width: at(run.end) - at(run.start),
                }}
              />
            ))}
            <span className="absolute right-1 bottom-0 text-[0.72rem] text-muted">{formatHoursBand(hoursBand, t)}</span>
            <span className="sr-only">
              {t('daybook.hours', {
                from: timeOf(hoursBand.start, site.timeZone),
                until: timeOf(hoursBand.end, site.timeZone),
              })}
              .{' '}
              {hoursBand.online.length
                ? t('daybook.onlineStrip', { times: hoursBand.online.map(times).join(', ') })
                : t('daybook.deskStrip')}
              .
            </span>
          </span>
        ))}
        {nowLeft !== null && (
          <span
            aria-hidden="true"
            data-now-line
            className="pointer-events-none absolute inset-y-0 z-10 w-[2px] bg-primary"
            style={{ left: nowLeft - 1 }}
          />
        )}
        <div className="pointer-events-none absolute inset-x-0" style={{ top: BAND_PX }}>
          {placed.map((row) => (
            <div key={row.plate.id} className="pointer-events-auto relative z-[11]">
              <PlateView
                placed={row}
                rowPx={rowPx}
                site={site}
                typeName={types[row.plate.visitTypeId]?.name ?? ''}
                color={types[row.plate.visitTypeId]?.color}
                chosen={chosen === row.plate.id}
                past={row.plate.drawn.end <= now}
                onOpen={() => dispatch(desk.actions.opened({ kind: 'visit', visitId: row.plate.id, laneId: lane.id }))}
              />
            </div>
          ))}
        </div>
      </div>
    </section>
  );
});

/** What the hours accept, where it is not simply everything. */
function formatHoursBand(hoursBand: Lane['hoursBands'][number], t: (key: string) => string): string {
  return [
    hoursBand.kinds?.length === 1 && t(`daybook.accepts.${hoursBand.kinds[0]}`),
    hoursBand.invitedOnly && t('daybook.accepts.invited'),
    hoursBand.typeIds && t('daybook.accepts.types'),
  ]
    .filter(Boolean)
    .join(', ');
}
