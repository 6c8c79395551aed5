import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';
import { STEP_MIN } from './shape.ts';
import { SMALL } from './small.ts';
import type { Thread } from './threads.ts';

/** What holds of a need in all its parts: time to clean up, and whether it must be another one. */
export function ThreadDetails({
  threads,
  nameOf,
  onChange,
  onRemove,
}: {
  threads: readonly Thread[];
  nameOf: (thread: Thread) => string;
  onChange: (at: number, change: Partial<Thread>) => void;
  onRemove: (at: number) => void;
}) {
  const { t } = useTranslation();
  return (
    <ul className="flex flex-col gap-1">
      {threads.map((thread, i) => {
        const others = threads.filter(
          (other, j) =>
            j !== i && other.what === 'pool' && thread.what === 'pool' && other.poolKind === thread.poolKind,
        );
        return (
          <li key={thread.keys[0]} className="flex flex-wrap items-center gap-2">
            <span className="w-44 truncate font-semibold">{nameOf(thread)}</span>
            {thread.what === 'pool' && (
              <label className="flex items-center gap-1.5">
                {t('setup.parts.turnaround')}
                <input
                  type="number"
                  step={STEP_MIN}
                  min={0}
                  max={120}
                  className={`${SMALL} w-16`}
                  value={thread.turnaroundMin}
                  onChange={(event) => onChange(i, { turnaroundMin: Number(event.target.value) })}
                />
                {t('setup.minutes')}
              </label>
            )}
            {others.length > 0 && (
              <label className="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  className="size-4 accent-accent"
                  checked={thread.differentFrom !== null}
                  onChange={(event) => onChange(i, { differentFrom: event.target.checked ? others[0].keys[0] : null })}
                />
                {t('setup.parts.another')}
              </label>
            )}
            {thread.parts.length > 1 && thread.what === 'pool' && (
              <span className="text-muted">{t('setup.parts.sameThroughout')}</span>
            )}
            <Button
              look="plain"
              aria-label={t('setup.parts.removeNeed', { what: nameOf(thread) })}
              onClick={() => onRemove(i)}
            >
              ✕
            </Button>
          </li>
        );
      })}
    </ul>
  );
}
