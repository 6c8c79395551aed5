import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { formatDate, type Language, weekdayNames, monthOf } from '../../../../shared/time/format.ts';

interface Day {
  readonly date: string;
  readonly starts: number;
}

/** Weeks from Monday to Sunday that cover the days; `null` before the first and after the last. */
export function weeksOf(days: readonly Day[]): (Day | null)[][] {
  if (!days.length) return [];
  const lead = (new Date(`${days[0].date}T12:00:00Z`).getUTCDay() + 6) % 7;
  const cells: (Day | null)[] = [...Array.from({ length: lead }, () => null), ...days];
  while (cells.length % 7) cells.push(null);
  return Array.from({ length: cells.length / 7 }, (_, i) => cells.slice(i * 7, i * 7 + 7));
}

/** Every day of the window as a doorway with how many times it has. Nothing is hidden. */
export function DayDoors({
  days,
  chosen,
  language,
  onChoose,
  times,
}: {
  days: readonly Day[];
  chosen: string | null;
  language: Language;
  onChoose: (date: string) => void;
  /** The chosen day's times: they come right after its week, for eyes, keyboard and screen reader alike. */
  times: ReactNode;
}) {
  const { t } = useTranslation();
  const names = weekdayNames(language, 'narrow');
  let month = '';
  return (
    <div className="flex flex-col gap-1.5">
      {weeksOf(days).map((week) => {
        const first = week.find((day) => day !== null);
        const last = week.filter((day) => day !== null).at(-1);
        const words = first && last ? monthOf(last.date, language) : '';
        const heading = words !== month ? words : null;
        month = words;
        return (
          <div key={first?.date ?? 'none'}>
            {heading && <p className="mt-1 mb-1 text-sm font-bold text-muted capitalize">{heading}</p>}
            <div className="grid grid-cols-7 gap-1.5">
              {week.map((day, i) =>
                day ? (
                  <Door
                    key={day.date}
                    day={day}
                    letter={names[i]}
                    chosen={day.date === chosen}
                    language={language}
                    label={t('when.dayLabel', {
                      date: formatDate(day.date, language),
                      left: day.starts ? t('when.left', { count: day.starts }) : t('when.none'),
                    })}
                    onChoose={onChoose}
                  />
                ) : (
                  <span key={names[i] + String(i)} />
                ),
              )}
            </div>
            {chosen !== null && week.some((day) => day?.date === chosen) && <div className="mt-1.5 mb-2">{times}</div>}
          </div>
        );
      })}
    </div>
  );
}

function Door({
  day,
  letter,
  chosen,
  label,
  onChoose,
}: {
  day: Day;
  letter: string;
  chosen: boolean;
  language: Language;
  label: string;
  onChoose: (date: string) => void;
}) {
  const { t } = useTranslation();
  const number = Number(day.date.slice(8));
  const shape =
    'flex min-h-16 flex-col items-center justify-end rounded-t-[999px] rounded-b-[4px] border pt-2 pb-1 leading-tight';
  if (!day.starts) {
    return (
      <span className={`${shape} border-line text-muted`}>
        <span className="sr-only">{label}</span>
        <span aria-hidden="true" className="text-xs">
          {letter}
        </span>
        <span aria-hidden="true" className="text-base line-through decoration-1">
          {number}
        </span>
        <span aria-hidden="true" className="h-[1.8rem] text-xs">
          –
        </span>
      </span>
    );
  }
  return (
    <button
      type="button"
      aria-pressed={chosen}
      data-date={day.date}
      onClick={() => onChoose(day.date)}
      className={`${shape} ${chosen ? 'border-accent bg-accent text-on-fill' : 'border-line-strong bg-panel text-foreground hover:border-accent'}`}
    >
      <span className="sr-only">{label}</span>
      <span aria-hidden="true" className="text-xs">
        {letter}
      </span>
      <span aria-hidden="true" className="text-base font-bold">
        {number}
      </span>
      <span
        aria-hidden="true"
        className={`text-center text-xs leading-none ${chosen ? 'text-on-fill' : 'text-accent'}`}
      >
        <span className="block text-xs font-bold">{day.starts}</span>
        {t('when.leftWord', { count: day.starts })}
      </span>
    </button>
  );
}
