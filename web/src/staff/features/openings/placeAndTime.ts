/** Somebody’s time at a site: what "Why not?" asks about. */
export interface PlaceAndTime {
  readonly siteId: string;
  /** Empty: the first who works there. */
  readonly resourceId: string;
  /** Instant. */
  readonly start: string;
}

/** What an address names; `null` where it names none that can be read. */
export function placeAndTimeOf(text: string | null): PlaceAndTime | null {
  const [siteId, resourceId, start] = text?.split(' ') ?? [];
  return siteId && start && !Number.isNaN(Date.parse(start)) ? { siteId, resourceId, start } : null;
}

/** How an address names it. */
export function textOfPlaceAndTime({ siteId, resourceId, start }: PlaceAndTime): string {
  return [siteId, resourceId, start].join(' ');
}
