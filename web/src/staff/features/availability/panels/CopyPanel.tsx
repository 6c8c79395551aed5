import type { ScheduleWeek, WireEdit } from '@zaguan/contracts/availability';
import { weekdayOf } from '@zaguan/core/time';
import { useKeptState } from '../../../forms/index.ts';
import { useTranslation } from 'react-i18next';
import { DayBoxes } from '../../../../shared/ui/DayBoxes.tsx';
import { weekdayNames } from '../../../../shared/time/format.ts';
import { SelectField, TextField } from '../../../../shared/ui/inputs.tsx';
import type { Lane } from '../grid/geometry.ts';
import { PanelForm } from './PanelForm.tsx';
import { PeopleBoxes } from './PeopleBoxes.tsx';
import type { Weekday } from './hoursForm.ts';

/** One person's week for others, from a date on. */
export function CopyWeekPanel({ week, of, onClose }: { week: ScheduleWeek; of: string | null; onClose: () => void }) {
  const { t } = useTranslation();
  const [typed, setTyped] = useKeptState('typed', { of: of ?? '', to: [] as string[], from: week.today });
  const people = [
    ...new Map(
      week.lanes.filter(({ kind }) => kind === 'provider' || kind === 'staff').map((lane) => [lane.resourceId, lane]),
    ).values(),
  ];
  const to = typed.to.filter((id) => id !== typed.of);
  return (
    <PanelForm
      title={t('schedule.copyWeek')}
      week={week}
      read={{ edits: [{ do: 'copy-week', of: typed.of, to, from: typed.from }] }}
      done={t('schedule.done.copied')}
      onClose={onClose}
    >
      {(faultOf) => (
        <>
          <p className="text-muted">{t('schedule.copyHint')}</p>
          <SelectField
            label={t('schedule.copyOf')}
            error={faultOf('of')}
            value={typed.of}
            onChange={(event) => setTyped({ ...typed, of: event.target.value })}
            none="–"
            options={people.map(({ resourceId, name }) => ({ id: resourceId, name }))}
          />
          <PeopleBoxes
            week={week}
            chosen={typed.to}
            only={null}
            except={typed.of}
            fault={faultOf('to')}
            onChange={(ids) => setTyped({ ...typed, to: ids })}
          />
          <TextField
            label={t('hours.since')}
            error={faultOf('from')}
            type="date"
            value={typed.from}
            onChange={(event) => setTyped({ ...typed, from: event.target.value })}
          />
        </>
      )}
    </PanelForm>
  );
}

/** One weekday's hours for other weekdays of the same person. */
export function CopyDayPanel({
  week,
  lane,
  date,
  onClose,
}: {
  week: ScheduleWeek;
  lane: Lane;
  date: string;
  onClose: () => void;
}) {
  const { t } = useTranslation();
  const [to, setTo] = useKeptState<number[]>('to', []);
  const weekday = weekdayOf(date);
  const copied: WireEdit = {
    do: 'copy-day',
    subject: { of: 'resource', id: lane.resourceId },
    weekday,
    to: to as Weekday[],
    from: date > week.today ? date : week.today,
  };
  return (
    <PanelForm
      title={t('schedule.copyDay', { weekday: weekdayNames('en', 'long')[weekday - 1], name: lane.name })}
      week={week}
      read={{ edits: [copied] }}
      done={t('schedule.done.copied')}
      onClose={onClose}
    >
      {(faultOf) => (
        <>
          <p className="text-muted">{t('schedule.copyHint')}</p>
          <DayBoxes
            label={t('hours.days')}
            chosen={to}
            fault={faultOf('to')}
            onChange={(days) => setTo(days.filter((day) => day !== weekday))}
          />
        </>
      )}
    </PanelForm>
  );
}
