import { APPOINTMENT_STATUSES } from '@zaguan/core/visits';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { askedDate, instant, localDate, unreadableRows } from '../wire.ts';
import { dayNote } from './note.ts';

/** One site's date, or of it what one person, room or device has. */
const asked = {
  params: z.strictObject({ date: askedDate }),
  query: z.strictObject({ siteId: z.uuid(), resourceId: z.uuid().optional() }),
};

const row = z.strictObject({
  /** The visit's. */
  id: z.string(),
  start: instant,
  end: instant,
  status: z.enum(APPOINTMENT_STATUSES),
  confirmed: z.boolean(),
  visitType: z.string(),
  /** `null` where none is needed. */
  provider: z.string().nullable(),
  /** Rooms, equipment and others who are there, by name. */
  places: z.array(z.string()),
  /** Family name first; "Restricted" where the record is not for the reader. */
  patient: z.string(),
  birthDate: localDate.nullable(),
  /** E.164; `null` where there is none, or it is not for the reader. */
  phone: z.string().nullable(),
  reason: z.string(),
  /** What the staff want to be seen with the visit; empty where there is nothing. */
  alert: z.string(),
  /** Whether something of the intake holds check-in: a red flag that stands. */
  held: z.boolean(),
});
export type DaySheetRow = z.output<typeof row>;

export const daySheet = defineEndpoint({
  name: 'daybook.daySheet',
  method: 'get',
  path: '/daybook/:date/sheet',
  summary: 'The visits of one date at a site, or of one person, room or device there, in the order of their start.',
  access: { kind: 'role', action: 'daybook.view' },
  ...asked,
  output: z.strictObject({
    date: localDate,
    /** When it was read: a printed sheet says how old it is. */
    now: instant,
    site: z.strictObject({ id: z.string(), name: z.string(), timeZone: z.string() }),
    /** Whose sheet it is; `null`: the whole site's. */
    of: z.string().nullable(),
    /** What stands on the day of the site, and of whom the sheet is. */
    notes: z.array(dayNote),
    rows: z.array(row),
    unreadable: unreadableRows,
  }),
  errors: ['NotFound', 'NotAllowed'],
  readsPatients: true,
});

export const daySheetCalendar = defineEndpoint({
  name: 'daybook.daySheetCalendar',
  method: 'get',
  path: '/daybook/:date/sheet.ics',
  summary: 'The same as an iCalendar file: when, where and what kind of visit. Calendars are shared: nobody’s name.',
  access: { kind: 'role', action: 'daybook.view' },
  ...asked,
  output: z.string(),
  answers: 'calendar',
  fileName: 'day.ics',
  errors: ['NotFound', 'NotAllowed'],
});
