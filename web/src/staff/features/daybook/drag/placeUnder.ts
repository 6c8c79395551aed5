import { CELL_MIN } from '@zaguan/core/time';
import { dateAt } from '../../../../shared/time/format.ts';
import { findLane, laneAround } from '../laneAround.ts';
import type { LaneSection } from '../layout.ts';
import type { Box, Over, Picked } from './drag.slice.ts';

/** As narrow as a plate is drawn at least. */
const MIN_PX = 24;

/** A dragged plate as it hangs over the page. */
export interface Hanging {
  readonly left: number;
  readonly top: number;
  /** The plate's own, without the words below it. */
  readonly height: number;
  /** From its left edge to where its minutes begin. */
  readonly barLeft: number;
  /** Minutes from the visit's start to what this lane draws of it. */
  readonly drawnAfterMin: number;
}

/** How the board is drawn, as it says itself. */
export function scaleOf(board: HTMLElement): { pxPerMin: number; fromMin: number } {
  return { pxPerMin: Number(board.dataset.pxPerMin), fromMin: Number(board.dataset.fromMin) };
}

/** Which lane and start a dragged visit hangs over, and where that is drawn; `null` outside of the lanes. */
export function placeUnder(
  board: HTMLElement,
  hanging: Hanging,
  picked: Picked,
  sections: readonly LaneSection[],
): { over: Over; box: Box } | null {
  const x = hanging.left + hanging.barLeft;
  const y = hanging.top + hanging.height / 2;
  const element = laneAtHeight(board, y);
  const at = element && laneAround(element);
  const found = at && findLane(sections, at);
  const hours = element?.querySelector('[data-hours]');
  if (!found || !hours) return null;
  const { pxPerMin, fromMin } = scaleOf(board);
  const { left, top, height } = hours.getBoundingClientRect();
  const minute = fromMin + (x - left) / pxPerMin - hanging.drawnAfterMin;
  const { site, lane } = found;
  const start = Math.round(minute / CELL_MIN) * CELL_MIN;
  const length = (Date.parse(picked.end) - Date.parse(picked.start)) / 60_000;
  return {
    over: {
      ...at,
      date: dateAt(site.dayStart, site.timeZone),
      siteId: site.id,
      // On a room's or a nurse's lane it stays with its provider.
      providerId: picked.providerId !== null && lane.kind === 'provider' ? lane.resourceId : picked.providerId,
      start: Date.parse(site.dayStart) / 60_000 + start,
    },
    box: { left: left + (start - fromMin) * pxPerMin, top, width: Math.max(MIN_PX, length * pxPerMin), height },
  };
}

/** Looked up by height: asking the browser what lies under a point makes it search through all that is drawn. */
function laneAtHeight(board: HTMLElement, y: number): HTMLElement | null {
  const { top, bottom } = board.getBoundingClientRect();
  if (y < top || y > bottom) return null;
  for (const lane of board.querySelectorAll<HTMLElement>('[data-lane]')) {
    const rect = lane.getBoundingClientRect();
    if (y >= rect.top && y < rect.bottom) return lane;
  }
  return null;
}

/** Where arrow keys take a dragged visit: five minutes along, the next place where it fits, or over to another lane. */
export function stepTo(
  event: KeyboardEvent,
  board: HTMLElement,
  from: { readonly x: number; readonly y: number },
  over: Over | null,
  fits: readonly number[] | undefined,
): { x: number; y: number } | undefined {
  const { pxPerMin } = scaleOf(board);
  const along = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0;
  if (along) {
    event.preventDefault();
    const next = event.shiftKey && over && fits ? nextOf(fits, over.start, along) : undefined;
    const minutes = next === undefined || !over ? along * CELL_MIN : next - over.start;
    return { ...from, x: from.x + minutes * pxPerMin };
  }
  const across = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : 0;
  if (!across) return undefined;
  event.preventDefault();
  const lanes = [...board.querySelectorAll<HTMLElement>('[data-lane]')];
  const here = lanes.findIndex((lane) => {
    const { top, bottom } = lane.getBoundingClientRect();
    return from.y + 8 >= top && from.y + 8 < bottom;
  });
  const to = lanes[here + across];
  return here < 0 || !to ? undefined : { ...from, y: to.getBoundingClientRect().top + 8 };
}

function nextOf(starts: readonly number[], from: number, along: number): number | undefined {
  return along > 0 ? starts.find((start) => start > from) : starts.findLast((start) => start < from);
}
