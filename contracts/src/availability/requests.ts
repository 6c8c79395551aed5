import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { instant, localDate, resourceId, siteId, undoable, wallMinute } from '../wire.ts';
import { optionalLine } from '../setup/fields.ts';
import { impactVisit } from './impact.ts';

const request = z.strictObject({
  id: z.uuid(),
  resourceId: z.string(),
  name: z.string(),
  siteId: z.string().nullable(),
  startDate: localDate,
  startMinute: z.number(),
  endDate: localDate,
  endMinute: z.number(),
  reason: z.string(),
  /** Who would cover, or does. */
  coverId: z.string().nullable(),
  status: z.enum(['requested', 'approved', 'declined']),
  requestedAt: instant,
  /** What was said with the decision. */
  answer: z.string(),
  /** Visits that would no longer fit, for whoever decides. */
  visitsToMove: z.array(impactVisit),
});
export type TimeOffRequest = z.output<typeof request>;

export const requestTimeOff = defineEndpoint({
  name: 'availability.askTimeOff',
  method: 'post',
  path: '/availability/time-off-requests',
  summary: 'Ask for time off of one’s own. It holds once someone has approved it.',
  access: { kind: 'role', action: 'availability.view' },
  body: z
    .strictObject({
      siteId: siteId.nullable(),
      startDate: localDate,
      startMinute: wallMinute,
      endDate: localDate,
      endMinute: wallMinute,
      reason: optionalLine(200),
      /** Whom they suggest as cover. */
      coverId: resourceId.nullable().optional(),
    })
    .superRefine((span, check) => {
      if (span.endDate < span.startDate || (span.endDate === span.startDate && span.endMinute <= span.startMinute))
        check.addIssue({ code: 'custom', path: ['endDate'], message: 'until-before-from' });
    }),
  output: z.strictObject({ id: z.uuid(), undo: undoable }),
  errors: ['NotAllowed', 'NotFound', 'ScheduleRefused'],
});

export const listTimeOffRequests = defineEndpoint({
  name: 'availability.listTimeOffRequests',
  method: 'get',
  path: '/availability/time-off-requests',
  summary:
    'Open requests for time off, for whoever decides with what each would do; one’s own with what became of them.',
  access: { kind: 'role', action: 'availability.view' },
  output: z.strictObject({ requests: z.array(request) }),
  errors: [],
  readsPatients: true,
});

export const decideTimeOff = defineEndpoint({
  name: 'availability.decideTimeOff',
  method: 'post',
  path: '/availability/time-off-requests/:id',
  summary: 'Approve a request for time off, or decline it with words. Visits that no longer fit go to the list.',
  access: { kind: 'role', action: 'availability.edit' },
  params: z.strictObject({ id: z.uuid() }),
  body: z.strictObject({
    approve: z.boolean(),
    answer: optionalLine(200),
    /** Who covers; the suggestion holds where it is left out. */
    coverId: resourceId.nullable().optional(),
    agreed: z.boolean().optional(),
  }),
  output: z.strictObject({ toMove: z.number(), undo: undoable }),
  errors: ['NotAllowed', 'NotFound', 'DecidedAlready', 'AgreementNeeded', 'ScheduleRefused'],
});
