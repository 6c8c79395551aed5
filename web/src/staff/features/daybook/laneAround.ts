import type { Lane, SiteDay } from '@zaguan/contracts/daybook';
import type { LaneSection } from './layout.ts';

/** Which lane of the board an element stands in. */
export interface LaneAt {
  readonly laneId: string;
  readonly dayStart: string;
}

/** The lane around an element of the board; `null` outside of lanes. */
export function laneAround(element: Element): LaneAt | null {
  const laneId = element.closest<HTMLElement>('[data-lane]')?.dataset.lane;
  const dayStart = element.closest<HTMLElement>('[data-day-start]')?.dataset.dayStart;
  return laneId && dayStart ? { laneId, dayStart } : null;
}

/** The lane itself, as the data has it now. */
export function findLane(sections: readonly LaneSection[], at: LaneAt): { lane: Lane; site: SiteDay } | null {
  for (const { site } of sections) {
    if (site.dayStart !== at.dayStart) continue;
    const lane = site.lanes.find(({ id }) => id === at.laneId);
    if (lane) return { lane, site };
  }
  return null;
}
