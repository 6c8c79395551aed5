import { addRangeInto, CELL_MIN, emptyMask, epochOfCell, NO_CELLS } from '../../time/index.ts';
import type { BookedVisit } from '../../visits/index.ts';
import type { Frame } from '../frame.ts';
import type { StartRule } from '../rule.ts';

function others({ index, criteria }: Frame): BookedVisit[] {
  if (!criteria.patientId) return [];
  return index.visitsOfPatient(criteria.patientId).filter((visit) => visit.id !== criteria.ignoreVisitId);
}

/** The patient has another visit at that time. */
export const patientElsewhere: StartRule = {
  code: 'patient-elsewhere',
  scope: 'start',
  variesBy: 'date',
  binds: 'everyone',
  hide: (frame) => {
    const visits = others(frame);
    if (!visits.length) return NO_CELLS;
    const mask = emptyMask();
    for (const visit of visits) {
      addRangeInto(
        mask,
        Math.floor((visit.start - frame.day.start) / CELL_MIN) - frame.lengthCells + 1,
        Math.ceil((visit.end - frame.day.start) / CELL_MIN),
      );
    }
    return mask;
  },
  facts: (frame, cell) => {
    const start = epochOfCell(frame.day, cell);
    const end = start + frame.lengthCells * CELL_MIN;
    return others(frame)
      .filter((visit) => visit.start < end && visit.end > start)
      .map((visit) => ({ visitId: visit.id, until: visit.end }));
  },
};
