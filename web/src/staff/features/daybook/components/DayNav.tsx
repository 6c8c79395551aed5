import { useTranslation } from 'react-i18next';
import { formatDate, shiftDate } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';

/** Which day, and the days around it. */
export function DayNav({
  date,
  today,
  onGo,
}: {
  /** Empty while it is not known. */
  date: string;
  today: string;
  onGo: (date: string) => void;
}) {
  const { t } = useTranslation();
  return (
    <>
      <Button aria-label={t('daybook.previous')} onClick={() => onGo(shiftDate(date, -1))} disabled={!date}>
        ‹
      </Button>
      <h1 className="text-xl font-bold" aria-live="polite">
        {date ? formatDate(date) : t('loading')}
      </h1>
      <Button aria-label={t('daybook.next')} onClick={() => onGo(shiftDate(date, 1))} disabled={!date}>
        ›
      </Button>
      <Button onClick={() => onGo(today)} disabled={date === today}>
        {t('daybook.today')}
      </Button>
    </>
  );
}
