import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { localDate, patientKind, askedDate } from '../wire.ts';

/** A stretch of a day in minutes of the site's clock. */
const stretch = { fromMinute: z.number(), toMinute: z.number() };
const span = z.strictObject(stretch);
const acceptsOut = z.strictObject({
  visitTypeIds: z.array(z.string()).nullable(),
  kinds: z.array(patientKind).nullable(),
  invitedOnly: z.boolean(),
});

const laneDay = z.strictObject({
  date: localDate,
  hours: z.array(
    z.strictObject({
      ...stretch,
      /** The recurring hours it comes from; `null` for an extra stretch. */
      hoursId: z.string().nullable(),
      /** The single-date change it comes from, if any. */
      changeId: z.string().nullable(),
      online: z.array(span),
      places: z.number(),
      accepts: acceptsOut,
    }),
  ),
  /** Recurring hours that a single-date change took away. */
  cancelled: z.array(z.strictObject({ ...stretch, hoursId: z.string(), changeId: z.string() })),
  timeOff: z.array(z.strictObject({ ...stretch, id: z.string(), reason: z.string() })),
  keptFree: z.array(z.strictObject({ ...stretch, id: z.string(), note: z.string() })),
  brush: z.array(z.strictObject({ ...stretch, value: z.enum(['shown', 'desk-only']) })),
  visits: z.number(),
});
export type LaneDay = z.output<typeof laneDay>;

export const recurringHours = z.strictObject({
  id: z.string(),
  version: z.number(),
  subject: z.strictObject({ of: z.enum(['resource', 'pool']), id: z.string() }),
  siteId: z.string(),
  weekdays: z.array(z.number()),
  everyWeeks: z.number(),
  effectiveFrom: localDate,
  effectiveUntil: localDate.nullable(),
  followsSiteHours: z.boolean(),
  ...stretch,
  places: z.number(),
  accepts: acceptsOut,
  online: z.boolean(),
  release: z.strictObject({ beforeMin: z.number(), accepts: acceptsOut, online: z.boolean() }).nullable(),
  caps: z.array(z.strictObject({ visitTypeId: z.string().nullable(), kind: patientKind.nullable(), max: z.number() })),
  preferredRoomIds: z.array(z.string()),
});
export type RecurringHours = z.output<typeof recurringHours>;

export const scheduleWeek = defineEndpoint({
  name: 'availability.week',
  method: 'get',
  path: '/availability/week',
  summary:
    'Seven days of everyone’s and everything’s hours by site: what holds, what is shown online, what is changed.',
  access: { kind: 'role', action: 'availability.view' },
  /** With a draft: the week as it would be. */
  query: z.strictObject({ from: askedDate, draftId: z.uuid().optional() }),
  output: z.strictObject({
    from: localDate,
    today: localDate,
    mayEdit: z.enum(['all', 'own', 'none']),
    ownResourceId: z.string().nullable(),
    /** Visits on the list of visits to move, at the sites where the caller may move them. */
    toMove: z.number(),
    sites: z.array(
      z.strictObject({
        id: z.string(),
        name: z.string(),
        timeZone: z.string(),
        days: z.array(
          z.strictObject({
            date: localDate,
            open: z.array(span),
            closed: z.array(z.strictObject({ ...stretch, id: z.string(), reason: z.string() })),
          }),
        ),
      }),
    ),
    lanes: z.array(
      z.strictObject({
        resourceId: z.string(),
        siteId: z.string(),
        name: z.string(),
        kind: z.enum(['provider', 'staff', 'room', 'equipment']),
        color: z.string().nullable(),
        days: z.array(laneDay),
      }),
    ),
    hours: z.array(recurringHours),
  }),
  errors: ['NotFound', 'NotAllowed'],
});
export type ScheduleWeek = z.output<typeof scheduleWeek.output>;

const COMING = [
  'hours-begin',
  'hours-end',
  'date-change',
  'time-off',
  'kept-free',
  'closure',
  'brush',
  'orphan',
] as const;

export const upcomingChanges = defineEndpoint({
  name: 'availability.coming',
  method: 'get',
  path: '/availability/coming',
  summary:
    'Everything that will change in the schedule from a date on, by date: single-date changes, time off, closures, hours that begin or end.',
  access: { kind: 'role', action: 'availability.view' },
  query: z.strictObject({ from: askedDate, days: z.coerce.number().int().min(1).max(400) }),
  output: z.strictObject({
    changes: z.array(
      z.strictObject({
        what: z.enum(COMING),
        id: z.string(),
        /** Of recurring hours; 0 for everything else. */
        version: z.number(),
        date: localDate,
        until: localDate.nullable(),
        /** Whose; `null` for a whole site. */
        name: z.string().nullable(),
        resourceId: z.string().nullable(),
        siteId: z.string().nullable(),
        fromMinute: z.number().nullable(),
        toMinute: z.number().nullable(),
        note: z.string(),
        /** Who covers meanwhile, for time off. */
        coveredBy: z.string().nullable(),
      }),
    ),
  }),
  errors: [],
});
export type UpcomingChange = z.output<typeof upcomingChanges.output>['changes'][number];
