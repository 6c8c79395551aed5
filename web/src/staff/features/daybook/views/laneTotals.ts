import type { Lane, SiteDay } from '@zaguan/contracts/daybook';
import { minutesOf, minutesWithout } from '@zaguan/core/daybook';
import { isPerson } from '../layout.ts';

/** What stands in a lane's head, in whole minutes and US dollars. */
export interface LaneTotals {
  readonly visits: number;
  readonly booked: number;
  /** Working minutes that nobody is booked in, and that are not kept free. */
  readonly open: number;
  /** Of the visits that are this person's own, or nobody's and given by them; a room's, of all that take place in it. */
  readonly feesUsd: number;
}

/** Visits that brought or will bring nobody in. */
const WITHOUT_FEE = new Set(['noshow', 'cancelled', 'entered-in-error']);

/** @param feeOf the expected fee of a visit type; `null` where nobody said one */
export function laneTotals(
  lane: Lane,
  site: Pick<SiteDay, 'closed'>,
  feeOf: (visitTypeId: string) => number | null,
): LaneTotals {
  const visits = lane.plates.filter(({ kind }) => kind === 'visit');
  const taken = lane.plates.flatMap(({ present, drawn }) => (present.length ? present : [drawn])).map(inMinutes);
  const hours = lane.hoursBands.map(inMinutes);
  const blocked = [...lane.away, ...lane.keptFree, ...site.closed].map(inMinutes);
  const own = isPerson(lane)
    ? visits.filter(({ providerId }) => providerId === null || providerId === lane.resourceId)
    : visits;
  return {
    visits: visits.length,
    booked: minutesOf(taken),
    open: minutesWithout(hours, [...taken, ...blocked]),
    feesUsd: own
      .filter(({ status }) => !WITHOUT_FEE.has(status))
      .reduce((sum, { visitTypeId }) => sum + (feeOf(visitTypeId) ?? 0), 0),
  };
}

function inMinutes({ start, end }: { readonly start: string; readonly end: string }) {
  return { from: Date.parse(start) / 60_000, to: Date.parse(end) / 60_000 };
}
