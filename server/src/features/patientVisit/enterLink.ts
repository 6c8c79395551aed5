import type { Ctx } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';
import { hashOfToken } from '../linkTokens/index.ts';
import { countWrongTry, resetWrongTries, type LinkedVisit, visitOfLink } from './patientVisit.repository.ts';

const MAX_TRIES = 5;
/** Long enough that guessing birth dates leads nowhere, short enough that a real patient can try tomorrow. */
const LOCK_MS = 12 * 3_600_000;

/** Checks link and date of birth, at every call. A wrong try counts although the call is refused. */
export async function enterLink(
  ctx: Ctx,
  { token, birthDate }: { token: string; birthDate: string },
): Promise<LinkedVisit | Failure> {
  const visit = await visitOfLink(ctx.em, hashOfToken(token), ctx.now);
  if (!visit) return ctx.fail('LinkGone');
  if (visit.locked_until && new Date(visit.locked_until) > ctx.now) return ctx.fail('LinkLocked');
  if (visit.birth_date === birthDate) {
    if (visit.wrong_tries) await resetWrongTries(ctx.em, visit.link_id);
    return visit;
  }
  const left = MAX_TRIES - (visit.locked_until ? 0 : visit.wrong_tries) - 1;
  await countWrongTry(ctx.em, visit.link_id, left <= 0 ? new Date(ctx.now.getTime() + LOCK_MS) : null);
  return left <= 0 ? ctx.fail('LinkLocked') : ctx.fail('WrongBirthDate', { facts: { left } });
}
