import { LockMode, type SqlEntityManager } from '@mikro-orm/postgresql';
import type { InvitationEvent } from '@zaguan/core/invitations';
import { findRow, findRows } from '../../platform/db/read.ts';
import { insertRow, insertRows } from '../../platform/db/write.ts';
import {
  AppointmentEntity,
  ClinicEntity,
  type Invitation,
  InvitationEntity,
  InvitationEventEntity,
  LinkTokenEntity,
  MessageEntity,
  type New,
  RecallPlanEntity,
} from '../../schema/index.ts';

const FOR_UPDATE = { lockMode: LockMode.PESSIMISTIC_WRITE } as const;

export async function clinicOf(em: SqlEntityManager): Promise<{ name: string; phone: string }> {
  const clinic = await findRow(em, ClinicEntity, {});
  if (!clinic) throw new Error('There is no clinic.');
  return clinic;
}

export const planOf = (em: SqlEntityManager, id: string) => findRow(em, RecallPlanEntity, { id, active: true });

export const visitOf = (em: SqlEntityManager, id: string) =>
  findRow(em, AppointmentEntity, { id }, { populate: ['site', 'provider'] });

export function liveOfTemplate(em: SqlEntityManager, templateId: string, now: Date): Promise<number> {
  return em.count(InvitationEntity, { templateId, endedAt: null, expiresAt: { $gt: now } });
}

export async function insertInvitations(
  em: SqlEntityManager,
  invitations: readonly New<typeof InvitationEntity>[],
  links: readonly New<typeof LinkTokenEntity>[],
): Promise<void> {
  await insertRows(em, InvitationEntity, invitations);
  await insertRows(em, LinkTokenEntity, links);
}

interface Happened {
  readonly kind: InvitationEvent;
  readonly at: Date;
  readonly accountId?: string | null;
  readonly appointmentId?: string | null;
}

export async function noteEvents(em: SqlEntityManager, ids: readonly string[], event: Happened): Promise<void> {
  await insertRows(
    em,
    InvitationEventEntity,
    ids.map((invitationId) => ({ invitationId, ...event })),
  );
}

/** Notes something that counts once, however often it happens. */
export async function noteOnce(em: SqlEntityManager, id: string, event: Happened): Promise<void> {
  if (!(await em.count(InvitationEventEntity, { invitationId: id, kind: event.kind })))
    await insertRow(em, InvitationEventEntity, { invitationId: id, ...event });
}

export const invitationForUpdate = (em: SqlEntityManager, id: string) =>
  findRow(em, InvitationEntity, { id }, FOR_UPDATE);

/** Changes an invitation that its transaction has locked; gives its new version. */
export async function changeInvitation(
  em: SqlEntityManager,
  { id, version }: Pick<Invitation, 'id' | 'version'>,
  changes: Partial<Pick<Invitation, 'endedAs' | 'endedAt' | 'usesLeft'>>,
): Promise<number> {
  await em.nativeUpdate(InvitationEntity, { id, version }, { ...changes, version: version + 1 });
  return version + 1;
}

/** The number or address that an invitation went to. */
export async function contactOf(em: SqlEntityManager, invitationId: string): Promise<string | null> {
  return (await findRow(em, MessageEntity, { invitationId }, { fields: ['contactPointId'] }))?.contactPointId ?? null;
}

/** Visits that were booked with an invitation. */
export async function bookedWith(em: SqlEntityManager, invitationId: string) {
  const rows = await findRows(
    em,
    InvitationEventEntity,
    { invitationId, kind: 'booked' },
    { populate: ['appointment'], orderBy: { seq: 'asc' } },
  );
  return rows.flatMap(({ appointment }) => (appointment ? [appointment] : []));
}

/** Those that have run out and were never ended make room for new ones to the same thing. */
export async function endExpired(em: SqlEntityManager, patientIds: readonly string[], now: Date): Promise<void> {
  await em.nativeUpdate(
    InvitationEntity,
    { patientId: { $in: [...patientIds] }, endedAt: null, expiresAt: { $lte: now } },
    { endedAs: 'expired', endedAt: now },
  );
}

/** Its message is not sent if it has not been; gives whether one was held back. */
export async function holdBackMessage(em: SqlEntityManager, invitationId: string, now: Date): Promise<boolean> {
  const where = { invitationId, status: 'planned' as const, lease: null };
  return (await em.nativeUpdate(MessageEntity, where, { status: 'withdrawn', settledAt: now })) > 0;
}

/** The message that was held back goes out after all. */
export async function releaseMessage(em: SqlEntityManager, invitationId: string): Promise<void> {
  const where = { invitationId, status: 'withdrawn' as const };
  await em.nativeUpdate(MessageEntity, where, { status: 'planned', settledAt: null });
}

/** An invitation to the same thing that can still be used. */
export async function holdsAnother(em: SqlEntityManager, row: Invitation): Promise<boolean> {
  const { id, patientId, subjectId } = row;
  return (await em.count(InvitationEntity, { patientId, subjectId, endedAt: null, id: { $ne: id } })) > 0;
}
