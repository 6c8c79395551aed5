import type { VisitToMove } from '@zaguan/contracts/availability';
import { dateAt, shortDate, timeOf } from '../../../../shared/time/format.ts';
import { accountsApi } from '../../accounts/index.ts';

type Time = NonNullable<VisitToMove['proposed']>;

/** Visits and their other times in words, on their site's clock. */
export function useVisitWords() {
  const { data: clinic } = accountsApi.useClinicQuery({});
  const siteOf = (id: string) => clinic?.sites.find((each) => each.id === id);
  const person = (id: string | null) => clinic?.people.find((each) => each.id === id)?.name ?? '';
  const when = ({ start, siteId }: Pick<Time, 'start' | 'siteId'>) => {
    const zone = siteOf(siteId)?.timeZone;
    // Rather nothing than a time of another zone, until the clinic is known.
    return zone ? `${shortDate(dateAt(start, zone))}, ${timeOf(start, zone)}` : '';
  };
  return {
    when,
    person,
    site: (id: string) => siteOf(id)?.name ?? '',
    type: (id: string) => clinic?.visitTypes.find((each) => each.id === id)?.name ?? '',
    /** Another time; with whom and where only if that is new. */
    time: (time: Time, visit: VisitToMove) =>
      [
        when(time),
        time.providerId !== visit.providerId ? person(time.providerId) : '',
        time.siteId !== visit.siteId ? (siteOf(time.siteId)?.name ?? '') : '',
      ]
        .filter(Boolean)
        .join(', '),
  };
}
