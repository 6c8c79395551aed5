import { rowOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';

type Device = { accountId: string; tokenHash: Buffer };

const SEEN = statement<Device, { tokenHash: Buffer }>(
  'read and touched in one trip, by the database’s clock: sign-in uses real time',
  'update known_device set last_used_at = clock_timestamp() where token_hash = :tokenHash and account_id = :accountId returning token_hash',
);

/** Whether an account was signed in from this device before. */
export async function isKnownDevice(em: SqlEntityManager, accountId: string, tokenHash: Buffer): Promise<boolean> {
  return (await rowOf(em, SEEN, { accountId, tokenHash })) !== null;
}

const NEW = statement<Device, never>(
  'by the database’s clock: sign-in uses real time',
  'insert into known_device (token_hash, account_id, since, last_used_at) values (:tokenHash, :accountId, clock_timestamp(), clock_timestamp()) on conflict do nothing',
);

export async function recordDevice(em: SqlEntityManager, accountId: string, tokenHash: Buffer): Promise<void> {
  await rowsOf(em, NEW, { accountId, tokenHash });
}
