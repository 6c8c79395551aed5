/** FHIR R4 appointmentstatus, http://hl7.org/fhir/R4/valueset-appointmentstatus.html */
export const APPOINTMENT_STATUSES = [
  'proposed',
  'pending',
  'booked',
  'arrived',
  'checked-in',
  'fulfilled',
  'cancelled',
  'noshow',
  'waitlist',
  'entered-in-error',
] as const;
export type AppointmentStatus = (typeof APPOINTMENT_STATUSES)[number];

/** Statuses that no longer take anyone's time, and that no cap counts. */
export const TIME_FREEING: readonly AppointmentStatus[] = ['cancelled', 'entered-in-error'];

/**
 * Where the desk may move a visit from each status. Cancelling (it needs a reason) and approving what is pending (the
 * patient is told, and not every desk may) are acts of their own, so they are not in this table; going back is an undo, which runs through the same table in reverse.
 */
const NEXT = {
  proposed: ['booked'],
  pending: [],
  booked: ['arrived', 'noshow'],
  arrived: ['checked-in', 'booked', 'noshow'],
  'checked-in': ['fulfilled', 'arrived'],
  fulfilled: ['checked-in'],
  noshow: ['booked', 'arrived'],
  cancelled: [],
  waitlist: ['booked'],
  'entered-in-error': [],
} as const satisfies Record<AppointmentStatus, readonly AppointmentStatus[]>;

/** What the desk may set a visit to. */
export type DeskStatus = (typeof NEXT)[AppointmentStatus][number];

/** Statuses the desk may choose next; empty when the visit is over for good. */
export function nextStatuses(from: AppointmentStatus): readonly DeskStatus[] {
  return NEXT[from];
}

/** Whether a status may follow another. */
export function mayFollow(from: AppointmentStatus, to: AppointmentStatus): boolean {
  return (NEXT[from] as readonly AppointmentStatus[]).includes(to);
}

/** Whether a visit may still be cancelled: it has not begun to be served and is not over. */
export function mayCancel(from: AppointmentStatus): boolean {
  return from === 'proposed' || from === 'pending' || from === 'booked' || from === 'arrived' || from === 'waitlist';
}

/** Where a visit came from; shown on the plate. */
export const ORIGINS = ['desk', 'self', 'invitation', 'waitlist', 'import'] as const;
export type Origin = (typeof ORIGINS)[number];

/** What visits that were booked together are to each other. */
export const GROUP_KINDS = ['household', 'series', 'linked'] as const;
export type GroupKind = (typeof GROUP_KINDS)[number];

/** Why the desk cancels; a free text may stand beside it. */
export const CANCEL_REASONS = [
  'patient-asked',
  'provider-away',
  'site-closed',
  'not-genuine',
  'booked-wrongly',
  'to-be-rebooked',
  'declined',
  'died',
  'other',
] as const;
export type CancelReason = (typeof CANCEL_REASONS)[number];
