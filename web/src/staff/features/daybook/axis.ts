import type { Axis } from '@zaguan/contracts/daybook';
import type { CSSProperties } from 'react';

/** Where something lies along the time, from the beginning of the hours, in pixels. */
export function along(axis: Axis, from: number, size: number): CSSProperties {
  return axis === 'across' ? { left: from, width: size } : { top: from, height: size };
}

/** Classes of what lies across the whole lane: as high as a row, as wide as a column. */
export const WHOLE_LANE = { across: 'inset-y-0', down: 'inset-x-0' } as const satisfies Record<Axis, string>;
