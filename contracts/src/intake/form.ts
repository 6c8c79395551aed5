import { ENABLE_OPERATORS, type FormItem, ITEM_TYPES, PREFILLS, RED_FLAG_SEVERITIES } from '@zaguan/core/intake';
import { z } from 'zod';

export const words = z.strictObject({ en: z.string(), es: z.string() });
export const answerValue = z.union([z.string().max(2000), z.number(), z.boolean()]);

/** One question or group of an intake form, with what stands in it. */
export const formItem: z.ZodType<FormItem, FormItem> = z.lazy(() =>
  z.strictObject({
    linkId: z.string().min(1).max(60),
    type: z.enum(ITEM_TYPES),
    text: words,
    hint: words.optional(),
    required: z.boolean().optional(),
    repeats: z.boolean().optional(),
    enableWhen: z
      .array(z.strictObject({ question: z.string(), operator: z.enum(ENABLE_OPERATORS), answer: answerValue }))
      .optional(),
    enableBehavior: z.enum(['all', 'any']).optional(),
    options: z.array(z.strictObject({ code: z.string(), text: words })).optional(),
    prefill: z.enum(PREFILLS).optional(),
    redFlag: z
      .strictObject({ answer: answerValue, advice: words, severity: z.enum(RED_FLAG_SEVERITIES).optional() })
      .optional(),
    min: z.number().optional(),
    max: z.number().optional(),
    items: z.array(formItem).optional(),
  }),
);

/** Answers as they stand, each with the saving it came from. */
export const storedAnswers = z.record(
  z.string(),
  z.strictObject({ value: z.array(answerValue), rev: z.number().int() }),
);

/** What a device changed since it last saw the form. */
export const answerChanges = z
  .array(
    z.strictObject({
      linkId: z.string().max(60),
      value: z.array(answerValue).max(20),
      base: z.number().int().min(0),
    }),
  )
  .max(60);
