import { epochToWall } from '@zaguan/core/time';
import type { FaultKey } from '../../../words.faults.en.ts';
import type { ScheduleWeek } from '@zaguan/contracts/availability';
import { useKeptState } from '../../../forms/index.ts';
import { useTranslation } from 'react-i18next';
import { CONTROL, Field } from '../../../../shared/ui/Field.tsx';
import { SelectField, TickField } from '../../../../shared/ui/inputs.tsx';
import { wallTime } from '../../../../shared/time/format.ts';
import { readWallTime } from '../../../../shared/time/typedTimes.ts';
import { CoverField } from './CoverField.tsx';
import { PanelForm, type Read } from './PanelForm.tsx';
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

/** Time off for one or several people, or a whole site closed: part of a day, or days. */
export function TimeOffPanel({
  week,
  resourceId,
  siteId,
  date,
  now,
  of,
  onlyOwn,
  onClose,
}: {
  week: ScheduleWeek;
  resourceId: string | null;
  siteId: string | null;
  date: string | null;
  now: string;
  of: 'people' | 'site';
  onlyOwn: string | null;
  onClose: () => void;
}) {
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
  const input =
    (field: 'from' | 'until' | 'fromTime' | 'untilTime' | 'reason', type = 'text') =>
    (controlProps: object) => (
      <input
        {...controlProps}
        type={type}
        className={CONTROL}
        value={typed[field]}
        onChange={(event) => set({ [field]: event.target.value } as Partial<Typed>)}
      />
    );
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
          <div className="grid grid-cols-2 gap-2">
            <Field label={t('schedule.firstDay')} error={faultOf('from')}>
              {input('from', 'date')}
            </Field>
            <Field label={t('schedule.lastDay')} error={faultOf('until')}>
              {input('until', 'date')}
            </Field>
          </div>
          <TickField checked={typed.allDay} onChange={(event) => set({ allDay: event.target.checked })}>
            {t('schedule.wholeDays')}
          </TickField>
          {!typed.allDay && (
            <div className="grid grid-cols-2 gap-2">
              <Field label={t('hours.from')} error={faultOf('fromTime')}>
                {input('fromTime')}
              </Field>
              <Field label={t('schedule.untilTime')} error={faultOf('untilTime')}>
                {input('untilTime')}
              </Field>
            </div>
          )}
          {day === week.today && (
            <button
              type="button"
              className="self-start font-semibold text-accent underline"
              onClick={() =>
                set({
                  allDay: false,
                  untilTime: typed.untilTime || '12:00 am',
                  fromTime: clockAt(
                    now,
                    week.sites.find(({ id }) => id === typed.siteId)?.timeZone ?? week.sites[0]?.timeZone ?? 'UTC',
                  ),
                })
              }
            >
              {t('schedule.fromNow')}
            </button>
          )}
          {of === 'people' && onlyOwn === null && (
            <CoverField
              week={week}
              except={typed.resourceIds}
              value={typed.coverId}
              fault={faultOf('coverId')}
              onChange={(coverId) => set({ coverId })}
            />
          )}
          <Field label={t('schedule.reason')} hint={t('schedule.reasonHint')}>
            {input('reason')}
          </Field>
        </>
      )}
    </PanelForm>
  );
}

function readAway(typed: Typed, of: 'people' | 'site'): Read {
  const faults: Partial<Record<string, FaultKey>> = {};
  const startMinute = typed.allDay ? 0 : readWallTime(typed.fromTime);
  // Midnight at the end of the last day is its very end.
  const endMinute = typed.allDay ? 1440 : readWallTime(typed.untilTime) || (typed.untilTime.trim() ? 1440 : null);
  if (of === 'people' && !typed.resourceIds.length) faults.resourceIds = 'needed';
  if (of === 'site' && !typed.siteId) faults.siteId = 'needed';
  if (startMinute === null) faults.fromTime = 'time';
  if (!typed.allDay && readWallTime(typed.untilTime) === null) faults.untilTime = 'time';
  if (!typed.from) faults.from = 'no-such-date';
  const backwards = typed.until < typed.from || (typed.until === typed.from && (endMinute ?? 0) <= (startMinute ?? 0));
  if (!typed.until || backwards) faults.until = 'until-before-from';
  if (startMinute === null || endMinute === null || Object.keys(faults).length) return { ok: false, faults };
  const span = {
    startDate: typed.from,
    startMinute: startMinute % 1440,
    endDate: typed.until,
    endMinute,
    reason: typed.reason.trim(),
  };
  if (of === 'site') return { ok: true, edits: [{ do: 'close-site', siteId: typed.siteId, ...span }] };
  return {
    ok: true,
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
