import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { visitTypeId } from '../wire.ts';
import { ownParts } from './parts.ts';

const named = z.strictObject({ id: z.string(), name: z.string() });

export const typeAtDesk = defineEndpoint({
  name: 'desk.visitType',
  method: 'get',
  path: '/desk/visit-types/:id',
  summary:
    'A visit type as the desk books it: its parts, usual reasons, the visits that must follow, and what parts can need instead.',
  access: { kind: 'role', action: 'openings.search' },
  params: z.strictObject({ id: visitTypeId }),
  output: z.strictObject({
    parts: ownParts,
    reasons: z.array(named),
    /** Visits that follow at fixed times, by their types. */
    follows: z.array(z.string()),
    /** Kinds of pools, each once. */
    pools: z.array(z.strictObject({ kind: z.string(), name: z.string() })),
    /** Rooms and devices; named with the site they are at. */
    places: z.array(named),
  }),
  errors: ['NotFound'],
});
