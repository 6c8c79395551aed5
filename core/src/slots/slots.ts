import { mostAtOnce, placesIn } from '../availability/index.ts';
import type { ClinicIndex } from '../openings/index.ts';
import {
  addRangeInto,
  and,
  andNot,
  type EpochMinute,
  emptyMask,
  epochOfCell,
  type LocalDate,
  type Mask,
  or,
  runsOf,
} from '../time/index.ts';

/** FHIR R4 slotstatus, http://hl7.org/fhir/R4/valueset-slotstatus.html (without entered-in-error: nothing is kept). */
export const SLOT_STATUSES = ['free', 'busy', 'busy-tentative', 'busy-unavailable'] as const;
export type SlotStatus = (typeof SLOT_STATUSES)[number];

/** A stretch of somebody's working hours in one state. */
export interface Slot {
  readonly start: EpochMinute;
  readonly end: EpochMinute;
  readonly status: SlotStatus;
}

/**
 * A resource's working hours on a date at a site, cut into stretches by what becomes of them: closed, off or kept free
 * (`busy-unavailable`), booked in every place (`busy`), held in some that would else be free (`busy-tentative`), free.
 * Together they are exactly the hours; they never overlap.
 *
 * @param holds ids of what is only held
 */
export function slotsOn(
  index: ClinicIndex,
  resourceId: string,
  siteId: string,
  date: LocalDate,
  holds: ReadonlySet<string>,
): Slot[] {
  const day = index.day(siteId, date);
  const plan = index.resourceDay(resourceId, siteId, date);
  const away = or(or(plan.timeOff, plan.keptFree), index.siteDay(siteId, date).closed);
  const rows = index.occupiedOn(resourceId, day);
  /** Cells in which every place is taken by rows that count. */
  const full = (counts: (visitId: string) => boolean): Mask => {
    const all = emptyMask();
    mostAtOnce(
      day,
      rows.filter(({ visitId }) => counts(visitId)),
    ).forEach((taken, cell) => {
      if (taken >= placesIn(plan, cell)) addRangeInto(all, cell, cell + 1);
    });
    return all;
  };
  const unavailable = and(plan.hours, away);
  const open = andNot(plan.hours, away);
  const booked = and(
    open,
    full((id) => !holds.has(id)),
  );
  const held = andNot(
    and(
      open,
      full(() => true),
    ),
    booked,
  );
  const free = andNot(andNot(open, booked), held);
  const cut = (mask: Mask, status: SlotStatus): Slot[] =>
    runsOf(mask).map(({ fromCell, toCell }) => ({
      start: epochOfCell(day, fromCell),
      end: epochOfCell(day, toCell),
      status,
    }));
  return [
    ...cut(unavailable, 'busy-unavailable'),
    ...cut(booked, 'busy'),
    ...cut(held, 'busy-tentative'),
    ...cut(free, 'free'),
  ].sort((a, b) => a.start - b.start);
}
