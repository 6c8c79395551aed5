import type { ScheduleWeek, WireEdit } from '@zaguan/contracts/availability';
import { wallToEpoch } from '@zaguan/core/time';
import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { formatDate } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { type Lane, laneKey } from '../grid/geometry.ts';
import { useSaveEdits } from '../hooks/useEdits.ts';
import type { Panel } from '../panel.ts';
import { formatMinutes, formatMinutesOrAllDay } from './hoursForm.ts';

/** Nine in the morning, or when the day's hours begin. */
function startOn({ date, hours }: Lane['days'][number], zone: string): string {
  return new Date(wallToEpoch(zone, date, hours[0]?.fromMinute ?? 540) * 60_000).toISOString();
}

const ROW = 'flex items-center justify-between gap-2 border-t border-line py-1.5';

type DayOfLane = Lane['days'][number];

/** One day of one lane: what stands, each with its own action, and what can be added. */
export function DayPanel({
  week,
  lane,
  day,
  mayEdit,
  onOpen,
  onClose,
}: {
  week: ScheduleWeek;
  lane: Lane;
  day: number;
  mayEdit: boolean;
  onOpen: (panel: Panel) => void;
  onClose: () => void;
}) {
  const { t } = useTranslation();
  const { save, saving, error } = useSaveEdits();
  const on = lane.days[day];
  const site = week.sites.find(({ id }) => id === lane.siteId);
  const edit = (stretch: number) => onOpen({ kind: 'edit', lane: laneKey(lane), day, stretch, moved: null });
  const drop = (edit: WireEdit, words: string) => (
    <Button look="plain" disabled={saving} onClick={() => void save([edit], words, { agreed: true })}>
      {t('schedule.takeBack')}
    </Button>
  );
  return (
    <div className="flex flex-col gap-3">
      <div>
        <h2 className="text-xl font-bold">{lane.name}</h2>
        <p className="text-muted">
          {formatDate(on.date)} · {site?.name}
        </p>
      </div>
      <div>
        <HoursRows hours={on.hours} onChange={mayEdit ? (stretch) => edit(stretch) : null} />
        <OtherRows week={week} on={on} closed={site?.days[day].closed ?? []} mayEdit={mayEdit} drop={drop} />
        {!on.hours.length && !on.cancelled.length && <p className="text-muted">{t('schedule.cell.nothing')}</p>}
      </div>
      {error && (
        <Notice tone="danger" live="assertive">
          {t(`error.${error.tag}`, { requestId: error.requestId })}
        </Notice>
      )}
      {mayEdit && <ToAdd week={week} lane={lane} day={day} onOpen={onOpen} />}
      {lane.kind === 'provider' && (
        <Button
          className="self-start"
          onClick={() => onOpen({ kind: 'why-not', lane: laneKey(lane), start: startOn(on, site?.timeZone ?? 'UTC') })}
        >
          {t('whyNot.title')}
        </Button>
      )}
      <p>
        <Link to={`/daybook/week/${lane.resourceId}/${on.date}`} className="font-semibold text-accent underline">
          {t('schedule.inDaybook', { count: on.visits })}
        </Link>
      </p>
      <Button className="self-start" onClick={onClose}>
        {t('close')}
      </Button>
    </div>
  );
}

/** What patients see of a stretch; its parts are said where they do not see all of it. */
function useOnlineWords() {
  const { t } = useTranslation();
  return ({ fromMinute, toMinute, online }: DayOfLane['hours'][number]) => {
    if (!online.length) return t('schedule.desk');
    const all = online.length === 1 && online[0].fromMinute === fromMinute && online[0].toMinute === toMinute;
    return all ? t('schedule.shown') : t('schedule.shownAt', { times: online.map(formatMinutes).join(', ') });
  };
}

