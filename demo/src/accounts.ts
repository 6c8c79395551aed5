import { DEMO_PASSWORD, hashPassword } from '@zaguan/server/features/accounts/index';
import type { Orm } from '@zaguan/server/platform/db/orm';
import { idOf } from './random.ts';
import { insertRows } from './rows.ts';

export const STAFF = [
  { role: 'coordinator', name: 'Ines Kessler', email: 'ines@example.com' },
  { role: 'manager', name: 'Noor Haddad', email: 'noor@example.com' },
  { role: 'front-desk', name: 'Bo Lindgren', email: 'bo@example.com' },
  { role: 'provider', name: 'Dr. Inés Amaya', email: 'amaya@example.com' },
  { role: 'read-only', name: 'Pat Quill', email: 'pat@example.com' },
] as const;

/** One account a role; the front desk's is bound to Canal Row, the provider's to Dr. Amaya's own hours. */
export async function loadAccounts(orm: Orm, now: Date): Promise<void> {
  const password_hash = await hashPassword(DEMO_PASSWORD);
  await insertRows(
    orm,
    'account',
    STAFF.map((person, i) => ({
      id: idOf(`account ${person.role}`),
      email: person.email,
      name: person.name,
      role: person.role,
      password_hash,
      resource_id: person.role === 'provider' ? idOf('Amaya') : null,
      demo: true,
      active: true,
      created_at: new Date(now.getTime() + i).toISOString(),
    })),
  );
  await insertRows(orm, 'account_site', [{ account_id: idOf('account front-desk'), site_id: idOf('Canal Row') }]);
}
