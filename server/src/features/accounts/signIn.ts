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
import { countFailure, findActiveByEmail, setLock, sitesOf } from './accounts.repository.ts';
import { passwordMatches, pretendToCheck } from './password.ts';

/** Well under the 100 consecutive failures NIST SP 800-63B-4 allows (from memory); a person mistypes two or three times. */
const MOST_FAILURES = 5;
const LOCK_MINUTES = 15;

/** Signing in uses real time: moving the demo's clock must not end a lock. */
export async function signIn(
  ctx: Ctx,
  input: InputOf<typeof signInContract>,
  { req }: Http,
): Promise<OutputOf<typeof signInContract> | Failure> {
  const account = await findActiveByEmail(ctx.em, input.email);
  if (!account?.passwordHash) {
    await pretendToCheck(input.password);
    return ctx.fail('SignInFailed');
  }
  if (account.lockedUntil && account.lockedUntil.getTime() > Date.now())
    return ctx.fail('AccountLocked', { facts: { until: account.lockedUntil.toISOString() } });
  if (!(await passwordMatches(account.passwordHash, input.password))) {
    if ((await countFailure(ctx.em, account.id)) < MOST_FAILURES) return ctx.fail('SignInFailed');
    const until = new Date(Date.now() + LOCK_MINUTES * 60_000);
    await setLock(ctx.em, account.id, until);
    return ctx.fail('AccountLocked', { facts: { until: until.toISOString() } });
  }
  await setLock(ctx.em, account.id, null);
  const csrfToken = await beginSession(req, {
    kind: 'staff',
    accountId: account.id,
    name: account.name,
    role: account.role,
    resourceId: account.resourceId ?? null,
    siteIds: await sitesOf(ctx.em, account.id),
  });
  ctx.wrote({ subjects: [{ kind: 'account', id: account.id }] });
  return { name: account.name, role: account.role, csrfToken, resourceId: account.resourceId ?? null };
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
      name: staff.name,
      role: staff.role,
      csrfToken: req.session.csrfToken ?? '',
      resourceId: staff.resourceId,
    },
  };
}
