import { defineEntity, type InferEntity, p } from '@mikro-orm/core';
import type { Role } from '@zaguan/contracts';

/** Someone who signs in. */
export const AccountEntity = defineEntity({
  name: 'Account',
  tableName: 'account',
  properties: {
    id: p.uuid().primary(),
    email: p.text(),
    name: p.text(),
    role: p.text().$type<Role>(),
    /** `null` until whoever was invited chooses a password. */
    passwordHash: p.text().nullable(),
    resourceId: p.uuid().nullable(),
    demo: p.boolean(),
    active: p.boolean(),
    createdAt: p.datetime(),
  },
});
export type Account = InferEntity<typeof AccountEntity>;
