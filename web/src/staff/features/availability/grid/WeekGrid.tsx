// biome-ignore-all lint/a11y/useSemanticElements: lanes are not as tall or wide as a table would make them
import type { ScheduleWeek } from '@zaguan/contracts/availability';
import { type KeyboardEvent, useMemo, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { shortDate, wallTime, zoneShort } from '../../../../shared/time/format.ts';
import type { Brush } from '../panel.ts';
import { brushCursor } from './brushCursor.ts';
import { DayCell } from './DayCell.tsx';
import { type Lane, laneKey, shownOf } from './geometry.ts';
import { type CellAt, type Dropped, type Ghost, useGridDrag } from './useGridDrag.ts';

interface Props {
  readonly week: ScheduleWeek;
  readonly lanes: readonly Lane[];
  /** The one day that is drawn wide, or `null` for all seven. */
  readonly only: number | null;
  readonly brush: Brush | null;
  readonly mayEdit: (resourceId: string) => boolean;
  readonly onDay: (day: number | null) => void;
  readonly on: Dropped;
  /** Enter on one or several days in brush mode. */
  readonly onPaintDays: (from: CellAt, to: CellAt) => void;
}

/** The week of everyone and everything, by site: each person, room or device is a lane, each day its own axis of hours. */
export function WeekGrid({ week, lanes, only, brush, mayEdit, onDay, on, onPaintDays }: Props) {
  const { t } = useTranslation();
  const shown = useMemo(() => shownOf(lanes), [lanes]);
  const days = only === null ? [0, 1, 2, 3, 4, 5, 6] : [only];
  const { ghost, handlers } = useGridDrag(shown, brush, (lane) => mayEdit(lanes[lane].resourceId), on);
  const keys = useCellKeys(lanes.length, days, brush !== null, on, onPaintDays);
  return (
    <div
      role="grid"
      aria-label={t('schedule.week')}
      aria-multiselectable={brush !== null}
      className="min-w-[640px] select-none"
      style={brush ? { cursor: brushCursor(brush) } : undefined}
      ref={keys.ref}
      onKeyDown={keys.onKeyDown}
      onFocus={keys.onFocus}
      {...handlers}
    >
      <div role="row" tabIndex={-1} className="sticky top-0 z-20 flex border-b border-line-strong bg-surface">
        <span role="columnheader" tabIndex={-1} className="w-[150px] shrink-0 px-2 py-1.5 text-muted">
          {t('schedule.who')}
        </span>
        {days.map((day) => (
          <span key={day} role="columnheader" tabIndex={-1} className="min-w-0 flex-1 border-l border-line">
            <button
              type="button"
              className={`w-full px-1 py-1.5 text-left font-bold hover:bg-surface-deep ${week.sites[0]?.days[day].date === week.today ? 'text-primary' : ''}`}
              title={t(only === null ? 'schedule.zoomIn' : 'schedule.zoomOut')}
              onClick={() => onDay(only === null ? day : null)}
            >
              {shortDate(week.sites[0]?.days[day].date ?? week.from)}
            </button>
            {only !== null && <Hours shown={shown} />}
          </span>
        ))}
      </div>
      {week.sites.map((site) => {
        const here = lanes.map((lane, i) => ({ lane, i })).filter(({ lane }) => lane.siteId === site.id);
        if (!here.length) return null;
        return (
          <div role="rowgroup" key={site.id} aria-label={site.name}>
            <div role="presentation" className="border-b border-line bg-surface-deep px-2 py-1 font-bold">
              {site.name} <span className="font-normal text-muted">{zoneShort(site.timeZone)}</span>
            </div>
            {here.map(({ lane, i }) => (
              <div
                role="row"
                tabIndex={-1}
                key={laneKey(lane)}
                data-lane={laneKey(lane)}
                className="flex h-[38px] border-b border-line [content-visibility:auto]"
                style={{ containIntrinsicHeight: 'auto 34px' }}
              >
                <span
                  role="rowheader"
                  tabIndex={-1}
                  className="flex w-[150px] shrink-0 items-center truncate px-2 font-semibold"
                >
                  {lane.name}
                </span>
                {days.map((day) => (
                  <DayCell
                    key={day}
                    lane={lane}
                    day={lane.days[day]}
                    site={site.days[day]}
                    shown={shown}
                    place={`${i} ${day}`}
                    active={keys.active.lane === i && keys.active.day === day}
                    chosen={keys.isChosen(i, day)}
                    roomy={only !== null}
                    painting={brush !== null}
                    past={lane.days[day].date < week.today}
                    ghost={over(ghost, i, day)}
                  />
                ))}
              </div>
            ))}
          </div>
        );
      })}
    </div>
  );
}

function Hours({ shown }: { shown: { fromMin: number; toMin: number } }) {
  const hours = Array.from({ length: (shown.toMin - shown.fromMin) / 60 }, (_, i) => shown.fromMin + i * 60);
  return (
    <span aria-hidden="true" className="flex text-xs text-muted">
      {hours.map((minute) => (
        <span key={minute} className="flex-1 border-l border-line pl-0.5">
          {wallTime(minute).replace(':00', '')}
        </span>
      ))}
    </span>
  );
}

function over(ghost: Ghost | null, lane: number, day: number) {
  if (!ghost) return null;
  const within = (at: number, a: number, b: number) => at >= Math.min(a, b) && at <= Math.max(a, b);
  return within(lane, ghost.from.lane, ghost.to.lane) && within(day, ghost.from.day, ghost.to.day) ? ghost : null;
}

const STEPS: Record<string, readonly [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** One cell has the focus; arrows move it, Enter opens it. With the brush, Shift and arrows choose more, Enter paints. */
function useCellKeys(
  lanes: number,
  days: readonly number[],
  painting: boolean,
  on: Dropped,
  onPaintDays: (from: CellAt, to: CellAt) => void,
) {
  const ref = useRef<HTMLDivElement>(null);
  const [focus, setFocus] = useState<CellAt>({ lane: 0, day: days[0] });
  const [anchor, setAnchor] = useState<CellAt | null>(null);
  const active = {
    lane: Math.min(focus.lane, Math.max(0, lanes - 1)),
    day: days.includes(focus.day) ? focus.day : days[0],
  };
  const within = (at: number, a: number, b: number) => at >= Math.min(a, b) && at <= Math.max(a, b);
  return {
    ref,
    active,
    isChosen: (lane: number, day: number) =>
      anchor !== null && within(lane, anchor.lane, active.lane) && within(day, anchor.day, active.day),
    onFocus: (event: { target: EventTarget }) => {
      const [lane, day] = ((event.target as HTMLElement).dataset.cell ?? '').split(' ').map(Number);
      if (day !== undefined) setFocus({ lane, day });
    },
    onKeyDown: (event: KeyboardEvent) => {
      if (!(event.target as HTMLElement).dataset.cell) return;
      if (event.key === 'Enter' || event.key === ' ') {
        event.preventDefault();
        if (painting) onPaintDays(anchor ?? active, active);
        else on.pressed(active, null);
        setAnchor(null);
        return;
      }
      const step = STEPS[event.key];
      if (!step) return;
      event.preventDefault();
      const to = {
        lane: Math.min(lanes - 1, Math.max(0, active.lane + step[0])),
        day: Math.min(days[days.length - 1], Math.max(days[0], active.day + step[1])),
      };
      setAnchor(painting && event.shiftKey ? (anchor ?? active) : null);
      setFocus(to);
      ref.current?.querySelector<HTMLElement>(`[data-cell="${to.lane} ${to.day}"]`)?.focus();
    },
  };
}
