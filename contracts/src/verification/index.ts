import { z } from 'zod';
import { contact } from '../booking/index.ts';
import { defineEndpoint } from '../endpoint.ts';
import { proof } from '../proof/index.ts';
import { language } from '../wire.ts';

export const sendCode = defineEndpoint({
  name: 'verification.sendCode',
  method: 'post',
  path: '/public/verifications',
  summary:
    'Send a six-figure code by text message, or by e-mail to who has no cell phone; again after half a minute, five times at most.',
  access: { kind: 'public', limit: 'write' },
  /** More than two numbers from one browser need the browser's work, as a hold does. */
  body: z.strictObject({ contact, language, proof: proof.optional() }),
  output: z.strictObject({ contact: z.string(), resendInSec: z.number() }),
  errors: ['CodeLocked', 'TooManyRequests', 'HoldGone', 'ProofNeeded', 'InvalidInput'],
});

export const checkCode = defineEndpoint({
  name: 'verification.checkCode',
  method: 'post',
  path: '/public/verifications/check',
  summary: 'Say the code. Five wrong ones lock the number or address for this browser for half an hour.',
  access: { kind: 'public', limit: 'write' },
  body: z.strictObject({ contact, code: z.string().regex(/^\d{6}$/, { error: 'six-figures' }) }),
  output: z.strictObject({}),
  errors: ['WrongCode', 'CodeGone', 'CodeLocked'],
});
