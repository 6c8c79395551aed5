import { RIGHTS } from '@zaguan/core/patients';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { localDate, undoable } from '../wire.ts';

export const RELATIONSHIP_KINDS = [
  'parent',
  'guardian',
  'step-parent',
  'foster-parent',
  'spouse',
  'child',
  'caregiver',
  'other',
] as const;

export const addRelationship = defineEndpoint({
  name: 'patients.addRelationship',
  method: 'post',
  path: '/patients/:id/relationships',
  summary: 'Say who may act for a patient, from when until when, and what they may do.',
  access: { kind: 'role', action: 'patients.edit' },
  params: z.strictObject({ id: z.uuid() }),
  body: z
    .strictObject({
      name: z.string().trim().min(1, { error: 'needed' }).max(80, { error: 'too-long' }),
      kind: z.enum(RELATIONSHIP_KINDS),
      rights: z.array(z.enum(RIGHTS)).max(RIGHTS.length),
      fromDate: localDate,
      untilDate: localDate.nullable(),
      limits: z.string().trim().max(200, { error: 'too-long' }).default(''),
    })
    .superRefine((row, check) => {
      if (row.untilDate !== null && row.untilDate < row.fromDate)
        check.addIssue({ code: 'custom', path: ['untilDate'], message: 'until-before-from' });
    }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'NotAllowed'],
});

export const endRelationship = defineEndpoint({
  name: 'patients.endRelationship',
  method: 'post',
  path: '/patients/:id/relationships/:relationshipId/end',
  summary: 'End what somebody may do for a patient, with a last date.',
  access: { kind: 'role', action: 'patients.edit' },
  params: z.strictObject({ id: z.uuid(), relationshipId: z.uuid() }),
  body: z.strictObject({ untilDate: localDate }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'NotAllowed', 'InvalidInput'],
});
