import { LockMode, type SqlEntityManager } from '@mikro-orm/postgresql';
import { findRow, findRows } from '../../platform/db/read.ts';
import { insertRow } from '../../platform/db/write.ts';
import { type BookingRequest, BookingRequestEntity, type New, UnplacedVisitEntity } from '../../schema/index.ts';

const FOR_UPDATE = { lockMode: LockMode.PESSIMISTIC_WRITE } as const;

export function requestForUpdate(em: SqlEntityManager, id: string): Promise<BookingRequest | null> {
  return findRow(em, BookingRequestEntity, { id }, FOR_UPDATE);
}

/** The requests a visit was booked for, or that it completed; none that was withdrawn or booked anew since. */
export function requestOfVisit(em: SqlEntityManager, appointmentId: string): Promise<BookingRequest[]> {
  return findRows(
    em,
    BookingRequestEntity,
    { appointmentId, state: { $ne: 'withdrawn' } },
    { ...FOR_UPDATE, orderBy: { id: 'asc' } },
  );
}

/** Open requests that a completed visit is the answer to, whoever booked it: its type, not before their first date. */
export function openRequestsMetBy(
  em: SqlEntityManager,
  { patientId, visitTypeId, siteDate }: { patientId: string; visitTypeId: string; siteDate: string },
): Promise<BookingRequest[]> {
  const where = { patientId, visitTypeId, state: 'open' as const, fromDate: { $lte: siteDate } };
  return findRows(em, BookingRequestEntity, where, { ...FOR_UPDATE, orderBy: { id: 'asc' } });
}

/** Changes a request that its transaction has locked. */
export async function updateRequest(
  em: SqlEntityManager,
  { id, version }: { id: string; version: number },
  changes: Partial<New<typeof BookingRequestEntity>>,
): Promise<number> {
  const next = version + 1;
  await em.nativeUpdate(BookingRequestEntity, { id, version }, { ...changes, version: next });
  return next;
}

export function insertRequest(em: SqlEntityManager, row: New<typeof BookingRequestEntity>): Promise<void> {
  return insertRow(em, BookingRequestEntity, row);
}

/** Ends what lies on the Bench for a visit that keeps its time; says whether there was something. */
export async function endUnplacedOf(
  em: SqlEntityManager,
  appointmentId: string,
  how: 'booked' | 'withdrawn',
  now: Date,
): Promise<boolean> {
  const ended = { endedAt: now, endedHow: how };
  return (await em.nativeUpdate(UnplacedVisitEntity, { appointmentId, endedAt: null }, ended)) > 0;
}

/** What left the Bench because its visit was canceled at that moment lies there again. */
export async function reopenUnplacedOf(em: SqlEntityManager, appointmentId: string, canceledAt: Date): Promise<void> {
  const where = { appointmentId, endedAt: canceledAt, endedHow: 'withdrawn' as const };
  await em.nativeUpdate(UnplacedVisitEntity, where, { endedAt: null, endedHow: null });
}

/** How many requests are open whose last date lies before a date. */
export function countOpenBefore(em: SqlEntityManager, date: string): Promise<number> {
  return em.count(BookingRequestEntity, { state: 'open', dueDate: { $lt: date } });
}
