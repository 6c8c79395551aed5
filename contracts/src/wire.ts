import { isDate } from '@zaguan/core/time';
import { z } from 'zod';

/** Ids are parsed once, at the edge, and carry their kind from there on. */
export const siteId = z.uuid().brand<'SiteId'>();
export const resourceId = z.uuid().brand<'ResourceId'>();
export const visitTypeId = z.uuid().brand<'VisitTypeId'>();
export const appointmentId = z.uuid().brand<'AppointmentId'>();
export const holdId = z.uuid().brand<'HoldId'>();
export const workingHoursId = z.uuid().brand<'WorkingHoursId'>();
export const payerId = z.uuid().brand<'PayerId'>();
export const undoId = z.uuid().brand<'UndoId'>();

/** Years in which anything of a clinic lies; beyond them, reckoning with zones and days before and after has no sense. */
const inReach = (text: string) => text >= '1900' && text < '2200';

/** A calendar date that exists; February 31 does not. */
export const localDate = z.string().refine((text) => isDate(text) && inReach(text), { error: 'no-such-date' });

/** A date somebody asks about: what lies around it, in whatever zone, is still within reach. */
export const askedDate = localDate.refine((text) => text >= '1901' && text < '2150', { error: 'no-such-date' });

/** Nobody who is alive was born earlier; whether it lies in the future only the clinic's clock can tell. */
export const EARLIEST_BIRTH = '1900-01-01';

/** A patient's date of birth. */
export const birthDate = z
  .string()
  .refine(isDate, { error: 'not-a-date' })
  .refine((text) => text >= EARLIEST_BIRTH, { error: 'birth-too-long-ago' })
  .refine((text) => text < '2200', { error: 'birth-in-future' });

/** Ids of a list's rows that can't be shown: told beside the others, which are shown as they are (see the mount). */
export const unreadableRows = z.array(z.string());

/** An instant as ISO 8601 in UTC. */
export const instant = z.iso.datetime().refine(inReach, { error: 'no-such-instant' });

/** A start time: an instant on a five-minute mark. */
export const startInstant = instant.refine((text) => Date.parse(text) % 300_000 === 0, {
  error: 'not-on-five-minutes',
});

/** Of a record, as it was read: whoever changes it says which state they saw. As large as the database counts. */
export const version = z.number().int().min(0).max(2_147_483_647);

/** Minutes after midnight on the site's clock, in steps of five. */
export const wallMinute = z.number().int().min(0).max(1440).multipleOf(5);

export const patientKind = z.enum(['new', 'established']);
export const language = z.enum(['en', 'es']);
export const weekday = z.union([
  z.literal(1),
  z.literal(2),
  z.literal(3),
  z.literal(4),
  z.literal(5),
  z.literal(6),
  z.literal(7),
]);

/** An undo the caller may ask for, within 24 hours. */
export const undoable = z.strictObject({ id: undoId });

/** Instant of epoch minutes as it goes over the wire. */
export const toWire = (epochMinute: number): string => new Date(epochMinute * 60_000).toISOString();
/** Epoch minutes of a wire instant. */
export const fromWire = (text: string): number => Math.floor(Date.parse(text) / 60_000);
