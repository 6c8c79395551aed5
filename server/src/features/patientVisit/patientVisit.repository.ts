import { raw } from '@mikro-orm/postgresql';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import { LinkTokenEntity } from '../../schema/index.ts';

export async function countWrongTry(em: SqlEntityManager, linkId: string, lockedUntil: Date | null): Promise<void> {
  await em.nativeUpdate(LinkTokenEntity, { id: linkId }, { wrongTries: raw('wrong_tries + 1'), lockedUntil });
}

export async function resetWrongTries(em: SqlEntityManager, linkId: string): Promise<void> {
  await em.nativeUpdate(LinkTokenEntity, { id: linkId }, { wrongTries: 0, lockedUntil: null });
}
