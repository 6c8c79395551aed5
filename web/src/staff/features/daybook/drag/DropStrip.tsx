import { useDroppable } from '@dnd-kit/core';
import { useEffect } from 'react';
import { useTranslation } from 'react-i18next';
import { shiftDate, shortDate } from '../../../../shared/time/format.ts';
import { useAppSelector } from '../../../store.ts';

/** What a visit can be dropped on besides a lane. */
export const BENCH = 'bench';
const DAY = 'day ';
/** Held over a day so long, it opens. */
const OPENS_MS = 450;
const DAYS = 8;

/** While a visit is dragged: the days around, each opens under it; and the Bench. */
export function DropStrip({ date, onDay }: { date: string; onDay: (date: string) => void }) {
  const { t } = useTranslation();
  const isDragged = useAppSelector((state) => state.drag.picked !== null);
  if (!isDragged) return null;
  const days = Array.from({ length: DAYS }, (_, n) => shiftDate(date, n - 2)).filter((each) => each !== date);
  return (
    <div
      data-drop-strip
      className="absolute inset-x-0 bottom-full z-40 flex h-[33px] items-stretch gap-1 border-b border-line-strong bg-surface-deep px-3 py-0.5"
    >
      <span className="self-center pr-1 text-muted">{t('drag.otherDay')}</span>
      {days.map((each) => (
        <DropDay key={each} date={each} onDay={onDay} />
      ))}
      <DropBench />
    </div>
  );
}

const CHIP = 'flex flex-1 items-center justify-center rounded-md border px-1 font-semibold';

function DropDay({ date, onDay }: { date: string; onDay: (date: string) => void }) {
  const { setNodeRef, isOver } = useDroppable({ id: `${DAY}${date}` });
  useEffect(() => {
    if (!isOver) return;
    const opens = setTimeout(() => onDay(date), OPENS_MS);
    return () => clearTimeout(opens);
  }, [isOver, date, onDay]);
  return (
    <span
      ref={setNodeRef}
      data-drop-day={date}
      className={`${CHIP} ${isOver ? 'border-accent bg-accent-subtle' : 'border-line-strong bg-panel'}`}
    >
      {shortDate(date)}
    </span>
  );
}

function DropBench() {
  const { t } = useTranslation();
  const { setNodeRef, isOver } = useDroppable({ id: BENCH });
  return (
    <span
      ref={setNodeRef}
      data-drop-bench
      data-under={isOver || undefined}
      className={`${CHIP} max-w-44 border-dashed ${isOver ? 'border-accent bg-accent-subtle' : 'border-line-strong bg-panel'}`}
    >
      {t('drag.bench')}
    </span>
  );
}
