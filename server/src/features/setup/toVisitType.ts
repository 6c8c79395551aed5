import type { NeedDoc, VisitTypeDoc } from '@zaguan/contracts/setup';
import type { OnlinePolicy } from '@zaguan/core/openings';
import type { Need, VisitType } from '@zaguan/core/visits';

function toNeed(need: NeedDoc): Need {
  const bound = { key: need.key, sameAs: need.sameAs, differentFrom: need.differentFrom };
  switch (need.what) {
    case 'provider':
      return { ...bound, what: 'provider' };
    case 'resource':
      return { ...bound, what: 'resource', resourceId: need.resourceId ?? '' };
    case 'pool':
      return { ...bound, what: 'pool', poolKind: need.poolKind ?? '', turnaroundMin: need.turnaroundMin };
    case 'present':
      return { ...bound, what: 'present', capability: need.capability ?? '' };
  }
}

/** A visit type as the search plans by it, also before it is saved. */
export function toVisitType(id: string, doc: VisitTypeDoc): VisitType {
  return {
    id,
    parts: doc.parts.map(({ lengthMin, needs }) => ({ lengthMin, needs: needs.map(toNeed) })),
    beforeMin: doc.beforeMin,
    afterMin: doc.afterMin,
    providerIds: doc.providerIds,
    siteIds: doc.siteIds,
    spacing: doc.spacing.map((row) => ({ ...row, otherTypeId: row.otherTypeId ?? id })),
  };
}

export function toPolicies(id: string, doc: VisitTypeDoc): OnlinePolicy[] {
  return doc.policies.map((row, i) => ({
    id: `draft ${i}`,
    visitTypeId: id,
    siteId: row.siteId,
    providerId: row.providerId,
    offered: row.offered,
    kinds: row.kinds,
    leadMin: row.leadMin,
    leadWorkingDays: row.leadWorkingDays,
    leadByMinute: row.leadByMinute,
    windowDays: row.windowDays,
    gridMin: row.gridMin,
  }));
}
