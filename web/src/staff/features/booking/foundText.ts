import { z } from 'zod';
import type { FlowStart } from './useFlow.ts';

/** What the address of a booking says of found times: all of it is checked, as anyone may write an address. */
const found = z.strictObject({
  how: z.enum(['back-to-back', 'side-by-side']),
  /** Who comes beside the first one, and for what. */
  others: z.array(z.strictObject({ patientId: z.uuid(), visitTypeId: z.uuid() })).max(4),
  repeat: z
    .strictObject({
      everyWeeks: z.number().int().min(1).max(26),
      count: z.number().int().min(2).max(12),
      toleranceDays: z.number().int().min(0).max(7),
      sameProvider: z.boolean(),
    })
    .nullable(),
  group: z
    .array(
      z.strictObject({
        /** `null`: the patient of the booking. */
        patientId: z.uuid().nullable(),
        visitTypeId: z.uuid(),
        siteId: z.uuid(),
        providerId: z.uuid().nullable(),
        start: z.iso.datetime(),
      }),
    )
    .min(2)
    .max(12),
});
export type Found = z.output<typeof found>;

/** Found times as the address of a booking carries them: ids and times, no names. */
export function findText(times: Found): string {
  return JSON.stringify(times);
}

/** What a booking starts with; `null` where the address says nothing that can be read. */
export function foundOf(text: string): FlowStart['found'] {
  let said: unknown;
  try {
    said = JSON.parse(text);
  } catch {
    return null;
  }
  const read = found.safeParse(said);
  if (!read.success) return null;
  return { ...read.data, group: read.data.group.map((visit) => ({ ...visit, toBench: false })) };
}
