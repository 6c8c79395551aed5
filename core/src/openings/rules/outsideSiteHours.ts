import { andNot, cellsOf, erode, fullMask } from '../../time/index.ts';
import type { Facts } from '../codes.ts';
import type { StartRule } from '../rule.ts';

/** The visit does not lie inside the site's opening hours. Binds online; the desk is only warned. */
export const outsideSiteHours: StartRule = {
  code: 'outside-site-hours',
  scope: 'start',
  variesBy: 'date',
  binds: 'online',
  hide: ({ index, site, day, lengthCells }) =>
    andNot(fullMask(day.cells), erode(index.siteDay(site.id, day.date).open, lengthCells)),
  facts: ({ index, site, day }) => {
    const open = cellsOf(index.siteDay(site.id, day.date).open);
    const facts: Facts = open.length
      ? { opensMinute: day.wallOfCell[open[0]], closesMinute: day.wallOfCell[open[open.length - 1]] + 5 }
      : { shutAllDay: true };
    return [facts];
  },
};
