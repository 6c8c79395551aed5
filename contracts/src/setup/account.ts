import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { ROLES } from '../roles.ts';
import { id, line } from './fields.ts';
import { defineRecords } from './record.ts';

/** Who signs in, in which role, bound to which sites. */
export const accountDoc = z
  .strictObject({
    name: line(80),
    email: z.email({ error: 'not-an-email' }).max(200).toLowerCase(),
    role: z.enum(ROLES),
    /** The provider whose own hours these are. */
    resourceId: id.nullable(),
    /** `null`: all sites. */
    siteIds: z.array(id).min(1, { error: 'nowhere' }).nullable(),
    /** Set by the program: an invitation is open until it is used; then the account is in use. */
    state: z.enum(['invited', 'in-use', 'locked']).default('invited'),
  })
  .superRefine((account, check) => {
    if (account.role === 'provider' && account.resourceId === null)
      check.addIssue({ code: 'custom', path: ['resourceId'], message: 'provider-needs-person' });
  });
export type AccountDoc = z.output<typeof accountDoc>;

export const accounts = defineRecords('account', accountDoc, { view: 'accounts.manage', edit: 'accounts.manage' });

export const inviteAccount = defineEndpoint({
  name: 'setup.account.invite',
  method: 'post',
  path: '/setup/account/:id/invite',
  summary: 'Make a new invitation for an account: its link is shown once, and works for seven days.',
  access: { kind: 'role', action: 'accounts.manage' },
  params: z.strictObject({ id }),
  output: z.strictObject({ link: z.string(), until: z.string() }),
  errors: ['NotFound'],
});

export const readInvitation = defineEndpoint({
  name: 'accounts.readInvitation',
  method: 'post',
  path: '/auth/invitation',
  summary: 'Whose invitation a link is.',
  access: { kind: 'public', limit: 'sign-in' },
  body: z.strictObject({ token: z.string().min(20).max(100) }),
  output: z.strictObject({ name: z.string(), email: z.string(), role: z.enum(ROLES), clinic: z.string() }),
  errors: ['LinkGone', 'TooManyRequests'],
});

/** NIST SP 800-63B revision 4: fifteen characters where the password stands alone (from memory); no rules of composition. */
export const MIN_PASSWORD_LENGTH = 15;

export const acceptInvitation = defineEndpoint({
  name: 'accounts.acceptInvitation',
  method: 'post',
  path: '/auth/invitation/accept',
  summary: 'Choose the password; the invitation is used up.',
  access: { kind: 'public', limit: 'sign-in' },
  body: z.strictObject({
    token: z.string().min(20).max(100),
    password: z.string().min(MIN_PASSWORD_LENGTH, { error: 'password-short' }).max(200),
  }),
  output: z.strictObject({ email: z.string() }),
  errors: ['LinkGone', 'TooManyRequests'],
});
