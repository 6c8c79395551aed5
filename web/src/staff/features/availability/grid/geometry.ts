import type { LaneDay, ScheduleWeek } from '@zaguan/contracts/availability';

export type Lane = ScheduleWeek['lanes'][number];
export type HoursBlock = LaneDay['hours'][number];

export const laneKey = (lane: Pick<Lane, 'resourceId' | 'siteId'>) => `${lane.siteId}:${lane.resourceId}`;

/** Minutes of the site's clock that every day shows, whole hours. */
export interface Shown {
  readonly fromMin: number;
  readonly toMin: number;
}

const DEFAULT_RANGE: Shown = { fromMin: 7 * 60, toMin: 18 * 60 };

/** From the earliest to the latest hours of the week, never less than the usual ones. */
export function shownOf(lanes: readonly Lane[]): Shown {
  let { fromMin, toMin } = DEFAULT_RANGE;
  for (const lane of lanes)
    for (const day of lane.days)
      for (const { fromMinute, toMinute } of day.hours) {
        fromMin = Math.min(fromMin, fromMinute);
        toMin = Math.max(toMin, toMinute);
      }
  return { fromMin: Math.floor(fromMin / 60) * 60, toMin: Math.ceil(toMin / 60) * 60 };
}

/** Where a minute lies in a day's width, in percent. */
export function percentOf(minute: number, { fromMin, toMin }: Shown): number {
  return (Math.min(Math.max(minute, fromMin), toMin) - fromMin) * (100 / (toMin - fromMin));
}

/** A stretch of a day as the CSS that places it. */
export function placed(span: { fromMinute: number; toMinute: number }, shown: Shown): { left: string; width: string } {
  const left = percentOf(span.fromMinute, shown);
  return { left: `${left}%`, width: `${percentOf(span.toMinute, shown) - left}%` };
}

/** Steps a pointer snaps to: five minutes where a pixel is less than that, else a quarter of an hour. */
export function stepFor(widthPx: number, { fromMin, toMin }: Shown): 5 | 15 {
  return (toMin - fromMin) / widthPx <= 2.5 ? 5 : 15;
}

/** The minute under a pointer, on the step's marks. */
export function minuteAt(xPx: number, widthPx: number, shown: Shown): number {
  const step = stepFor(widthPx, shown);
  const minute = shown.fromMin + (Math.min(Math.max(xPx, 0), widthPx) / widthPx) * (shown.toMin - shown.fromMin);
  return Math.round(minute / step) * step;
}

export type Grip = 'from' | 'to' | 'whole';

/** Hours after a drag: an end that was pulled, or all of them moved; never shorter than a step, never out of the day. */
export function dragged(
  span: { fromMinute: number; toMinute: number },
  grip: Grip,
  byMin: number,
  step: number,
): { fromMinute: number; toMinute: number } {
  const { fromMinute, toMinute } = span;
  if (grip === 'from') return { fromMinute: Math.min(Math.max(0, fromMinute + byMin), toMinute - step), toMinute };
  if (grip === 'to') return { fromMinute, toMinute: Math.max(Math.min(1440, toMinute + byMin), fromMinute + step) };
  const by = Math.max(-fromMinute, Math.min(1440 - toMinute, byMin));
  return { fromMinute: fromMinute + by, toMinute: toMinute + by };
}

/** The stretch between two minutes, whichever came first. */
export function between(a: number, b: number, step: number): { fromMinute: number; toMinute: number } {
  const fromMinute = Math.min(a, b);
  return { fromMinute, toMinute: Math.max(a, b, fromMinute + step) };
}

/** Everything between two lanes and two days, both included, in the order of the page. */
export function rectangle<T>(
  lanes: readonly T[],
  from: { lane: number; day: number },
  to: { lane: number; day: number },
) {
  const [top, bottom] = [Math.min(from.lane, to.lane), Math.max(from.lane, to.lane)];
  const [left, right] = [Math.min(from.day, to.day), Math.max(from.day, to.day)];
  const days = Array.from({ length: right - left + 1 }, (_, i) => left + i);
  return lanes.slice(top, bottom + 1).flatMap((lane) => days.map((day) => ({ lane, day })));
}
