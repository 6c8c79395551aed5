import type { Ctx } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';
import { hashOfToken } from '../linkTokens/index.ts';
import { countWrongTry, resetWrongTries } from './patientVisit.repository.ts';
import { type LinkedVisit, visitOfLink } from './patientVisit.sql.ts';

const MAX_TRIES = 5;
/** Long enough that guessing birth dates leads nowhere, short enough that a real patient can try tomorrow. */
const LOCK_MS = 12 * 3_600_000;

interface Link {
  readonly linkId: string;
  readonly wrongTries: number;
  readonly lockedUntil: string | null;
  readonly birthDate: string | null;
}

/**
 * Judges a date of birth for a link that is locked for update. A wrong try counts although the call is refused.
 *
 * @returns `null` if it fits; else the refusal, and whether this very try locked the link
 */
export async function judgeBirthDate(
  ctx: Ctx,
  link: Link,
  birthDate: string,
): Promise<{ failure: Failure<'LinkLocked' | 'WrongBirthDate'>; lockedNow: boolean } | null> {
  if (link.lockedUntil && new Date(link.lockedUntil) > ctx.now)
    return { failure: ctx.fail('LinkLocked'), lockedNow: false };
  if (link.birthDate === birthDate) {
    if (link.wrongTries) await resetWrongTries(ctx.em, link.linkId);
    return null;
  }
  const left = MAX_TRIES - (link.lockedUntil ? 0 : link.wrongTries) - 1;
  await countWrongTry(ctx.em, link.linkId, left <= 0 ? new Date(ctx.now.getTime() + LOCK_MS) : null);
  return left <= 0
    ? { failure: ctx.fail('LinkLocked'), lockedNow: true }
    : { failure: ctx.fail('WrongBirthDate', { facts: { left } }), lockedNow: false };
}

/** Checks link and date of birth, at every call. */
export async function enterLink(
  ctx: Ctx,
  { token, birthDate }: { token: string; birthDate: string },
): Promise<LinkedVisit | Failure<'LinkGone' | 'LinkLocked' | 'WrongBirthDate'>> {
  const visit = await visitOfLink(ctx.em, hashOfToken(token), ctx.now);
  if (!visit) return ctx.fail('LinkGone');
  return (await judgeBirthDate(ctx, visit, birthDate))?.failure ?? visit;
}
