import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { ROLES } from '../roles.ts';

const me = z.strictObject({
  accountId: z.string(),
  name: z.string(),
  role: z.enum(ROLES),
  /** Sent back as `x-csrf-token` with everything that changes something. */
  csrfToken: z.string(),
  /** Their own lane, where they are a provider or of the staff with hours. */
  resourceId: z.string().nullable(),
  /** The sites they work at; `null`: all. */
  siteIds: z.array(z.string()).nullable(),
});
export type Me = z.output<typeof me>;

export const signIn = defineEndpoint({
  name: 'accounts.signIn',
  method: 'post',
  path: '/auth/sign-in',
  summary: 'Sign in with e-mail and password. Five wrong ones lock the account for fifteen minutes.',
  access: { kind: 'public', limit: 'sign-in' },
  body: z.strictObject({ email: z.email().max(200), password: z.string().min(1).max(200) }),
  output: me,
  errors: ['SignInFailed', 'AccountLocked', 'TooManyRequests'],
});

export const demoAccounts = defineEndpoint({
  name: 'accounts.demoAccounts',
  method: 'get',
  path: '/auth/demo-accounts',
  summary: 'The accounts of the demo with their passwords; empty on anything real.',
  access: { kind: 'public', limit: 'read' },
  output: z.strictObject({
    accounts: z.array(
      z.strictObject({ role: z.enum(ROLES), name: z.string(), email: z.string(), password: z.string() }),
    ),
  }),
  errors: [],
});

export const signOut = defineEndpoint({
  name: 'accounts.signOut',
  method: 'post',
  path: '/auth/sign-out',
  summary: 'End this session.',
  access: { kind: 'signed-in' },
  output: z.strictObject({}),
  errors: [],
});

export const whoAmI = defineEndpoint({
  name: 'accounts.whoAmI',
  method: 'get',
  path: '/auth/me',
  summary: 'Who is signed in here, if anyone.',
  access: { kind: 'public', limit: 'read' },
  output: z.strictObject({ me: me.nullable() }),
  errors: [],
});
