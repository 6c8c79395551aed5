import type { Orm } from '@zaguan/server/platform/db/orm';

export { type Loaded, loadDemo } from './brindlewood/index.ts';
export { demoDay } from './day.ts';
export { loadExcerpt } from './excerpt/index.ts';

/** Whether a clinic was loaded into this database before. */
export async function isLoaded(orm: Orm): Promise<boolean> {
  const rows = await orm.em.getConnection().execute<unknown[]>('select 1 from clinic');
  return rows.length > 0;
}
