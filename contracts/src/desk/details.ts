import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { appointmentId, instant, language, localDate } from '../wire.ts';

const told = z.strictObject({ contact: z.string(), language, reminders: z.number() });

export const visitDetails = defineEndpoint({
  name: 'desk.visitDetails',
  method: 'get',
  path: '/desk/visits/:id/details',
  summary: 'What a patient takes home about a visit, in their language.',
  access: { kind: 'role', action: 'appointment.book' },
  params: z.strictObject({ id: appointmentId }),
  output: z.strictObject({
    language,
    clinic: z.string(),
    patient: z.string(),
    date: localDate,
    start: instant,
    timeZone: z.string(),
    visitType: z.string(),
    provider: z.string().nullable(),
    site: z.string(),
    address: z.string(),
    phone: z.string(),
    directions: z.string(),
    preparation: z.string(),
  }),
  errors: ['NotFound', 'NotAllowed'],
  readsPatients: true,
});

export const sendDetails = defineEndpoint({
  name: 'desk.sendDetails',
  method: 'post',
  path: '/desk/visits/:id/details/send',
  summary: 'Send the confirmation of a coming visit once more.',
  access: { kind: 'role', action: 'appointment.book' },
  params: z.strictObject({ id: appointmentId }),
  /** `null`: there is nowhere to send it, or no messages are wanted there. */
  output: z.strictObject({ told: told.nullable() }),
  errors: ['NotFound', 'NotAllowed', 'WrongStatus'],
});
