import { timingSafeEqual } from 'node:crypto';
import type { InputOf } from '@zaguan/contracts';
import { checkCode, sendCode } from '@zaguan/contracts/verification';
import type { Shares } from '../../platform/config/config.ts';
import { browserOf, type Ctx } from '../../platform/endpoint/context.ts';
import { type AnswerOf, handle, handleKeeping } from '../../platform/endpoint/handler.ts';
import { attemptKey, clearAttempts, lockKey } from '../../platform/limits/attempts.ts';
import { countAttempt, countWithin } from '../../platform/limits/attempts.sql.ts';
import type { ContactVerification } from '../../schema/index.ts';
import { hasLiveHold, proveHold } from '../holds/index.ts';
import { isProved } from '../proof/index.ts';
import { whyNoText } from './numbers.ts';
import { codeOf } from '../linkTokens/index.ts';
import { recordVerified, sendCodeMessage } from '../messages/index.ts';
import { numbersOfBrowser, saveVerification, textSettings, verificationFor } from './verification.repository.ts';
import { codesSentSince } from './verification.sql.ts';

export { verificationSweeps } from './sweeps.sql.ts';

/** All in real time: moving the demo's clock neither ends a lock nor a code. */
const CODE_LIVES_MS = 10 * 60_000;
const RESEND_MS = 30_000;
const MAX_SENDS = 5;
const MAX_TRIES = 5;
const LOCK_MS = 30 * 60_000;
const VERIFIED_LIVES_MS = 30 * 60_000;
const DAY_MS = 86_400_000;

function lockOf({ lockedUntil: until }: ContactVerification): Date | null {
  return until && until.getTime() > Date.now() ? until : null;
}

/** Since when a browser must have proved that it can read what is sent to a number or address. In real time. */
export const provedSince = () => new Date(Date.now() - VERIFIED_LIVES_MS);

/** Wrong codes for one number or address from all browsers, before nobody may try for half an hour. */
const MAX_WRONG_OF_CONTACT = 10;
/** Numbers one hold may have codes sent to without more work: one was mistyped. */
const NUMBERS_OF_HOLD = 2;
/** Today says so when so much of the day's budget is used up. */
const ALARM_SHARE = 0.8;

/** How many codes were sent today if that is much of the day's budget, for Today; `null` otherwise. */
export async function codesRunningOut(ctx: Ctx): Promise<{ sent: number; budget: number } | null> {
  const { budget } = await textSettings(ctx.em);
  const sent = await codesSentSince(ctx.em, new Date(Date.now() - DAY_MS));
  return sent >= budget * ALARM_SHARE ? { sent, budget } : null;
}

async function send(
  ctx: Ctx,
  { contact, language, proof }: InputOf<typeof sendCode>,
  asksProof: boolean,
  { codesPerContact }: Shares,
): Promise<AnswerOf<typeof sendCode>> {
  const settings = await textSettings(ctx.em);
  const refused = contact.includes('@') ? null : whyNoText(contact, settings.countries);
  if (refused) return ctx.fail('InvalidInput', { issues: [{ path: 'contact', code: refused }] });
  // Whoever keeps no time has nothing to prove a number for.
  if (!(await hasLiveHold(ctx.em, browserOf(ctx), ctx.now))) return ctx.fail('HoldGone');
  const row = await verificationFor(ctx.em, ctx.newId(), browserOf(ctx), contact);
  const locked = lockOf(row);
  if (locked) return ctx.fail('CodeLocked', { facts: { until: locked.toISOString() } });
  const now = new Date();
  const waitMs = row.sentAt ? row.sentAt.getTime() + RESEND_MS - now.getTime() : 0;
  if (waitMs > 0) return { contact, resendInSec: Math.ceil(waitMs / 1000) };
  const numbers = await numbersOfBrowser(ctx.em, browserOf(ctx), new Date(now.getTime() - LOCK_MS), contact);
  if (asksProof && numbers >= NUMBERS_OF_HOLD && !(await isProved(ctx, proof))) return ctx.fail('ProofNeeded');
  if ((await codesSentSince(ctx.em, new Date(now.getTime() - DAY_MS))) >= settings.budget)
    return ctx.fail('TooManyRequests');
  if ((await countWithin(ctx.em, attemptKey('code-sending', contact), 60)) > codesPerContact)
    return ctx.fail('TooManyRequests');
  // After a lock has run out the count starts again.
  const sends = row.lockedUntil ? 1 : row.sends + 1;
  const lockedUntil = sends >= MAX_SENDS ? new Date(now.getTime() + LOCK_MS) : null;
  await saveVerification(ctx.em, { id: row.id, sends, wrongTries: 0, sentAt: now, verifiedAt: null, lockedUntil });
  await sendCodeMessage(ctx, { contact, language, verificationId: row.id, livesMs: CODE_LIVES_MS });
  return { contact, resendInSec: RESEND_MS / 1000 };
}

/** @param asksProof whether more numbers need more work; off only in tests of other things */
export const verificationEndpoints = (asksProof: boolean, shares: Shares) => [
  handle(sendCode, (ctx, input) => send(ctx, input, asksProof, shares)),
  handleKeeping(checkCode, async (ctx, { contact, code }) => {
    const row = await verificationFor(ctx.em, ctx.newId(), browserOf(ctx), contact);
    const sentAt = row.sentAt;
    if (row.wrongTries >= MAX_TRIES) {
      const locked = lockOf(row);
      if (locked) return ctx.fail('CodeLocked', { facts: { until: locked.toISOString() } });
    }
    if (!sentAt || Date.now() - sentAt.getTime() > CODE_LIVES_MS) return ctx.fail('CodeGone');
    const key = attemptKey('code', contact);
    const tries = await countAttempt(ctx.em, key);
    if (tries.until) return ctx.fail('CodeLocked', { facts: { until: tries.until.toISOString() } });
    const kept = { id: row.id, sends: row.sends, sentAt };
    if (timingSafeEqual(Buffer.from(codeOf(row.id, row.sends, ctx.linkSecret)), Buffer.from(code))) {
      await saveVerification(ctx.em, { ...kept, wrongTries: 0, verifiedAt: new Date(), lockedUntil: null });
      await clearAttempts(ctx.em, key);
      await proveHold(ctx.em, browserOf(ctx), ctx.now);
      await recordVerified(ctx, contact);
      return {};
    }
    // From all browsers together: each new one would have five tries more.
    if (tries.failures >= MAX_WRONG_OF_CONTACT) await lockKey(ctx.em, key, new Date(Date.now() + LOCK_MS));
    const wrongTries = row.wrongTries + 1;
    const lockedUntil = wrongTries >= MAX_TRIES ? new Date(Date.now() + LOCK_MS) : row.lockedUntil;
    await saveVerification(ctx.em, { ...kept, wrongTries, verifiedAt: null, lockedUntil });
    return wrongTries >= MAX_TRIES
      ? ctx.fail('CodeLocked', { facts: { until: lockedUntil?.toISOString() ?? null } })
      : ctx.fail('WrongCode', { facts: { left: MAX_TRIES - wrongTries } });
  }),
];
