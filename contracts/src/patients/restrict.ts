import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { instant, undoable, version } from '../wire.ts';

const reason = z.string().trim().min(3, { error: 'reason-needed' }).max(200, { error: 'too-long' });
const params = z.strictObject({ id: z.uuid() });

export const restrict = defineEndpoint({
  name: 'patients.restrict',
  method: 'post',
  path: '/patients/:id/restrict',
  summary: 'Restrict a record, or lift the restriction, with a reason.',
  access: { kind: 'role', action: 'patients.restrict' },
  params,
  body: z.strictObject({ version, restricted: z.boolean(), reason }),
  output: z.strictObject({ version: z.number(), undo: undoable }),
  errors: ['NotFound', 'NotAllowed', 'ChangedMeanwhile'],
});

export const openRestricted = defineEndpoint({
  name: 'patients.openRestricted',
  method: 'post',
  path: '/patients/:id/open',
  summary: 'Open a restricted record for an hour, with a reason. It is logged, and a manager is told.',
  access: { kind: 'role', action: 'patients.open-restricted' },
  params,
  body: z.strictObject({ reason }),
  output: z.strictObject({ until: instant }),
  errors: ['NotFound', 'NotAllowed'],
});
