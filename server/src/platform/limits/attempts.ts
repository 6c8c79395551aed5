import { createHash } from 'node:crypto';
import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { AttemptEntity } from '../../schema/index.ts';

/** What tries are counted for, such as an e-mail address or a number; kept as a hash. */
export function attemptKey(what: 'sign-in' | 'code' | 'code-sending', of: string): Buffer {
  return createHash('sha256').update(`${what}:${of}`).digest();
}

export async function lockKey(em: SqlEntityManager, key: Buffer, until: Date): Promise<void> {
  await em.nativeUpdate(AttemptEntity, { key }, { lockedUntil: until });
}

export async function clearAttempts(em: SqlEntityManager, key: Buffer): Promise<void> {
  await em.nativeDelete(AttemptEntity, { key });
}
