import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { instant, localDate, resourceId, siteId, undoable } from '../wire.ts';

/** Less is no delay that anybody is told of; more is a day that is to be rearranged. */
export const SHORTEST_DELAY_MIN = 5;
export const LONGEST_DELAY_MIN = 240;

/** How far behind somebody is, in minutes; 0: on time. */
const delayMin = z
  .number()
  .int()
  .refine((minutes) => minutes === 0 || (minutes >= SHORTEST_DELAY_MIN && minutes <= LONGEST_DELAY_MIN), {
    error: 'no-such-delay',
  });

/** A provider who is behind. */
export const delay = z.strictObject({
  resourceId: z.string(),
  minutes: z.number(),
  since: instant,
  /** Visits of those who would wait and are not told: nothing reaches them by message. */
  toCall: z.array(z.string()),
});
export type Delay = z.output<typeof delay>;

const body = {
  siteId,
  resourceId,
  date: localDate,
  minutes: delayMin,
  /** How far behind the caller saw them: somebody else may have been quicker. */
  was: delayMin,
};

export const setDelay = defineEndpoint({
  name: 'daybook.setDelay',
  method: 'post',
  path: '/daybook/delay',
  summary: 'Say that a provider runs late today, or is on time again; patients still at home are told.',
  access: { kind: 'role', action: 'daybook.annotate' },
  body: z.strictObject(body),
  output: z.strictObject({
    /** How many messages go out. */
    told: z.number(),
    /** How many can't be told by message. */
    toCall: z.number(),
    undo: undoable,
  }),
  errors: ['NotFound', 'NotAllowed', 'ChangedMeanwhile'],
});
