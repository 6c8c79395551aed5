import { FIELD_KINDS } from '@zaguan/core/setup';
import { z } from 'zod';
import { id, line } from './fields.ts';
import { defineRecords } from './record.ts';

/** A field the clinic added to the patient's record, or a question it asks before an online booking. */
export const fieldDoc = z
  .strictObject({
    of: z.enum(['patient', 'booking']),
    kind: z.enum(FIELD_KINDS),
    labelEn: line(120),
    labelEs: line(120),
    required: z.boolean(),
    choices: z.array(z.strictObject({ en: line(80), es: line(80) })).max(30),
    /** Booking questions of some visit types only; `null`: of all. */
    visitTypeIds: z.array(id).min(1, { error: 'no-type' }).nullable(),
    sortOrder: z.number().int().min(0).max(9999),
  })
  .superRefine((field, check) => {
    if (field.kind === 'choice' && field.choices.length < 2)
      check.addIssue({ code: 'custom', path: ['choices'], message: 'two-choices' });
    if (field.kind !== 'choice' && field.choices.length > 0)
      check.addIssue({ code: 'custom', path: ['choices'], message: 'no-choices-here' });
  });
export type FieldDoc = z.output<typeof fieldDoc>;

export const fields = defineRecords('field', fieldDoc, { view: 'setup.view', edit: 'setup.edit' });

export { FIELD_KINDS };
