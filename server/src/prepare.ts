import { migrate, openOrm } from './platform/db/orm.ts';

/** Brings the database of DATABASE_URL up to date. */
export async function prepareDatabase(url: string): Promise<Awaited<ReturnType<typeof openOrm>>> {
  const orm = await openOrm({ url, connections: 4, entities: [] });
  await migrate(orm);
  return orm;
}
