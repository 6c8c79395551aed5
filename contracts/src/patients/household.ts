import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { undoable } from '../wire.ts';

const access = { kind: 'role', action: 'patients.edit' } as const;
const params = z.strictObject({ id: z.uuid() });
const output = z.strictObject({ undo: undoable });

/** More than nine at one address have been seen; more than this is a slip. */
export const MAX_HOUSEHOLD = 16;

export const joinHousehold = defineEndpoint({
  name: 'patients.joinHousehold',
  method: 'post',
  path: '/patients/:id/household',
  summary:
    'Put a patient into another one’s household, and copy the address or the numbers from there if wished. A household gives nobody a right.',
  access,
  params,
  body: z.strictObject({ withPatientId: z.uuid(), copyAddress: z.boolean(), copyContacts: z.boolean() }),
  output,
  errors: ['NotFound', 'NotAllowed', 'ChangedMeanwhile', 'InvalidInput'],
});

export const leaveHousehold = defineEndpoint({
  name: 'patients.leaveHousehold',
  method: 'post',
  path: '/patients/:id/household/leave',
  summary: 'Take a patient out of the household.',
  access,
  params,
  output,
  errors: ['NotFound', 'NotAllowed', 'ChangedMeanwhile'],
});
