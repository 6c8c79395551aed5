import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { InputOf, OutputOf } from '@zaguan/contracts';
import type {
  signIn as signInContract,
  signOut as signOutContract,
  whoAmI as whoAmIContract,
} from '@zaguan/contracts/accounts';
import { beginSession, endSession, staffOf } from '../../platform/auth/session.ts';
import type { Ctx } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';
import type { Http } from '../../platform/endpoint/handler.ts';
import { attemptKey, clearAttempts, lockKey } from '../../platform/limits/attempts.ts';
import { countAttempt } from '../../platform/limits/attempts.sql.ts';
import { hashToken } from '../../platform/http/browser.ts';
import { deviceToken, rememberDevice } from '../../platform/http/device.ts';
import { findActiveByEmail, sitesOf } from './accounts.repository.ts';
import { isKnownDevice, recordDevice } from './devices.sql.ts';
import { passwordMatches, imitatePasswordCheck } from './password.ts';

/** Well under the 100 consecutive failures NIST SP 800-63B-4 allows (from memory); a person mistypes two or three times. */
const MAX_FAILURES = 5;
const LOCK_MINUTES = 15;

function locked(ctx: Ctx, until: Date): Failure<'AccountLocked'> {
  return ctx.fail('AccountLocked', { facts: { until: until.toISOString() } });
}

/** Signing in uses real time: moving the demo's clock must not end a lock. */
export async function signIn(
  ctx: Ctx,
  input: InputOf<typeof signInContract>,
  { req, res }: Http,
): Promise<AnswerOf<typeof signInContract>> {
  const account = await findActiveByEmail(ctx.em, input.email);
  const token = deviceToken(req);
  const known = account && token ? await isKnownDevice(ctx.em, account.id, hashToken(token)) : false;
  // The same for an address without an account: which of both it is can't be told by being locked.
  const key = attemptKey('sign-in', `${input.email.toLowerCase()}:${known && token ? token : ''}`);
  const { failures, until } = await countAttempt(ctx.em, key);
  if (until) return locked(ctx, until);
  const matches = account?.passwordHash
    ? await passwordMatches(account.passwordHash, input.password)
    : await imitatePasswordCheck(input.password);
  if (!account || !matches) {
    if (failures < MAX_FAILURES) return ctx.fail('SignInFailed');
    const end = new Date(Date.now() + LOCK_MINUTES * 60_000);
    await lockKey(ctx.em, key, end);
    return locked(ctx, end);
  }
  await clearAttempts(ctx.em, key);
  if (!known) await recordDevice(ctx.em, account.id, hashToken(rememberDevice(res, req)));
  const siteIds = await sitesOf(ctx.em, account.id);
  const csrfToken = await beginSession(req, {
    kind: 'staff',
    accountId: account.id,
    name: account.name,
    role: account.role,
    resourceId: account.resourceId ?? null,
    siteIds,
  });
  ctx.wrote({ subjects: [{ kind: 'account', id: account.id }] });
  return {
    ...{ accountId: account.id, name: account.name, role: account.role },
    ...{ csrfToken, resourceId: account.resourceId ?? null, siteIds: siteIds && [...siteIds] },
  };
}

export async function signOut(
  _ctx: Ctx,
  _input: InputOf<typeof signOutContract>,
  { req }: Http,
): Promise<OutputOf<typeof signOutContract>> {
  await endSession(req);
  return {};
}

export async function whoAmI(
  _ctx: Ctx,
  _input: InputOf<typeof whoAmIContract>,
  { req }: Http,
): Promise<OutputOf<typeof whoAmIContract>> {
  const staff = staffOf(req);
  return {
    me: staff && {
      accountId: staff.accountId,
      name: staff.name,
      role: staff.role,
      csrfToken: req.session.csrfToken ?? '',
      resourceId: staff.resourceId,
      siteIds: staff.siteIds && [...staff.siteIds],
    },
  };
}
