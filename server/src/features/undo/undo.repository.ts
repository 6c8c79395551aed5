import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { findRows } from '../../platform/db/read.ts';
import { AppointmentEntity } from '../../schema/index.ts';

/** Visits with who comes and where, among ids that may be anything's. */
export function visitsAmong(em: SqlEntityManager, ids: readonly string[]) {
  return findRows(em, AppointmentEntity, { id: { $in: [...ids] } }, { populate: ['patient', 'site'] });
}