function HoursRows({ hours, onChange }: { hours: DayOfLane['hours']; onChange: ((stretch: number) => void) | null }) {
  const { t } = useTranslation();
  const onlineWords = useOnlineWords();
  return hours.map((stretch, i) => (
    <div key={`${stretch.hoursId}${stretch.changeId}${stretch.fromMinute}`} className={ROW}>
      <span>
        <span className="font-semibold">{formatMinutes(stretch)}</span>
        <span className="block text-muted">
          {t(stretch.changeId ? 'schedule.changed' : 'schedule.weekly')}, {onlineWords(stretch)}
        </span>
      </span>
      {onChange && <Button onClick={() => onChange(i)}>{t('schedule.change')}</Button>}
    </div>
  ));
}

/** Canceled hours, time off, kept-free time and closures. */
function OtherRows({
  week,
  on,
  closed,
  mayEdit,
  drop,
}: {
  week: ScheduleWeek;
  on: DayOfLane;
  closed: ScheduleWeek['sites'][number]['days'][number]['closed'];
  mayEdit: boolean;
  /** The button that takes something away. */
  drop: (edit: WireEdit, words: string) => ReactNode;
}) {
  const { t } = useTranslation();
  return (
    <>
      {on.cancelled.map((span) => (
        <div key={span.changeId} className={ROW}>
          <span>{t('schedule.cancelledRow', { times: formatMinutes(span) })}</span>
          {mayEdit && drop({ do: 'drop-date-change', changeId: span.changeId }, t('schedule.done.restored'))}
        </div>
      ))}
      {on.timeOff.map((span) => (
        <div key={span.id} className={ROW}>
          <span>
            {t('schedule.timeOff')}: {formatMinutesOrAllDay(span, t('schedule.allDay'))}
            {span.reason && <span className="block text-muted">{span.reason}</span>}
          </span>
          {week.mayEdit === 'all' && drop({ do: 'drop-time-off', id: span.id }, t('schedule.done.back'))}
        </div>
      ))}
      {on.keptFree.map((span) => (
        <div key={span.id} className={ROW}>
          <span>
            {t('schedule.keptFree')}: {formatMinutes(span)}
            {span.note && <span className="block text-muted">{span.note}</span>}
          </span>
          {mayEdit && drop({ do: 'drop-kept-free', id: span.id, from: on.date }, t('schedule.done.freed'))}
        </div>
      ))}
      {closed.map((span) => (
        <p key={span.id} className={ROW}>
          {t('schedule.closedRow', { times: formatMinutesOrAllDay(span, t('schedule.allDay')), reason: span.reason })}
        </p>
      ))}
    </>
  );
}

function ToAdd({
  week,
  lane,
  day,
  onOpen,
}: {
  week: ScheduleWeek;
  lane: Lane;
  day: number;
  onOpen: (panel: Panel) => void;
}) {
  const { t } = useTranslation();
  const key = laneKey(lane);
  const on = lane.days[day];
  return (
    <div className="flex flex-col items-start gap-2">
      <Button look="primary" onClick={() => onOpen({ kind: 'new', lane: key, day, span: null })}>
        {t('hours.add')}
      </Button>
      {/* One's own time off is asked for. */}
      <Button
        onClick={() =>
          onOpen(week.mayEdit === 'all' ? { kind: 'away', resourceId: lane.resourceId, day } : { kind: 'requests' })
        }
      >
        {t(week.mayEdit === 'all' ? 'schedule.timeOff' : 'requests.ask')}
      </Button>
      <Button onClick={() => onOpen({ kind: 'keep-free', lane: key, day, span: null })}>
        {t('schedule.keepFree')}
      </Button>
      <Button onClick={() => onOpen({ kind: 'paint', lane: key, day })}>{t('schedule.paint')}</Button>
      <Button onClick={() => onOpen({ kind: 'calendar', lane: key })}>{t('feeds.open')}</Button>
      {on.hours.length > 0 && (
        <Button onClick={() => onOpen({ kind: 'copy-day', lane: key, day })}>{t('schedule.copyThisDay')}</Button>
      )}
    </div>
  );
}
