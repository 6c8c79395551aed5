import { useAppSelector } from '../../../store.ts';
import { bookingApi } from '../booking.api.ts';
import { useLanguage } from './useLanguage.ts';

/** The visit type that is being booked, in the patient's language; undefined until it is known. */
export function useVisitType() {
  const language = useLanguage();
  const { kind, siteId, visitTypeId } = useAppSelector((state) => state.choices);
  const { data } = bookingApi.useVisitTypesQuery(
    { siteId: siteId ?? '', kind: kind ?? 'new', language },
    { skip: !siteId || !kind },
  );
  return data?.visitTypes.find((type) => type.id === visitTypeId);
}
