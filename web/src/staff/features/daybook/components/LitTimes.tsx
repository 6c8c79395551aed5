import { useTranslation } from 'react-i18next';
import { ArchMark } from '../../../../shared/arch/ArchMark.tsx';
import { timeOf } from '../../../../shared/time/format.ts';

/** Nearer marks would not be pressed with certainty. */
const MARK_PX = 24;
/** Height of the row of marks. */
export const LIT_PX = 26;

/** Where the visit that is being booked could be, by a mark to press; between marks the lane itself can be pressed. */
export function LitTimes({
  starts,
  bottom,
  at,
  timeZone,
  onPick,
}: {
  starts: readonly string[];
  /** Above the words at the foot of the lane, in pixels. */
  bottom: number;
  at: (instant: string) => number;
  timeZone: string;
  onPick: (start: string) => void;
}) {
  const { t } = useTranslation();
  return (
    <div
      className="pointer-events-none absolute inset-x-0 z-[12]"
      style={{ bottom, height: LIT_PX }}
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
          className="pointer-events-auto absolute bottom-0 flex h-[26px] w-[24px] items-end justify-center rounded-sm text-accent hover:bg-accent-subtle"
          style={{ left: at(start) }}
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
