import { type BusyTimes, readBusyTimes as contract } from '@zaguan/contracts/feeds';
import type { LocalDate } from '@zaguan/core/time';
import { readCalendar } from '../../exchange/readCalendarTask.ts';
import { type Ctx, earliestDate } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import { handleHeavy } from '../../platform/endpoint/handler.ts';
import { knownTimeOff, sitesOf } from './feeds.repository.ts';
import { ofOwnOrAny } from './feedRights.ts';

/** What the file is read against. */
interface Asked {
  readonly text: string;
  readonly today: LocalDate;
  readonly sites: readonly { readonly id: string; readonly timeZone: string }[];
  readonly known: ReadonlySet<string>;
}

/**
 * Busy times of a file on the clock of each site that somebody works at: time off is wall-clock time, and two sites may
 * have two clocks. What is over is left out; what stands already is marked.
 */
export const readBusy = handleHeavy(
  contract,
  async (ctx: Ctx, { resourceId, text }): Promise<Asked | Failure<'NotAllowed' | 'NotFound'>> => {
    const name = await ofOwnOrAny(ctx, resourceId);
    if (name instanceof Failure) return name;
    const sites = await sitesOf(ctx.em, resourceId);
    return { text, today: earliestDate(ctx), sites, known: await knownTimeOff(ctx.em, resourceId) };
  },
  async ({ text, today, sites, known }, { heavy, signal }): Promise<BusyTimes> => {
    const zones = sites.map((site) => site.timeZone);
    const read = await readCalendar(heavy, { text, zones, today, busyOnly: true }, signal);
    if (!('zones' in read))
      return read.refused === 'not-a-calendar'
        ? { readable: false, busy: [], refused: [] }
        : {
            readable: true,
            busy: [],
            refused: [{ at: read.at, summary: '', code: 'takes-too-long', detail: 'nothing' }],
          };
    return {
      readable: true,
      busy: sites.flatMap((site, i) => toBusy(site.id, read.zones[i].closures, today, known)),
      // The same events can't be read at any site.
      refused: (read.zones[0]?.refused ?? []).map((row) => ({ ...row })),
    };
  },
);

function toBusy(
  siteId: string,
  closures: readonly {
    startDate: LocalDate;
    startMinute: number;
    endDate: LocalDate;
    endMinute: number;
    reason: string;
  }[],
  today: LocalDate,
  known: ReadonlySet<string>,
): BusyTimes['busy'] {
  return closures
    .filter(({ endDate }) => endDate >= today)
    .map(({ startDate, startMinute, endDate, endMinute, reason }) => ({
      ...{ siteId, startDate, startMinute, endDate, endMinute },
      summary: reason,
      known: known.has([siteId, startDate, startMinute, endDate, endMinute].join(' ')),
    }));
}
