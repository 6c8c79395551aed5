import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { instant, localDate, resourceId, undoable } from '../wire.ts';

export const resourceCalendar = defineEndpoint({
  name: 'feeds.resourceCalendar',
  method: 'get',
  path: '/calendars/:resourceId',
  summary: 'The schedule of a person, room or device as an iCalendar file: when it is busy and where, nothing else.',
  access: { kind: 'role', action: 'availability.view' },
  params: z.strictObject({ resourceId }),
  output: z.string(),
  answers: 'calendar',
  fileName: 'schedule.ics',
  errors: ['NotFound', 'NotAllowed'],
});

const feed = z.strictObject({
  id: z.uuid(),
  detailed: z.boolean(),
  createdAt: instant,
  createdBy: z.string(),
  lastReadAt: instant.nullable(),
});
export type Feed = z.output<typeof feed>;

export const listFeeds = defineEndpoint({
  name: 'feeds.list',
  method: 'get',
  path: '/feeds/of/:resourceId',
  summary: 'The private addresses under which a schedule can be followed. The addresses themselves are kept nowhere.',
  access: { kind: 'role', action: 'availability.edit' },
  params: z.strictObject({ resourceId }),
  output: z.strictObject({ feeds: z.array(feed) }),
  errors: ['NotFound', 'NotAllowed'],
});

export const createFeed = defineEndpoint({
  name: 'feeds.create',
  method: 'post',
  path: '/feeds/of/:resourceId',
  summary:
    'Make a private address under which a calendar program can follow a schedule. It is shown once. Busy and place only, unless the kind of visit is asked for.',
  access: { kind: 'role', action: 'availability.edit' },
  params: z.strictObject({ resourceId }),
  body: z.strictObject({ detailed: z.boolean() }),
  output: z.strictObject({ feed, path: z.string() }),
  errors: ['NotFound', 'NotAllowed'],
});

export const revokeFeed = defineEndpoint({
  name: 'feeds.revoke',
  method: 'delete',
  path: '/feeds/:id',
  summary: 'End a private address at once; whoever follows it gets nothing any more.',
  access: { kind: 'role', action: 'availability.edit' },
  params: z.strictObject({ id: z.uuid() }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'NotAllowed'],
});

export const readFeed = defineEndpoint({
  name: 'feeds.read',
  method: 'get',
  path: '/public/feeds/:token',
  summary: 'A schedule by its private address, as iCalendar.',
  access: { kind: 'public', limit: 'read' },
  params: z.strictObject({ token: z.string().min(20).max(100) }),
  output: z.string(),
  answers: 'calendar',
  fileName: 'schedule.ics',
  errors: ['NotFound'],
});

/** As much as a calendar file may hold. */
const MAX_BYTES = 1_000_000;

export const readBusyTimes = defineEndpoint({
  name: 'feeds.readBusyTimes',
  method: 'post',
  path: '/calendars/:resourceId/read',
  summary:
    'Read busy times out of an iCalendar file, for each site’s clock; what can’t be read is named event by event. Saves nothing: they are saved as time off.',
  access: { kind: 'role', action: 'availability.edit' },
  params: z.strictObject({ resourceId }),
  body: z.strictObject({ text: z.string().min(1).max(MAX_BYTES, { error: 'too-big' }) }),
  output: z.strictObject({
    /** False: this is no iCalendar file. */
    readable: z.boolean(),
    busy: z.array(
      z.strictObject({
        siteId: z.string(),
        startDate: localDate,
        startMinute: z.number(),
        endDate: localDate,
        endMinute: z.number(),
        summary: z.string(),
        /** It stands as time off already. */
        known: z.boolean(),
      }),
    ),
    refused: z.array(z.strictObject({ at: z.number(), summary: z.string(), code: z.string(), detail: z.string() })),
  }),
  errors: ['NotFound', 'NotAllowed'],
  bodyLimit: 2 * 1024 * 1024,
});
export type BusyTimes = z.output<typeof readBusyTimes.output>;
