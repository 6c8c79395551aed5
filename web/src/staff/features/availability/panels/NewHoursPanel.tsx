import type { OutputOf } from '@zaguan/contracts';
import type { ScheduleWeek } from '@zaguan/contracts/availability';
import type { staffClinic } from '@zaguan/contracts/clinic';
import { useKeptState } from '../../../forms/index.ts';
import { useTranslation } from 'react-i18next';
import { weekdayOf } from '@zaguan/core/time';
import { formatDate } from '../../../../shared/time/format.ts';
import { SelectField, TextField, TickField } from '../../../../shared/ui/inputs.tsx';
import type { Lane } from '../grid/geometry.ts';
import type { Span } from '../panel.ts';
import type { Read } from './checkEdits.ts';
import { PanelForm } from './PanelForm.tsx';
import { acceptsOf, readHoursForm, formatMinutes, type HoursFormValues, DEFAULT_TERMS } from './hoursForm.ts';
import { HoursFields } from './HoursFields.tsx';

interface Props {
  readonly week: ScheduleWeek;
  readonly clinic: OutputOf<typeof staffClinic>;
  readonly lane: Lane | null;
  /** The day that was drawn on; hours can then be for it alone. */
  readonly date: string | null;
  readonly span: Span | null;
  readonly onlyOwn: string | null;
  readonly onClose: () => void;
}

interface Typed extends HoursFormValues {
  readonly resourceId: string;
  readonly from: string;
  readonly once: boolean;
  readonly splitTimeOff: boolean;
}

/** New working hours: every week, or on one date only. */
export function NewHoursPanel({ week, clinic, lane, date, span, onlyOwn, onClose }: Props) {
  const { t } = useTranslation();
  const lanes = week.lanes.filter(({ resourceId }) => !onlyOwn || resourceId === onlyOwn);
  const first = lane ?? (onlyOwn ? lanes[0] : null);
  const [typed, setTyped] = useKeptState<Typed>('typed', {
    ...DEFAULT_TERMS,
    resourceId: first?.resourceId ?? '',
    siteId: first?.siteId ?? '',
    from: date ?? week.today,
    once: false,
    splitTimeOff: false,
    ...(date && { weekdays: [weekdayOf(date)] }),
    ...(span && { times: formatMinutes(span) }),
  });
  const set = (change: Partial<Typed>) => setTyped((before) => ({ ...before, ...change }));
  const people = [...new Map(lanes.map((row) => [row.resourceId, row])).values()];
  const read = readNew(typed);
  return (
    <PanelForm title={t('hours.add')} week={week} read={read} done={t('schedule.done.added')} onClose={onClose}>
      {(faultOf) => (
        <>
          <SelectField
            label={t('hours.who')}
            error={faultOf('resourceId')}
            value={typed.resourceId}
            onChange={(event) => {
              const resourceId = event.target.value;
              // Whoever works at one site works there.
              const sites = lanes.filter((row) => row.resourceId === resourceId);
              set({ resourceId, ...(sites.length === 1 && { siteId: sites[0].siteId }) });
            }}
            none="–"
            options={people.map(({ resourceId, name }) => ({ id: resourceId, name }))}
          />
          <SelectField
            label={t('hours.where')}
            error={faultOf('siteId')}
            value={typed.siteId}
            onChange={(event) => set({ siteId: event.target.value })}
            none="–"
            options={week.sites}
          />
          <fieldset className="flex gap-4">
            <legend className="sr-only">{t('schedule.howOften')}</legend>
            {[false, true].map((once) => (
              <TickField key={String(once)} type="radio" checked={typed.once === once} onChange={() => set({ once })}>
                {t(once ? 'schedule.once' : 'schedule.everyWeek')}
              </TickField>
            ))}
          </fieldset>
          <TextField
            label={t(typed.once ? 'schedule.date' : 'hours.since')}
            hint={typed.from && formatDate(typed.from, 'en', true)}
            error={faultOf('from')}
            type="date"
            value={typed.from}
            onChange={(event) => set({ from: event.target.value })}
          />
          <HoursFields week={week} clinic={clinic} typed={typed} faultOf={faultOf} set={set} recurring={!typed.once} />
          {typed.once && (
            <TickField checked={typed.splitTimeOff} onChange={(event) => set({ splitTimeOff: event.target.checked })}>
              {t('schedule.splitTimeOff')}
            </TickField>
          )}
        </>
      )}
    </PanelForm>
  );
}

function readNew(typed: Typed): Read {
  const { each: patterns, unread } = readHoursForm(typed);
  const subject = { of: 'resource' as const, id: typed.resourceId };
  const { splitTimeOff } = typed;
  return {
    unread,
    edits: patterns.map((each) => {
      if (!typed.once) return { do: 'add-hours', subject, from: typed.from, pattern: each };
      const { siteId, fromMinute, toMinute, places, online } = each;
      const hours = { siteId, fromMinute, toMinute, places, online, accepts: acceptsOf(typed) };
      return { do: 'extra-hours', subject, date: typed.from, hours, splitTimeOff };
    }),
  };
}
