import { defineEntity, p } from '@mikro-orm/core';
import type { Choice, RecallCode, RecallFacts, RecallPlan, RecallState, Who } from '@zaguan/core/recalls';
import { AccountEntity } from './accounts.ts';
import { PatientEntity } from './patients.ts';
import type { Row } from './rows.ts';
import { VisitTypeEntity } from './visitTypes.ts';

/** A list of patients with something in common: by a rule, or by hand (`rule` is null). */
export const RegisterEntity = defineEntity({
  name: 'Register',
  tableName: 'register',
  properties: {
    id: p.uuid().primary(),
    name: p.text(),
    note: p.text().default(''),
    rule: p.json<Who>().nullable(),
    sortOrder: p.smallint().default(0),
    active: p.boolean().default(true),
  },
});
export type Register = Row<typeof RegisterEntity>;

/** From when to when somebody was on a register, and how they came there. */
export const RegisterMemberEntity = defineEntity({
  name: 'RegisterMember',
  tableName: 'register_member',
  properties: {
    id: p.uuid().primary(),
    registerId: p.uuid(),
    patientId: p.uuid(),
    fromDate: p.date(),
    untilDate: p.date().nullable(),
    how: p.text().$type<'rule' | 'hand'>(),
    addedBy: p.uuid().nullable(),
    endedBy: p.uuid().nullable(),
    register: () => p.manyToOne(RegisterEntity).joinColumn('register_id').persist(false).nullable(),
    patient: () => p.manyToOne(PatientEntity).joinColumn('patient_id').persist(false).deleteRule('cascade').nullable(),
    addedByAccount: () => p.manyToOne(AccountEntity).joinColumn('added_by').persist(false).nullable(),
    endedByAccount: () => p.manyToOne(AccountEntity).joinColumn('ended_by').persist(false).nullable(),
  },
});
export type RegisterMember = Row<typeof RegisterMemberEntity>;

/** Who is brought back, when, and who is left alone. */
export const RecallPlanEntity = defineEntity({
  name: 'RecallPlan',
  tableName: 'recall_plan',
  properties: {
    id: p.uuid().primary(),
    name: p.text(),
    isOn: p.boolean().default(false),
    rules: p.json<Omit<RecallPlan, 'id'>>(),
    sortOrder: p.smallint().default(0),
    active: p.boolean().default(true),
  },
});
export type RecallPlanRow = Row<typeof RecallPlanEntity>;

/** What a patient, or the desk for them, has said to a plan, until it is taken back. */
export const RecallChoiceEntity = defineEntity({
  name: 'RecallChoice',
  tableName: 'recall_choice',
  properties: {
    id: p.uuid().primary(),
    planId: p.uuid(),
    patientId: p.uuid(),
    kind: p.text().$type<Choice['kind']>(),
    date: p.date().nullable(),
    note: p.text().default(''),
    saidOn: p.date(),
    saidBy: p.text().$type<'patient' | 'desk'>(),
    accountId: p.uuid().nullable(),
    at: p.datetime(),
    endedAt: p.datetime().nullable(),
    version: p.integer().default(1),
    plan: () => p.manyToOne(RecallPlanEntity).joinColumn('plan_id').persist(false).nullable(),
    patient: () => p.manyToOne(PatientEntity).joinColumn('patient_id').persist(false).deleteRule('cascade').nullable(),
    account: () => p.manyToOne(AccountEntity).joinColumn('account_id').persist(false).nullable(),
  },
});
export type RecallChoice = Row<typeof RecallChoiceEntity>;

/** What somebody is to a plan, as core worked it out last. Whom a plan doesn't ask for has no row. */
export const RecallStateEntity = defineEntity({
  name: 'RecallState',
  tableName: 'recall_state',
  properties: {
    planId: p.uuid().primary(),
    patientId: p.uuid().primary(),
    state: p.text().$type<RecallState>(),
    byCode: p.text().$type<RecallCode>().nullable(),
    facts: p.json<RecallFacts>(),
    dueOn: p.date().nullable(),
    lastOn: p.date().nullable(),
    lastTypeId: p.uuid().nullable(),
    count: p.integer().nullable(),
    planVersion: p.integer(),
    at: p.datetime(),
    plan: () => p.manyToOne(RecallPlanEntity).joinColumn('plan_id').persist(false).nullable(),
    patient: () => p.manyToOne(PatientEntity).joinColumn('patient_id').persist(false).deleteRule('cascade').nullable(),
    lastType: () => p.manyToOne(VisitTypeEntity).joinColumn('last_type_id').persist(false).nullable(),
  },
});
export type RecallStateRow = Row<typeof RecallStateEntity>;

/** On which date somebody is to be looked at again, although nothing has happened. */
export const RecallLookEntity = defineEntity({
  name: 'RecallLook',
  tableName: 'recall_look',
  properties: {
    patientId: p.uuid().primary(),
    lookOn: p.date(),
    patient: () => p.manyToOne(PatientEntity).joinColumn('patient_id').persist(false).deleteRule('cascade').nullable(),
  },
});

/** Somebody who is to be looked at again. Written by triggers alone. */
export const RecallStaleEntity = defineEntity({
  name: 'RecallStale',
  tableName: 'recall_stale',
  properties: {
    seq: p.bigint('number').autoincrement().primary(),
    patientId: p.uuid(),
  },
});

/** Everybody is looked at again, because a plan or a register changed; how far that has come. One row, or none. */
export const RecallRebuildEntity = defineEntity({
  name: 'RecallRebuild',
  tableName: 'recall_rebuild',
  properties: {
    id: p.smallint().primary(),
    afterPatientId: p.uuid().nullable(),
  },
});
export type RecallRebuild = Row<typeof RecallRebuildEntity>;
