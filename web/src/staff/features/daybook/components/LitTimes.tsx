import type { Axis } from '@zaguan/contracts/daybook';
import { useTranslation } from 'react-i18next';
import { ArchMark } from '../../../../shared/arch/ArchMark.tsx';
import { timeOf } from '../../../../shared/time/format.ts';

/** Nearer marks would not be pressed with certainty. */
const MARK_PX = 24;
/** Height of the row of marks, or width of the column of them. */
export const LIT_PX = 26;

/** Where the visit that is being booked could be, by a mark to press; between marks the lane itself can be pressed. */
export function LitTimes({
  starts,
  axis,
  fromEnd,
  at,
  timeZone,
  onPick,
}: {
  starts: readonly string[];
  axis: Axis;
  /** Above the words at the foot of a row, or from the right of a column, in pixels. */
  fromEnd: number;
  at: (instant: string) => number;
  timeZone: string;
  onPick: (start: string) => void;
}) {
  const { t } = useTranslation();
  return (
    <div
      className={`pointer-events-none absolute z-[12] ${axis === 'across' ? 'inset-x-0' : 'inset-y-0'}`}
      style={axis === 'across' ? { bottom: fromEnd, height: LIT_PX } : { right: fromEnd, width: LIT_PX }}
      data-lit={starts.length}
    >
      {spaced(starts, at).map((start) => (
        <button
          key={start}
          type="button"
          // By keyboard, times are chosen in the panel.
          tabIndex={-1}
          data-lit-time={start}
          aria-label={t('book.litTime', { time: timeOf(start, timeZone) })}
          title={timeOf(start, timeZone)}
          className={`pointer-events-auto absolute flex justify-center rounded-sm text-accent hover:bg-accent-subtle ${axis === 'across' ? 'bottom-0 h-[26px] w-[24px] items-end' : 'left-0 h-[24px] w-[26px] items-center'}`}
          style={axis === 'across' ? { left: at(start) } : { top: at(start) }}
          onClick={() => onPick(start)}
        >
          <ArchMark shape="outline" label="" size={18} />
        </button>
      ))}
    </div>
  );
}

function spaced(starts: readonly string[], at: (instant: string) => number): string[] {
  let last = Number.NEGATIVE_INFINITY;
  return starts.toSorted().filter((start) => {
    const x = at(start);
    if (x - last < MARK_PX) return false;
    last = x;
    return true;
  });
}
