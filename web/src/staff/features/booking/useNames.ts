import { dateAt, shortDate, timeOf, zoneShort } from '../../../shared/time/format.ts';
import { accountsApi } from '../accounts/index.ts';
import type { ChosenTime } from './flow.ts';

/** What chosen times are called: when, with whom, where. */
export function useNames() {
  const { data: clinic } = accountsApi.useClinicQuery({});
  const zoneOf = (siteId: string) => clinic?.sites.find(({ id }) => id === siteId)?.timeZone ?? 'UTC';
  return {
    clinic,
    zoneOf,
    /** On the clock of its site; named where that is not the usual one. */
    whenOf: ({ siteId, start }: ChosenTime) => {
      const zone = zoneOf(siteId);
      const isElsewhere = zone !== clinic?.sites[0]?.timeZone;
      return `${shortDate(dateAt(start, zone))}, ${timeOf(start, zone)}${isElsewhere ? ` ${zoneShort(zone)}` : ''}`;
    },
    timeIn: ({ siteId, start }: ChosenTime) => timeOf(start, zoneOf(siteId)),
    providerOf: (id: string | null) => clinic?.people.find((person) => person.id === id)?.shortName ?? '',
    siteOf: (id: string) => clinic?.sites.find((site) => site.id === id)?.name ?? '',
    typeOf: (id: string) => clinic?.visitTypes.find((type) => type.id === id)?.name ?? '',
    placeOf: ({ siteId, providerId }: ChosenTime) =>
      [
        clinic?.people.find(({ id }) => id === providerId)?.shortName,
        clinic?.sites.find(({ id }) => id === siteId)?.name,
      ]
        .filter(Boolean)
        .join(', '),
  };
}
