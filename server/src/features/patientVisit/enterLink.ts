import type { Ctx } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';
import { hashOfToken } from '../linkTokens/index.ts';
import { countWrongTry, resetWrongTries } from './patientVisit.repository.ts';
import { type LinkedVisit, visitOfLink } from './patientVisit.sql.ts';

const MAX_TRIES = 5;
/** Long enough that guessing birth dates leads nowhere, short enough that a real patient can try tomorrow. */
const LOCK_MS = 12 * 3_600_000;

/** Checks link and date of birth, at every call. A wrong try counts although the call is refused. */
export async function enterLink(
  ctx: Ctx,
  { token, birthDate }: { token: string; birthDate: string },
): Promise<LinkedVisit | Failure<'LinkGone' | 'LinkLocked' | 'WrongBirthDate'>> {
  const visit = await visitOfLink(ctx.em, hashOfToken(token), ctx.now);
  if (!visit) return ctx.fail('LinkGone');
  if (visit.lockedUntil && new Date(visit.lockedUntil) > ctx.now) return ctx.fail('LinkLocked');
  if (visit.birthDate === birthDate) {
    if (visit.wrongTries) await resetWrongTries(ctx.em, visit.linkId);
    return visit;
  }
  const left = MAX_TRIES - (visit.lockedUntil ? 0 : visit.wrongTries) - 1;
  await countWrongTry(ctx.em, visit.linkId, left <= 0 ? new Date(ctx.now.getTime() + LOCK_MS) : null);
  return left <= 0 ? ctx.fail('LinkLocked') : ctx.fail('WrongBirthDate', { facts: { left } });
}
