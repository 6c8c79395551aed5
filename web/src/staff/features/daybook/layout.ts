import type { DaybookDay, Lane, SiteDay, ViewSettings } from '@zaguan/contracts/daybook';

/** Minutes from each site's own midnight that the Daybook shows, whole hours; the same for all sites. */
export interface Shown {
  readonly fromMin: number;
  readonly toMin: number;
}

const DEFAULT_RANGE: Shown = { fromMin: 8 * 60, toMin: 17 * 60 };
/** Height of a row of plates, by how dense the Daybook is wanted; a target is 24 px high (WCAG 2.5.8). */
export const ROW_PX = { roomy: 28, dense: 24 } as const;
export const BAND_PX = 7;

const DAY_MIN = 24 * 60;

/** Minutes from the site's midnight to an instant (elapsed, so that days with a clock change stay even). */
export function minuteOf(site: Pick<SiteDay, 'dayStart'>, instant: string): number {
  return (Date.parse(instant) - Date.parse(site.dayStart)) / 60_000;
}

/** The instant at so many minutes after the site's midnight. */
export function instantOf(site: Pick<SiteDay, 'dayStart'>, minute: number): string {
  return new Date(Date.parse(site.dayStart) + minute * 60_000).toISOString();
}

/**
 * The hours that a Lens shows: the usual ones and more where something lies outside of them; from the first hours or visit
 * to the last; or always the same, whatever lies outside (see `outsideOf`).
 */
export function shownOf(
  sites: DaybookDay['sites'],
  { hours, fromMinute, toMinute }: Pick<ViewSettings, 'hours' | 'fromMinute' | 'toMinute'>,
): Shown {
  if (hours === 'fixed' && fromMinute !== null && toMinute !== null) {
    // Where clocks change that day, the clock's minutes are an hour off from those that went by.
    const slack = sites.some((site) => minuteOf(site, site.dayEnd) !== DAY_MIN) ? 60 : 0;
    return wholeHours(Math.max(0, fromMinute - slack), Math.min(DAY_MIN, toMinute + slack));
  }
  let [fromMin, toMin] = hours === 'first' ? [Infinity, -Infinity] : [DEFAULT_RANGE.fromMin, DEFAULT_RANGE.toMin];
  for (const site of sites) {
    for (const lane of site.lanes) {
      for (const thing of [...lane.hoursBands, ...lane.plates.map((plate) => plate.drawn)]) {
        fromMin = Math.min(fromMin, minuteOf(site, thing.start));
        toMin = Math.max(toMin, minuteOf(site, thing.end));
      }
    }
  }
  return toMin > fromMin ? wholeHours(fromMin, toMin) : DEFAULT_RANGE;
}

function wholeHours(fromMin: number, toMin: number): Shown {
  return { fromMin: Math.floor(fromMin / 60) * 60, toMin: Math.ceil(toMin / 60) * 60 };
}

/** How many visits lie outside of the hours that are shown, wholly or in part. */
export function outsideOf(sites: DaybookDay['sites'], { fromMin, toMin }: Shown): number {
  const outside = new Set<string>();
  for (const site of sites)
    for (const lane of site.lanes)
      for (const { id, kind, drawn } of lane.plates)
        if (kind === 'visit' && (minuteOf(site, drawn.start) < fromMin || minuteOf(site, drawn.end) > toMin))
          outside.add(id);
  return outside.size;
}

/** A site on one date, with the lanes to draw. */
export interface LaneSection {
  readonly key: string;
  readonly site: SiteDay;
  /** What stands above it; the site's name where nothing is said. */
  readonly title?: string;
  /** Where that leads, if anywhere. */
  readonly titleLink?: string;
  /** Where a lane's name leads. */
  readonly linkOf: (lane: Lane) => string;
}

/** People, or rooms and equipment. */
export const LANE_KINDS = ['people', 'places'] as const;

export const isPerson = ({ kind }: Pick<Lane, 'kind'>): boolean => kind === 'provider' || kind === 'staff';

/** Whether something is there that day: hours, a visit or a hold. */
export const isInUse = ({ hoursBands, plates }: Lane): boolean => hoursBands.length > 0 || plates.length > 0;

/**
 * The lanes that a Lens draws of a site, in its order. Things without hours of their own are there all day; whoever is
 * listed by name and not at this site, or left since, has no lane.
 */
export function lanesOf(
  site: SiteDay,
  { lanes: set, only, order, inUseOnly }: Pick<ViewSettings, 'lanes' | 'only' | 'order' | 'inUseOnly'>,
): readonly Lane[] {
  const there = site.lanes.filter((lane) => !inUseOnly || isInUse(lane));
  if (only !== null) {
    const byId = new Map(there.map((lane) => [lane.resourceId, lane]));
    return only.flatMap((id) => byId.get(id) ?? []);
  }
  const wanted = set === 'both' ? there : there.filter((lane) => isPerson(lane) === (set === 'people'));
  // People before the rooms they work in, each in their order.
  return wanted.toSorted((a, b) => Number(isPerson(b)) - Number(isPerson(a)) || inOrder(order, a, b));
}

function inOrder(order: ViewSettings['order'], a: Lane, b: Lane): number {
  if (order === 'setup') return 0;
  const byName = a.name.localeCompare(b.name, 'en', { numeric: true });
  return order === 'name' ? byName : firstOf(a).localeCompare(firstOf(b)) || byName;
}

/** When somebody's hours begin; whoever has none comes last. */
function firstOf({ hoursBands }: Lane): string {
  return hoursBands.reduce((first, { start }) => (start < first ? start : first), '9999');
}
