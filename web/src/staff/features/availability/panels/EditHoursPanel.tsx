import type { OutputOf } from '@zaguan/contracts';
import type { RecurringHours, ScheduleWeek, WireEdit } from '@zaguan/contracts/availability';
import type { staffClinic } from '@zaguan/contracts/clinic';
import { weekdayOf } from '@zaguan/core/time';
import { useState } from 'react';
import { useKeptState } from '../../../forms/index.ts';
import { useTranslation } from 'react-i18next';
import { TickField } from '../../../../shared/ui/inputs.tsx';
import { formatDate, shortDate, weekdayNames } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import type { Lane, HoursBlock } from '../grid/geometry.ts';
import type { Moved } from '../panel.ts';
import type { Faults, Read } from './checkEdits.ts';
import { PanelForm } from './PanelForm.tsx';
import { alike, OthersField } from './OthersField.tsx';
import {
  acceptsOf,
  audienceOf,
  readHoursForm,
  formatMinutes,
  typedFrom,
  type HoursFormValues,
  DEFAULT_TERMS,
} from './hoursForm.ts';
import { HoursFields } from './HoursFields.tsx';

const REACHES = ['date', 'weekday', 'from', 'all'] as const;
type ReachName = (typeof REACHES)[number];
type Reach = Extract<WireEdit, { do: 'change-hours' }>['reach'];

interface Props {
  readonly week: ScheduleWeek;
  readonly clinic: OutputOf<typeof staffClinic>;
  readonly lane: Lane;
  readonly date: string;
  readonly stretch: HoursBlock;
  readonly moved: Moved | null;
  readonly onClose: () => void;
}

/** Hours that stand: typed over, or as they were dragged, for one date, for its weekday, or for all their days. */
export function EditHoursPanel(props: Props) {
  const { week, clinic, lane, date, stretch, moved, onClose } = props;
  const { t } = useTranslation();
  const standing = week.hours.find(({ id }) => id === stretch.hoursId) ?? null;
  /** As they were when the panel opened: somebody else's change since is never overwritten unseen. */
  const [version] = useState(standing?.version ?? 0);
  const hours = standing && { ...standing, version };
  const [reach, setReach] = useKeptState<ReachName>('reach', 'date');
  const [ending, setEnding] = useState(false);
  /** Other hours that are changed in the same way. */
  const [others, setOthers] = useKeptState<readonly string[]>('others', []);
  const target = moved ?? stretch;
  const [typed, setTyped] = useKeptState<HoursFormValues>('typed', () => ({
    ...(hours ? typedFrom(hours) : { ...DEFAULT_TERMS, siteId: lane.siteId, weekdays: [weekdayOf(date)] }),
    times: formatMinutes(target),
    follows: moved === null && (hours?.followsSiteHours ?? false),
    ...audienceOf(stretch.accepts, hours?.online ?? stretch.online.length > 0),
    places: stretch.places,
  }));
  const onDate = moved ? lane.days[moved.day].date : date;
  const set = (change: Partial<HoursFormValues>) => setTyped((before) => ({ ...before, ...change }));
  const recurring = hours !== null && reach !== 'date' && reach !== 'weekday';
  const read = alike(readEdit({ typed, reach, ending, hours, lane, stretch, date, onDate }), hours, others, week);
  const weekday = weekdayNames('en', 'long')[weekdayOf(date) - 1];
  const manyDays = (hours?.weekdays.length ?? 0) > 1;
  const words: Record<ReachName, string> = {
    date: t('schedule.reach.date', { date: formatDate(date) }),
    weekday: t('schedule.reach.weekday', { weekday, date: shortDate(date) }),
    from: t('schedule.reach.from', { date: shortDate(date) }),
    all: t('schedule.reach.all'),
  };
  return (
    <PanelForm
      title={`${lane.name}, ${formatMinutes(stretch)}`}
      week={week}
      read={read}
      done={t(ending ? 'schedule.done.ended' : 'schedule.done.changed')}
      saveWords={ending ? t('schedule.endNow') : undefined}
      onClose={onClose}
    >
      {(faultOf) => (
        <>
          {hours && <Rule hours={hours} />}
          {hours && (
            <fieldset className="flex flex-col gap-1">
              <legend className="font-semibold">{t('schedule.reach.label')}</legend>
              {REACHES.filter((each) => each !== 'weekday' || manyDays).map((each) => (
                <TickField
                  key={each}
                  type="radio"
                  name="reach"
                  checked={reach === each}
                  onChange={() => setReach(each)}
                >
                  {words[each]}
                </TickField>
              ))}
            </fieldset>
          )}
          {onDate !== date && (
            <p className="font-semibold text-primary">{t('schedule.toDate', { date: formatDate(onDate) })}</p>
          )}
          {!ending && (
            <HoursFields week={week} clinic={clinic} typed={typed} faultOf={faultOf} set={set} recurring={recurring} />
          )}
          {hours && (reach === 'from' || reach === 'all') && (
            <OthersField week={week} hours={hours} from={date} chosen={others} onChange={setOthers} />
          )}
          <Button look={ending ? 'quiet' : 'danger'} className="self-start" onClick={() => setEnding(!ending)}>
            {t(
              ending
                ? 'schedule.keepThem'
                : stretch.changeId && reach === 'date'
                  ? 'schedule.dropChange'
                  : 'schedule.end',
            )}
          </Button>
        </>
      )}
    </PanelForm>
  );
}

