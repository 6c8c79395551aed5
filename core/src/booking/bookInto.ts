import { ClinicIndex, type ClinicStore, type SearchCriteria } from '../openings/index.ts';
import type { EpochMinute } from '../time/index.ts';
import { planVisit, type VisitPlan } from './planVisit.ts';

/** A visit to be put down in thought. */
export interface TentativeVisit {
  readonly criteria: SearchCriteria;
  readonly siteId: string;
  readonly providerId: string | null;
  readonly start: EpochMinute;
}

/**
 * Takes a time in a store as a booking would, so that whatever looks next finds it taken; `store.drop(id)` gives it back.
 * What stood under the id before goes.
 *
 * @returns what it takes, or `null` if it can't be had
 */
export function bookInto(
  store: ClinicStore,
  now: EpochMinute,
  id: string,
  tentative: TentativeVisit,
): VisitPlan | null {
  const planned = planVisit(
    new ClinicIndex(store, now),
    tentative.criteria,
    tentative.siteId,
    tentative.providerId,
    tentative.start,
  );
  if (!planned.ok) return null;
  putPlanned(store, id, tentative, planned.plan);
  return planned.plan;
}

/** Puts a planned visit into a store, as if it were booked. */
export function putPlanned(store: ClinicStore, id: string, tentative: TentativeVisit, plan: VisitPlan): void {
  const { criteria, siteId, providerId } = tentative;
  const { beforeMin, afterMin } = store.visitType(criteria.visitTypeId);
  store.put(
    id,
    {
      id,
      visitTypeId: criteria.visitTypeId,
      siteId,
      providerId,
      patientId: criteria.patientId ?? null,
      kind: criteria.kind,
      selfBooked: criteria.channel !== 'desk',
      start: plan.start,
      end: plan.end,
      providerStart: plan.providerStart,
      providerEnd: plan.providerEnd,
      beforeMin,
      afterMin,
      date: plan.date,
      parts: criteria.parts ?? null,
    },
    plan.occupancy.map((row) => ({ ...row, visitId: id })),
  );
}
