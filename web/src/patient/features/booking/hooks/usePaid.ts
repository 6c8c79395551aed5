import { useAppSelector } from '../../../store.ts';

/** Who pays, as a hold and a booking say it; nothing where it was not asked. */
export function usePaid(): { payerId?: string | null; hasReferral?: boolean } {
  const { payer, hasReferral } = useAppSelector((state) => state.choices);
  if (payer === null) return {};
  return payer === 'self' ? { payerId: null } : { payerId: payer, hasReferral };
}
