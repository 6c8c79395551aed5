import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { appointmentId } from '../wire.ts';

/** Somebody who has not said so for this long does not look at a visit any more, in seconds. */
export const LOOKS_SECONDS = 25;

export const lookAtVisit = defineEndpoint({
  name: 'booking.lookAtVisit',
  method: 'post',
  path: '/appointments/:id/looking',
  summary: 'Say that one has a visit open, again every few seconds, or not any more; who else of the staff has.',
  access: { kind: 'role', action: 'daybook.view' },
  params: z.strictObject({ id: appointmentId }),
  body: z.strictObject({ left: z.boolean() }),
  output: z.strictObject({
    /** Their names. */
    others: z.array(z.string()),
  }),
  errors: ['NotFound', 'NotAllowed'],
});
