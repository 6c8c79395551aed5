import { z } from 'zod';
import { resourceId } from '../wire.ts';

const key = z
  .string()
  .max(40)
  .regex(/^[a-z0-9]+(-[a-z0-9]+)*$/, { error: 'not-a-slug' });
const bound = { key, sameAs: key.nullable().optional(), differentFrom: key.nullable().optional() };

/** What a part of one visit needs, as core has it. */
const need = z.discriminatedUnion('what', [
  z.strictObject({ ...bound, what: z.literal('provider') }),
  z.strictObject({ ...bound, what: z.literal('resource'), resourceId }),
  z.strictObject({
    ...bound,
    what: z.literal('pool'),
    poolKind: key,
    turnaroundMin: z.number().int().min(0).max(120).multipleOf(5).optional(),
  }),
  z.strictObject({ ...bound, what: z.literal('present'), capability: key }),
]);

/** Parts of one visit that are not its type's. */
export const ownParts = z
  .array(
    z.strictObject({
      lengthMin: z.number().int().min(5, { error: 'not-on-five-minutes' }).max(720, { error: 'too-big' }).multipleOf(5),
      needs: z.array(need).max(12),
    }),
  )
  .min(1, { error: 'no-part' })
  .max(8, { error: 'too-many' });
export type OwnParts = z.output<typeof ownParts>;
