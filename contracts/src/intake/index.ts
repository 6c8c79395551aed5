import { ANSWER_FAULTS, SIGNERS } from '@zaguan/core/intake';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { linkToken, who } from '../patientVisit/index.ts';
import { appointmentId, instant, language, localDate } from '../wire.ts';
import { answerChanges, answerValue, formItem, storedAnswers, words } from './form.ts';

export * from './desk.ts';

const formState = z.strictObject({
  answers: storedAnswers,
  status: z.enum(['in-progress', 'completed']),
});

const formDocument = formState.extend({
  kind: z.literal('form'),
  id: z.string(),
  title: words,
  items: z.array(formItem),
  /** From the record, where the person is known for sure; nothing is kept until the patient lets it stand. */
  prefill: z.record(z.string(), answerValue),
});
const consentDocument = z.strictObject({
  kind: z.literal('consent'),
  id: z.string(),
  title: words,
  body: words,
  signed: z.strictObject({ at: instant, signerName: z.string() }).nullable(),
});

export const packet = z.strictObject({
  /** For the rules that depend on age and today. */
  birthDate: localDate,
  today: localDate,
  documents: z.array(z.discriminatedUnion('kind', [formDocument, consentDocument])),
});
export type Packet = z.output<typeof packet>;
export type FormDocument = z.output<typeof formDocument>;
export type ConsentDocument = z.output<typeof consentDocument>;

const saving = {
  body: z.strictObject({
    language,
    changes: answerChanges,
    /** The patient is done: the form counts if nothing is missing; either way what was changed is kept. */
    complete: z.boolean(),
  }),
  output: formState.extend({
    conflicts: z.array(z.strictObject({ linkId: z.string(), mine: z.array(answerValue) })),
    faults: z.array(z.strictObject({ linkId: z.string(), fault: z.enum(ANSWER_FAULTS) })),
  }),
};
export type SavedForm = z.output<typeof saving.output>;

const stroke = z.array(z.tuple([z.number().int().min(0).max(600), z.number().int().min(0).max(200)])).max(600);
const signing = {
  body: z.strictObject({
    language,
    agreed: z.boolean(),
    signer: z.enum(SIGNERS),
    signerName: z.string().trim().max(120),
    signature: z.discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('typed') }),
      z.strictObject({ kind: z.literal('drawn'), strokes: z.array(stroke).max(60) }),
    ]),
  }),
  output: z.strictObject({ signed: z.strictObject({ at: instant, signerName: z.string() }) }),
};
export type Signing = z.output<typeof signing.body>;

const LINK_ERRORS = ['LinkGone', 'WrongBirthDate', 'LinkLocked'] as const;

export const openPacket = defineEndpoint({
  name: 'intake.openPacket',
  method: 'post',
  path: '/public/links/:token/packet',
  summary: 'What the visit asks for, with what was filled in so far, after the date of birth.',
  access: { kind: 'public', limit: 'write' },
  params: z.strictObject({ token: linkToken }),
  body: who,
  output: z.strictObject({ packet }),
  errors: LINK_ERRORS,
});

export const saveFormByLink = defineEndpoint({
  name: 'intake.saveForm',
  method: 'post',
  path: '/public/links/:token/forms/:formId',
  summary: 'Save answers as they are typed; joined answer by answer with those of another device.',
  access: { kind: 'public', limit: 'write' },
  params: z.strictObject({ token: linkToken, formId: z.uuid() }),
  body: saving.body.extend({ birthDate: localDate }),
  output: saving.output,
  errors: [...LINK_ERRORS, 'NotAsked', 'InvalidInput'],
});

export const signByLink = defineEndpoint({
  name: 'intake.sign',
  method: 'post',
  path: '/public/links/:token/consents/:consentId',
  summary: 'Sign a consent; kept as a PDF with its hash, never replaced.',
  access: { kind: 'public', limit: 'write' },
  params: z.strictObject({ token: linkToken, consentId: z.uuid() }),
  body: signing.body.extend({ birthDate: localDate }),
  output: signing.output,
  errors: [...LINK_ERRORS, 'NotAsked', 'ConsentIncomplete', 'SignedAlready'],
});

const ofVisit = { access: { kind: 'role', action: 'intake.check-in' } } as const;

export const packetAtDesk = defineEndpoint({
  name: 'intake.packetAtDesk',
  method: 'get',
  path: '/appointments/:id/packet',
  summary: 'The same packet, to be filled in together at the desk.',
  ...ofVisit,
  params: z.strictObject({ id: appointmentId }),
  output: z.strictObject({ packet }),
  errors: ['NotFound', 'NotAllowed'],
  readsPatients: true,
});

export const saveFormAtDesk = defineEndpoint({
  name: 'intake.saveFormAtDesk',
  method: 'post',
  path: '/appointments/:id/forms/:formId',
  summary: 'Save answers given at the desk.',
  ...ofVisit,
  params: z.strictObject({ id: appointmentId, formId: z.uuid() }),
  body: saving.body,
  output: saving.output,
  errors: ['NotFound', 'NotAllowed', 'NotAsked', 'InvalidInput'],
});

export const signAtDesk = defineEndpoint({
  name: 'intake.signAtDesk',
  method: 'post',
  path: '/appointments/:id/consents/:consentId',
  summary: 'Sign a consent on the desk’s screen.',
  ...ofVisit,
  params: z.strictObject({ id: appointmentId, consentId: z.uuid() }),
  body: signing.body,
  output: signing.output,
  errors: ['NotFound', 'NotAllowed', 'NotAsked', 'ConsentIncomplete', 'SignedAlready'],
});
