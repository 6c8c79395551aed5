import { raw, type SqlEntityManager } from '@mikro-orm/postgresql';
import { DomainClockEntity } from '../../schema/index.ts';
import { findRow } from '../db/read.ts';

/** The domain's time: real time plus the offset kept in one row (0 outside the demo). Read once per request. */
export async function readClock(em: SqlEntityManager): Promise<Date> {
  const clock = await findRow(em, DomainClockEntity, {});
  if (!clock) throw new Error('the clock’s row is missing: the database was not migrated');
  return new Date(Date.now() + clock.offsetMs);
}

/** Sets the demo's clock so that the domain's present is `instant`. */
export async function setClock(em: SqlEntityManager, instant: Date): Promise<void> {
  await em.nativeUpdate(DomainClockEntity, { onlyRow: true }, { offsetMs: instant.getTime() - Date.now() });
}

/** Moves the demo's clock on. */
export async function moveClock(em: SqlEntityManager, minutes: number): Promise<void> {
  await em.nativeUpdate(DomainClockEntity, { onlyRow: true }, { offsetMs: raw('offset_ms + ?', [minutes * 60_000]) });
}
