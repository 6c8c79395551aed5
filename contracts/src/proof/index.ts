import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';

/** A solved puzzle as it is sent: base64 of its JSON. */
export const proof = z.string().max(4000);

export const proofChallenge = defineEndpoint({
  name: 'proof.challenge',
  method: 'get',
  path: '/public/proofs',
  summary: 'A puzzle for the browser to work on before it may hold a time; nobody sees it.',
  access: { kind: 'public', limit: 'read' },
  output: z.strictObject({
    challenge: z.strictObject({
      parameters: z.looseObject({ algorithm: z.string(), nonce: z.string(), salt: z.string(), cost: z.number() }),
      signature: z.string(),
    }),
  }),
  errors: [],
});
