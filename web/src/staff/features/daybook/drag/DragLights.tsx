import { memo, useMemo } from 'react';
import { useAppSelector } from '../../../store.ts';
import { placeKey } from './moveJudge.ts';

interface Props {
  readonly siteId: string;
  readonly dayStart: string;
  readonly date: string;
  readonly laneId: string;
  /** The lane's provider; `null` for a room, a device or a nurse, where a visit stays with its own. */
  readonly providerId: string | null;
  /** From the left of the hours, in pixels. */
  readonly at: (instant: string) => number;
}

/** Starts lie on five-minute marks. */
const STEP_MIN = 5;

/**
 * Where a carried visit could begin on this lane, and the place it hangs over. Looks at the carrying by itself: the lane
 * is not drawn again for it.
 */
export const DragLights = memo(function DragLights({ siteId, dayStart, date, laneId, providerId, at }: Props) {
  const starts = useAppSelector(({ drag: { picked, fits } }) => {
    if (!picked) return undefined;
    const provider = picked.providerId === null ? null : (providerId ?? picked.providerId);
    return fits[date]?.[placeKey(siteId, provider)];
  });
  const over = useAppSelector(({ drag }) =>
    drag.over?.laneId === laneId && drag.over.dayStart === dayStart ? drag.over : null,
  );
  const length = useAppSelector(({ drag: { picked } }) =>
    picked ? (Date.parse(picked.end) - Date.parse(picked.start)) / 60_000 : 0,
  );
  const runs = useMemo(() => (starts ? runsOf(starts) : []), [starts]);
  const x = (minute: number) => at(new Date(minute * 60_000).toISOString());
  return (
    <span aria-hidden="true" className="pointer-events-none absolute inset-0 z-[10]" data-fits={starts?.length}>
      {runs.map(([from, to]) => (
        <span
          key={from}
          data-fits-from={from}
          className="absolute inset-y-px rounded-sm border border-accent bg-accent-subtle opacity-80"
          style={{ left: x(from), width: x(to + STEP_MIN) - x(from) }}
        />
      ))}
      {over && (
        <span
          data-drop-at={over.start}
          data-verdict={over.verdict.is}
          className={`absolute inset-y-0 z-[13] rounded-sm border-2 ${over.verdict.is === 'refused' || over.verdict.is === 'elsewhere' ? 'border-dashed border-danger' : 'border-accent bg-accent-subtle'}`}
          style={{ left: x(over.start), width: Math.max(24, x(over.start + length) - x(over.start)) }}
        />
      )}
    </span>
  );
});

/** Neighboring starts as one stretch. */
function runsOf(starts: readonly number[]): [number, number][] {
  const runs: [number, number][] = [];
  for (const start of starts) {
    const last = runs.at(-1);
    if (last && start - last[1] <= STEP_MIN) last[1] = start;
    else runs.push([start, start]);
  }
  return runs;
}
