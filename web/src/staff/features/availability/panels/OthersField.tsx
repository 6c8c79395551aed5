import type { RecurringHours, ScheduleWeek, WireEdit } from '@zaguan/contracts/availability';
import { useTranslation } from 'react-i18next';
import { weekdayNames } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { useNames } from '../hooks/useNames.ts';
import type { Read } from './checkEdits.ts';
import { readHoursForm, formatMinutes, typedFrom } from './hoursForm.ts';

/** Which other hours, of anyone, the same change is made to. */
export function OthersField({
  week,
  hours,
  from,
  chosen,
  onChange,
}: {
  week: ScheduleWeek;
  hours: RecurringHours;
  /** The first date of the change: what has ended by then is not changed. */
  from: string;
  chosen: readonly string[];
  onChange: (ids: string[]) => void;
}) {
  const { t } = useTranslation();
  const name = useNames(week);
  const days = weekdayNames('en', 'short');
  const others = week.hours
    .filter((row) => row.id !== hours.id && mayChange(week, row) && (row.effectiveUntil ?? from) >= from)
    .map((row) => ({ row, who: name(row.subject.id) }))
    .filter(({ who }) => who !== '')
    .sort((a, b) => a.who.localeCompare(b.who) || a.row.fromMinute - b.row.fromMinute);
  if (!others.length) return null;
  const same = others.filter(
    ({ row }) => row.siteId === hours.siteId && row.fromMinute === hours.fromMinute && row.toMinute === hours.toMinute,
  );
  return (
    <details className="rounded-md border border-line px-3 py-2" open={chosen.length > 0}>
      <summary className="cursor-pointer font-semibold">
        {chosen.length ? t('schedule.othersToo', { count: chosen.length }) : t('schedule.others')}
      </summary>
      <p className="mt-1 text-muted">{t('schedule.othersHint')}</p>
      {same.length > 0 && (
        <Button look="plain" className="my-1 text-left" onClick={() => onChange(same.map(({ row }) => row.id))}>
          {t('schedule.othersSame', { count: same.length, times: formatMinutes(hours) })}
        </Button>
      )}
      <div className="max-h-[190px] overflow-y-auto">
        {others.map(({ row, who }) => (
          <label key={row.id} className="flex items-start gap-2 py-0.5" data-other={row.id}>
            <input
              type="checkbox"
              className="mt-1 size-4 shrink-0 accent-accent"
              checked={chosen.includes(row.id)}
              onChange={(event) =>
                onChange(event.target.checked ? [...chosen, row.id] : chosen.filter((id) => id !== row.id))
              }
            />
            <span>
              {who}
              <span className="block text-sm text-muted">
                {row.weekdays.map((day) => days[day - 1]).join(', ')} ·{' '}
                {row.followsSiteHours ? t('schedule.follows') : formatMinutes(row)} · {name(row.siteId)}
              </span>
            </span>
          </label>
        ))}
      </div>
    </details>
  );
}

function mayChange(week: ScheduleWeek, { subject }: RecurringHours): boolean {
  return week.mayEdit === 'all' || (week.mayEdit === 'own' && subject.id === week.ownResourceId);
}

/** The read edit, and the same for other hours: of a change only what differs from the hours it was typed over. */
export function alike(read: Read, hours: RecurringHours | null, others: readonly string[], week: ScheduleWeek): Read {
  const [first] = read.edits;
  if (!hours || !others.length) return read;
  if (first?.do !== 'change-hours' && first?.do !== 'end-hours') return read;
  if (first.reach.of === 'date' || first.reach.weekdays !== undefined) return read;
  const rows = week.hours.filter(({ id }) => others.includes(id));
  const more = rows.map(({ id, version }): WireEdit => {
    const which = { hoursId: id as typeof first.hoursId, version, reach: first.reach };
    return first.do === 'end-hours'
      ? { do: 'end-hours', ...which }
      : { do: 'change-hours', ...which, to: differing(first.to, hours) };
  });
  return { ...read, edits: [...read.edits, ...more] };
}

type To = Extract<WireEdit, { do: 'change-hours' }>['to'];

/** Against the hours as the form shows them: what it can't tell apart is no change. */
function differing(to: To, hours: RecurringHours): To {
  const was: Readonly<Record<string, unknown>> = { ...readHoursForm(typedFrom(hours)).each[0] };
  return Object.fromEntries(
    Object.entries(to).filter(([key, value]) => JSON.stringify(value) !== JSON.stringify(was[key])),
  ) as To;
}
