import { z } from 'zod';

/** Whose visit it is, of which type, where and with whom, in words; `null`: anywhere, anyone. */
export const namedVisit = {
  id: z.string(),
  version: z.number(),
  patientId: z.string(),
  /** Initials, where the record is restricted. */
  patient: z.string(),
  visitTypeId: z.string(),
  visitType: z.string(),
  siteId: z.string().nullable(),
  siteName: z.string().nullable(),
  providerId: z.string().nullable(),
  provider: z.string().nullable(),
};
