import type { OutputOf } from '@zaguan/contracts';
import type { ScheduleWeek } from '@zaguan/contracts/availability';
import type { staffClinic } from '@zaguan/contracts/clinic';
import { useTranslation } from 'react-i18next';
import { DayBoxes } from '../../../../shared/ui/DayBoxes.tsx';
import { SelectField, TextField, TickField } from '../../../../shared/ui/inputs.tsx';
import { AudienceFields, LimitFields, ReleaseFields } from './AudienceFields.tsx';
import type { HoursFormValues } from './hoursForm.ts';

interface Props {
  readonly week: ScheduleWeek;
  readonly clinic: OutputOf<typeof staffClinic>;
  readonly typed: HoursFormValues;
  readonly faultOf: (field: string) => string | undefined;
  readonly set: (change: Partial<HoursFormValues>) => void;
  /** Everything that only recurring hours have. */
  readonly recurring: boolean;
}

/** When and on what terms somebody works; what is rarely needed is folded away. */
export function HoursFields(props: Props) {
  const { typed, faultOf, set, recurring } = props;
  const { t } = useTranslation();
  return (
    <>
      {recurring && (
        <DayBoxes
          label={t('hours.days')}
          chosen={typed.weekdays}
          fault={faultOf('weekdays')}
          onChange={(weekdays) => set({ weekdays })}
        />
      )}
      <TextField
        label={t('schedule.times')}
        hint={t('schedule.timesHint')}
        error={faultOf('times')}
        value={typed.times}
        disabled={typed.follows && recurring}
        onChange={(event) => set({ times: event.target.value })}
      />
      {recurring && (
        <TickField checked={typed.follows} onChange={(event) => set({ follows: event.target.checked })}>
          {t('schedule.follows')}
        </TickField>
      )}
      <TickField checked={typed.online} onChange={(event) => set({ online: event.target.checked })}>
        {t('hours.online')}
      </TickField>
      {recurring && (
        <TextField
          label={t('hours.last')}
          hint={t('hours.lastHint')}
          error={faultOf('effectiveUntil')}
          type="date"
          value={typed.until}
          onChange={(event) => set({ until: event.target.value })}
        />
      )}
      <details className="rounded-md border border-line px-3 py-2">
        <summary className="cursor-pointer font-semibold">{t('schedule.more')}</summary>
        <div className="mt-2 flex flex-col gap-3">
          <RareTerms {...props} />
        </div>
      </details>
    </>
  );
}

/** How often, for whom, how many; how long before which terms change, and in which rooms. */
function RareTerms({ week, clinic, typed, faultOf, set, recurring }: Props) {
  const { t } = useTranslation();
  return (
    <>
      {recurring && (
        <SelectField
          label={t('hours.every')}
          value={typed.everyWeeks}
          onChange={(event) => set({ everyWeeks: Number(event.target.value) })}
        >
          {[1, 2, 3, 4, 5, 6, 8, 12].map((n) => (
            <option key={n} value={n}>
              {t('hours.everyN', { count: n })}
            </option>
          ))}
        </SelectField>
      )}
      <AudienceFields clinic={clinic} of={typed} fault={faultOf('typeIds')} set={set} />
      <TextField
        label={t('hours.places')}
        type="number"
        min={1}
        max={50}
        value={typed.places}
        onChange={(event) => set({ places: Math.max(1, Number(event.target.value)) })}
      />
      {recurring && (
        <>
          <ReleaseFields clinic={clinic} typed={typed} faultOf={faultOf} set={set} />
          <LimitFields clinic={clinic} limits={typed.limits} faultOf={faultOf} onChange={(limits) => set({ limits })} />
          <Rooms week={week} typed={typed} set={set} />
        </>
      )}
    </>
  );
}

/** Rooms that are taken first. */
function Rooms({ week, typed, set }: Pick<Props, 'week' | 'typed' | 'set'>) {
  const { t } = useTranslation();
  const rooms = week.lanes.filter((lane) => lane.kind === 'room' && lane.siteId === typed.siteId);
  if (!rooms.length) return null;
  return (
    <fieldset>
      <legend className="font-semibold">{t('schedule.rooms')}</legend>
      {rooms.map((room) => (
        <TickField
          key={room.resourceId}
          checked={typed.roomIds.includes(room.resourceId)}
          onChange={(event) =>
            set({
              roomIds: event.target.checked
                ? [...typed.roomIds, room.resourceId]
                : typed.roomIds.filter((id) => id !== room.resourceId),
            })
          }
        >
          {room.name}
        </TickField>
      ))}
    </fieldset>
  );
}
