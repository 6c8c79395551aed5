import type { ClinicSnapshot } from '@zaguan/core/openings';
import { z } from 'zod';
import { ownParts } from '../desk/parts.ts';
import { defineEndpoint } from '../endpoint.ts';
import { appointmentId, askedDate, instant, localDate, patientKind } from '../wire.ts';

/** As core's search reads it: core's own type is its shape, on both sides. */
const clinicSnapshot = z
  .custom<ClinicSnapshot>((value) => typeof value === 'object' && value !== null)
  .meta({ override: { type: 'object' }, description: 'Hours, rooms and what is taken, as the search reads them.' });

export const moveSnapshot = defineEndpoint({
  name: 'booking.moveSnapshot',
  method: 'get',
  path: '/appointments/:id/move-snapshot/:date',
  summary:
    'What moving a visit on one date depends on, so that a browser can judge every place by itself: no names, no reasons, of patients only its own.',
  access: { kind: 'role', action: 'appointment.move' },
  params: z.strictObject({ id: appointmentId, date: askedDate }),
  output: z.strictObject({
    date: localDate,
    now: instant,
    visit: z.strictObject({
      visitTypeId: z.string(),
      kind: patientKind,
      patientId: z.string().nullable(),
      /** Its own, where they are not the type's. */
      parts: ownParts.nullable(),
    }),
    /** Sites it may be moved to by who asks. */
    siteIds: z.array(z.string()),
    /** Sites where who asks may book against rules, with a reason. */
    waiveAt: z.array(z.string()),
    snapshot: clinicSnapshot,
  }),
  errors: ['NotFound', 'NotAllowed', 'WrongStatus'],
});