/** The recurring hours in words. */
function Rule({ hours }: { hours: RecurringHours }) {
  const { t } = useTranslation();
  const names = weekdayNames('en', 'short');
  return (
    <p className="text-muted">
      {hours.weekdays.map((day) => names[day - 1]).join(', ')},{' '}
      {t('hours.everyN', { count: hours.everyWeeks }).toLowerCase()}
      {hours.effectiveUntil && `, ${t('hours.untilDate', { date: shortDate(hours.effectiveUntil) })}`}
      {hours.subject.of === 'pool' && `. ${t('schedule.ofPool')}`}
    </p>
  );
}

interface Asked {
  readonly typed: HoursFormValues;
  readonly reach: ReachName;
  readonly ending: boolean;
  readonly hours: RecurringHours | null;
  readonly stretch: HoursBlock;
  readonly date: string;
  readonly onDate: string;
  readonly lane: Lane;
}

function reachOf(reach: ReachName, date: string): Reach {
  if (reach === 'date') return { of: 'date', date };
  if (reach === 'weekday') return { of: 'from', date, weekdays: [weekdayOf(date)] };
  return reach === 'from' ? { of: 'from', date } : { of: 'all' };
}

function readEdit({ typed, reach, ending, hours, lane, stretch, date, onDate }: Asked): Read {
  const { changeId } = stretch;
  if (ending) {
    // A date's own hours go, and with them the change: what recurs holds again.
    if (changeId && (reach === 'date' || !hours)) return { edits: [{ do: 'drop-date-change', changeId }] };
    if (!hours) return { edits: [] };
    return {
      edits: [{ do: 'end-hours', hoursId: hours.id, version: hours.version, reach: reachOf(reach, date) }],
    };
  }
  const recurring = hours !== null && reach !== 'date' && reach !== 'weekday';
  // A date, or one weekday, has times of its own: it no longer follows the site's.
  const pattern = readHoursForm({ ...typed, follows: recurring && typed.follows });
  const [each] = pattern.each;
  const unread: Faults = pattern.each.length > 1 ? { ...pattern.unread, times: 'one-stretch' } : pattern.unread;
  if (!hours) {
    // An extra stretch is made anew.
    const { siteId, fromMinute, toMinute, places, online } = each;
    const subject = { of: 'resource' as const, id: lane.resourceId };
    const made = { siteId, fromMinute, toMinute, places, online, accepts: acceptsOf(typed) };
    return changeId
      ? {
          unread,
          edits: [
            { do: 'drop-date-change', changeId },
            { do: 'extra-hours', subject, date: onDate, hours: made },
          ],
        }
      : { edits: [] };
  }
  const moves = onDate !== date;
  const { weekdays, everyWeeks, effectiveUntil, release, caps, preferredRoomIds, followsSiteHours, ...always } = each;
  const kept = { everyWeeks, effectiveUntil, release, caps, preferredRoomIds, followsSiteHours };
  const to =
    reach === 'date'
      ? always
      : reach === 'weekday'
        ? { ...always, followsSiteHours: false, ...(moves && { weekdays: [weekdayOf(onDate)] }) }
        : {
            ...always,
            ...kept,
            weekdays: moves ? weekdays.map((day) => (day === weekdayOf(date) ? weekdayOf(onDate) : day)) : weekdays,
          };
  return {
    unread,
    edits: [
      {
        do: 'change-hours',
        hoursId: hours.id,
        version: hours.version,
        reach: reachOf(reach, date),
        to,
        ...(reach === 'date' && moves && { onDate }),
      },
      ...(reach === 'date' ? otherStretches(hours, lane, stretch, date) : []),
    ],
  };
}

/** Hours that follow the site's may be several stretches of a day: those that are not changed stay as they are. */
function otherStretches(hours: RecurringHours, lane: Lane, stretch: HoursBlock, date: string): WireEdit[] {
  if (!hours.followsSiteHours || stretch.changeId) return [];
  const day = lane.days.find((each) => each.date === date);
  return (day?.hours ?? [])
    .filter((other) => other.hoursId === hours.id && other.fromMinute !== stretch.fromMinute)
    .map(({ fromMinute, toMinute, places }) => ({
      do: 'extra-hours',
      subject: { of: 'resource', id: lane.resourceId },
      date,
      hours: { siteId: hours.siteId, fromMinute, toMinute, places, online: hours.online, accepts: hours.accepts },
    }));
}
