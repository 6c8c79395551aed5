import { defineEntity, p } from '@mikro-orm/core';
import type {
  AnswerValue,
  ConsentAct,
  FormItem,
  RedFlagSeverity,
  Signer,
  StoredAnswers,
  Words,
} from '@zaguan/core/intake';
import type { PatientKind } from '@zaguan/core/availability';
import { AccountEntity } from './accounts.ts';
import { AppointmentEntity } from './booking.ts';
import { PatientEntity } from './patients.ts';
import type { Row } from './rows.ts';

/** One version of a form (FHIR Questionnaire). A version in use never changes. */
export const IntakeFormEntity = defineEntity({
  name: 'IntakeForm',
  tableName: 'intake_form',
  properties: {
    id: p.uuid().primary(),
    code: p.text(),
    version: p.smallint(),
    titleEn: p.text(),
    titleEs: p.text(),
    staffName: p.text(),
    items: p.json<FormItem[]>(),
    createdAt: p.datetime(),
  },
  uniques: [{ properties: ['code', 'version'] }],
});
export type IntakeForm = Row<typeof IntakeFormEntity>;

/** One version of a document to be agreed to and signed. */
export const ConsentFormEntity = defineEntity({
  name: 'ConsentForm',
  tableName: 'consent_form',
  properties: {
    id: p.uuid().primary(),
    code: p.text(),
    version: p.smallint(),
    titleEn: p.text(),
    titleEs: p.text(),
    staffName: p.text(),
    bodyEn: p.text(),
    bodyEs: p.text(),
    validMonths: p.smallint().nullable(),
    createdAt: p.datetime(),
  },
  uniques: [{ properties: ['code', 'version'] }],
});
export type ConsentForm = Row<typeof ConsentFormEntity>;

/** Which visits ask for a form or a consent. Without types or kinds: any. */
export const PacketRuleEntity = defineEntity({
  name: 'PacketRule',
  tableName: 'packet_rule',
  properties: {
    id: p.uuid().primary(),
    formId: p.uuid().nullable(),
    consentId: p.uuid().nullable(),
    visitTypeIds: p.array<string>().columnType('uuid[]').nullable(),
    kinds: p.array<PatientKind>().columnType('text[]').nullable(),
    position: p.smallint().default(0),
    consent: () => p.manyToOne(ConsentFormEntity).joinColumn('consent_id').persist(false).nullable(),
    form: () => p.manyToOne(IntakeFormEntity).joinColumn('form_id').persist(false).nullable(),
  },
});
export type PacketRule = Row<typeof PacketRuleEntity>;

/** The answers of one visit to one form (FHIR QuestionnaireResponse). */
export const FormResponseEntity = defineEntity({
  name: 'FormResponse',
  tableName: 'form_response',
  properties: {
    id: p.uuid().primary(),
    appointmentId: p.uuid(),
    formId: p.uuid(),
    answers: p.json<StoredAnswers>().defaultRaw(`'{}'::jsonb`),
    rev: p.integer().default(0),
    status: p.text().$type<'in-progress' | 'completed'>().default('in-progress'),
    language: p.text().$type<'en' | 'es'>(),
    startedAt: p.datetime(),
    savedAt: p.datetime(),
    completedAt: p.datetime().nullable(),
    appointment: () => p.manyToOne(AppointmentEntity).joinColumn('appointment_id').persist(false).nullable(),
    form: () => p.manyToOne(IntakeFormEntity).joinColumn('form_id').persist(false).nullable(),
  },
  uniques: [{ properties: ['appointmentId', 'formId'] }],
});
export type FormResponse = Row<typeof FormResponseEntity>;

