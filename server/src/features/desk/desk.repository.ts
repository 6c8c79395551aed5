import { LockMode, type SqlEntityManager } from '@mikro-orm/postgresql';
import { findRow, findRows } from '../../platform/db/read.ts';
import { insertRow } from '../../platform/db/write.ts';
import {
  AppointmentEntity,
  DeskBookingEntity,
  type DeskBooking,
  type Hold,
  HoldEntity,
  type New,
  type Patient,
  PatientEntity,
  PayerEntity,
  ProviderEntity,
  type UnplacedVisit,
  UnplacedVisitEntity,
  VisitReasonEntity,
  WaitlistWishEntity,
} from '../../schema/index.ts';

const FOR_UPDATE = { lockMode: LockMode.PESSIMISTIC_WRITE } as const;

/** @param keep they stay as they are until the transaction ends */
export function patientsToBook(em: SqlEntityManager, ids: readonly string[], keep: boolean): Promise<Patient[]> {
  return findRows(
    em,
    PatientEntity,
    { id: { $in: [...ids] } },
    { orderBy: { id: 'asc' }, ...(keep && { lockMode: LockMode.PESSIMISTIC_READ }) },
  );
}

export function bookedByKey(em: SqlEntityManager, key: string): Promise<DeskBooking | null> {
  return findRow(em, DeskBookingEntity, { key });
}

export function insertDeskBooking(em: SqlEntityManager, row: DeskBooking): Promise<void> {
  return insertRow(em, DeskBookingEntity, row);
}

/** The live and the lapsed holds of one booking at the desk, only for the account whose it is. */
export function holdsOfFlow(em: SqlEntityManager, flowId: string, accountId: string): Promise<Hold[]> {
  return findRows(em, HoldEntity, { flowId, accountId }, { ...FOR_UPDATE, orderBy: { id: 'asc' } });
}

export async function deleteHolds(em: SqlEntityManager, ids: readonly string[]): Promise<void> {
  if (ids.length) await em.nativeDelete(HoldEntity, { id: { $in: [...ids] } });
}

export async function prolongHolds(
  em: SqlEntityManager,
  ids: readonly string[],
  to: { extensions: number; expiresAt: Date },
): Promise<void> {
  await em.nativeUpdate(HoldEntity, { id: { $in: [...ids] } }, to);
}

/** A visit with everything that is said of it. */
export function visitWithNames(em: SqlEntityManager, id: string) {
  return findRow(em, AppointmentEntity, { id }, { populate: ['site', 'visitType', 'provider', 'patient'] });
}

/** As Spanish-speaking patients know a provider; empty: as everybody does. */
export async function publicNameEs(em: SqlEntityManager, resourceId: string): Promise<string> {
  return (await findRow(em, ProviderEntity, { resourceId }))?.publicNameEs ?? '';
}

/** Visits with the sites they are at. */
export function visitsBooked(em: SqlEntityManager, ids: readonly string[]) {
  return findRows(em, AppointmentEntity, { id: { $in: [...ids] } }, { populate: ['site'] });
}

/** What still lies on the Bench for a visit. */
export function unplacedOfVisit(em: SqlEntityManager, appointmentId: string): Promise<UnplacedVisit | null> {
  return findRow(em, UnplacedVisitEntity, { appointmentId, endedAt: null });
}

export function unplacedRow(em: SqlEntityManager, id: string): Promise<UnplacedVisit | null> {
  return findRow(em, UnplacedVisitEntity, { id });
}

export function unplacedForUpdate(em: SqlEntityManager, id: string): Promise<UnplacedVisit | null> {
  return findRow(em, UnplacedVisitEntity, { id }, FOR_UPDATE);
}

export function insertUnplaced(em: SqlEntityManager, row: New<typeof UnplacedVisitEntity>): Promise<void> {
  return insertRow(em, UnplacedVisitEntity, row);
}

/** Changes a visit of the Bench that its transaction has locked. */
export async function updateUnplaced(
  em: SqlEntityManager,
  { id, version }: { id: string; version: number },
  changes: Partial<New<typeof UnplacedVisitEntity>>,
): Promise<number> {
  const next = version + 1;
  await em.nativeUpdate(UnplacedVisitEntity, { id, version }, { ...changes, version: next });
  return next;
}

export function insertWish(em: SqlEntityManager, row: New<typeof WaitlistWishEntity>): Promise<void> {
  return insertRow(em, WaitlistWishEntity, row);
}

/** Ends a wish, or lets it stand again; says whether it was so before. */
export async function setWishEnded(em: SqlEntityManager, id: string, endedAt: Date | null): Promise<boolean> {
  const where = endedAt === null ? { id, endedAt: { $ne: null } } : { id, endedAt: null };
  return (await em.nativeUpdate(WaitlistWishEntity, where, { endedAt })) > 0;
}

/** Wishes of a patient, or about a visit, that stand. */
export function openWishes(em: SqlEntityManager, of: { patientId: string } | { appointmentId: string }) {
  return findRows(em, WaitlistWishEntity, { ...of, endedAt: null }, { populate: ['visitType'] });
}

/** A wish with whose it is, and which visit it is about. */
export function wishWithNames(em: SqlEntityManager, id: string) {
  return findRow(em, WaitlistWishEntity, { id }, { populate: ['patient', 'appointment'] });
}

export async function knowsReason(em: SqlEntityManager, id: string): Promise<boolean> {
  return (await em.count(VisitReasonEntity, { id })) > 0;
}

export async function knowsPayer(em: SqlEntityManager, id: string): Promise<boolean> {
  return (await em.count(PayerEntity, { id })) > 0;
}
