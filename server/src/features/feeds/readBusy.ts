import type { BusyTimes } from '@zaguan/contracts/feeds';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { LocalDate } from '@zaguan/core/time';
import { closuresFromCalendar } from '../../exchange/closuresFromCalendar.ts';
import { knownTimeOff, sitesOf } from './feeds.repository.ts';

/**
 * Busy times of a file on the clock of each site that somebody works at: time off is wall-clock time, and two sites may
 * have two clocks. What is over is left out; what stands already is marked.
 */
export async function readBusy(
  em: SqlEntityManager,
  resourceId: string,
  text: string,
  today: LocalDate,
): Promise<BusyTimes> {
  const known = await knownTimeOff(em, resourceId);
  const busy: BusyTimes['busy'] = [];
  let refused: BusyTimes['refused'] = [];
  for (const site of await sitesOf(em, resourceId)) {
    const read = closuresFromCalendar(text, site.time_zone, today, { busyOnly: true });
    if (!read) return { readable: false, busy: [], refused: [] };
    // The same events can't be read at any site.
    refused = read.refused.map((row) => ({ ...row }));
    for (const { startDate, startMinute, endDate, endMinute, reason } of read.closures) {
      if (endDate < today) continue;
      const span = { startDate, startMinute, endDate, endMinute };
      const key = [site.id, startDate, startMinute, endDate, endMinute].join(' ');
      busy.push({ siteId: site.id, ...span, summary: reason, known: known.has(key) });
    }
  }
  return { readable: true, busy, refused };
}
