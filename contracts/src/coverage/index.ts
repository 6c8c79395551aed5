import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { appointmentId, undoable } from '../wire.ts';

export const COVERAGE_STATES = ['to-verify', 'verified', 'not-covered'] as const;

/** What was said about paying when the visit was booked, and what came of it. */
const coverage = z.strictObject({
  /** `null`: the patient pays. */
  payer: z.string().nullable(),
  referralSaid: z.boolean().nullable(),
  state: z.enum(COVERAGE_STATES),
});

export const visitExtras = defineEndpoint({
  name: 'coverage.visitExtras',
  method: 'get',
  path: '/appointments/:id/extras',
  summary: 'What a patient said when booking beside the reason: who pays, and the clinic’s own questions.',
  access: { kind: 'role', action: 'daybook.view' },
  params: z.strictObject({ id: appointmentId }),
  output: z.strictObject({
    coverage: coverage.nullable(),
    answers: z.array(z.strictObject({ label: z.string(), answer: z.string() })),
  }),
  errors: ['NotFound', 'NotAllowed'],
  readsPatients: true,
});
export type VisitExtras = z.output<typeof visitExtras.output>;

export const settleCoverage = defineEndpoint({
  name: 'coverage.settle',
  method: 'post',
  path: '/appointments/:id/coverage',
  summary: 'Say that a visit’s coverage was verified, or is none.',
  access: { kind: 'role', action: 'today.work' },
  params: z.strictObject({ id: appointmentId }),
  body: z.strictObject({ state: z.enum(['verified', 'not-covered']) }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'DecidedAlready', 'NotAllowed'],
});
