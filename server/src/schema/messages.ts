import { defineEntity, p } from '@mikro-orm/core';
import type { DropCode, HeldCode } from '@zaguan/contracts/messages';
import type { MessageKind, MessageStatus, ReminderStepId } from '@zaguan/core/reminders';
import type { WorkKind, WorkOutcome } from '@zaguan/core/work';
import { AccountEntity } from './accounts.ts';
import { AppointmentEntity } from './booking.ts';
import { InvitationEntity } from './invitations.ts';
import { ContactPointEntity } from './patients.ts';
import type { Row } from './rows.ts';

/** A number or address being verified for one browser. The code is stored nowhere. */
export const ContactVerificationEntity = defineEntity({
  name: 'ContactVerification',
  tableName: 'contact_verification',
  properties: {
    id: p.uuid().primary(),
    browserHash: p.blob().$type<Buffer>(),
    contact: p.text(),
    sends: p.smallint().default(0),
    wrongTries: p.smallint().default(0),
    sentAt: p.datetime().nullable(),
    verifiedAt: p.datetime().nullable(),
    lockedUntil: p.datetime().nullable(),
  },
  uniques: [{ properties: ['browserHash', 'contact'] }],
});
export type ContactVerification = Row<typeof ContactVerificationEntity>;

/** A planned message and what became of it. Words, language, date and address stay as they were handed over. */
export const MessageEntity = defineEntity({
  name: 'Message',
  tableName: 'message',
  properties: {
    id: p.uuid().primary(),
    seq: p.bigint('number').autoincrement(),
    appointmentId: p.uuid().nullable(),
    /** The visit's date when the message was written, which may be another one now. */
    visitDate: p.date().nullable(),
    contactPointId: p.uuid().nullable(),
    verificationId: p.uuid().nullable(),
    invitationId: p.uuid().nullable(),
    channel: p.text().$type<'sms' | 'email'>(),
    kind: p.text().$type<MessageKind>(),
    step: p.text().$type<ReminderStepId>().nullable(),
    language: p.text().$type<'en' | 'es'>(),
    /** Of an e-mail whose kind has no subject of its own. */
    subject: p.text().nullable(),
    body: p.text().default(''),
    address: p.text().nullable(),
    answersPatient: p.boolean().default(false),
    comesAt: p.datetime().nullable(),
    sendAt: p.datetime(),
    notAfter: p.datetime(),
    status: p.text().$type<MessageStatus>(),
    droppedCode: p.text().$type<DropCode>().nullable(),
    heldCode: p.text().$type<HeldCode>().nullable(),
    failReason: p.text().nullable(),
    attempts: p.integer().default(0),
    nextAttemptAt: p.datetime(),
    lease: p.uuid().nullable(),
    leaseUntil: p.datetime().nullable(),
    sentAt: p.datetime().nullable(),
    receiptAt: p.datetime().nullable(),
    settledAt: p.datetime().nullable(),
    handledAt: p.datetime().nullable(),
    handledAs: p.text().$type<WorkOutcome>().nullable(),
    handledBy: p.uuid().nullable(),
    createdAt: p.datetime(),
    appointment: () => p.manyToOne(AppointmentEntity).joinColumn('appointment_id').persist(false).nullable(),
    contactPoint: () => p.manyToOne(ContactPointEntity).joinColumn('contact_point_id').persist(false).nullable(),
    handledByAccount: () => p.manyToOne(AccountEntity).joinColumn('handled_by').persist(false).nullable(),
    invitation: () =>
      p.manyToOne(InvitationEntity).joinColumn('invitation_id').persist(false).deleteRule('cascade').nullable(),
    verification: () => p.manyToOne(ContactVerificationEntity).joinColumn('verification_id').persist(false).nullable(),
  },
});
export type Message = Row<typeof MessageEntity>;

/** A link that a patient holds. Only the token’s hash is kept. */
export const LinkTokenEntity = defineEntity({
  name: 'LinkToken',
  tableName: 'link_token',
  properties: {
    id: p.uuid().primary(),
    kind: p.text().$type<'visit' | 'invitation'>(),
    subjectId: p.uuid(),
    tokenHash: p.blob().$type<Buffer>().unique(),
    expiresAt: p.datetime(),
    wrongTries: p.smallint().default(0),
    lockedUntil: p.datetime().nullable(),
  },
  uniques: [{ properties: ['kind', 'subjectId'] }],
});
export type LinkToken = Row<typeof LinkTokenEntity>;

/** A message from a patient, until somebody has handled it. */
export const InboxMessageEntity = defineEntity({
  name: 'InboxMessage',
  tableName: 'inbox_message',
  properties: {
    id: p.uuid().primary(),
    contactPointId: p.uuid().nullable(),
    channel: p.text().$type<'sms' | 'email'>(),
    body: p.text(),
    meaning: p.text().$type<'confirm' | 'stop' | 'other'>(),
    appointmentId: p.uuid().nullable(),
    receivedAt: p.datetime(),
    handledAt: p.datetime().nullable(),
    handledAs: p.text().$type<WorkOutcome>().nullable(),
    handledBy: p.uuid().nullable(),
    appointment: () => p.manyToOne(AppointmentEntity).joinColumn('appointment_id').persist(false).nullable(),
    contactPoint: () => p.manyToOne(ContactPointEntity).joinColumn('contact_point_id').persist(false).nullable(),
    handledByAccount: () => p.manyToOne(AccountEntity).joinColumn('handled_by').persist(false).nullable(),
  },
});
export type InboxMessage = Row<typeof InboxMessageEntity>;

/** Who has taken which work. */
export const WorkItemEntity = defineEntity({
  name: 'WorkItem',
  tableName: 'work_item',
  properties: {
    kind: p.text().$type<WorkKind>().primary(),
    subjectId: p.uuid().primary(),
    ownerId: p.uuid(),
    ownedAt: p.datetime(),
    assignedBy: p.uuid().nullable(),
    assignedByAccount: () => p.manyToOne(AccountEntity).joinColumn('assigned_by').persist(false).nullable(),
    owner: () => p.manyToOne(AccountEntity).joinColumn('owner_id').persist(false).nullable(),
  },
});
export type WorkItem = Row<typeof WorkItemEntity>;
