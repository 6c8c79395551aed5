import { MAX_STROKES, type ScheduleWeek } from '@zaguan/contracts/availability';
import { useKeptState } from '../../../forms/index.ts';
import { useTranslation } from 'react-i18next';
import { SelectField, TextField, TickField } from '../../../../shared/ui/inputs.tsx';
import { datesFrom } from '@zaguan/core/time';
import type { Lane } from '../grid/geometry.ts';
import { BRUSHES, type Brush } from '../panel.ts';
import { readStretches } from '../../../../shared/time/typedTimes.ts';
import type { Faults, Read } from './checkEdits.ts';
import { DaySpanFields } from './DaySpanFields.tsx';
import { PanelForm } from './PanelForm.tsx';
import { PeopleBoxes } from './PeopleBoxes.tsx';

/** The brush without a pointer: who, which days, from when to when. */
export function PaintPanel({
  week,
  lane,
  date,
  brush,
  onlyOwn,
  onClose,
}: {
  week: ScheduleWeek;
  lane: Lane | null;
  date: string | null;
  brush: Brush | null;
  onlyOwn: string | null;
  onClose: () => void;
}) {
  const { t } = useTranslation();
  const [typed, setTyped] = useKeptState('typed', {
    resourceIds: lane ? [lane.resourceId] : onlyOwn ? [onlyOwn] : ([] as string[]),
    siteId: lane?.siteId ?? week.sites[0]?.id ?? '',
    from: date ?? week.today,
    until: date ?? week.today,
    times: '8:00 am – 5:00 pm',
    value: brush ?? ('shown' as Brush),
  });
  const set = (change: Partial<typeof typed>) => setTyped({ ...typed, ...change });
  return (
    <PanelForm
      title={t('schedule.paint')}
      week={week}
      read={readPaint(typed)}
      done={t('schedule.done.painted')}
      onClose={onClose}
    >
      {(faultOf) => (
        <>
          <fieldset className="flex flex-col gap-1">
            <legend className="font-semibold">{t('schedule.paintAs')}</legend>
            {BRUSHES.map((value) => (
              <TickField key={value} type="radio" checked={typed.value === value} onChange={() => set({ value })}>
                {t(`schedule.brush.${value}`)}
              </TickField>
            ))}
          </fieldset>
          <PeopleBoxes
            week={week}
            chosen={typed.resourceIds}
            only={onlyOwn}
            fault={faultOf('resourceIds')}
            onChange={(resourceIds) => set({ resourceIds })}
          />
          <SelectField
            label={t('hours.where')}
            value={typed.siteId}
            onChange={(event) => set({ siteId: event.target.value })}
            options={week.sites}
          />
          <DaySpanFields from={typed.from} until={typed.until} faultOf={faultOf} set={set} />
          <TextField
            label={t('schedule.times')}
            hint={t('schedule.timesHint')}
            error={faultOf('times')}
            value={typed.times}
            onChange={(event) => set({ times: event.target.value })}
          />
        </>
      )}
    </PanelForm>
  );
}

function readPaint(typed: {
  resourceIds: string[];
  siteId: string;
  from: string;
  until: string;
  times: string;
  value: Brush;
}): Read {
  const stretches = readStretches(typed.times);
  const unread: Faults = {};
  if (!stretches) unread.times = 'stretches';
  if (!typed.from) unread.from = 'no-such-date';
  if (!typed.until || typed.until < typed.from) unread.until = 'until-before-from';
  if (!typed.resourceIds.length) unread.resourceIds = 'no-person';
  if (Object.keys(unread).length) return { edits: [], unread };
  const strokes = datesFrom(typed.from, typed.until).flatMap((date) =>
    typed.resourceIds.flatMap((resourceId) => (stretches ?? []).map((span) => ({ resourceId, date, ...span }))),
  );
  if (strokes.length > MAX_STROKES) return { edits: [], unread: { until: 'too-much-for-one-stroke' } };
  return { edits: [{ do: 'brush', siteId: typed.siteId, strokes, value: typed.value }] };
}
