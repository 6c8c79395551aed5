import { z } from 'zod';
import { line, phone } from './fields.ts';
import { defineRecords } from './record.ts';

/** There is one clinic; its record has this id everywhere. */
export const CLINIC_ID = '00000000-0000-4000-8000-0000000c1121';

/** ISO 3166-1 codes of where patients' phones may be: the country, its territories and its neighbors. */
export const TEXT_COUNTRIES = ['US', 'PR', 'VI', 'GU', 'AS', 'MP', 'CA', 'MX'] as const;

export const clinicDoc = z.strictObject({
  name: line(80),
  phone,
  /** Minutes of the Daybook's finest lines and of new start-time grids. */
  baseUnitMin: z.union([z.literal(5), z.literal(10), z.literal(15)]),
  /** How high a lane is drawn at first; each person may choose otherwise. */
  density: z.enum(['roomy', 'dense']),
  /** Patients are asked online how the visit is paid for. */
  asksPayerOnline: z.boolean(),
  /** What happens in quiet hours when a visit within twelve hours is cancelled or moved. */
  urgentAtNight: z.enum(['send', 'call']),
  /** Countries and territories to whose numbers codes are sent. */
  textCountries: z.array(z.enum(TEXT_COUNTRIES)).min(1, { error: 'needed' }),
  /** Codes sent on one day at most, to all numbers together. */
  codesPerDay: z.number().int().min(10).max(100_000),
  /** Minutes after which somebody comes too late to be seen as booked; `null`: the clinic has no rule for it. */
  lateAfterMin: z.number().int().min(5).max(120).nullable(),
  /** What the desk does then, in the clinic's own words. */
  lateRule: z.string().trim().max(300),
});
export type ClinicDoc = z.output<typeof clinicDoc>;

export const clinic = defineRecords('clinic', clinicDoc, { view: 'setup.view', edit: 'setup.edit' });
