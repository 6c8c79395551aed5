import type { OutputOf } from '../endpoint.ts';
import type { daybookDay, daybookWeek, ShownVisit, SiteDay, WireSiteDay } from './day.ts';

/** A site's day as it goes over the wire: what several lanes show is said once. */
export function foldSiteDay({ lanes, ...site }: SiteDay): WireSiteDay {
  const visits = new Map<string, ShownVisit>();
  const folded = lanes.map(({ plates, ...rest }) => ({
    ...rest,
    plates: plates.map(({ drawn, present, resourceId: _, ...visit }) => {
      visits.set(visit.id, visit);
      return { id: visit.id, drawn, present };
    }),
  }));
  return { ...site, lanes: folded, visits: [...visits.values()] };
}

/** The inverse. Throws `RangeError` where a lane shows what the site doesn't know. */
export function unfoldSiteDay({ lanes, visits, ...site }: WireSiteDay): SiteDay {
  const byId = new Map(visits.map((visit) => [visit.id, visit]));
  return {
    ...site,
    lanes: lanes.map(({ plates, ...rest }) => ({
      ...rest,
      plates: plates.map((plate) => {
        const visit = byId.get(plate.id);
        if (!visit) throw new RangeError('A lane shows a visit that its site lacks.');
        return { ...visit, ...plate, resourceId: rest.resourceId };
      }),
    })),
  };
}

export type DaybookDay = Omit<OutputOf<typeof daybookDay>, 'sites'> & { sites: SiteDay[] };

export const unfoldDay = ({ sites, ...day }: OutputOf<typeof daybookDay>): DaybookDay => ({
  ...day,
  sites: sites.map(unfoldSiteDay),
});

export type DaybookWeek = Omit<OutputOf<typeof daybookWeek>, 'days'> & { days: { date: string; sites: SiteDay[] }[] };

export const unfoldWeek = ({ days, ...week }: OutputOf<typeof daybookWeek>): DaybookWeek => ({
  ...week,
  days: days.map(({ date, sites }) => ({ date, sites: sites.map(unfoldSiteDay) })),
});
