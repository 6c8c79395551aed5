import { timingSafeEqual } from 'node:crypto';
import { checkCode, sendCode } from '@zaguan/contracts/verification';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { handle, handleKeeping } from '../../platform/endpoint/handler.ts';
import { codeOf } from '../linkTokens/index.ts';
import { noteVerified, sendCodeMessage } from '../messages/index.ts';
import {
  saveVerification,
  sentToNumberSince,
  type VerificationRow,
  verificationFor,
  verifiedSince,
} from './verification.repository.ts';

/** All in real time: moving the demo's clock neither ends a lock nor a code. */
const CODE_LIVES_MS = 10 * 60_000;
const RESEND_MS = 30_000;
const MOST_SENDS = 5;
const MOST_TRIES = 5;
const LOCK_MS = 30 * 60_000;
const VERIFIED_LIVES_MS = 30 * 60_000;
/** Browsers that may have a code sent to one number within an hour: a household, not a flood. */
const MOST_BROWSERS = 8;

const time = (text: string | null) => (text ? new Date(text) : null);

function lockOf(row: VerificationRow): Date | null {
  const until = time(row.locked_until);
  return until && until.getTime() > Date.now() ? until : null;
}

/** Whether this browser proved within half an hour that it can read what is sent to the number or address. */
export async function isVerified(ctx: Ctx, contact: string): Promise<boolean> {
  return (
    ctx.browserHash !== null &&
    verifiedSince(ctx.em, ctx.browserHash, contact, new Date(Date.now() - VERIFIED_LIVES_MS))
  );
}

export const verificationEndpoints = [
  handle(sendCode, async (ctx, { contact, language }) => {
    if (!ctx.browserHash) return ctx.fail('NotAllowed');
    const row = await verificationFor(ctx.em, ctx.newId(), ctx.browserHash, contact);
    const locked = lockOf(row);
    if (locked) return ctx.fail('CodeLocked', { facts: { until: locked.toISOString() } });
    const now = new Date();
    const waitMs = row.sent_at ? new Date(row.sent_at).getTime() + RESEND_MS - now.getTime() : 0;
    if (waitMs > 0) return { contact, resendInSec: Math.ceil(waitMs / 1000) };
    if (
      !row.sent_at &&
      (await sentToNumberSince(ctx.em, contact, new Date(now.getTime() - 3_600_000))) >= MOST_BROWSERS
    )
      return ctx.fail('TooManyRequests');
    // After a lock has run out the count starts again.
    const sends = row.locked_until ? 1 : row.sends + 1;
    const lockedUntil = sends >= MOST_SENDS ? new Date(now.getTime() + LOCK_MS) : null;
    await saveVerification(ctx.em, { id: row.id, sends, wrongTries: 0, sentAt: now, verifiedAt: null, lockedUntil });
    await sendCodeMessage(ctx, { contact, language, verificationId: row.id, livesMs: CODE_LIVES_MS });
    return { contact, resendInSec: RESEND_MS / 1000 };
  }),
  handleKeeping(checkCode, async (ctx, { contact, code }) => {
    if (!ctx.browserHash) return ctx.fail('NotAllowed');
    const row = await verificationFor(ctx.em, ctx.newId(), ctx.browserHash, contact);
    const sentAt = time(row.sent_at);
    if (row.wrong_tries >= MOST_TRIES) {
      const locked = lockOf(row);
      if (locked) return ctx.fail('CodeLocked', { facts: { until: locked.toISOString() } });
    }
    if (!sentAt || Date.now() - sentAt.getTime() > CODE_LIVES_MS) return ctx.fail('CodeGone');
    const kept = { id: row.id, sends: row.sends, sentAt };
    if (timingSafeEqual(Buffer.from(codeOf(row.id, row.sends, ctx.linkSecret)), Buffer.from(code))) {
      await saveVerification(ctx.em, { ...kept, wrongTries: 0, verifiedAt: new Date(), lockedUntil: null });
      await noteVerified(ctx, contact);
      return {};
    }
    const wrongTries = row.wrong_tries + 1;
    const lockedUntil = wrongTries >= MOST_TRIES ? new Date(Date.now() + LOCK_MS) : time(row.locked_until);
    await saveVerification(ctx.em, { ...kept, wrongTries, verifiedAt: null, lockedUntil });
    return wrongTries >= MOST_TRIES
      ? ctx.fail('CodeLocked', { facts: { until: lockedUntil?.toISOString() ?? null } })
      : ctx.fail('WrongCode', { facts: { left: MOST_TRIES - wrongTries } });
  }),
];
