import type { SqlEntityManager } from '@mikro-orm/postgresql';

/** The domain's time: real time plus the offset kept in one row (0 outside the demo). Read once per request. */
export async function readClock(em: SqlEntityManager): Promise<Date> {
  const [row] = await em.execute<{ offset_ms: string }[]>('select offset_ms from domain_clock');
  return new Date(Date.now() + Number(row.offset_ms));
}

/** Sets the demo's clock so that the domain's present is `instant`. */
export async function setClock(em: SqlEntityManager, instant: Date): Promise<void> {
  await em.execute('update domain_clock set offset_ms = ?', [instant.getTime() - Date.now()]);
}
