import type { Axis } from '@zaguan/contracts/daybook';
import { CELL_MIN } from '@zaguan/core/time';
import { memo, useMemo } from 'react';
import { useAppSelector } from '../../../store.ts';
import { along } from '../axis.ts';
import { placeKey } from './moveJudge.ts';

interface Props {
  readonly siteId: string;
  readonly date: string;
  /** The lane's provider; `null` for a room, a device or a nurse, where a visit stays with its own. */
  readonly providerId: string | null;
  readonly axis: Axis;
  /** From the beginning of the hours, in pixels. */
  readonly at: (instant: string) => number;
}

/** Where a dragged visit could begin on this lane. Looks at the dragging by itself: the lane is not drawn again for it. */
export const DragLights = memo(function DragLights({ siteId, date, providerId, axis, at }: Props) {
  const starts = useAppSelector(({ drag: { picked, fits } }) => {
    if (!picked) return undefined;
    const provider = picked.providerId === null ? null : (providerId ?? picked.providerId);
    return fits[date]?.[placeKey(siteId, provider)];
  });
  const runs = useMemo(() => (starts ? runsOf(starts) : []), [starts]);
  // An element more on every lane would be looked through at every scroll.
  if (!starts?.length) return null;
  const x = (minute: number) => at(new Date(minute * 60_000).toISOString());
  return (
    <span aria-hidden="true" className="pointer-events-none absolute inset-0 z-[10]" data-fits={starts.length}>
      {runs.map(([from, to]) => (
        <span
          key={from}
          data-fits-from={from}
          className={`absolute rounded-sm border border-accent bg-accent-subtle opacity-80 ${axis === 'across' ? 'inset-y-px' : 'inset-x-px'}`}
          style={along(axis, x(from), x(to + CELL_MIN) - x(from))}
        />
      ))}
    </span>
  );
});

/** Neighboring starts as one stretch. */
function runsOf(starts: readonly number[]): [number, number][] {
  const runs: [number, number][] = [];
  for (const start of starts) {
    const last = runs.at(-1);
    if (last && start - last[1] <= CELL_MIN) last[1] = start;
    else runs.push([start, start]);
  }
  return runs;
}
