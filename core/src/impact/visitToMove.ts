import {
  ClinicIndex,
  type ClinicStore,
  type Code,
  explainCell,
  type Facts,
  frameOf,
  type SearchCriteria,
} from '../openings/index.ts';
import { CELL_MIN, type EpochMinute } from '../time/index.ts';
import type { BookedVisit } from '../visits/index.ts';

/**
 * The rules that a booked visit must go on meeting: hours, presence, parts, gaps. Notice, window, grid and policy are
 * not among them: they judge a booking, not a visit that was booked by them. Nor are limits of the day.
 */
export const BOOKED_VISIT_CODES: readonly Code[] = [
  'site-closed',
  'no-hours',
  'changed-that-date',
  'time-off',
  'kept-free',
  'busy',
  'gap-too-short',
  'nobody-present',
  'never-together',
];

/** Why a visit does not stand. */
export interface VisitToMove {
  readonly visit: BookedVisit;
  readonly reasons: readonly { readonly code: Code; readonly facts: readonly Facts[] }[];
  /** It could stay at its time with another room, chair or nurse than the booked one. */
  readonly otherSeat: boolean;
}

/** The search criteria by which a booked visit is judged, its own time free. */
export function criteriaOf(visit: BookedVisit): SearchCriteria {
  return {
    visitTypeId: visit.visitTypeId,
    parts: visit.parts,
    kind: visit.kind,
    channel: 'desk',
    patientId: visit.patientId,
    ignoreVisitId: visit.id,
  };
}

/** Whether a booked visit still stands in a clinic's schedule; `null` if it does. */
export function checkBookedVisit(store: ClinicStore, now: EpochMinute, visit: BookedVisit): VisitToMove | null {
  const reasons = brokenRules(store, now, visit);
  if (reasons.length) return { visit, reasons, otherSeat: false };
  const lost = lostSeats(store, new ClinicIndex(store, now), visit).filter(({ code }) => !visit.waived?.includes(code));
  return lost.length ? { visit, reasons: lost, otherSeat: true } : null;
}

/** Codes by which one visit stands in another's way. */
const AMONG_VISITS: readonly string[] = ['busy', 'gap-too-short'];

/**
 * The rules a booked visit breaks. What it was booked against with a reason stands, and what was booked against the
 * rules beside it doesn't make it one to move either.
 */
function brokenRules(store: ClinicStore, now: EpochMinute, visit: BookedVisit): VisitToMove['reasons'][number][] {
  const own = judged(store, now, visit).filter(({ code }) => !visit.waived?.includes(code));
  if (!own.some(({ code }) => AMONG_VISITS.includes(code))) return own;
  const beside = store.taken
    .visitsOn(visit.date)
    .filter(({ id, waived }) => id !== visit.id && waived?.some((code) => AMONG_VISITS.includes(code)));
  if (!beside.length) return own;
  const rows = beside.map((other) => [other, store.taken.occupiedBy(other.id)] as const);
  for (const { id } of beside) store.drop(id);
  try {
    return judged(store, now, visit).filter(({ code }) => !visit.waived?.includes(code));
  } finally {
    for (const [other, taken] of rows) store.put(other.id, other, taken);
  }
}

function judged(store: ClinicStore, now: EpochMinute, visit: BookedVisit): VisitToMove['reasons'][number][] {
  const index = new ClinicIndex(store, now);
  const frame = frameOf(index, criteriaOf(visit), visit.siteId, visit.providerId, visit.date);
  const cell = (visit.start - frame.day.start) / CELL_MIN;
  // A visit off the five-minute marks came from elsewhere; it is judged from the cell it starts in.
  const { answers } = explainCell(frame, Math.floor(cell));
  return answers
    .filter(({ code, passed }) => !passed && BOOKED_VISIT_CODES.includes(code))
    .map(({ code, facts }) => ({ code, facts }));
}

/** What was booked and is not there any more, though another of its kind is. */
function lostSeats(store: ClinicStore, index: ClinicIndex, visit: BookedVisit): VisitToMove['reasons'][number][] {
  const day = store.day(visit.siteId, visit.date);
  return store.taken.occupiedBy(visit.id).flatMap((row) => {
    const plan = index.resourceDay(row.resourceId, visit.siteId, visit.date);
    const from = Math.max(0, Math.floor((row.start - day.start) / CELL_MIN));
    const to = Math.min(day.cells, Math.ceil((row.end - day.start) / CELL_MIN));
    for (let cell = from; cell < to; cell++) {
      const has = (mask: Int32Array) => (mask[cell >>> 5] & (1 << (cell & 31))) !== 0;
      const code = has(plan.timeOff)
        ? 'time-off'
        : has(plan.keptFree)
          ? 'kept-free'
          : has(plan.hours)
            ? null
            : 'no-hours';
      if (code) return [{ code: code as Code, facts: [{ resourceId: row.resourceId }] }];
    }
    return [];
  });
}
