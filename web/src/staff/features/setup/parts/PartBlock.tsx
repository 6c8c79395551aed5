import { useDrag } from '@use-gesture/react';
import { useDragEscape } from '../../../../shared/ui/useDragEscape.ts';
import { useTranslation } from 'react-i18next';
import { useFault } from '../../../forms/index.ts';
import { MAX_PART_MIN, type Parts, STEP_MIN } from './shape.ts';

const KEYS: Readonly<Record<string, number>> = {
  ArrowRight: STEP_MIN,
  ArrowUp: STEP_MIN,
  ArrowLeft: -STEP_MIN,
  ArrowDown: -STEP_MIN,
  PageUp: 30,
  PageDown: -30,
};

/** As the drag began. */
interface From {
  readonly minutes: number;
  readonly perPx: number;
}

/** One part of the timeline, with an edge to lengthen it by, also by arrow keys. */
export function PartBlock({
  at,
  part,
  width,
  onLength,
  minutesPerPx,
}: {
  at: number;
  part: Parts[number];
  width: number;
  onLength: (minutes: number) => void;
  minutesPerPx: number;
}) {
  const { t } = useTranslation();
  const fault = useFault(`parts.${at}`);
  const dragEscape = useDragEscape();
  const bind = useDrag(
    ({ first, last, canceled, cancel, movement: [x], memo }) => {
      dragEscape.current = last || canceled ? null : cancel;
      const from = first ? { minutes: part.lengthMin, perPx: Math.max(0.1, minutesPerPx) } : (memo as From);
      onLength(canceled ? from.minutes : from.minutes + x * from.perPx);
      return from;
    },
    // The arrow keys have their own steps.
    { pointer: { keys: false }, filterTaps: true },
  );
  return (
    <div
      data-part={at}
      style={{ width }}
      className={`relative shrink-0 border-r border-line-strong bg-primary-subtle px-1.5 py-1 leading-tight ${fault ? 'outline-2 outline-danger' : ''}`}
    >
      <span className="block truncate text-sm font-semibold">{part.name || t('setup.parts.nth', { n: at + 1 })}</span>
      <span className="block text-sm">{t('setup.parts.min', { count: part.lengthMin || 0 })}</span>
      <span
        role="slider"
        tabIndex={0}
        aria-label={t('setup.parts.lengthOf', { part: part.name || t('setup.parts.nth', { n: at + 1 }) })}
        aria-valuemin={STEP_MIN}
        aria-valuemax={MAX_PART_MIN}
        aria-valuenow={part.lengthMin || 0}
        aria-valuetext={t('setup.parts.min', { count: part.lengthMin || 0 })}
        className="absolute inset-y-0 -right-3 z-10 w-6 cursor-ew-resize touch-none after:absolute after:inset-y-1 after:left-1/2 after:w-[3px] after:-translate-x-1/2 after:rounded-full after:bg-primary"
        {...bind()}
        onKeyDown={(event) => {
          const by = KEYS[event.key];
          if (!by) return;
          event.preventDefault();
          onLength((part.lengthMin || 0) + by);
        }}
      />
    </div>
  );
}
