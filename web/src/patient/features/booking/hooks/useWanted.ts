import { useAppSelector } from '../../../store.ts';

/** The choices that a search needs, once they are made. */
export function useRequestedTime(): {
  siteId: string;
  visitTypeId: string;
  kind: 'new' | 'established';
  providerId?: string;
  payerId?: string;
  hasReferral?: 'true';
} | null {
  const { kind, siteId, visitTypeId, providerId, payer, hasReferral } = useAppSelector((state) => state.choices);
  if (!kind || !siteId || !visitTypeId || !providerId) return null;
  return {
    siteId,
    visitTypeId,
    kind,
    ...(providerId !== 'anyone' && { providerId }),
    ...(payer && payer !== 'self' && { payerId: payer, ...(hasReferral && { hasReferral: 'true' as const }) }),
  };
}
