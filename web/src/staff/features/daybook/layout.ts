import type { DaybookDay, Lane, SiteDay } from '@zaguan/contracts/daybook';

/** Minutes from each site's own midnight that the Daybook shows, whole hours; the same for all sites. */
export interface Shown {
  readonly fromMin: number;
  readonly toMin: number;
}

const DEFAULT_RANGE: Shown = { fromMin: 8 * 60, toMin: 17 * 60 };
/** Height of a row of plates, by how dense the clinic wants the Daybook; a target is 24 px high (WCAG 2.5.8). */
export const ROW_PX = { roomy: 28, dense: 24 } as const;
export const BAND_PX = 7;

/** Minutes from the site's midnight to an instant (elapsed, so that days with a clock change stay even). */
export function minuteOf(site: Pick<SiteDay, 'dayStart'>, instant: string): number {
  return (Date.parse(instant) - Date.parse(site.dayStart)) / 60_000;
}

/** The instant at so many minutes after the site's midnight. */
export function instantOf(site: Pick<SiteDay, 'dayStart'>, minute: number): string {
  return new Date(Date.parse(site.dayStart) + minute * 60_000).toISOString();
}

/** From the earliest to the latest thing of the day, never less than the usual hours. */
export function shownOf(sites: DaybookDay['sites']): Shown {
  let { fromMin, toMin } = DEFAULT_RANGE;
  for (const site of sites) {
    for (const lane of site.lanes) {
      for (const thing of [...lane.hoursBands, ...lane.plates.map((plate) => plate.drawn)]) {
        fromMin = Math.min(fromMin, minuteOf(site, thing.start));
        toMin = Math.max(toMin, minuteOf(site, thing.end));
      }
    }
  }
  return { fromMin: Math.floor(fromMin / 60) * 60, toMin: Math.ceil(toMin / 60) * 60 };
}

/** A site on one date, with the lanes to draw. */
export interface LaneSection {
  readonly key: string;
  readonly site: SiteDay;
  /** Where a lane's name leads. */
  readonly linkOf: (lane: Lane) => string;
}

/** Which lanes are drawn: people, or rooms and equipment. */
export const LANE_SETS = ['people', 'places'] as const;
export type LaneSet = (typeof LANE_SETS)[number];

/** The lanes of a set; on request only those with hours or visits that day. Things without hours of their own are there all day. */
export function lanesOf(site: SiteDay, set: LaneSet, onlyWorking: boolean): readonly Lane[] {
  return site.lanes.filter((lane) => {
    const person = lane.kind === 'provider' || lane.kind === 'staff';
    if (person !== (set === 'people')) return false;
    return !onlyWorking || lane.hoursBands.length > 0 || lane.plates.length > 0;
  });
}
