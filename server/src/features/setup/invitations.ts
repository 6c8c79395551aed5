import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { createHash, randomBytes } from 'node:crypto';
import type { InputOf } from '@zaguan/contracts';
import type {
  acceptInvitation as acceptContract,
  inviteAccount as inviteContract,
  readInvitation as readContract,
} from '@zaguan/contracts/setup';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { hashPassword, isCommonPassword } from '../accounts/index.ts';
import { clinicRow } from '../clinic/index.ts';
import { invitedBy, setInvitation, useInvitation } from './others.repository.ts';
import { endSessionsOf } from './others.sql.ts';

const DAYS = 7;
/** 256 bits: not to be guessed (OWASP ASVS 4, 2.3.1 asks for 6 random characters at least; from memory). */
const TOKEN_BYTES = 32;

const hashOf = (token: string) => createHash('sha256').update(`invitation:${token}`).digest();

/** Accounts belong to real time: moving the demo's clock neither opens nor ends an invitation. */
const realNow = () => new Date();

/** A new link; an older one stops working. Only its hash is kept, so it is shown this once. */
export async function invite(
  ctx: Ctx,
  { id }: InputOf<typeof inviteContract>,
): Promise<AnswerOf<typeof inviteContract>> {
  const token = randomBytes(TOKEN_BYTES).toString('base64url');
  const until = new Date(realNow().getTime() + DAYS * 86_400_000);
  if (!(await setInvitation(ctx.em, id, hashOf(token), until))) return ctx.fail('NotFound');
  ctx.wrote({ subjects: [{ kind: 'account', id }], after: { invitedUntil: until.toISOString() } });
  // After the hash sign: browsers send it to no server and to no other site.
  return { link: `/join#${token}`, until: until.toISOString() };
}

export async function readInvitation(
  ctx: Ctx,
  { token }: InputOf<typeof readContract>,
): Promise<AnswerOf<typeof readContract>> {
  const invited = await invitedBy(ctx.em, hashOf(token), realNow());
  if (!invited) return ctx.fail('LinkGone');
  const { name, email, role } = invited;
  return { name, email, role, clinic: (await clinicRow(ctx.em)).name };
}

export async function acceptInvitation(
  ctx: Ctx,
  { token, password }: InputOf<typeof acceptContract>,
): Promise<AnswerOf<typeof acceptContract>> {
  const hash = hashOf(token);
  const invited = await invitedBy(ctx.em, hash, realNow());
  if (!invited) return ctx.fail('LinkGone');
  const { name: clinic } = await clinicRow(ctx.em);
  if (isCommonPassword(password, [invited.name, invited.email, clinic]))
    return ctx.fail('InvalidInput', { issues: [{ path: 'password', code: 'password-common' }] });
  const id = await useInvitation(ctx.em, hash, await hashPassword(password), realNow());
  if (!id) return ctx.fail('LinkGone');
  // Whoever was signed in with the old password is not any more.
  await endSessionsOf(ctx.em, id);
  ctx.emit({ type: 'setup-changed' });
  ctx.wrote({ subjects: [{ kind: 'account', id }], after: { joined: true } });
  return { email: invited.email };
}
