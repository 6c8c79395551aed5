import type { Axis } from '@zaguan/contracts/daybook';
import type { CSSProperties, ReactNode } from 'react';
import { dateAt } from '../../../../shared/time/format.ts';
import { DragLights } from '../drag/DragLights.tsx';
import { LaneBackground } from './LaneBackground.tsx';
import { LitTimes } from './LitTimes.tsx';
import { type LaneProps, unitLines, type useLane } from './useLane.ts';

interface Props {
  readonly axis: Axis;
  readonly props: LaneProps;
  readonly of: ReturnType<typeof useLane>;
  /** Where the marks of free times stand: above the words at the foot of a row, or from the right of a column. */
  readonly litFromEnd: number;
  readonly className: string;
  readonly style: CSSProperties;
  readonly children: ReactNode;
}

const NOW_LINE = { across: 'inset-y-0 w-[2px]', down: 'inset-x-0 h-[2px]' } as const satisfies Record<Axis, string>;

/** A lane's hours, in a row or a column: what lies behind the plates, the present, where something could be put, the plates. */
export function Hours({ axis, props, of, litFromEnd, className, style, children }: Props) {
  const { site, lane, nowAt, lit, onPick } = props;
  const { at, lengthPx } = of;
  return (
    // Pointer shortcut only: the same question is asked by keyboard from the strip's "Why not?" button.
    <div
      data-hours
      className={`relative ${className}`}
      style={{ ...unitLines(of.unitPx, axis), ...style }}
      {...of.presses}
    >
      <LaneBackground {...{ site, lane, axis, at, lengthPx }} />
      {nowAt !== null && (
        <span
          aria-hidden="true"
          data-now-line
          className={`pointer-events-none absolute z-10 bg-primary ${NOW_LINE[axis]}`}
          style={axis === 'across' ? { left: nowAt - 1 } : { top: nowAt - 1 }}
        />
      )}
      <DragLights
        siteId={site.id}
        date={dateAt(site.dayStart, site.timeZone)}
        providerId={lane.kind === 'provider' ? lane.resourceId : null}
        {...{ axis, at }}
      />
      {lit.length > 0 && (
        <LitTimes
          {...{ axis, at }}
          fromEnd={litFromEnd}
          starts={lit}
          timeZone={site.timeZone}
          onPick={(start) => void onPick({ siteId: site.id, providerId: lane.resourceId, start })}
        />
      )}
      {children}
    </div>
  );
}
