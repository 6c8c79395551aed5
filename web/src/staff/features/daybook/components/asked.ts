import type { SiteDay } from '@zaguan/contracts/daybook';
import type { PlaceAndTime } from '../../openings/index.ts';
import { freeTimeFrom } from '../freeTime.ts';
import { findLane, laneAround } from '../laneAround.ts';
import type { LaneSection } from '../layout.ts';

/** The free time behind the visit that has the keyboard's focus, or the first of its lane; `null` where no provider's has. */
export function freeAtFocus(sections: readonly LaneSection[], now: string): PlaceAndTime | null {
  const focused = document.activeElement;
  const around = focused && laneAround(focused);
  const found = around && findLane(sections, around);
  if (found?.lane.kind !== 'provider') return null;
  const plateId = focused?.closest<HTMLElement>('[data-plate]')?.dataset.plate;
  const from = found.lane.plates.find(({ id }) => id === plateId)?.drawn.end ?? now;
  // The minute that runs has begun.
  const soonest = new Date(Date.parse(now) + 60_000).toISOString();
  const start = freeTimeFrom(found.lane, from > soonest ? from : soonest);
  return start === null ? null : { siteId: found.site.id, resourceId: found.lane.resourceId, start };
}

/** A start to ask about where none was pointed at: with the first provider there is, now or at nine hours into the day. */
export function anyTime(sites: readonly SiteDay[], now: string | null): PlaceAndTime | null {
  const site = sites.find((row) => row.lanes.some((lane) => lane.kind === 'provider'));
  const lane = site?.lanes.find((row) => row.kind === 'provider');
  if (!site || !lane) return null;
  const start = roundUp(now ?? new Date(Date.parse(site.dayStart) + 9 * 3_600_000).toISOString());
  return { siteId: site.id, resourceId: lane.resourceId, start };
}

function roundUp(instant: string): string {
  return new Date(Math.ceil(Date.parse(instant) / 300_000) * 300_000).toISOString();
}
