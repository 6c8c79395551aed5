import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { appointmentId, instant, localDate } from '../wire.ts';

export * from './day.ts';
export * from './daySheet.ts';
export * from './delay.ts';
export * from './fold.ts';
export * from './month.ts';
export * from './note.ts';
export * from './view.ts';

export const visitInShort = defineEndpoint({
  name: 'daybook.visitInShort',
  method: 'get',
  path: '/daybook/visits/:id',
  summary:
    'At which site and date a visit is, which is what a link to it has to open, and when it took each of its steps.',
  access: { kind: 'role', action: 'daybook.view' },
  params: z.strictObject({ id: appointmentId }),
  output: z.strictObject({
    siteId: z.string(),
    date: localDate,
    /** `null`: not taken, or taken back. */
    steps: z.strictObject({
      booked: instant,
      confirmed: instant.nullable(),
      arrived: instant.nullable(),
      'checked-in': instant.nullable(),
      fulfilled: instant.nullable(),
      noshow: instant.nullable(),
      cancelled: instant.nullable(),
    }),
  }),
  errors: ['NotFound'],
});

/** What the server says over the open line: fetch this again. Never patient data. */
export const liveEvent = z.discriminatedUnion('type', [
  z.strictObject({ type: z.literal('day-changed'), siteId: z.string(), date: z.string() }),
  z.strictObject({ type: z.literal('hours-changed') }),
  z.strictObject({ type: z.literal('setup-changed') }),
  z.strictObject({ type: z.literal('work-changed') }),
  z.strictObject({ type: z.literal('views-changed') }),
  z.strictObject({ type: z.literal('recalls-changed') }),
  z.strictObject({ type: z.literal('resync') }),
]);
export type LiveEvent = z.output<typeof liveEvent>;

export const liveUpdates = defineEndpoint({
  name: 'daybook.liveUpdates',
  method: 'get',
  path: '/events',
  summary: 'Server-sent events: which site and day changed.',
  access: { kind: 'role', action: 'daybook.view' },
  answers: 'stream',
  output: liveEvent,
  errors: [],
});
