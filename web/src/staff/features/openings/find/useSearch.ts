import type { OutputOf } from '@zaguan/contracts';
import type { staffClinic } from '@zaguan/contracts/clinic';
import { useMemo } from 'react';
import { dateAt } from '../../../../shared/time/format.ts';
import { useAddress } from '../../../shell/useAddress.ts';
import { type PlaceAndTime, placeAndTimeOf, textOfPlaceAndTime } from '../placeAndTime.ts';
import { addressOf, type SearchBounds, searchOf } from './searchAddress.ts';
import { type TypedSearch, VIEWS, type View } from './typed.ts';

type Clinic = OutputOf<typeof staffClinic>;

/** What is looked for, as the page's address says it: a link, a reload and Back lead to the same search and view. */
export function useSearch(clinic: Clinic | undefined) {
  const { asked, set } = useAddress();
  const bounds = useMemo(() => clinic && boundsOf(clinic), [clinic]);
  const typed = useMemo(() => bounds && searchOf(asked, bounds), [asked, bounds]);
  const why = asked.get('why');
  return {
    typed,
    search: (to: TypedSearch) => bounds && set(addressOf(to, bounds)),
    view: VIEWS.find((each) => each === asked.get('view')) ?? ('times' as const),
    setView: (view: View) => set({ view: view === 'times' ? null : view }),
    why: useMemo(() => placeAndTimeOf(why), [why]),
    setWhy: (to: PlaceAndTime | null) => set({ why: to && textOfPlaceAndTime(to) }, to !== null && !why),
  };
}

function boundsOf({ visitTypes, sites, people, languages, now }: Clinic): SearchBounds {
  const ids = (rows: readonly { readonly id: string }[]) => rows.map(({ id }) => id);
  return {
    visitTypeIds: ids(visitTypes),
    siteIds: ids(sites),
    providerIds: ids(people.filter(({ kind }) => kind === 'provider')),
    languages,
    today: dateAt(now, sites[0]?.timeZone ?? 'UTC'),
  };
}
