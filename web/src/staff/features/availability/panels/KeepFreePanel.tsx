import type { ScheduleWeek } from '@zaguan/contracts/availability';
import { weekdayOf } from '@zaguan/core/time';
import { useKeptState } from '../../../forms/index.ts';
import { useTranslation } from 'react-i18next';
import { formatDate, weekdayNames } from '../../../../shared/time/format.ts';
import { TextField, TickField } from '../../../../shared/ui/inputs.tsx';
import type { Lane } from '../grid/geometry.ts';
import type { Span } from '../panel.ts';
import { readStretches } from '../../../../shared/time/typedTimes.ts';
import type { Read } from './checkEdits.ts';
import { PanelForm } from './PanelForm.tsx';
import { ANY_STRETCH, formatMinutes } from './hoursForm.ts';

/** A stretch without visits, on one date or every week. */
export function KeepFreePanel({
  week,
  lane,
  date,
  span,
  onClose,
}: {
  week: ScheduleWeek;
  lane: Lane;
  date: string;
  span: Span | null;
  onClose: () => void;
}) {
  const { t } = useTranslation();
  const [typed, setTyped] = useKeptState('typed', {
    times: span ? formatMinutes(span) : '12:00 pm – 1:00 pm',
    every: false,
    until: '',
    note: '',
  });
  const set = (change: Partial<typeof typed>) => setTyped({ ...typed, ...change });
  const weekday = weekdayOf(date);
  const stretches = readStretches(typed.times);
  const read: Read = {
    edits: (stretches ?? [ANY_STRETCH]).map((each) => ({
      do: 'keep-free',
      resourceIds: [lane.resourceId],
      siteId: lane.siteId,
      rule: {
        weekdays: [weekday],
        everyWeeks: 1,
        anchorDate: date,
        effectiveFrom: date,
        effectiveUntil: typed.every ? typed.until || null : date,
      },
      ...each,
      note: typed.note,
    })),
    unread: stretches ? {} : { times: 'stretches' },
  };
  return (
    <PanelForm
      title={`${t('schedule.keepFree')}: ${lane.name}`}
      week={week}
      read={read}
      done={t('schedule.done.keptFree')}
      onClose={onClose}
    >
      {(faultOf) => (
        <>
          <fieldset className="flex flex-col gap-1">
            <legend className="sr-only">{t('schedule.howOften')}</legend>
            {[false, true].map((every) => (
              <TickField
                key={String(every)}
                type="radio"
                checked={typed.every === every}
                onChange={() => set({ every })}
              >
                {every
                  ? t('schedule.everyWeekday', { weekday: weekdayNames('en', 'long')[weekday - 1] })
                  : formatDate(date)}
              </TickField>
            ))}
          </fieldset>
          <TextField
            label={t('schedule.times')}
            hint={t('schedule.timesHint')}
            error={faultOf('times')}
            value={typed.times}
            onChange={(event) => set({ times: event.target.value })}
          />
          {typed.every && (
            <TextField
              label={t('hours.last')}
              hint={t('hours.lastHint')}
              error={faultOf('effectiveUntil')}
              type="date"
              value={typed.until}
              onChange={(event) => set({ until: event.target.value })}
            />
          )}
          <TextField
            label={t('schedule.note')}
            value={typed.note}
            onChange={(event) => set({ note: event.target.value })}
          />
        </>
      )}
    </PanelForm>
  );
}
