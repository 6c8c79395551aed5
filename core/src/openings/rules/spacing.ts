import { daysBetween, NO_CELLS, fullMask } from '../../time/index.ts';
import type { Facts } from '../codes.ts';
import type { Frame } from '../frame.ts';
import type { StartRule } from '../rule.ts';

function broken({ index, criteria, type, day }: Frame): Facts[] {
  if (!criteria.patientId) return [];
  const visits = index.visitsOfPatient(criteria.patientId).filter((visit) => visit.id !== criteria.ignoreVisitId);
  return type.spacing.flatMap<Facts>((rule) => {
    const days = visits
      .filter((visit) => visit.visitTypeId === rule.otherTypeId)
      .map((visit) => ({ visit, apart: daysBetween(visit.date, day.date) }));
    const facts: Facts[] = [];
    if (rule.minDays !== null) {
      for (const { visit, apart } of days)
        if (Math.abs(apart) < rule.minDays)
          facts.push({ visitId: visit.id, minDays: rule.minDays, apart: Math.abs(apart) });
    }
    if (rule.maxDays !== null) {
      // Judged against the latest one before: a series must not break off for longer than this.
      const before = days.filter(({ apart }) => apart >= 0).sort((a, b) => a.apart - b.apart)[0];
      if (before && before.apart > rule.maxDays)
        facts.push({ visitId: before.visit.id, maxDays: rule.maxDays, apart: before.apart });
    }
    return facts;
  });
}

/** Too close to (or too long after) the patient's other visits of a kind, in calendar days. */
export const spacing: StartRule = {
  code: 'spacing',
  scope: 'start',
  variesBy: 'date',
  binds: 'everyone',
  hide: (frame) => (broken(frame).length ? fullMask(frame.day.cells) : NO_CELLS),
  facts: broken,
};
