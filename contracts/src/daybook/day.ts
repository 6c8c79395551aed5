import { CODES } from '@zaguan/core/openings';
import { APPOINTMENT_STATUSES, GROUP_KINDS, ORIGINS } from '@zaguan/core/visits';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { readinessShort } from '../intake/desk.ts';
import { askedDate, instant, localDate, patientKind } from '../wire.ts';
import { delay } from './delay.ts';
import { dayNote } from './note.ts';

const run = z.strictObject({ start: instant, end: instant });

/** A stretch of working hours with what it accepts and which of its minutes are shown online. */
const hoursBand = run.extend({
  hoursId: z.string(),
  typeIds: z.array(z.string()).nullable(),
  kinds: z.array(patientKind).nullable(),
  invitedOnly: z.boolean(),
  places: z.number(),
  online: z.array(run),
});

/** A visit or a hold, once a site however many lanes show it. */
const shownVisit = z.strictObject({
  id: z.string(),
  kind: z.enum(['visit', 'hold']),
  /** Whose visit it is; `null` where it needs nobody. */
  providerId: z.string().nullable(),
  start: instant,
  end: instant,
  visitTypeId: z.string(),
  status: z.enum(APPOINTMENT_STATUSES),
  confirmed: z.boolean(),
  identity: z.enum(['sure', 'unknown']),
  approval: z.string(),
  origin: z.enum(ORIGINS).nullable(),
  patientKind: z.enum(['new', 'established']),
  /** `null` while the person is not known. */
  patientId: z.string().nullable(),
  /** Empty for a hold. */
  name: z.string(),
  /** "Yamamoto W.", as a plate shows it; empty for a hold. */
  shortName: z.string(),
  /** "Yamamoto, Wren", where there is room or another Yamamoto W. */
  familyFirst: z.string(),
  reason: z.string(),
  /** What the staff want to be seen with the next visit; empty where there is nothing. */
  alert: z.string(),
  /** The rules it was booked against, with a reason. */
  waived: z.array(z.enum(CODES)),
  /** How it belongs together with other visits; `null`: it stands alone. */
  groupKind: z.enum(GROUP_KINDS).nullable(),
  /** Who of the staff is booking it now; `null` for a visit, and for a time held online. */
  bookedBy: z.string().nullable(),
  cancelReason: z.string().nullable(),
  /** Since when somebody has been here who is not checked in yet; `null` for everybody else. */
  waitingSince: instant.nullable(),
  /** What is still missing before check-in; `null` for a hold and for a visit that is over. */
  readiness: readinessShort.nullable(),
  version: z.number(),
});
export type ShownVisit = z.output<typeof shownVisit>;

/** A visit on one lane. */
const laneVisit = z.strictObject({
  id: z.string(),
  /** What is drawn on this lane: the whole visit for its provider, for anyone and anything else what it takes of them. */
  drawn: run,
  /** The minutes in which this lane's person is really there. */
  present: z.array(run),
});
/** A visit as it is drawn on one lane, with all that is known of it. */
export type Plate = ShownVisit & z.output<typeof laneVisit> & { readonly resourceId: string };

const lane = z.strictObject({
  id: z.string(),
  resourceId: z.string(),
  name: z.string(),
  detail: z.string(),
  kind: z.enum(['provider', 'staff', 'room', 'equipment']),
  hoursBands: z.array(hoursBand),
  away: z.array(run),
  keptFree: z.array(run),
  plates: z.array(laneVisit),
  /** What stands on this lane that day. */
  notes: z.array(dayNote),
  /** Share of working minutes that are booked, 0 to 1; `null` without hours. */
  booked: z.number().nullable(),
});
type WireLane = z.output<typeof lane>;
/** A lane with what is drawn on it. */
export type Lane = Omit<WireLane, 'plates'> & { plates: Plate[] };

const siteDay = z.strictObject({
  id: z.string(),
  name: z.string(),
  timeZone: z.string(),
  dayStart: instant,
  dayEnd: instant,
  closed: z.array(run),
  open: z.array(run),
  /** Providers who are said to be behind. */
  delays: z.array(delay),
  /** What stands on the site's day. */
  notes: z.array(dayNote),
  lanes: z.array(lane),
  /** Everything that stands on a lane, by its id. */
  visits: z.array(shownVisit),
});
export type WireSiteDay = z.output<typeof siteDay>;
/** A site's day as it is drawn. */
export type SiteDay = Omit<WireSiteDay, 'lanes' | 'visits'> & { lanes: Lane[] };

export const daybookDay = defineEndpoint({
  name: 'daybook.day',
  method: 'get',
  path: '/daybook/:date',
  summary: 'One date at all sites the reader may see, each on its own clock.',
  access: { kind: 'role', action: 'daybook.view' },
  params: z.strictObject({ date: askedDate }),
  /** One site only: what is asked again when something changed there. */
  query: z.strictObject({ siteId: z.uuid().optional() }),
  output: z.strictObject({ date: localDate, now: instant, sites: z.array(siteDay) }),
  errors: [],
  readsPatients: true,
});
export const daybookWeek = defineEndpoint({
  name: 'daybook.week',
  method: 'get',
  path: '/daybook/week/:resourceId/:from',
  summary: 'Seven dates of one person, room or piece of equipment, at every site the reader may see.',
  access: { kind: 'role', action: 'daybook.view' },
  params: z.strictObject({ resourceId: z.uuid(), from: askedDate }),
  output: z.strictObject({
    resourceId: z.string(),
    name: z.string(),
    from: localDate,
    now: instant,
    /** Each date with the sites at which the resource has a lane; its lane is the only one there. */
    days: z.array(z.strictObject({ date: localDate, sites: z.array(siteDay) })),
  }),
  errors: ['NotFound'],
  readsPatients: true,
});
