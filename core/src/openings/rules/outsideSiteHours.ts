import { andNot, cellsOf, erode, fullMask, type Mask } from '../../time/index.ts';
import type { Facts } from '../codes.ts';
import type { StartRule } from '../rule.ts';

/** By a site's opening cells, which change with the plan only, and the length of the visit. */
const known = new WeakMap<Mask, Map<number, Mask>>();

/** The visit does not lie inside the site's opening hours. Binds online; the desk is only warned. */
export const outsideSiteHours: StartRule = {
  code: 'outside-site-hours',
  scope: 'start',
  variesBy: 'date',
  binds: 'online',
  hide: ({ index, site, day, lengthCells }) => {
    const { open } = index.siteDay(site.id, day.date);
    let byLength = known.get(open);
    if (!byLength) {
      byLength = new Map();
      known.set(open, byLength);
    }
    let hidden = byLength.get(lengthCells);
    if (!hidden) {
      hidden = andNot(fullMask(day.cells), erode(open, lengthCells));
      byLength.set(lengthCells, hidden);
    }
    return hidden;
  },
  facts: ({ index, site, day }) => {
    const open = cellsOf(index.siteDay(site.id, day.date).open);
    const facts: Facts = open.length
      ? { opensMinute: day.wallOfCell[open[0]], closesMinute: day.wallOfCell[open[open.length - 1]] + 5 }
      : { shutAllDay: true };
    return [facts];
  },
};
