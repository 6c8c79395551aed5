import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { findRows } from '../../platform/db/read.ts';
import {
  type BookingRequest,
  BookingRequestEntity,
  PoolEntity,
  ResourceEntity,
  UnplacedVisitEntity,
  VisitReasonEntity,
} from '../../schema/index.ts';

export interface RequestFilter {
  readonly states: readonly BookingRequest['state'][];
  readonly patientId?: string;
}

/** Requests with what they name, by due date. */
export function requestRows(em: SqlEntityManager, { states, patientId }: RequestFilter) {
  const where = { state: { $in: [...states] }, ...(patientId && { patientId }) };
  return findRows(em, BookingRequestEntity, where, {
    populate: ['patient', 'visitType', 'site', 'provider', 'askedByAccount', 'appointment'],
    orderBy: { dueDate: 'asc', id: 'asc' },
  });
}

/** What people usually come for, of one visit type. */
export function reasonsOf(em: SqlEntityManager, visitTypeId: string) {
  return findRows(em, VisitReasonEntity, { visitTypeId, active: true }, { orderBy: { sortOrder: 'asc', id: 'asc' } });
}

/** Kinds of pools with their names. */
export function poolNames(em: SqlEntityManager) {
  return findRows(em, PoolEntity, { active: true }, { orderBy: { sortOrder: 'asc', id: 'asc' } });
}

/** Rooms and devices with the sites they are at. */
export function placeRows(em: SqlEntityManager) {
  return findRows(
    em,
    ResourceEntity,
    { active: true, kind: { $in: ['room', 'equipment'] } },
    { populate: ['homeSite'], orderBy: { sortOrder: 'asc', id: 'asc' } },
  );
}

/** What lies on the Bench, of one patient or all, with what it names, the oldest first. */
export function unplacedRows(em: SqlEntityManager, patientId: string | null) {
  const where = { endedAt: null, ...(patientId && { patientId }) };
  return findRows(em, UnplacedVisitEntity, where, {
    populate: ['patient', 'visitType', 'site', 'provider', 'owner', 'appointment'],
    orderBy: { since: 'asc', id: 'asc' },
  });
}
