import { useDrag } from '@use-gesture/react';
import { useDragEscape } from '../../../../shared/ui/useDragEscape.ts';
import { useTranslation } from 'react-i18next';
import { LABEL_PX, type Parts } from './shape.ts';
import { freeBetween, type Thread } from './threads.ts';

interface Stroke {
  readonly needed: boolean;
  /** As it was before the stroke. */
  readonly was: readonly number[];
}

function partUnder(x: number, y: number): number | null {
  const cell = document.elementFromPoint(x, y)?.closest<HTMLElement>('[data-part-cell]');
  return cell ? Number(cell.dataset.partCell) : null;
}

/** What one need takes in each part: pressed on and off, or painted along the row. */
export function NeedRow({
  name,
  thread,
  parts,
  widths,
  onSet,
}: {
  name: string;
  thread: Thread;
  parts: Parts;
  widths: readonly number[];
  onSet: (part: number, needed: boolean) => void;
}) {
  const { t } = useTranslation();
  /** Painting along the row: what the first press did goes on over the parts that the pointer comes to. */
  const dragEscape = useDragEscape();
  const bind = useDrag(
    ({ first, last, tap, canceled, cancel, args: [pressed], xy: [x, y], memo }) => {
      dragEscape.current = last || canceled ? null : cancel;
      const stroke: Stroke = first ? { needed: !thread.parts.includes(pressed), was: thread.parts } : memo;
      if (canceled) {
        for (const i of parts.keys()) onSet(i, stroke.was.includes(i));
        return stroke;
      }
      const over = tap || first ? pressed : partUnder(x, y);
      if (over !== null && !(last && !tap)) onSet(over, stroke.needed);
      return stroke;
    },
    { pointer: { keys: false } },
  );
  const free = new Map(
    (thread.what === 'provider' ? freeBetween(parts, thread) : []).map(({ part, minutes }) => [part, minutes]),
  );
  return (
    <div className="mt-1 flex" data-need={thread.keys[0]}>
      <span style={{ width: LABEL_PX }} className="shrink-0 self-center truncate pr-2 text-sm" title={name}>
        {name}
      </span>
      {parts.map((part, i) => {
        const needed = thread.parts.includes(i);
        const minutes = free.get(i);
        return (
          <button
            // biome-ignore lint/suspicious/noArrayIndexKey: a part is known by its place alone
            key={i}
            type="button"
            aria-pressed={needed}
            aria-label={[
              t('setup.parts.cell', { what: name, part: part.name || t('setup.parts.nth', { n: i + 1 }) }),
              !needed && minutes && t('setup.parts.free', { count: minutes }),
            ]
              .filter(Boolean)
              .join(', ')}
            style={{ width: widths[i] }}
            className={`h-7 shrink-0 touch-none border-r border-line text-xs ${needed ? 'bg-accent text-on-fill' : minutes ? 'bg-[repeating-linear-gradient(135deg,var(--color-surface),var(--color-surface)_4px,var(--color-highlight)_4px,var(--color-highlight)_6px)]' : 'bg-surface-deep hover:bg-highlight'}`}
            data-part-cell={i}
            {...bind(i)}
            onKeyDown={(event) => {
              if (event.key !== ' ' && event.key !== 'Enter') return;
              event.preventDefault();
              onSet(i, !needed);
            }}
          >
            {needed ? '✓' : minutes ? t('setup.parts.free', { count: minutes }) : ''}
          </button>
        );
      })}
    </div>
  );
}
