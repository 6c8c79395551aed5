import { proofChallenge } from '@zaguan/contracts/proof';
import { type Challenge, createChallenge, type Payload, verifySolution } from 'altcha-lib';
import { deriveKey } from 'altcha-lib/algorithms/pbkdf2';
import { z } from 'zod';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { handle } from '../../platform/endpoint/handler.ts';
import { liveHoldsOfAddress, spend } from './proof.repository.ts';

/**
 * Some 256 tries of 400 rounds each: well under a second on a phone, unnoticed behind choosing a time, and dear to who
 * wants to fill a day with holds. Verifying takes one try. All in real time: a moved demo clock neither ends nor renews it.
 */
const ROUNDS = 400;
const LIVES_MS = 20 * 60_000;

const MAX_DOUBLINGS = 5;

/** Each time that is kept for others at the same address makes the next one dearer. */
async function costNow({ em, caller, browserHash, now }: Ctx): Promise<number> {
  const live = caller && browserHash ? await liveHoldsOfAddress(em, caller.address, browserHash, now) : 0;
  return ROUNDS * 2 ** Math.min(MAX_DOUBLINGS, live);
}

const secretOf = (ctx: Ctx) => `proof:${ctx.linkSecret}`;

export const proofEndpoints = [
  handle(proofChallenge, async (ctx) => {
    const challenge = await createChallenge({
      algorithm: 'PBKDF2/SHA-256',
      cost: await costNow(ctx),
      deriveKey,
      expiresAt: new Date(Date.now() + LIVES_MS),
      hmacSignatureSecret: secretOf(ctx),
      // A puzzle solved in one browser opens nothing in another.
      data: { browser: ctx.browserHash?.toString('hex') ?? '' },
    });
    return { challenge: { parameters: { ...challenge.parameters }, signature: challenge.signature ?? '' } };
  }),
];

const payload = z.object({
  challenge: z.object({
    parameters: z.looseObject({ data: z.object({ browser: z.string() }), cost: z.number(), expiresAt: z.number() }),
    signature: z.string(),
  }),
  solution: z.object({ counter: z.number(), derivedKey: z.string() }),
});

function readPayload(proof: string): z.output<typeof payload> | null {
  try {
    return payload.parse(JSON.parse(Buffer.from(proof, 'base64').toString('utf8')));
  } catch {
    return null;
  }
}

/** Whether this browser did the work, for one hold. The same proof never opens a second one. */
export async function isProved(ctx: Ctx, proof: string | undefined): Promise<boolean> {
  const read = proof ? readPayload(proof) : null;
  if (!read || read.challenge.parameters.data.browser !== ctx.browserHash?.toString('hex')) return false;
  // Gathered while it was cheap, it is worth no more than that.
  if (read.challenge.parameters.cost < (await costNow(ctx))) return false;
  const { verified } = await verifySolution({
    // The shape was checked above as far as we use it; the signature vouches for the rest.
    challenge: read.challenge as unknown as Challenge,
    solution: read.solution as Payload['solution'],
    deriveKey,
    hmacSignatureSecret: secretOf(ctx),
  });
  return (
    verified &&
    spend(ctx.em, {
      signature: read.challenge.signature,
      expiresAt: new Date(read.challenge.parameters.expiresAt * 1000),
      now: new Date(),
    })
  );
}
