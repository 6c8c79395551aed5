import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { localDate, patientKind, siteId, visitTypeId } from '../wire.ts';

/** A calendar month, such as 2026-12. */
const month = z.string().refine((text) => /^\d{4}-(0[1-9]|1[0-2])$/.test(text) && text >= '1901' && text < '2150', {
  error: 'no-such-month',
});

export const daybookMonth = defineEndpoint({
  name: 'daybook.month',
  method: 'get',
  path: '/daybook/month/:month',
  summary:
    'The dates of a month at a site: how many visits are booked, and how many of one visit type the desk could still book.',
  access: { kind: 'role', action: 'daybook.view' },
  params: z.strictObject({ month }),
  query: z.strictObject({
    siteId,
    /** Of this type alone; without one, all that are booked are counted, and nothing that is left. */
    visitTypeId: visitTypeId.optional(),
    kind: patientKind.default('established'),
  }),
  output: z.strictObject({
    today: localDate,
    days: z.array(
      z.strictObject({
        date: localDate,
        /** Whether the site has no hours that date. */
        closed: z.boolean(),
        booked: z.number(),
        /** At most, with each provider one after another; `null` where it was not asked, or the day is over. */
        left: z.number().nullable(),
      }),
    ),
  }),
  errors: ['NotFound', 'NotAllowed'],
});
