import { useLocation } from 'react-router';
import { useAppSelector } from '../../../store.ts';
import { bookingApi } from '../booking.api.ts';
import { useLanguage } from './useLanguage.ts';
import { useVisitType } from './useVisitType.ts';

/**
 * Which question of how many this page is; `null` where it is none of booking's. What is not asked is not counted, so how
 * many there are is known with the clinic (`of: null` until then).
 */
export function useSteps(): { n: number; of: number | null } | null {
  const { pathname } = useLocation();
  const language = useLanguage();
  const { data: clinic } = bookingApi.useClinicQuery({ language });
  const type = useVisitType();
  const isChosen = useAppSelector((state) => state.choices.visitTypeId !== null);
  // Until a type is chosen, most of them ask with whom.
  const asksWho = !isChosen || type?.needsProvider !== false;
  const steps = [
    '/',
    '/site',
    '/what',
    ...(clinic?.payers.length ? ['/pay'] : []),
    ...(asksWho ? ['/who'] : []),
    '/when',
    '/you',
  ];
  const at = steps.indexOf(pathname);
  return at < 0 ? null : { n: at + 1, of: clinic ? steps.length : null };
}
