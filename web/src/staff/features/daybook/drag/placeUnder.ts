import type { Axis } from '@zaguan/contracts/daybook';
import { CELL_MIN } from '@zaguan/core/time';
import { dateAt } from '../../../../shared/time/format.ts';
import { findLane, laneAround } from '../laneAround.ts';
import type { LaneSection } from '../layout.ts';
import type { Box, Over, Picked } from './drag.slice.ts';

/** As narrow as a plate is drawn at least. */
export const MIN_PX = 24;

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
export function scaleOf(board: HTMLElement): { axis: Axis; pxPerMin: number; fromMin: number } {
  const { axis, pxPerMin, fromMin } = board.dataset;
  return { axis: axis === 'down' ? 'down' : 'across', pxPerMin: Number(pxPerMin), fromMin: Number(fromMin) };
}

/** Which lane and start a dragged visit hangs over, and where that is drawn; `null` outside of the lanes. */
export function placeUnder(
  board: HTMLElement,
  hanging: Hanging,
  picked: Picked,
  sections: readonly LaneSection[],
): { over: Over; box: Box } | null {
  const { axis, pxPerMin, fromMin } = scaleOf(board);
  const isAcross = axis === 'across';
  const element = isAcross
    ? laneAt(board, 'across', hanging.top + hanging.height / 2)
    : laneAt(board, 'down', hanging.left + WITHIN_PX);
  const at = element && laneAround(element);
  const found = at && findLane(sections, at);
  const hours = element?.querySelector('[data-hours]');
  if (!found || !hours) return null;
  const { left, top, width, height } = hours.getBoundingClientRect();
  const fromStart = isAcross ? hanging.left + hanging.barLeft - left : hanging.top - top;
  const minute = fromMin + fromStart / pxPerMin - hanging.drawnAfterMin;
  const { site, lane } = found;
  const start = Math.round(minute / CELL_MIN) * CELL_MIN;
  const length = (Date.parse(picked.end) - Date.parse(picked.start)) / 60_000;
  return {
    over: {
      ...at,
      date: dateAt(site.dayStart, site.timeZone),
      siteId: site.id,
      // On a room's or a nurse's lane it stays with its provider.
      providerId: picked.providerId !== null && lane.kind === 'provider' ? lane.resourceId : picked.providerId || null,
      start: Date.parse(site.dayStart) / 60_000 + start,
      lengthMin: null,
    },
    box: isAcross
      ? { left: left + (start - fromMin) * pxPerMin, top, width: Math.max(MIN_PX, length * pxPerMin), height }
      : { left, top: top + (start - fromMin) * pxPerMin, width, height: Math.max(MIN_PX, length * pxPerMin) },
  };
}

/** How far into a column a plate that hangs over it reaches at least. */
const WITHIN_PX = 12;
/** How far into the next lane a key takes it. */
const INTO_PX = 8;

/** A lane's extent across the time: a row's height, a column's width. */
function extentOf(element: HTMLElement, axis: Axis): { from: number; to: number } {
  const { top, bottom, left, right } = element.getBoundingClientRect();
  return axis === 'across' ? { from: top, to: bottom } : { from: left, to: right };
}

/** A plate is never pulled shorter. */
const SHORTEST_MIN = CELL_MIN;

/** How long a visit is when its end is pulled along by so many pixels, and where that is drawn. */
export function lengthUnder(
  board: HTMLElement,
  pulled: { readonly picked: Picked; readonly at: Omit<Over, 'start' | 'lengthMin'>; readonly bar: Box },
  by: { readonly x: number; readonly y: number },
): { over: Over; box: Box } {
  const { axis, pxPerMin } = scaleOf(board);
  const { picked, at, bar } = pulled;
  const [from, to] = [Date.parse(picked.start) / 60_000, Date.parse(picked.end) / 60_000];
  const length = to - from + (axis === 'across' ? by.x : by.y) / pxPerMin;
  const lengthMin = Math.max(SHORTEST_MIN, Math.round(length / CELL_MIN) * CELL_MIN);
  const px = Math.max(MIN_PX, lengthMin * pxPerMin);
  return {
    over: { ...at, start: from, lengthMin },
    box: axis === 'across' ? { ...bar, width: px } : { ...bar, height: px },
  };
}

/**
 * Looked up by height (or, where lanes are columns, from the left): asking the browser what lies under a point makes it
 * search through all that is drawn.
 */
function laneAt(board: HTMLElement, axis: Axis, at: number): HTMLElement | null {
  const { from, to } = extentOf(board, axis);
  if (at < from || at > to) return null;
  for (const lane of board.querySelectorAll<HTMLElement>('[data-lane]')) {
    const extent = extentOf(lane, axis);
    if (at >= extent.from && at < extent.to) return lane;
  }
  return null;
}

const ARROWS = {
  across: { back: 'ArrowLeft', on: 'ArrowRight', before: 'ArrowUp', after: 'ArrowDown' },
  down: { back: 'ArrowUp', on: 'ArrowDown', before: 'ArrowLeft', after: 'ArrowRight' },
} as const;

/** Where arrow keys take a dragged visit: five minutes along, the next place where it fits, or over to another lane. */
export function stepTo(
  event: KeyboardEvent,
  board: HTMLElement,
  from: { readonly x: number; readonly y: number },
  over: Over | null,
  fits: readonly number[] | undefined,
): { x: number; y: number } | undefined {
  const { axis, pxPerMin } = scaleOf(board);
  const keys = ARROWS[axis];
  const time = axis === 'across' ? 'x' : 'y';
  const aside = axis === 'across' ? 'y' : 'x';
  const on = event.key === keys.back ? -1 : event.key === keys.on ? 1 : 0;
  if (on) {
    event.preventDefault();
    const next = event.shiftKey && over && fits ? nextOf(fits, over.start, on) : undefined;
    const minutes = next === undefined || !over ? on * CELL_MIN : next - over.start;
    return { ...from, [time]: from[time] + minutes * pxPerMin };
  }
  const across = event.key === keys.before ? -1 : event.key === keys.after ? 1 : 0;
  if (!across) return undefined;
  event.preventDefault();
  const lanes = [...board.querySelectorAll<HTMLElement>('[data-lane]')];
  const here = lanes.findIndex((lane) => {
    const extent = extentOf(lane, axis);
    return from[aside] + INTO_PX >= extent.from && from[aside] + INTO_PX < extent.to;
  });
  const to = lanes[here + across];
  return here < 0 || !to ? undefined : { ...from, [aside]: extentOf(to, axis).from + INTO_PX };
}

function nextOf(starts: readonly number[], from: number, along: number): number | undefined {
  return along > 0 ? starts.find((start) => start > from) : starts.findLast((start) => start < from);
}
