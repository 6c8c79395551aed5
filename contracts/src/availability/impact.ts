import { CODES } from '@zaguan/core/openings';
import { z } from 'zod';
import { instant, localDate } from '../wire.ts';

export const gainAndLoss = z.strictObject({ gained: z.number(), lost: z.number() });

/** A visit that no longer fits. Who it is about is told to those who may see patients. */
export const impactVisit = z.strictObject({
  appointmentId: z.string(),
  start: instant,
  siteId: z.string(),
  providerId: z.string().nullable(),
  visitTypeId: z.string(),
  patientName: z.string(),
  codes: z.array(z.enum(CODES)),
  /** It keeps its time with another room or nurse. */
  otherSeat: z.boolean(),
});
export type ImpactVisit = z.output<typeof impactVisit>;

export const impact = z.strictObject({
  /** First and last date looked at. */
  from: localDate,
  until: localDate,
  days: z.number(),
  types: z.array(
    z.strictObject({
      visitTypeId: z.string(),
      siteId: z.string(),
      online: gainAndLoss,
      onlineByKind: z.strictObject({ new: gainAndLoss, established: gainAndLoss }),
      desk: gainAndLoss,
      places: z.strictObject({ before: z.number(), after: z.number() }).nullable(),
    }),
  ),
  visitsToMove: z.array(impactVisit),
  fittingAgain: z.number(),
  /** Open invitations that find something now and would find nothing in the next three weeks. */
  invitationsEmptied: z.number(),
});
export type WireImpact = z.output<typeof impact>;
