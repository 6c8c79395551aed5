import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { findRows } from '../../platform/db/read.ts';
import { SetupRecordEntity } from '../../schema/index.ts';

export interface Version {
  readonly version: number;
  readonly changedAt: Date;
  readonly changedBy: string | null;
}

export async function versionsOf(em: SqlEntityManager, ids: readonly string[]): Promise<Map<string, Version>> {
  const rows = await findRows(em, SetupRecordEntity, { id: { $in: [...ids] } }, { populate: ['changedByAccount'] });
  return new Map(
    rows.map(({ id, version, changedAt, changedByAccount }) => [
      id,
      { version, changedAt, changedBy: changedByAccount?.name ?? null },
    ]),
  );
}
