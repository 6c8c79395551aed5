import { epochToWall } from '@zaguan/core/time';
import type { ScheduleWeek } from '@zaguan/contracts/availability';
import { useKeptState } from '../../../forms/index.ts';
import { useTranslation } from 'react-i18next';
import { SelectField, TextField, TickField } from '../../../../shared/ui/inputs.tsx';
import { wallTime } from '../../../../shared/time/format.ts';
import { readWallTime } from '../../../../shared/time/typedTimes.ts';
import { CoverField } from './CoverField.tsx';
import type { Faults, Read } from './checkEdits.ts';
import { DaySpanFields } from './DaySpanFields.tsx';
import { PanelForm } from './PanelForm.tsx';
import { PeopleBoxes } from './PeopleBoxes.tsx';

interface Typed {
  readonly resourceIds: string[];
  readonly siteId: string;
  readonly from: string;
  readonly fromTime: string;
  readonly until: string;
  readonly untilTime: string;
  /** Whole days, from the first to the last. */
  readonly allDay: boolean;
  readonly reason: string;
  readonly coverId: string;
}

/** The site's wall clock at an instant, rounded down to five minutes. */
function clockAt(instant: string, timeZone: string): string {
  const { minute } = epochToWall(timeZone, Math.floor(Date.parse(instant) / 60_000));
  return wallTime(minute - (minute % 5));
}

interface Props {
  readonly week: ScheduleWeek;
  readonly resourceId: string | null;
  readonly siteId: string | null;
  readonly date: string | null;
  readonly now: string;
  readonly of: 'people' | 'site';
  readonly onlyOwn: string | null;
  readonly onClose: () => void;
}

/** Time off for one or several people, or a whole site closed: part of a day, or days. */
export function TimeOffPanel({ week, resourceId, siteId, date, now, of, onlyOwn, onClose }: Props) {
  const { t } = useTranslation();
  const day = date ?? week.today;
  const [typed, setTyped] = useKeptState<Typed>('typed', {
    resourceIds: resourceId ? [resourceId] : onlyOwn ? [onlyOwn] : [],
    siteId: siteId ?? '',
    from: day,
    allDay: true,
    fromTime: '',
    until: day,
    untilTime: '',
    reason: '',
    coverId: '',
  });
  const set = (change: Partial<Typed>) => setTyped((before) => ({ ...before, ...change }));
  return (
    <PanelForm
      title={t(of === 'site' ? 'schedule.closeSite' : 'schedule.timeOff')}
      week={week}
      read={readAway(typed, of)}
      done={t(of === 'site' ? 'schedule.done.closed' : 'schedule.done.away')}
      tellsFirst={of === 'site'}
      onClose={onClose}
    >
      {(faultOf) => (
        <>
          {of === 'people' && (
            <PeopleBoxes
              week={week}
              chosen={typed.resourceIds}
              only={onlyOwn}
              withPlaces={onlyOwn === null}
              fault={faultOf('resourceIds')}
              onChange={(resourceIds) => set({ resourceIds })}
            />
          )}
          <SelectField
            label={t('hours.where')}
            error={faultOf('siteId')}
            value={typed.siteId}
            onChange={(event) => set({ siteId: event.target.value })}
            none={of === 'people' ? t('schedule.everywhere') : '–'}
            options={week.sites}
          />
          <WhenFields typed={typed} set={set} faultOf={faultOf} />
          {day === week.today && <FromNow week={week} now={now} typed={typed} set={set} />}
          {of === 'people' && onlyOwn === null && (
            <CoverField
              week={week}
              except={typed.resourceIds}
              value={typed.coverId}
              fault={faultOf('coverId')}
              onChange={(coverId) => set({ coverId })}
            />
          )}
          <TextField
            label={t('schedule.reason')}
            hint={t('schedule.reasonHint')}
            error={faultOf('reason')}
            value={typed.reason}
            onChange={(event) => set({ reason: event.target.value })}
          />
        </>
      )}
    </PanelForm>
  );
}

interface Typing {
  readonly typed: Typed;
  readonly set: (change: Partial<Typed>) => void;
}

/** Whole days, or from a time of the first to a time of the last. */
function WhenFields({ typed, set, faultOf }: Typing & { faultOf: (field: string) => string | undefined }) {
  const { t } = useTranslation();
  return (
    <>
      <DaySpanFields from={typed.from} until={typed.until} faultOf={faultOf} set={set} />
      <TickField checked={typed.allDay} onChange={(event) => set({ allDay: event.target.checked })}>
        {t('schedule.wholeDays')}
      </TickField>
      {!typed.allDay && (
        <div className="grid grid-cols-2 gap-2">
          <TextField
            label={t('hours.from')}
            error={faultOf('fromTime')}
            value={typed.fromTime}
            onChange={(event) => set({ fromTime: event.target.value })}
          />
          <TextField
            label={t('schedule.untilTime')}
            error={faultOf('untilTime')}
            value={typed.untilTime}
            onChange={(event) => set({ untilTime: event.target.value })}
          />
        </div>
      )}
    </>
  );
}

/** Somebody leaves at once. */
function FromNow({ week, now, typed, set }: Typing & { week: ScheduleWeek; now: string }) {
  const { t } = useTranslation();
  const site = week.sites.find(({ id }) => id === typed.siteId) ?? week.sites[0];
  return (
    <button
      type="button"
      className="self-start font-semibold text-accent underline"
      onClick={() =>
        set({
          allDay: false,
          untilTime: typed.untilTime || '12:00 am',
          fromTime: clockAt(now, site?.timeZone ?? 'UTC'),
        })
      }
    >
      {t('schedule.fromNow')}
    </button>
  );
}

function readAway(typed: Typed, of: 'people' | 'site'): Read {
  const startMinute = typed.allDay ? 0 : readWallTime(typed.fromTime);
  // Midnight at the end of the last day is its very end.
  const endMinute = typed.allDay || readWallTime(typed.untilTime) === 0 ? 1440 : readWallTime(typed.untilTime);
  const unread: Faults = {};
  if (startMinute === null) unread.fromTime = 'time';
  if (endMinute === null) unread.untilTime = 'time';
  const span = {
    startDate: typed.from,
    startMinute: (startMinute ?? 0) % 1440,
    endDate: typed.until,
    endMinute: endMinute ?? 1440,
    reason: typed.reason.trim(),
  };
  if (of === 'site') return { unread, edits: [{ do: 'close-site', siteId: typed.siteId, ...span }] };
  return {
    unread,
    edits: [
      {
        do: 'time-off',
        resourceIds: typed.resourceIds,
        siteId: typed.siteId || null,
        coverId: typed.coverId || null,
        ...span,
      },
    ],
  };
}
