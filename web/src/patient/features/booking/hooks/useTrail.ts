import { useTranslation } from 'react-i18next';
import { useAppSelector } from '../../../store.ts';
import { bookingApi } from '../booking.api.ts';
import { useLanguage } from './useLanguage.ts';

/** What was chosen so far, in a line: "Follow-up visit, 20 minutes, Canal Row". */
export function useTrail(): string {
  const { t } = useTranslation();
  const language = useLanguage();
  const { kind, siteId, visitTypeId } = useAppSelector((state) => state.choices);
  const { data: clinic } = bookingApi.useClinicQuery({ language });
  const { data: types } = bookingApi.useVisitTypesQuery(
    { siteId: siteId ?? '', kind: kind ?? 'new', language },
    { skip: !siteId || !kind },
  );
  const type = types?.visitTypes.find((row) => row.id === visitTypeId);
  return [
    type?.name,
    type?.lengthMin && t('what.minutes', { count: type.lengthMin }),
    clinic?.sites.find((row) => row.id === siteId)?.name,
  ]
    .filter(Boolean)
    .join(', ');
}