/** A signature with the document as it was signed. Append-only. */
export const SignedConsentEntity = defineEntity({
  name: 'SignedConsent',
  tableName: 'signed_consent',
  properties: {
    id: p.uuid().primary(),
    appointmentId: p.uuid(),
    consentId: p.uuid(),
    signer: p.text().$type<Signer>(),
    signerName: p.text(),
    language: p.text().$type<'en' | 'es'>(),
    signature: p.json<ConsentAct['signature']>(),
    signedAt: p.datetime(),
    pdf: p.blob().$type<Buffer>(),
    pdfSha256: p.blob().$type<Buffer>(),
    appointment: () => p.manyToOne(AppointmentEntity).joinColumn('appointment_id').persist(false).nullable(),
    consent: () => p.manyToOne(ConsentFormEntity).joinColumn('consent_id').persist(false).nullable(),
  },
  uniques: [{ properties: ['appointmentId', 'consentId'] }],
});
export type SignedConsent = Row<typeof SignedConsentEntity>;

/** An answer that a clinician must see. Never deleted. */
export const RedFlagEntity = defineEntity({
  name: 'RedFlag',
  tableName: 'red_flag',
  properties: {
    id: p.uuid().primary(),
    appointmentId: p.uuid(),
    formResponseId: p.uuid(),
    linkId: p.text(),
    severity: p.text().$type<RedFlagSeverity>(),
    answer: p.json<AnswerValue>(),
    advice: p.json<Words>(),
    raisedAt: p.datetime(),
    appointment: () => p.manyToOne(AppointmentEntity).joinColumn('appointment_id').persist(false).nullable(),
    formResponse: () => p.manyToOne(FormResponseEntity).joinColumn('form_response_id').persist(false).nullable(),
  },
});
export type RedFlag = Row<typeof RedFlagEntity>;

/** A clinician’s closing of a flag: a row of its own, only ever undone. */
export const RedFlagClearingEntity = defineEntity({
  name: 'RedFlagClearing',
  tableName: 'red_flag_clearing',
  properties: {
    id: p.uuid().primary(),
    redFlagId: p.uuid(),
    accountId: p.uuid(),
    note: p.text(),
    at: p.datetime(),
    undoneAt: p.datetime().nullable(),
    undoneBy: p.uuid().nullable(),
    account: () => p.manyToOne(AccountEntity).joinColumn('account_id').persist(false).nullable(),
    redFlag: () => p.manyToOne(RedFlagEntity).joinColumn('red_flag_id').persist(false).nullable(),
    undoneByAccount: () => p.manyToOne(AccountEntity).joinColumn('undone_by').persist(false).nullable(),
  },
});
export type RedFlagClearing = Row<typeof RedFlagClearingEntity>;

/** Something missing that somebody has let through, and why. */
export const ReadinessWaiverEntity = defineEntity({
  name: 'ReadinessWaiver',
  tableName: 'readiness_waiver',
  properties: {
    appointmentId: p.uuid().primary(),
    item: p.text().primary(),
    reason: p.text(),
    accountId: p.uuid(),
    at: p.datetime(),
    account: () => p.manyToOne(AccountEntity).joinColumn('account_id').persist(false).nullable(),
    appointment: () => p.manyToOne(AppointmentEntity).joinColumn('appointment_id').persist(false).nullable(),
  },
});
export type ReadinessWaiver = Row<typeof ReadinessWaiverEntity>;

/** A visit that has begun (FHIR Encounter). */
export const EncounterEntity = defineEntity({
  name: 'Encounter',
  tableName: 'encounter',
  properties: {
    id: p.uuid().primary(),
    appointmentId: p.uuid().unique(),
    patientId: p.uuid(),
    status: p.text().$type<'arrived' | 'finished' | 'cancelled'>(),
    identifiers: p.array<string>().columnType('text[]'),
    startedAt: p.datetime(),
    endedAt: p.datetime().nullable(),
    accountId: p.uuid(),
    account: () => p.manyToOne(AccountEntity).joinColumn('account_id').persist(false).nullable(),
    appointment: () => p.manyToOne(AppointmentEntity).joinColumn('appointment_id').persist(false).nullable(),
    patient: () => p.manyToOne(PatientEntity).joinColumn('patient_id').persist(false).nullable(),
  },
});
export type Encounter = Row<typeof EncounterEntity>;
