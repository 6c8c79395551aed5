import { defineEntity, type Opt, p } from '@mikro-orm/core';
import type { InvitationRules, InvitationWords } from '@zaguan/contracts/invitations';
import type { InvitationEnd, InvitationEvent } from '@zaguan/core/invitations';
import { AccountEntity } from './accounts.ts';
import { AppointmentEntity } from './booking.ts';
import { BookingRequestEntity } from './desk.ts';
import { PatientEntity } from './patients.ts';
import { RecallPlanEntity } from './recalls.ts';
import type { Row } from './rows.ts';

/** What an invitation may book, and the words around it. */
export const InvitationTemplateEntity = defineEntity({
  name: 'InvitationTemplate',
  tableName: 'invitation_template',
  properties: {
    id: p.uuid().primary(),
    name: p.text(),
    rules: p.json<InvitationRules>(),
    reason: p.text().default(''),
    words: p.json<InvitationWords>(),
    sortOrder: p.smallint().default(0),
    active: p.boolean().default(true),
  },
});
export type InvitationTemplate = Row<typeof InvitationTemplateEntity>;

/** A personal link to book one thing: of a recall plan, a request, a visit to move, or of none of them. */
export const InvitationEntity = defineEntity({
  name: 'Invitation',
  tableName: 'invitation',
  properties: {
    id: p.uuid().primary(),
    templateId: p.uuid(),
    patientId: p.uuid(),
    planId: p.uuid().nullable(),
    requestId: p.uuid().nullable(),
    /** The visit that gets another time by it. */
    moveId: p.uuid().nullable(),
    /** The one thing it is to: a plan, a request, a visit, else whatever its template books. */
    subjectId: p.uuid().$type<Opt<string>>().generated('coalesce(plan_id, request_id, move_id, template_id)'),
    usesLeft: p.smallint(),
    /** The date at the home site on which its message goes out, and the last one on which it can be used. */
    invitedOn: p.date(),
    untilDate: p.date(),
    expiresAt: p.datetime(),
    endedAs: p.text().$type<InvitationEnd>().nullable(),
    endedAt: p.datetime().nullable(),
    createdBy: p.uuid().nullable(),
    createdAt: p.datetime(),
    version: p.integer().default(1),
    template: () => p.manyToOne(InvitationTemplateEntity).joinColumn('template_id').persist(false).nullable(),
    patient: () => p.manyToOne(PatientEntity).joinColumn('patient_id').persist(false).deleteRule('cascade').nullable(),
    plan: () => p.manyToOne(RecallPlanEntity).joinColumn('plan_id').persist(false).nullable(),
    request: () => p.manyToOne(BookingRequestEntity).joinColumn('request_id').persist(false).nullable(),
    move: () => p.manyToOne(AppointmentEntity).joinColumn('move_id').persist(false).nullable(),
    createdByAccount: () => p.manyToOne(AccountEntity).joinColumn('created_by').persist(false).nullable(),
  },
});
export type Invitation = Row<typeof InvitationEntity>;

/** What happened to an invitation. Rows are only added; what became of its message stands with the message. */
export const InvitationEventEntity = defineEntity({
  name: 'InvitationEvent',
  tableName: 'invitation_event',
  properties: {
    seq: p.bigint('number').autoincrement().primary(),
    invitationId: p.uuid(),
    kind: p.text().$type<InvitationEvent>(),
    at: p.datetime(),
    accountId: p.uuid().nullable(),
    appointmentId: p.uuid().nullable(),
    invitation: () =>
      p.manyToOne(InvitationEntity).joinColumn('invitation_id').persist(false).deleteRule('cascade').nullable(),
    account: () => p.manyToOne(AccountEntity).joinColumn('account_id').persist(false).nullable(),
    appointment: () => p.manyToOne(AppointmentEntity).joinColumn('appointment_id').persist(false).nullable(),
  },
});
