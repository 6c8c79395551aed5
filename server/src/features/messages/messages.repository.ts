import { raw } from '@mikro-orm/postgresql';
import { findRow, findRows } from '../../platform/db/read.ts';
import { insertRow, insertRows } from '../../platform/db/write.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Purpose } from '../linkTokens/index.ts';
import {
  AppointmentEntity,
  type ContactLedger,
  ContactLedgerEntity,
  type InboxMessage,
  InboxMessageEntity,
  type Message,
  MessageEntity,
} from '../../schema/index.ts';

export async function writeLedger(
  em: SqlEntityManager,
  entry: Pick<ContactLedger, 'id' | 'contactPointId' | 'event' | 'how' | 'at'> & {
    readonly wording: string;
    readonly purpose?: Purpose;
  },
): Promise<void> {
  await insertRow(em, ContactLedgerEntity, { purpose: 'visit-messages', ...entry, wordingVersion: '1' });
}

export interface NewMessage
  extends Pick<
    Message,
    | ('id' | 'appointmentId' | 'visitDate' | 'contactPointId' | 'channel' | 'kind' | 'step' | 'language' | 'body')
    | ('sendAt' | 'notAfter' | 'droppedCode' | 'createdAt')
  > {
  readonly verificationId?: string;
  readonly invitationId?: string;
  readonly subject?: string;
  readonly heldCode?: Message['heldCode'];
  /** The patient did something a moment ago, and this tells them what came of it. */
  readonly answersPatient: boolean;
  /** When whoever heard nothing would come, if not at the visit's start: a visit's old time. */
  readonly comesAt?: Date | null;
}

export function insertMessages(em: SqlEntityManager, messages: readonly NewMessage[]): Promise<void> {
  return insertRows(
    em,
    MessageEntity,
    messages.map((message) => ({
      ...message,
      status: message.droppedCode ? 'dropped' : 'planned',
      nextAttemptAt: message.sendAt,
    })),
  );
}

/** The kind of the last message that tells what becomes of a visit; `null` if there is none. */
export async function lastToldOf(em: SqlEntityManager, appointmentId: string): Promise<string | null> {
  const last = await findRow(
    em,
    MessageEntity,
    {
      appointmentId,
      kind: { $in: ['confirmation', 'moved', 'must-move', 'cancellation', 'restored'] },
      status: { $nin: ['withdrawn', 'dropped'] },
    },
    { fields: ['kind'], orderBy: { seq: 'desc' } },
  );
  return last?.kind ?? null;
}

const LISTED = [
  ...(['id', 'kind', 'channel', 'step', 'body', 'sendAt', 'status'] as const),
  ...(['droppedCode', 'heldCode', 'failReason', 'settledAt'] as const),
] as const;
export type MessageRow = Pick<Message, (typeof LISTED)[number]>;

export function messagesOf(em: SqlEntityManager, appointmentId: string): Promise<MessageRow[]> {
  return findRows(
    em,
    MessageEntity,
    { appointmentId },
    { fields: [...LISTED], orderBy: { sendAt: 'asc', seq: 'asc' } },
  );
}

/** The visit that the last message to a number was about: what a bare "Y" answers. */
export async function lastVisitOf(em: SqlEntityManager, contactPointId: string, now: Date): Promise<string | null> {
  const last = await findRow(
    em,
    MessageEntity,
    {
      contactPointId,
      status: { $in: ['sent', 'delivered'] },
      kind: { $in: ['confirmation', 'reminder', 'restored'] },
      appointment: { status: 'booked', startsAt: { $gt: now } },
    },
    { fields: ['appointmentId', 'seq'], orderBy: { seq: 'desc' } },
  );
  if (!last) return null;
  // Whoever answers an invitation does not speak of the visit before it.
  const sent = {
    contactPointId,
    kind: 'invitation' as const,
    status: { $in: ['sent' as const, 'delivered' as const] },
  };
  return (await em.count(MessageEntity, { ...sent, seq: { $gt: last.seq } })) ? null : last.appointmentId;
}

export async function setConfirmed(em: SqlEntityManager, appointmentId: string, now: Date): Promise<void> {
  await em.nativeUpdate(
    AppointmentEntity,
    { id: appointmentId },
    { confirmedAt: raw('coalesce(confirmed_at, ?)', [now]), version: raw('version + 1'), changedAt: now },
  );
}

export async function insertInbox(
  em: SqlEntityManager,
  row: Pick<InboxMessage, 'id' | 'contactPointId' | 'channel' | 'body' | 'meaning' | 'appointmentId' | 'receivedAt'>,
): Promise<void> {
  await insertRow(em, InboxMessageEntity, row);
}

export async function settleByReceipt(
  em: SqlEntityManager,
  id: string,
  settled: { status: 'sent' | 'delivered' | 'failed'; reason: string | null; receiptAt: Date; now: Date },
): Promise<void> {
  await em.nativeUpdate(
    MessageEntity,
    { id },
    {
      status: settled.status,
      failReason: settled.reason,
      receiptAt: settled.receiptAt,
      sentAt: raw('coalesce(sent_at, ?)', [settled.now]),
      settledAt: settled.now,
      lease: null,
      leaseUntil: null,
    },
  );
}

/** How many messages are due and not yet handed over. */
export function waitingCount(em: SqlEntityManager, now: Date): Promise<number> {
  return em.count(MessageEntity, { status: 'planned', sendAt: { $lte: now } });
}

/** Reminders of a visit that are still to go out. */
export function remindersToCome(em: SqlEntityManager, appointmentId: string): Promise<number> {
  return em.count(MessageEntity, { appointmentId, kind: 'reminder', status: 'planned' });
}
